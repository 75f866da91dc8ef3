"""Ramps as a gradient, `.ggr`: rows of 13 numbers."""

import re
from collections.abc import Sequence

MAGIC = "GIMP Gradient"  # the format's own first line
_NUMBER = re.compile(r"-?[0-9]{1,6}(\.[0-9]{1,12})?")


def text(title: str, hexes: Sequence[str]) -> str:
    """A gradient that runs evenly through the colours, two or more; one colour runs to itself."""
    stops = list(hexes) if len(hexes) > 1 else [hexes[0], hexes[0]]
    count = len(stops) - 1
    lines = [MAGIC, f"Name: {' '.join(title.split())}", str(count)]
    for i in range(count):
        left, right = i / count, (i + 1) / count
        numbers = [left, (left + right) / 2, right, *_rgba(stops[i]), *_rgba(stops[i + 1])]
        lines.append(" ".join(f"{n:.6f}" for n in numbers) + " 0 0")
    return "\n".join(lines) + "\n"


def parse(lines: Sequence[str]) -> list[tuple[str, str]]:
    """The colours of a gradient, hex and place in percent, from its left end to its right. Raises
    ValueError with the line's number where one is none."""
    rows = [line.split() for line in lines if line.strip()]
    at = 2 if len(rows) > 1 and rows[1][0] == "Name:" else 1
    if len(rows) <= at or not re.fullmatch("[0-9]{1,6}", rows[at][0]):
        raise ValueError(str(at + 1))
    segments = rows[at + 1 : at + 1 + int(rows[at][0])]
    if not segments or len(segments) != int(rows[at][0]):
        raise ValueError(str(at + 1))
    found: list[tuple[str, str]] = []
    for i, row in enumerate(segments):
        if len(row) < 11 or not all(_NUMBER.fullmatch(part) for part in row[:11]):
            raise ValueError(str(at + 2 + i))
        numbers = [float(part) for part in row[:11]]
        ends = ((numbers[0], numbers[3:6]), (numbers[2], numbers[7:10]))
        for place, rgb in ends if i == 0 else ends[1:]:
            levels = bytes(round(min(max(n, 0.0), 1.0) * 255) for n in rgb)
            found.append(("#" + levels.hex(), f"{min(max(place, 0.0), 1.0):.0%}"))
    return found


def _rgba(hex_: str) -> list[float]:
    return [*(n / 255 for n in bytes.fromhex(hex_[1:])), 1.0]
