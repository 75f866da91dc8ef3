"""python -m bench: prints what docs/engine.md wants to reach, beside what was measured here.

M is one copy of the output picture (width x height x 4 bytes) with cold caches, in this process.
"""

import os
import sys

os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")
os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

from bench import (
    drags,
    drift,
    first_colours,
    first_sight,
    handoff,
    judgement,
    kinds,
    pictures,
    relit,
    starting,
    strangers,
    studies,
)
from bench.rows import Row, machine


def main() -> int:
    """Run every benchmark, or those named, and print a table."""
    named = set(sys.argv[1:])
    print(machine())
    print(f"{'what':<46} {'measured':>22}   {'target':<34}")
    for module in (
        pictures,
        kinds,
        strangers,
        first_sight,
        first_colours,
        relit,
        judgement,
        studies,
        drags,
        starting,
        handoff,
        drift,
    ):
        if named and module.__name__.split(".")[1] not in named:
            continue
        for row in module.rows():
            print(_line(row), flush=True)
    return 0


def _line(row: Row) -> str:
    verdict = "" if row.met is None else "  met" if row.met else "  MISSED"
    return f"{row.what:<46} {row.measured:>22}   {row.target:<34}{verdict}"


if __name__ == "__main__":
    sys.exit(main())
