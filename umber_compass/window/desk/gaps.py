"""Gaps of line art as they are shown: where each is on the picture, and whether it is closed."""

from collections.abc import Sequence
from typing import NamedTuple

from umber_compass.plan.model import Neck


class NeckMark(NamedTuple):
    """One gap: its ends as shares of the picture, and whether it is closed."""

    number: int
    x0: float
    y0: float
    x1: float
    y1: float
    closed: bool


def neck_marks_of(necks: Sequence[Neck], size: tuple[int, int]) -> tuple[NeckMark, ...]:
    """The marks of a sketch's gaps; `size` is its width and height, px."""
    width, height = size
    return tuple(
        NeckMark(
            i,
            n.x0 / width,
            n.y0 / height,
            n.x1 / width,
            n.y1 / height,
            n.closed,
        )
        for i, n in enumerate(necks)
    )
