"""The text palette `.gpl`: rows of decimal levels and a name."""

from collections.abc import Iterable
from pathlib import Path

from umber_compass.formats import atomic

MAGIC = "GIMP Palette"  # the format's own first line
_MOST_ROW = 100  # bytes


def text(title: str, rows: Iterable[tuple[str, str]], comments: Iterable[str] = ()) -> str:
    """The palette of (hex, name) rows; names are kept to one line and to the format's length."""
    lines = [MAGIC, f"Name: {_line(title)}", "Columns: 0"]
    lines += [f"# {_line(c)}" for c in comments]
    lines += [_row(colour, name) for colour, name in rows]
    return "\n".join(_short(x) for x in lines) + "\n"


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
