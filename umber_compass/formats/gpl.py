"""The text palette `.gpl`: rows of decimal levels and a name."""

import re
from collections.abc import Iterable
from pathlib import Path
from typing import NamedTuple

from umber_compass.formats import atomic
from umber_compass.words import plain

MAGIC = "GIMP Palette"  # the format's own first line
_MOST_ROW = 100  # bytes
_LEVELS = len("255 255 255\t")


class Row(NamedTuple):
    """One colour: its hex, what it is of, and which of that thing's colours it is."""

    hex: str
    what: str
    which: str


_ROW = re.compile(r"[ \t]*([0-9]{1,3})[ \t]+([0-9]{1,3})[ \t]+([0-9]{1,3})(?:[ \t]+(.*))?")


class Parsed(NamedTuple):
    """What a palette's text holds."""

    title: str
    colours: list[tuple[str, str]]  # hex, name
    comments: list[str]


def parse(lines: list[str]) -> Parsed:
    """The palette of some lines, the first being the format's own. Raises ValueError with the
    number of the row that is none."""
    title, comments = "", list[str]()
    colours: list[tuple[str, str]] = []
    for number, line in enumerate(lines[1:], 2):
        if line.startswith("#"):
            comments.append(line[1:].strip())
        elif line.startswith("Name:") and not colours:
            title = line[5:].strip()
        elif line.startswith(("Columns:", "Channels:")) and not colours:
            continue
        elif line.strip():
            found = _ROW.fullmatch(line)
            levels = [int(g) for g in found.groups()[:3]] if found else [256]
            if found is None or max(levels) > 255:
                raise ValueError(str(number))
            colours.append((f"#{bytes(levels).hex()}", (found[4] or "").strip()))
    return Parsed(title, colours, comments)


def text(title: str, rows: Iterable[Row], comments: Iterable[str] = (), columns: int = 0) -> str:
    """The palette of some rows; names are kept to one line and to the format's length."""
    lines = [MAGIC, f"Name: {_line(title)}", f"Columns: {columns}"]
    lines += [f"# {_line(c)}" for c in comments]
    lines += [_row(r.hex, _name_of(r.what, r.which)) for r in rows]
    return "\n".join(_short(x) for x in lines) + "\n"


def _name_of(what: str, which: str) -> str:
    """A row's name: of which thing, shortened in its middle where the row would be too long, and
    which of its colours."""
    what, which = _line(what), " ".join(plain(which).split())
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
    atomic.write_data(path, content.encode())


def _row(colour: str, name: str) -> str:
    levels = bytes.fromhex(colour[1:])
    return f"{levels[0]:3d} {levels[1]:3d} {levels[2]:3d}\t{_line(name)}"


def _line(words: str) -> str:
    return " ".join(plain(words).split()) or "untitled"


def _short(row: str) -> str:
    return row.encode()[:_MOST_ROW].decode(errors="ignore")
