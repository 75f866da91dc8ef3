"""Files read with bounds, and writing that either happens whole or leaves what was there.

What is written goes through a file beside its place, named after its process, so that what a
killed one left can be told and cleared. A link is followed, a file with other names keeps them, and
what is no regular file, or may not be changed, is refused.
"""

import os
import re
import secrets
import socket
import stat
import sys
import zlib
from collections.abc import Callable, Mapping
from contextlib import suppress
from pathlib import Path
from typing import IO, NamedTuple, TypeAlias

from umber_compass.words import Refusal, Words, words

Fill: TypeAlias = Callable[[IO[bytes]], None]

_HOST = f"{zlib.crc32(socket.gethostname().encode()):08x}"
_PARTIAL = re.compile(r"\..*-([0-9a-f]{8})-(\d{1,9})-[0-9a-f]{12}\.part", re.DOTALL)
_NAME_BYTES = 80  # of the file's own name in the partial one's: a name has 255 at most


class Stamp(NamedTuple):
    """Which state of which file: another one was written by somebody else."""

    inode: int
    size: int
    time_ns: int


class _Prepared(NamedTuple):
    """What was written beside its place."""

    path: Path
    partial: Path
    there: os.stat_result | None  # what was at the place


def stamp(path: Path) -> Stamp | None:
    """The state of a file now; None where there is none."""
    try:
        found = path.stat()
    except (OSError, ValueError):
        return None
    return Stamp(found.st_ino, found.st_size, found.st_mtime_ns)


def write(path: Path, fill: Fill) -> None:
    """A file written beside its place, flushed to disk and put there whole.

    Raises Refusal if it cannot be written; the old file is then as it was."""
    write_all({path: fill})


def write_all(fills: Mapping[Path, Fill]) -> None:
    """Several files, all or none: each is whole beside its place before the first is put there.

    Raises Refusal if one cannot be written; the old files are then as they were. Only where the
    disk fails in the moment of putting them there may some be new."""
    prepared: list[_Prepared] = []
    try:
        for path, fill in fills.items():
            _prepare(path, fill, prepared)
        for one in prepared:
            _put(one)
    finally:
        for one in prepared:
            one.partial.unlink(missing_ok=True)


def _prepare(path: Path, fill: Fill, prepared: list[_Prepared]) -> None:
    try:
        real = Path(os.path.realpath(path))
        if real.is_symlink():
            raise Refusal(str(path), words("is a link that leads nowhere; choose another name"))
        there = real.stat() if real.exists() else None
        if there is not None:
            _may_change(path, real, there)
        _clear_dead(real.parent)
        begun = real.name.encode(errors="surrogateescape")[:_NAME_BYTES].decode(errors="ignore")
        name = f".{begun}-{_HOST}-{os.getpid()}-{secrets.token_hex(6)}.part"
        partial = real.with_name(name)
        # Made anew and by nobody else, and never open to more than the file it replaces; of a new
        # one the kernel applies the umask, which is the whole process's.
        mode = 0o666 if there is None else stat.S_IMODE(there.st_mode) & 0o600
        handle = os.open(partial, os.O_WRONLY | os.O_CREAT | os.O_EXCL | os.O_CLOEXEC, mode)
    except (OSError, ValueError) as error:
        raise _cannot(path, error) from error
    prepared.append(_Prepared(real, partial, there))
    try:
        with os.fdopen(handle, "wb") as stream:
            fill(stream)
            stream.flush()
            os.fsync(stream.fileno())
        if there is not None:
            partial.chmod(stat.S_IMODE(there.st_mode))
    except OSError as error:
        raise _cannot(path, error) from error


def _may_change(path: Path, real: Path, there: os.stat_result) -> None:
    """Refuse what is no regular file, and what its owner made read-only."""
    if stat.S_ISDIR(there.st_mode):
        raise Refusal(str(path), words("is a folder; name a file"))
    if not stat.S_ISREG(there.st_mode):
        raise Refusal(str(path), words("is no regular file; choose another name"))
    if not there.st_mode & 0o222 or not os.access(real, os.W_OK):
        raise Refusal(str(path), words("is read-only; choose another name or make it writable"))


def _clear_dead(folder: Path) -> None:
    """Take away what processes of this machine that are gone left unfinished."""
    with suppress(OSError):  # a folder that cannot be listed, another's file: it does no harm
        for entry in os.scandir(folder):
            found = _PARTIAL.fullmatch(entry.name)
            if found is not None and found[1] == _HOST and not _is_alive(int(found[2])):
                Path(entry.path).unlink(missing_ok=True)


def _is_alive(process: int) -> bool:
    try:
        os.kill(process, 0)
    except (ProcessLookupError, OverflowError):
        return False
    except PermissionError:
        return True
    return True


def _put(one: _Prepared) -> None:
    """Put what was prepared in its place: by renaming; into the file that is there where that has
    other names too, once the disk has promised the room."""
    try:
        if one.there is None or one.there.st_nlink < 2:
            one.partial.replace(one.path)
            return
        size = one.partial.stat().st_size
        with one.path.open("r+b") as stream, one.partial.open("rb") as source:
            if size:
                os.posix_fallocate(stream.fileno(), 0, size)
            while part := source.read(1 << 20):
                stream.write(part)
            stream.truncate(size)
            stream.flush()
            os.fsync(stream.fileno())
    except OSError as error:
        raise _cannot(one.path, error) from error


def make_folder(folder: Path) -> None:
    """A folder, and those above it, there from now on. Raises Refusal if it cannot be made."""
    try:
        folder.mkdir(parents=True, exist_ok=True)
        with os.scandir(folder) as entries:
            next(entries, None)
    except (OSError, ValueError) as error:
        raise Refusal(
            str(folder), words("is no folder that can be written; choose another")
        ) from error


def write_data(path: Path, data: bytes) -> None:
    """A file with these bytes, written whole or not at all."""

    def fill(stream: IO[bytes]) -> None:
        stream.write(data)

    write(path, fill)


def _cannot(path: Path, error: OSError | ValueError) -> Refusal:
    return Refusal(
        str(path),
        words(
            "could not be written ({why}); choose another place or free some space", why=_why(error)
        ),
    )


def _why(error: OSError | ValueError) -> str:
    if isinstance(error, OSError):
        return (error.strerror or type(error).__name__).lower()
    return "no file can have that name"


def opened(path: Path, most: int) -> IO[bytes]:
    """A file open for reading. Raises Refusal if it is missing, no regular file (nothing is waited
    for), or larger than `most` bytes."""
    try:
        # Without O_NONBLOCK a pipe nobody writes to would be waited for.
        handle = os.open(path, os.O_RDONLY | os.O_CLOEXEC | os.O_NONBLOCK)
    except FileNotFoundError as error:
        raise Refusal(str(path), words("no such file; check its name and folder")) from error
    except (OSError, ValueError) as error:
        line = words("could not be read ({why}); check its name and permissions", why=_why(error))
        raise Refusal(str(path), line) from error
    refused = _unreadable(os.fstat(handle), most)
    if refused is not None:
        os.close(handle)
        raise Refusal(str(path), refused)
    return os.fdopen(handle, "rb")


def _unreadable(found: os.stat_result, most: int) -> Words | None:
    if stat.S_ISDIR(found.st_mode):
        return words("is a folder; name a file")
    if not stat.S_ISREG(found.st_mode):
        return words("is a device or a pipe; name a file")
    if found.st_size > most:
        return words(
            "is {size} MB, more than the {most} MB taken; make it smaller",
            size=found.st_size // 1_000_000,
            most=most // 1_000_000,
        )
    return None


def read(path: Path, most: int) -> bytes:
    """A file's bytes. Raises Refusal if it is missing, no file, or larger than `most` bytes."""
    with opened(path, most) as stream:
        try:
            return stream.read(most)
        except OSError as error:
            line = words("could not be read ({why}); try again", why=_why(error))
            raise Refusal(str(path), line) from error


def beginning(path: Path, most: int) -> bytes:
    """The first bytes of a file, at most so many; none if it cannot be read."""
    try:
        with opened(path, sys.maxsize) as stream:
            return stream.read(most)
    except (OSError, ValueError, Refusal):
        return b""
