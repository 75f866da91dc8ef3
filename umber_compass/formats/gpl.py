"""The text palette `.gpl`: rows of decimal levels and a name."""

from collections.abc import Iterable
from pathlib import Path
from typing import NamedTuple

from umber_compass.formats import atomic

MAGIC = "GIMP Palette"  # the format's own first line
_MOST_ROW = 100  # bytes
_LEVELS = len("255 255 255\t")


class Row(NamedTuple):
    """One colour: its hex, what it is of, and which of that thing's colours it is."""

    hex: str
    what: str
    which: str


def text(title: str, rows: Iterable[Row], comments: Iterable[str] = ()) -> str:
    """The palette of some rows; names are kept to one line and to the format's length."""
    lines = [MAGIC, f"Name: {_line(title)}", "Columns: 0"]
    lines += [f"# {_line(c)}" for c in comments]
    lines += [_row(r.hex, _name_of(r.what, r.which)) for r in rows]
    return "\n".join(_short(x) for x in lines) + "\n"


def _name_of(what: str, which: str) -> str:
    """A row's name: of which thing, shortened in its middle where the row would be too long, and
    which of its colours."""
    what, which = _line(what), " ".join(which.split())
    room = _MOST_ROW - _LEVELS - len(which.encode()) - 1
    if len(what.encode()) <= room:
        return f"{what} {which}".rstrip()
    head, tail = what, what
    while len(head.encode()) > room * 2 // 3 - 2:
        head = head[:-1]
    while len(tail.encode()) > room // 3 - 2:
        tail = tail[1:]
    return f"{head.rstrip()}…{tail.lstrip()} {which}"


def write(path: Path, content: str) -> None:
    """The palette's file, written whole or not at all."""
    atomic.write_bytes(path, content.encode())


def _row(colour: str, name: str) -> str:
    levels = bytes.fromhex(colour[1:])
    return f"{levels[0]:3d} {levels[1]:3d} {levels[2]:3d}\t{_line(name)}"


def _line(words: str) -> str:
    return " ".join(words.split()) or "untitled"


def _short(row: str) -> str:
    return row.encode()[:_MOST_ROW].decode(errors="ignore")
