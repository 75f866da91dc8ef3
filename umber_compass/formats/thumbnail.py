"""Only the thumbnail of a plan file: read in a moment, to be shown while the rest is."""

import zipfile
import zlib
from pathlib import Path

ENTRY = "thumbnail.png"
MOST = 8_000_000  # bytes


def read(path: Path) -> bytes:
    """The thumbnail's PNG; empty if there is none or the file is not whole. Says nothing of what
    is wrong: reading the plan does."""
    try:
        with zipfile.ZipFile(path) as archive, archive.open(ENTRY) as stream:
            data = stream.read(MOST + 1)
    except (zipfile.BadZipFile, zlib.error, OSError, KeyError, ValueError, RuntimeError):
        return b""
    return data if len(data) <= MOST else b""
