"""What was worked out from a sketch, kept between two openings: named arrays by content hash.

An entry is a magic line, the length of its head, a check sum, the head (JSON: names, types, shapes)
and the arrays one after the other, so that nothing in it is run, unpacked or trusted for a size. A
cache may be lost at any time; a damaged entry counts as none and is noted, so that it can be said
once. Docs: docs/engine.md.
"""

import hashlib
import math
import struct
import zlib
from contextlib import suppress
from pathlib import Path
from typing import Annotated, Any, Literal, TypeAlias

import msgspec
import numpy as np
import numpy.typing as npt
from platformdirs import user_cache_dir

from umber_compass.formats import atomic
from umber_compass.words import Refusal

Arrays: TypeAlias = dict[str, npt.NDArray[Any]]
_Type: TypeAlias = Literal[
    "bool", "uint8", "uint16", "uint32", "int32", "int64", "float16", "float32", "float64"
]

_MAGIC = b"umber kept 1\n"
_BEGIN = struct.Struct("<II")  # length of the head, CRC-32 of all that follows
_MOST_BYTES = 600_000_000  # one entry
_MOST_HEAD = 65_536
_ALIGNED = 64  # bytes
_KEPT = 24  # entries; the oldest go first
_SUFFIX = ".kept"


class _Array(msgspec.Struct, frozen=True):
    """One array's name, type and shape."""

    name: str
    type: _Type
    shape: Annotated[
        tuple[Annotated[int, msgspec.Meta(ge=0, lt=2**32)], ...], msgspec.Meta(max_length=4)
    ]

    @property
    def bytes(self) -> int:
        """How long it is."""
        return math.prod(self.shape) * np.dtype(self.type).itemsize


def packed(arrays: Arrays) -> bytes:
    """An entry of these arrays."""
    rows = [_Array(n, a.dtype.name, a.shape) for n, a in arrays.items()]  # type: ignore[arg-type]  # checked when it is read
    head = msgspec.json.encode(rows)
    parts = [head, bytes(-(len(_MAGIC) + _BEGIN.size + len(head)) % _ALIGNED)]
    for array in arrays.values():
        data = np.ascontiguousarray(array).tobytes()
        parts += [data, bytes(-len(data) % _ALIGNED)]
    body = b"".join(parts)
    return _MAGIC + _BEGIN.pack(len(head), zlib.crc32(body)) + body


def unpacked(data: bytes) -> Arrays:
    """The arrays of an entry, read-only. Raises ValueError for anything that is not whole."""
    at = len(_MAGIC) + _BEGIN.size
    if not data.startswith(_MAGIC) or len(data) < at:
        raise ValueError("no entry of this version")
    length, check = _BEGIN.unpack_from(data, len(_MAGIC))
    if length > min(_MOST_HEAD, len(data) - at) or zlib.crc32(memoryview(data)[at:]) != check:
        raise ValueError("not as it was written")
    rows = msgspec.json.decode(data[at : at + length], type=list[_Array])
    at += length
    found: Arrays = {}
    for row in rows:
        at += -at % _ALIGNED
        if row.bytes > len(data) - at or row.name in found:
            raise ValueError("its arrays do not fit its length")
        flat = np.frombuffer(data, row.type, math.prod(row.shape), at)
        found[row.name] = flat.reshape(row.shape)
        at += row.bytes
    return found


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
            return unpacked(atomic.read(path, _MOST_BYTES))
        except (ValueError, msgspec.MsgspecError, RecursionError, MemoryError, Refusal):
            self.forget(key)
            return None

    def forget(self, key: str) -> None:
        """Drop an entry that turned out to be damaged, and note it."""
        self.was_damaged = True
        with suppress(OSError):
            self._path(key).unlink(missing_ok=True)

    def store(self, key: str, arrays: Arrays) -> None:
        """Keep an entry; a full disk or a folder that cannot be written is no reason to stop."""
        try:
            self.folder.mkdir(parents=True, exist_ok=True)
            atomic.write_data(self._path(key), packed(arrays))
            self._prune()
        except (OSError, Refusal):
            return

    def take_damage(self) -> bool:
        """Whether an entry was damaged since this was last asked."""
        was, self.was_damaged = self.was_damaged, False
        return was

    def _path(self, key: str) -> Path:
        return self.folder / f"{key}{_SUFFIX}"

    def _prune(self) -> None:
        entries = sorted(self.folder.glob(f"*{_SUFFIX}"), key=lambda p: p.stat().st_mtime)
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
