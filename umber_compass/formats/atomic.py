"""Writing that either happens whole or leaves what was there."""

import os
import tempfile
from collections.abc import Callable
from pathlib import Path
from typing import IO

from umber_compass.words import Refusal, words


def write(path: Path, fill: Callable[[IO[bytes]], None]) -> None:
    """A file written beside its place, flushed to disk and renamed over the old one.

    Raises Refusal if the folder cannot be written; the old file is then as it was."""
    try:
        handle, name = tempfile.mkstemp(prefix=f".{path.name[:40]}-", dir=path.parent)
    except OSError as error:
        raise _cannot(path, error) from error
    partial = Path(name)
    try:
        with os.fdopen(handle, "wb") as stream:
            fill(stream)
            stream.flush()
            os.fsync(stream.fileno())
        partial.chmod(path.stat().st_mode & 0o777 if path.exists() else 0o666 & ~_umask())
        partial.replace(path)
    except OSError as error:
        raise _cannot(path, error) from error
    finally:
        partial.unlink(missing_ok=True)


def write_bytes(path: Path, data: bytes) -> None:
    """A file with these bytes, written whole or not at all."""

    def fill(stream: IO[bytes]) -> None:
        stream.write(data)

    write(path, fill)


def _umask() -> int:
    mask = os.umask(0)
    os.umask(mask)
    return mask


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
