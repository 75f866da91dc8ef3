"""Only the thumbnail of a plan file: read in a moment, to be shown while the rest is."""

import zipfile
from pathlib import Path

from umber_compass.formats import atomic

ENTRY = "thumbnail.png"
MOST = 8_000_000  # bytes
_MOST_FILE = 400_000_000
_PACKED_AS = (zipfile.ZIP_STORED, zipfile.ZIP_DEFLATED)


def read(path: Path) -> bytes:
    """The thumbnail's PNG; empty if there is none or the file is not whole. Says nothing of what
    is wrong: reading the plan does."""
    try:
        with atomic.opened(path, _MOST_FILE) as stream, zipfile.ZipFile(stream) as archive:
            if archive.getinfo(ENTRY).compress_type not in _PACKED_AS:
                return b""
            with archive.open(ENTRY) as entry:
                data = entry.read(MOST + 1)
    except Exception:  # whatever is wrong with a file, the window is still to come
        return b""
    return data if len(data) <= MOST else b""
