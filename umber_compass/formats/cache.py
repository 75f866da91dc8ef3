"""What was worked out from a sketch, kept between two openings: named arrays by content hash.

A cache may be lost at any time; a damaged entry counts as none and is noted, so that it can be said
once. Nothing is unpickled. Docs: docs/engine.md.
"""

import hashlib
import io
import zipfile
import zlib
from pathlib import Path
from typing import Any, TypeAlias

import numpy as np
import numpy.typing as npt
from platformdirs import user_cache_dir

from umber_compass.formats import atomic
from umber_compass.words import Refusal

Arrays: TypeAlias = dict[str, npt.NDArray[Any]]

_MOST_BYTES = 600_000_000  # one entry
_KEPT = 24  # entries; the oldest go first
_BROKEN = (zipfile.BadZipFile, zlib.error, ValueError, KeyError, EOFError, OSError, Refusal)


class Cache:
    """A folder of entries. Reading and writing never fail: without a cache all still works."""

    def __init__(self, folder: Path | None = None) -> None:
        self.folder = folder or Path(user_cache_dir("umber-compass")) / "sketches"
        self.was_damaged = False

    def load(self, key: str) -> Arrays | None:
        """The arrays of an entry, or None if there is none that can be read."""
        path = self._path(key)
        if not path.exists():
            return None
        try:
            with np.load(io.BytesIO(atomic.read(path, _MOST_BYTES)), allow_pickle=False) as found:
                return {name: found[name] for name in found.files}
        except _BROKEN:
            self.forget(key)
            return None

    def forget(self, key: str) -> None:
        """Drop an entry that turned out to be damaged, and note it."""
        self.was_damaged = True
        try:
            self._path(key).unlink(missing_ok=True)
        except OSError:
            return

    def store(self, key: str, arrays: Arrays) -> None:
        """Keep an entry; a full disk or a folder that cannot be written is no reason to stop."""
        try:
            self.folder.mkdir(parents=True, exist_ok=True)
            out = io.BytesIO()
            np.savez(out, allow_pickle=False, **arrays)
            atomic.write_bytes(self._path(key), out.getvalue())
            self._prune()
        except (OSError, Refusal):
            return

    def take_damage(self) -> bool:
        """Whether an entry was damaged since this was last asked."""
        was, self.was_damaged = self.was_damaged, False
        return was

    def _path(self, key: str) -> Path:
        return self.folder / f"{key}.npz"

    def _prune(self) -> None:
        entries = sorted(self.folder.glob("*.npz"), key=lambda p: p.stat().st_mtime)
        for old in entries[:-_KEPT]:
            old.unlink(missing_ok=True)


def key_of(*parts: bytes | str) -> str:
    """A content hash, safe as a file's name."""
    found = hashlib.blake2b(digest_size=20)
    for part in parts:
        data = part.encode() if isinstance(part, str) else part
        found.update(len(data).to_bytes(8, "little"))
        found.update(data)
    return found.hexdigest()
