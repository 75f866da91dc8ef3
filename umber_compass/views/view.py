"""What a view is made of."""

from collections.abc import Callable, Mapping
from typing import NamedTuple, TypeAlias

import numpy as np
import numpy.typing as npt

from umber_compass.colour.press import Press

Picture: TypeAlias = npt.NDArray[np.uint8]  # (h, w, 3) encoded sRGB


class About(NamedTuple):
    """What a view may be told beside the picture: plain numbers and arrays."""

    labels: npt.NDArray[np.uint16] | None = None  # (h, w) which region each px belongs to
    edges: tuple[float, ...] = (35.0, 68.0)  # L*, where one band of values ends
    dark: float = 20.0  # L*, under which a dark is extreme
    light: float = 80.0  # L*, over which a light is extreme
    pull: npt.NDArray[np.floating] | None = None  # by label, how much each draws the eye
    ramps: Mapping[int, npt.NDArray[np.uint8]] | None = None  # by label, the steps' levels (n, 3)
    small: float = 0.3  # of its width, at which the piece is seen from its usual place
    blur: float = 0.0025  # of its width, which an eye no longer parts from there
    press: Press | None = None  # that prints the piece; None: the one that is shipped


PLAIN = About()
MOVING = (
    "mirrored",
    "upside-down",
    "small",
    "squint",
    "far",
    "phone",
    "tube",
    "e-reader",
)  # views in which px stand elsewhere, or are mixed


class ViewSpec(NamedTuple):
    """A way of seeing; `see` gives a picture of the same size."""

    name: str
    title: str
    says: str
    see: Callable[[Picture, About], Picture]
    needs_pull: bool = False  # it shows nothing until it is told what draws the eye
    needs_ramps: bool = False  # it shows the plain picture until it is told the ramps
