"""Palette files of any format we know, told apart by what they hold."""

from collections.abc import Sequence
from pathlib import Path
from typing import NamedTuple
from xml.etree.ElementTree import ParseError

from defusedxml.common import DefusedXmlException

from umber_compass.formats import atomic, gpl, hex_list
from umber_compass.words import Refusal, Words, plain, words

MOST_BYTES = 4 * 1024 * 1024
MOST_COLOURS = 65_536
_MOST_NAME = 4096
_SOURCE, _TAGS = "Source:", "Tags:"
_ENDINGS = ("gpl", "hex", "pal", "soc", "css", "tokens.json")


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
    other = _other(data, subject, stem)
    if other is not None:
        return other
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
    kept = _kept(colours, subject)
    said = {k: c[len(k) :].strip() for c in comments for k in (_SOURCE, _TAGS) if c.startswith(k)}
    tags = tuple(t for part in plain(said.get(_TAGS, "")).split(",") if (t := part.strip()))
    kind = "gpl" if is_gpl else "hex"
    return Palette(kind, plain(title or stem), kept, plain(said.get(_SOURCE, ""))[:400], tags)


def _other(data: bytes, subject: str, stem: str) -> Palette | None:
    """The palette of bytes in a format that its beginning tells; None for none of them."""
    head = data.removeprefix(b"\xef\xbb\xbf").lstrip()[:4096]
    if head.startswith(gpl.MAGIC.encode()):
        return None
    from umber_compass.formats import css, ggr, pal, soc, svg_gradient, tokens  # not at a start

    try:
        if head.startswith(ggr.MAGIC.encode()):
            return _named("ggr", ggr.parse(_lines(data, subject)), subject, stem)
        if svg_gradient.is_gradient(data):
            return _named("svg", svg_gradient.parse(data), subject, stem)
        if soc.is_table(data):
            return _named("soc", soc.parse(data), subject, stem)
        if head.startswith(pal.MAGIC.encode()):
            return _named("pal", pal.parse(_lines(data, subject)), subject, stem)
        if head.startswith(b"{"):
            found = tokens.parse("\n".join(_lines(data, subject)))
            return _named("tokens", found, subject, stem)
        if b"--" in data and b"{" in data and b":" in data:
            return _named("css", css.parse("\n".join(_lines(data, subject))), subject, stem)
    except (ValueError, ParseError, DefusedXmlException, RecursionError) as error:
        line = words("is a damaged palette; write it anew, or take another")
        raise Refusal(subject, line) from error
    return None


def _named(kind: str, colours: list[tuple[str, str]], subject: str, stem: str) -> Palette:
    return Palette(kind, plain(stem) or kind, _kept(colours, subject))


def _kept(colours: list[tuple[str, str]], subject: str) -> tuple[tuple[str, str], ...]:
    """Colours with names on one line. Raises Refusal for none, and for too many."""
    if not colours:
        raise Refusal(subject, words("has no colours; take another palette"))
    if len(colours) > MOST_COLOURS:
        line = words("has over {most:,} colours; take a smaller palette", most=MOST_COLOURS)
        raise Refusal(subject, line)
    return tuple((c, " ".join(plain(n).split())[:_MOST_NAME]) for c, n in colours)


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
    from umber_compass.formats import css, pal, soc, tokens  # a start needs none of them

    named = [(c, n or c) for c, n in palette.colours]
    if kind == "pal":
        return pal.text(c for c, _ in palette.colours).encode()
    if kind == "soc":
        return soc.text(named, palette.title).encode()
    if kind == "css":
        return css.text(palette.title, named).encode()
    if kind in ("json", "tokens"):
        rows = [gpl.Row(c, n, "") for c, n in named]
        return tokens.text(palette.title, rows).encode()
    known = ", ".join(f".{e}" for e in _ENDINGS)
    raise Refusal(f".{kind}"[:20], words("is no palette format; take {known}", known=known))


def write(palette: Palette, path: Path) -> None:
    """A palette's file in the format of its ending, whole or not at all."""
    atomic.write_data(path, content(palette, path.suffix.lower().lstrip(".")))


def from_text(text: str) -> Palette:
    """The palette of a pasted list of hexes. Raises Refusal where it holds none."""
    colours: Sequence[tuple[str, str]] = hex_list.pasted(text)[:MOST_COLOURS]
    if not colours:
        raise Refusal("the pasted text", words("holds no hex such as #a4b8c0; copy some first"))
    return Palette("hex", "pasted colours", tuple(colours))
