"""What an argument may be: a number within limits, a place in a picture."""

import math
from argparse import ArgumentTypeError
from collections.abc import Callable

_SHARE = 1.5  # under which two numbers with a point are plainly shares, no px


def number(low: float, high: float, whole: bool = False) -> Callable[[str], float]:
    """What reads a number between two limits; others are refused."""

    def read(text: str) -> float:
        try:
            found = int(text) if whole else float(text)
        except ValueError:
            raise ArgumentTypeError(f"{text[:40]!r} is no number") from None
        if not math.isfinite(found) or not low <= found <= high:
            raise ArgumentTypeError(f"{text[:40]} is not between {low:g} and {high:g}")
        return found

    return read


def place(text: str) -> tuple[float, float]:
    """A place in a picture, px."""
    px = number(0, 100_000)
    parts = text.split(",")
    if len(parts) != 2:
        raise ArgumentTypeError(f"{text[:40]!r} is no place; write X,Y in px, as 320,200")
    x, y = px(parts[0]), px(parts[1])
    if max(x, y) < _SHARE and "." in text:
        raise ArgumentTypeError(f"{text[:40]} is a share; write X,Y in px, as 320,200")
    return x, y
