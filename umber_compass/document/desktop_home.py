"""The program at home on a desktop: its menu entry, icons, file type, thumbnails and manual page,
put into the user's data folder and taken away again (freedesktop.org's specifications)."""

import os
import shutil
import subprocess
import sys
from collections.abc import Mapping, Sequence
from pathlib import Path
from typing import IO, NamedTuple

from umber_compass import DESKTOP_ID as ID
from umber_compass.formats import atomic
from umber_compass.words import Refusal, words

_ASSETS = Path(__file__).parent.parent / "assets" / "desktop"
_ICONS = "icons/hicolor/scalable"
PLACES: Mapping[str, str] = {
    f"{ID}.desktop": f"applications/{ID}.desktop",
    f"{ID}.mime.xml": f"mime/packages/{ID}.xml",
    f"{ID}.thumbnailer": f"thumbnailers/{ID}.thumbnailer",
    f"{ID}.metainfo.xml": f"metainfo/{ID}.metainfo.xml",
    f"{ID}.svg": f"{_ICONS}/apps/{ID}.svg",
    "application-x-umber-plan.svg": f"{_ICONS}/mimetypes/application-x-umber-plan.svg",
    "umber-compass.1": "man/man1/umber-compass.1",
}  # from the program's own files to where they lie beneath a data folder
_MOST_BYTES = 100_000
_COMMAND = "umber-compass"
_LAUNCHER = "UMBER_LAUNCHER"  # set by ./umber: what starts the program from its sources
# What makes a desktop see new files at once; where one is missing it sees them later by itself.
_REFRESHING = (
    ("update-desktop-database", "-q", "applications"),
    ("update-mime-database", "mime"),
    ("gtk-update-icon-cache", "-q", "-t", "-f", "icons/hicolor"),
)
_PATIENCE_S = 20


class Changed(NamedTuple):
    """What was written or removed, and which of the desktop's own lists were made anew."""

    files: tuple[Path, ...]
    refreshed: tuple[str, ...]


def data_home() -> Path:
    """The user's data folder, where desktops look."""
    return Path(os.environ.get("XDG_DATA_HOME") or Path.home() / ".local" / "share")


def install(home: Path | None = None, command: Sequence[str] = ()) -> Changed:
    """Write all of it, or nothing; `command` is what starts the program, else how it was started
    now. Raises Refusal where it cannot be written."""
    home, started = home or data_home(), command or _started_by()
    fills = {}
    for name, place in PLACES.items():
        data = _with_command(atomic.read(_ASSETS / name, _MOST_BYTES), name, started)
        atomic.make_folder((home / place).parent)
        fills[home / place] = _filling(data)
    atomic.write_all(fills)
    return Changed(tuple(fills), _refresh(home))


def remove(home: Path | None = None) -> Changed:
    """Take away what `install` writes. Raises Refusal where a file cannot be removed."""
    home = home or data_home()
    gone = []
    for place in PLACES.values():
        path = home / place
        try:
            path.unlink()
        except FileNotFoundError:
            continue
        except OSError as error:
            line = words("could not be removed; check the folder’s permissions")
            raise Refusal(str(path), line) from error
        gone.append(path)
    return Changed(tuple(gone), _refresh(home) if gone else ())


def _filling(data: bytes) -> atomic.Fill:
    def fill(stream: IO[bytes]) -> None:
        stream.write(data)

    return fill


def _started_by() -> Sequence[str]:
    """The command by which this very program was started."""
    known = os.environ.get(_LAUNCHER) or shutil.which(_COMMAND)
    return (known,) if known else (sys.executable, "-m", "umber_compass")


def _with_command(data: bytes, name: str, command: Sequence[str]) -> bytes:
    """A menu entry or thumbnailer that starts the program by this command."""
    if not name.endswith((".desktop", ".thumbnailer")):
        return data
    lines = []
    for line in data.decode().splitlines():
        key, _, value = line.partition("=")
        if key == "TryExec":
            line = f"TryExec={command[0]}"
        elif key == "Exec":
            line = f"Exec={' '.join(map(_quoted, command))}{value.removeprefix(_COMMAND)}"
        lines.append(line)
    return ("\n".join(lines) + "\n").encode()


def _quoted(command: str) -> str:
    """A word of a command as the Exec key of a desktop entry has it."""
    said = command.replace("%", "%%")
    if not any(c in said for c in " \t\n\"'\\><~|&;$*?#()`"):
        return said
    for sign in '\\"`$':
        said = said.replace(sign, "\\" + sign)
    # The file's own escaping of a backslash comes on top of the quoting.
    return '"' + said.replace("\\", "\\\\") + '"'


def _refresh(home: Path) -> tuple[str, ...]:
    done = []
    for tool, *options, folder in _REFRESHING:
        found = shutil.which(tool)
        if found is None or not (home / folder).is_dir():
            continue
        try:
            ran = subprocess.run(
                [found, *options, str(home / folder)], capture_output=True, timeout=_PATIENCE_S
            )
        except (OSError, subprocess.TimeoutExpired):
            continue
        if ran.returncode == 0:
            done.append(tool)
    return tuple(done)
