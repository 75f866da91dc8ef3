"""What a kind of sketch is made of."""

from collections.abc import Callable
from typing import NamedTuple, TypeAlias

import numpy as np
import numpy.typing as npt

from umber_compass.colour.packed import Packed
from umber_compass.picture.mixes import Labels


class Split(NamedTuple):
    """Regions found: labels 1.. by area, largest first, and the main colour of each."""

    labels: Labels  # (h, w)
    colours: npt.NDArray[np.uint8]  # (regions, 3)


Splitter: TypeAlias = Callable[[Packed, str], Split]


class KindSpec(NamedTuple):
    """A kind of sketch: how its picture, (h, w) 0x00RRGGBB or CLEAR, becomes regions. `split`
    raises Refusal, about the subject it is told, if the picture is none of it."""

    name: str
    title: str
    says: str
    split: Splitter
