"""Palette files of any format we know, told apart by what they hold."""

from collections.abc import Sequence
from pathlib import Path
from typing import NamedTuple

from umber_compass.formats import atomic, gpl, hex_list
from umber_compass.words import Refusal, Words, plain, words

MOST_BYTES = 4 * 1024 * 1024
MOST_COLOURS = 65_536
_MOST_NAME = 4096
_SOURCE, _TAGS = "Source:", "Tags:"
_ENDINGS = ("gpl", "hex")


class Palette(NamedTuple):
    """A palette as a file holds it."""

    format: str
    title: str
    colours: tuple[tuple[str, str], ...]  # hex, name
    source: str = ""  # whose it is, where it is from
    tags: tuple[str, ...] = ()


def read(path: Path) -> Palette:
    """The palette of a file. Raises Refusal, with one line, for anything that is none."""
    return parse(atomic.read(path, MOST_BYTES), str(path), path.stem)


def parse(data: bytes, subject: str, stem: str = "") -> Palette:
    """The palette of a file's bytes; `stem` is its title where it says none."""
    lines = _lines(data, subject)
    is_gpl = bool(lines) and lines[0].strip() == gpl.MAGIC
    try:
        if is_gpl:
            found = gpl.parse(lines)
            title, colours, comments = found.title, found.colours, found.comments
        else:
            title, colours, comments = "", hex_list.parse(lines), []
    except ValueError as error:
        raise Refusal(subject, _bad_line(is_gpl, str(error))) from error
    if not colours:
        raise Refusal(subject, words("has no colours; take another palette"))
    if len(colours) > MOST_COLOURS:
        line = words("has over {most:,} colours; take a smaller palette", most=MOST_COLOURS)
        raise Refusal(subject, line)
    kept = tuple((c, " ".join(plain(n).split())[:_MOST_NAME]) for c, n in colours)
    said = {k: c[len(k) :].strip() for c in comments for k in (_SOURCE, _TAGS) if c.startswith(k)}
    tags = tuple(t for part in plain(said.get(_TAGS, "")).split(",") if (t := part.strip()))
    kind = "gpl" if is_gpl else "hex"
    return Palette(kind, plain(title or stem), kept, plain(said.get(_SOURCE, ""))[:400], tags)


def _bad_line(is_gpl: bool, number: str) -> Words:
    if is_gpl:
        return words("line {n} is no colour; rows are three levels 0-255 and a name", n=number)
    return words(
        "is no palette we read (line {n} is no hex); take a .gpl or .hex file, or a picture",
        n=number,
    )


def _lines(data: bytes, subject: str) -> list[str]:
    if b"\0" in data:
        raise Refusal(subject, words("is no text palette; take a .gpl or .hex file, or a picture"))
    plain = data.removeprefix(b"\xef\xbb\xbf")
    try:
        text = plain.decode()
    except UnicodeDecodeError:
        text = plain.decode("cp1252", errors="replace")
    return text.replace("\r\n", "\n").replace("\r", "\n").split("\n")


def content(palette: Palette, kind: str) -> bytes:
    """A palette as the bytes of a file of a format. Raises Refusal for one we don't write."""
    if kind == "gpl":
        comments = [f"{_SOURCE} {palette.source}"] if palette.source else []
        comments += [f"{_TAGS} {', '.join(palette.tags)}"] if palette.tags else []
        rows = [gpl.Row(c, n or c, "") for c, n in palette.colours]
        return gpl.text(palette.title, rows, comments).encode()
    if kind == "hex":
        return hex_list.text(c for c, _ in palette.colours).encode()
    known = ", ".join(f".{e}" for e in _ENDINGS)
    raise Refusal(f".{kind}"[:20], words("is no palette format; take {known}", known=known))


def write(palette: Palette, path: Path) -> None:
    """A palette's file in the format of its ending, whole or not at all."""
    atomic.write_bytes(path, content(palette, path.suffix.lower().lstrip(".")))


def from_text(text: str) -> Palette:
    """The palette of a pasted list of hexes. Raises Refusal where it holds none."""
    colours: Sequence[tuple[str, str]] = hex_list.pasted(text)[:MOST_COLOURS]
    if not colours:
        raise Refusal("the pasted text", words("holds no hex such as #a4b8c0; copy some first"))
    return Palette("hex", "pasted colours", tuple(colours))
