"""What a view is made of."""

from collections.abc import Callable
from typing import NamedTuple, TypeAlias

import numpy as np
import numpy.typing as npt

Picture: TypeAlias = npt.NDArray[np.uint8]  # (h, w, 3) encoded sRGB


class ViewSpec(NamedTuple):
    """A way of seeing; `see` gives a picture of the same size."""

    name: str
    title: str
    says: str
    see: Callable[[Picture], Picture]
