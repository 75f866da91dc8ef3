"""Which files were written by us, where the format leaves no room to say so: their hashes, kept in
the user's state folder."""

import hashlib
from collections.abc import Iterable
from pathlib import Path

from umber_compass.document.state import state_folder
from umber_compass.formats import atomic
from umber_compass.words import Refusal

MARKLESS = (".hex", ".pal")  # formats that hold colours and nothing else
_MOST, _MOST_BYTES = 4000, 4 * 1024 * 1024


def _record() -> Path:
    return state_folder() / "handed-off.txt"


def _known() -> list[str]:
    return atomic.beginning(_record(), 80 * _MOST).decode(errors="replace").split()


def is_known(path: Path) -> bool:
    """Whether a file of such a format is, byte for byte, one that we wrote."""
    if path.suffix.lower() not in MARKLESS:
        return False
    return _hash(path) in _known()


def remember(paths: Iterable[Path]) -> None:
    """Keep what was written of such formats. Where that cannot be kept, the next hand-off asks."""
    new = [_hash(p) for p in paths if p.suffix.lower() in MARKLESS]
    if not new:
        return
    kept = [h for h in _known() if h not in new]
    lines = "\n".join([*kept, *new][-_MOST:]).encode() + b"\n"
    try:
        atomic.make_folder(_record().parent)
        atomic.write_data(_record(), lines)
    except Refusal:
        return


def _hash(path: Path) -> str:
    return hashlib.sha256(atomic.beginning(path, _MOST_BYTES)).hexdigest()
