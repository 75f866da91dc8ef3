"""Ramps as a gradient, `.ggr`: rows of 13 numbers."""

from collections.abc import Sequence

MAGIC = "GIMP Gradient"  # the format's own first line


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


def _rgba(hex_: str) -> list[float]:
    return [*(n / 255 for n in bytes.fromhex(hex_[1:])), 1.0]
