"""Gaps of line art as they are shown: where each is on the picture, and whether it is closed."""

from collections.abc import Sequence
from typing import NamedTuple

from umber_compass.plan.model import Neck


class NeckMark(NamedTuple):
    """One gap: its ends as shares of the picture, whether it is closed, its width in px."""

    number: int
    x0: float
    y0: float
    x1: float
    y1: float
    closed: bool
    width_px: float


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
            float(((n.x1 - n.x0) ** 2 + (n.y1 - n.y0) ** 2) ** 0.5),
        )
        for i, n in enumerate(necks)
    )
