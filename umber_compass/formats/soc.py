"""The OpenDocument colour table `.soc`: XML with a name and a hex for each colour."""

import io
import re
from collections.abc import Iterable
from xml.sax.saxutils import quoteattr

from defusedxml.ElementTree import iterparse

from umber_compass.words import plain

_OFFICE = "http://openoffice.org/2004/office"  # the format's own
_DRAW = "urn:oasis:names:tc:opendocument:xmlns:drawing:1.0"
_TABLES = ("color-table",)
_UTF_16 = (b"\xff\xfe", b"\xfe\xff")  # marks it begins with
_MOST_DEPTH = 64
_HEX = re.compile(r"#[0-9a-fA-F]{6}")


def is_table(data: bytes) -> bool:
    """Whether bytes look like a colour table."""
    head = data[:8192]
    if head[:2] in _UTF_16:
        head = head.decode("utf-16", "ignore").encode()
    head = head.removeprefix(b"\xef\xbb\xbf").lstrip()
    return head[:1] == b"<" and b"color-table" in head[:4096]


def parse(data: bytes) -> list[tuple[str, str]]:
    """The colours of a table, hex and name. Raises ValueError for what is none, and what defusedxml
    raises for hostile or broken XML."""
    found: list[tuple[str, str]] = []
    depth, rooted = 0, False
    for event, element in iterparse(io.BytesIO(data), ("start", "end"), forbid_dtd=True):
        depth += 1 if event == "start" else -1
        if depth > _MOST_DEPTH:
            raise ValueError("1")
        name = element.tag.rpartition("}")[2]
        rooted = rooted or name in _TABLES
        if event == "end" and name == "color":
            said = {k.rpartition("}")[2]: v for k, v in element.attrib.items()}
            if not _HEX.fullmatch(said.get("color", "")):
                raise ValueError(str(len(found) + 1))
            found.append((said["color"].lower(), said.get("name", "")))
    if not rooted:
        raise ValueError("1")
    return found


def text(rows: Iterable[tuple[str, str]], mark: str) -> str:
    """The file's text, of hexes and names, with a line that says by whom it was written."""
    lines = [
        '<?xml version="1.0" encoding="UTF-8"?>',
        f"<!-- {mark} -->",
        f'<office:color-table xmlns:office="{_OFFICE}" xmlns:draw="{_DRAW}">',
    ]
    for hex_, name in rows:
        said = quoteattr(" ".join(plain(name).split()) or hex_)
        lines.append(f'  <draw:color draw:name={said} draw:color="{hex_}"/>')
    return "\n".join([*lines, "</office:color-table>", ""])
