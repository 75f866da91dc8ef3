"""Swatch sheets: a row for each thing, its colours from dark to light, as SVG and as a picture."""

from collections.abc import Iterable, Sequence
from itertools import groupby
from xml.sax.saxutils import escape, quoteattr

import numpy as np
from PIL import Image

from umber_compass.formats.gpl import Row

_BOX, _GAP, _MARGIN = 40, 4, 12  # px
_GROUND = (118, 118, 118)


def lines_of(rows: Iterable[Row]) -> list[list[Row]]:
    """The rows of a sheet: what follows of one thing stands in one."""
    return [list(group) for _, group in groupby(rows, key=lambda row: row.what)]


def svg(title: str, rows: Iterable[Row]) -> str:
    """A sheet with a titled rectangle for each colour; nothing in it is fetched or runs."""
    lines = lines_of(rows)
    width, height = _size(lines)
    out = [
        '<?xml version="1.0" encoding="UTF-8"?>',
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {width} {height}" '
        f'width="{width}" height="{height}">',
        f"  <title>{escape(title)}</title>",
        f'  <rect width="{width}" height="{height}" fill="#767676"/>',
    ]
    for y, line in enumerate(lines):
        out.append(f"  <g aria-label={quoteattr(line[0].what)}>")
        for x, row in enumerate(line):
            left, top = _MARGIN + x * (_BOX + _GAP), _MARGIN + y * (_BOX + _GAP)
            said = escape(f"{row.what} {row.which}".strip())
            out.append(
                f'    <rect x="{left}" y="{top}" width="{_BOX}" height="{_BOX}" '
                f'fill="{row.hex}"><title>{said}</title></rect>'
            )
        out.append("  </g>")
    return "\n".join([*out, "</svg>", ""])


def picture(rows: Iterable[Row]) -> Image.Image:
    """The same sheet as an RGB picture."""
    lines = lines_of(rows)
    width, height = _size(lines)
    sheet = np.full((height, width, 3), _GROUND, np.uint8)
    for y, line in enumerate(lines):
        for x, row in enumerate(line):
            left, top = _MARGIN + x * (_BOX + _GAP), _MARGIN + y * (_BOX + _GAP)
            sheet[top : top + _BOX, left : left + _BOX] = list(bytes.fromhex(row.hex[1:]))
    return Image.fromarray(sheet)


def _size(lines: Sequence[Sequence[Row]]) -> tuple[int, int]:
    most = max((len(line) for line in lines), default=1)
    return tuple(2 * _MARGIN + n * (_BOX + _GAP) - _GAP for n in (most, max(len(lines), 1)))  # type: ignore[return-value]
