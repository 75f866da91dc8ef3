"""Where the program begins: the window for `open` and `demo`, the command line for the rest."""

import os
import sys

# Threads make the small products here slower; it must be said before NumPy is imported.
os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")


def main() -> int:
    """Run the program; gives its exit code."""
    given = sys.argv[1:]
    wants_window = not given or (
        given[0] in ("open", "demo") and not any(a.startswith("-") for a in given[1:])
    )
    if not wants_window:
        from umber_compass.cli.run import main as command_line

        return command_line(given)
    from umber_compass.window.application import main as window

    return window(given)


if __name__ == "__main__":
    sys.exit(main())
