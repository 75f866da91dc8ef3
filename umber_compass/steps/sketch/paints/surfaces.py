"""Pieces of a painting joined to surfaces: light and shade of one thing are one region, because
they pass into each other, while another thing begins with a step."""

import numpy as np

from umber_compass.colour.spaces import Floats
from umber_compass.steps.sketch.joining import Parts
from umber_compass.steps.sketch.paints.merging import joined
from umber_compass.steps.sketch.paints.pieces import Colours

# Studio rules, docs/sketch.md: chosen on shaded balls, brushed and sprayed paintings.
_STEP = 6.0  # OKLab x 100 along a border, from which another surface begins
_BY_TINT = 0.2  # of the difference of tint between both sides, beside the step itself
_LARGE, _BY_SIZE = 4.0, 0.5  # pieces that a surface is large from; power for a smaller one


class _Surfaces:
    """What each region is: its px and its tint."""

    def __init__(self, part: Parts, colours: Colours) -> None:
        flat = part.reshape(-1)
        self.size = np.bincount(flat).astype(float)
        tints = [np.bincount(flat, colours[..., i].reshape(-1)) / self.size for i in (1, 2)]
        self.tint = np.stack(tints, axis=1)
        self.large = _LARGE * self.size.mean()

    def cost(self, one: int, others: list[int], contrast: Floats) -> Floats:
        """How far a region is from each of some beside it; a small one is never far."""
        both = self.size[one] * self.size[others] / (self.size[one] + self.size[others])
        tint = np.linalg.norm(self.tint[others] - self.tint[one], axis=1)
        small = np.minimum(1, both / self.large) ** _BY_SIZE
        return np.asarray((contrast + _BY_TINT * tint) * small)

    def join(self, gone: int, kept: int) -> None:
        a, b = self.size[kept], self.size[gone]
        self.tint[kept] = (self.tint[kept] * a + self.tint[gone] * b) / (a + b)
        self.size[kept] = a + b


def surfaces(part: Parts, colours: Colours, wanted: int | None) -> Parts:
    """Pieces, (h, w) numbered from 0, joined until a step parts every two that touch, or so many
    as are wanted are left."""
    known = _Surfaces(part, colours)
    return joined(part, colours, known, wanted or 1, _STEP if wanted is None else np.inf)
