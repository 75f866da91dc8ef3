"""Writing that either happens whole or leaves what was there."""

import os
import secrets
from collections.abc import Callable
from pathlib import Path
from typing import IO

from umber_compass.words import Refusal, words


def write(path: Path, fill: Callable[[IO[bytes]], None]) -> None:
    """A file written beside its place, flushed to disk and renamed over the old one.

    Raises Refusal if the folder cannot be written; the old file is then as it was."""
    partial = path.with_name(f".{path.name[:40]}-{secrets.token_hex(6)}")
    try:
        # Made anew and by nobody else; the kernel applies the umask, which is the whole process's.
        handle = os.open(partial, os.O_WRONLY | os.O_CREAT | os.O_EXCL | os.O_CLOEXEC, 0o666)
    except OSError as error:
        raise _cannot(path, error) from error
    try:
        with os.fdopen(handle, "wb") as stream:
            fill(stream)
            stream.flush()
            os.fsync(stream.fileno())
        if path.exists():
            partial.chmod(path.stat().st_mode & 0o777)
        partial.replace(path)
    except OSError as error:
        raise _cannot(path, error) from error
    finally:
        partial.unlink(missing_ok=True)


def make_folder(folder: Path) -> None:
    """A folder, and those above it, there from now on. Raises Refusal if it cannot be made."""
    try:
        folder.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        raise Refusal(
            str(folder), words("is no folder that can be written; choose another")
        ) from error


def write_bytes(path: Path, data: bytes) -> None:
    """A file with these bytes, written whole or not at all."""

    def fill(stream: IO[bytes]) -> None:
        stream.write(data)

    write(path, fill)


def _cannot(path: Path, error: OSError) -> Refusal:
    return Refusal(
        str(path),
        words(
            "could not be written ({why}); choose another place or free some space",
            why=(error.strerror or type(error).__name__).lower(),
        ),
    )


def read(path: Path, most: int) -> bytes:
    """A file's bytes. Raises Refusal if it is missing, no file, or larger than `most` bytes."""
    try:
        if path.is_dir():
            raise Refusal(str(path), words("is a folder; name a file"))
        size = path.stat().st_size
        if size > most:
            raise Refusal(
                str(path),
                words(
                    "is {size} MB, more than the {most} MB taken; make it smaller",
                    size=size // 1_000_000,
                    most=most // 1_000_000,
                ),
            )
        return path.read_bytes()
    except FileNotFoundError as error:
        raise Refusal(str(path), words("no such file; check its name and folder")) from error
    except OSError as error:
        why = (error.strerror or type(error).__name__).lower()
        raise Refusal(
            str(path), words("could not be read ({why}); check its permissions", why=why)
        ) from error


def beginning(path: Path, most: int) -> bytes:
    """The first bytes of a file, at most so many; none if it cannot be read."""
    try:
        with path.open("rb") as stream:
            return stream.read(most)
    except OSError:
        return b""
