"""Where sketches lie, by the hash of their bytes: known on this machine only. A plan that is passed
on names no file, and one that comes from elsewhere cannot have a file of this machine read."""

from pathlib import Path

import msgspec

from umber_compass.formats import atomic
from umber_compass.plan.terms import Hash
from umber_compass.words import Refusal

_NAME = "sketches.json"
_MOST, _MOST_BYTES = 500, 4_000_000  # paths, the oldest go first; bytes


class SketchPaths:
    """Paths by hash, in a small file; without a folder nothing outlives the program. Reading and
    writing never fail: what is not known is chosen again."""

    def __init__(self, folder: Path | None = None) -> None:
        self._file = None if folder is None else folder / _NAME
        self._of: dict[str, str] | None = None

    def _known(self) -> dict[str, str]:
        if self._of is None:
            self._of = {} if self._file is None else _read(self._file)
        return self._of

    def of(self, key: Hash) -> Path | None:
        """Where the picture with this hash was read from last, or None."""
        text = self._known().get(key)
        return Path(text) if text else None

    def note(self, key: Hash, path: Path) -> None:
        """A picture with this hash was read from a file. A name that is no text is not kept."""
        known = dict(_read(self._file)) if self._file is not None else self._known()
        try:
            text = str(path.absolute())
            text.encode()
        except (OSError, UnicodeEncodeError):
            return
        known.pop(key, None)
        known[key] = text
        self._of = dict(list(known.items())[-_MOST:])
        if self._file is not None:
            _write(self._file, self._of)


def _read(file: Path) -> dict[str, str]:
    try:
        return msgspec.json.decode(atomic.beginning(file, _MOST_BYTES), type=dict[str, str])
    except (msgspec.MsgspecError, RecursionError):
        return {}


def _write(file: Path, known: dict[str, str]) -> None:
    try:
        atomic.make_folder(file.parent)
        atomic.write_data(file, msgspec.json.encode(known))
    except Refusal:
        return
