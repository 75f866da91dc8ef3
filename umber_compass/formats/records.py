"""Plans kept in the state folder: small records, and beside them, by hash and once each, the
pictures and label maps that they need. Every file is written whole or not at all.

A record of a process that still runs is told by a lock that the process holds.
"""

import fcntl
import os
import time
from collections.abc import Iterable, Iterator, Sequence
from contextlib import suppress
from pathlib import Path
from typing import IO, NamedTuple

import msgspec

from umber_compass.formats import atomic
from umber_compass.formats.atomic import Stamp
from umber_compass.formats.picture import MOST_BYTES
from umber_compass.words import Refusal, words

RECORD, LOCK = ".work", ".lock"
_MOST_RECORD = 40_000_000  # bytes
_FRESH_S = 3600.0  # a picture this young may belong to a record that is still being written
_PICTURES = "pictures"


class Record(msgspec.Struct, frozen=True, kw_only=True):
    """A plan as it was at a moment."""

    pictures: tuple[str, ...]  # all that it needs, by hash
    title: str
    time_s: float  # since 1970
    path: str = ""  # of the plan's file, if it lies in one
    stamp: Stamp | None = None  # the state of that file when it was read or written here
    count: int = 0  # changes that no file holds
    changes: tuple[str, ...] = ()  # the last of them, in words
    thumbnail: bytes = b""  # PNG
    journal: bytes = b""  # as journal.json
    plan: msgspec.Raw  # as plan.json


class _Needs(msgspec.Struct, frozen=True):
    """Of a record, only what it needs."""

    pictures: tuple[str, ...]


class Entry(NamedTuple):
    """A record and the file it lies in."""

    record: Record
    file: Path


class Records:
    """A folder of records, in folders of their own, and of the pictures they need."""

    def __init__(self, folder: Path) -> None:
        self._folder = folder

    def file(self, *parts: str) -> Path:
        """Where a record of this name lies."""
        return self._folder.joinpath(*parts[:-1], parts[-1] + RECORD)

    def write(self, file: Path, record: Record, pictures: Iterable[tuple[str, bytes]]) -> None:
        """Write a record, after what it needs. Raises Refusal if it cannot be written."""
        make_private(self._folder / _PICTURES)
        for key, data in pictures:
            at = self._folder / _PICTURES / key
            if at.exists():
                os.utime(at)
            else:
                atomic.write_data(at, data)
        make_private(file.parent)
        atomic.write_data(file, msgspec.json.encode(record))

    def entries(self, *folder: str) -> list[Entry]:
        """The records of a folder that are whole, the newest first."""
        found = (entry_of(f) for f in self.files(*folder))
        return sorted((e for e in found if e), key=lambda e: -e.record.time_s)

    def files(self, *folder: str) -> Iterator[Path]:
        """The files of a folder's records, and of those below it."""
        yield from _files(self._folder.joinpath(*folder))

    def picture(self, key: str) -> bytes:
        """A picture's bytes. Raises Refusal where it is gone."""
        return atomic.read(self._folder / _PICTURES / key, MOST_BYTES)

    def prune(self, bounded: str, held: str, most_bytes: int) -> None:
        """Take the oldest records of the folder `bounded` away, until they and the pictures that
        only they need hold no more bytes than this; then the pictures that none needs. Those that
        the records of the folder `held` need stay."""
        every = sorted(self.files(bounded), key=lambda f: f.name)
        needs = {f: _needed(f) for f in every}
        kept = {k for f in self.files(held) for k in _needed(f)}
        while every and self._size(every, needs, kept) > most_bytes:
            every.pop(0).unlink(missing_ok=True)
        wanted = kept.union(*(needs[f] for f in every))
        for file in _listed(self._folder / _PICTURES):
            with suppress(OSError):
                if file.name not in wanted and time.time() - file.stat().st_mtime > _FRESH_S:
                    file.unlink(missing_ok=True)

    def _size(self, files: Sequence[Path], needs: dict[Path, set[str]], kept: set[str]) -> int:
        pictures = {k for f in files for k in needs[f]} - kept
        sizes = [*files, *(self._folder / _PICTURES / k for k in pictures)]
        return sum(map(_bytes, sizes))


class Lock:
    """Held for as long as a process lives, so that others know that its record is its own."""

    def __init__(self) -> None:
        self._held: IO[bytes] | None = None

    def hold(self, record: Path) -> None:
        """Hold the lock of a record. Raises Refusal where the folder cannot be written."""
        if self._held is not None:
            return
        make_private(record.parent)
        # No locks there: the work is offered while this process still runs.
        with suppress(OSError):
            self._held = record.with_suffix(LOCK).open("wb")
            fcntl.flock(self._held, fcntl.LOCK_EX | fcntl.LOCK_NB)

    def release(self, record: Path) -> None:
        """Let go of it, and take its file away."""
        if self._held is not None:
            record.with_suffix(LOCK).unlink(missing_ok=True)
            self._held.close()
            self._held = None


def is_held(record: Path) -> bool:
    """Whether the process that writes a record still runs."""
    try:
        with record.with_suffix(LOCK).open("rb") as lock:
            fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except FileNotFoundError:
        return False
    except OSError:
        return True
    return False


def drop(record: Path) -> None:
    """Take a record away, and its lock."""
    record.unlink(missing_ok=True)
    record.with_suffix(LOCK).unlink(missing_ok=True)


def make_private(folder: Path) -> None:
    """A folder that only its owner can look into: it holds unpublished pictures. Raises Refusal if
    it cannot be made."""
    try:
        folder.mkdir(parents=True, exist_ok=True, mode=0o700)
    except OSError as error:
        line = words("is no folder that can be written; unsaved work is not kept")
        raise Refusal(str(folder), line) from error


def entry_of(file: Path) -> Entry | None:
    """A record's file read; None where it is not whole."""
    try:
        return Entry(msgspec.json.decode(atomic.read(file, _MOST_RECORD), type=Record), file)
    except (Refusal, msgspec.MsgspecError, RecursionError):
        return None


def _listed(folder: Path) -> list[Path]:
    try:
        return list(folder.iterdir())
    except OSError:
        return []


def _files(folder: Path) -> Iterator[Path]:
    for path in _listed(folder):
        if path.suffix == RECORD:
            yield path
        elif path.is_dir():
            yield from _files(path)


def _needed(file: Path) -> set[str]:
    try:
        return set(msgspec.json.decode(atomic.read(file, _MOST_RECORD), type=_Needs).pictures)
    except (Refusal, msgspec.MsgspecError, RecursionError):
        return set()


def _bytes(file: Path) -> int:
    try:
        return file.stat().st_size
    except OSError:
        return 0
