"""Gradients in SVG: a linearGradient with a stop for each colour."""

import io
import re
from collections.abc import Sequence
from xml.sax.saxutils import escape

from defusedxml.ElementTree import iterparse

_MOST_DEPTH, _MOST_STOPS = 64, 4096
_COLOUR = re.compile(r"(?:^|;)\s*stop-color\s*:\s*(#[0-9a-fA-F]{6}|#[0-9a-fA-F]{3})\s*(?:;|$)")
_HEX = re.compile(r"#[0-9a-fA-F]{6}|#[0-9a-fA-F]{3}")
_SIDE = 256  # px


def is_gradient(data: bytes) -> bool:
    """Whether bytes look like an SVG with a gradient."""
    return data.lstrip()[:1] == b"<" and b"Gradient" in data and b"<stop" in data


def parse(data: bytes) -> list[tuple[str, str]]:
    """The colours of the first gradient with stops, hex and place. Raises ValueError for what has
    none or a colour that is no hex, and what defusedxml raises for hostile or broken XML."""
    found: list[tuple[str, str]] = []
    depth = 0
    for event, element in iterparse(io.BytesIO(data), ("start", "end"), forbid_dtd=True):
        depth += 1 if event == "start" else -1
        if depth > _MOST_DEPTH or len(found) > _MOST_STOPS:
            raise ValueError("1")
        name = element.tag.rpartition("}")[2]
        if event == "end" and name == "stop":
            found.append((_hex_of(element.attrib), element.get("offset", "")[:20]))
        if event == "end" and name.endswith("Gradient") and found:
            return found
    raise ValueError("1")


def _hex_of(said: dict[str, str]) -> str:
    text = said.get("stop-color", "").strip()
    styled = _COLOUR.search(said.get("style", ""))
    if styled is not None:
        text = styled.group(1)
    if not _HEX.fullmatch(text):
        raise ValueError("1")
    return "#" + (text[1:] if len(text) == 7 else "".join(c * 2 for c in text[1:])).lower()


def text(title: str, hexes: Sequence[str], mark: str) -> str:
    """The file's text: a gradient that runs evenly through the colours, dark to light, and a box
    that shows it; with a line that says by whom it was written."""
    last = max(len(hexes) - 1, 1)
    stops = [f'<stop offset="{i / last:.4f}" stop-color="{hex_}"/>' for i, hex_ in enumerate(hexes)]
    return "\n".join(
        [
            '<?xml version="1.0" encoding="UTF-8"?>',
            f"<!-- {mark} -->",
            f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {_SIDE} {_SIDE // 8}">',
            f"<title>{escape(title)}</title>",
            '<linearGradient id="ramp">',
            *stops,
            "</linearGradient>",
            f'<rect width="{_SIDE}" height="{_SIDE // 8}" fill="url(#ramp)"/>',
            "</svg>\n",
        ]
    )
