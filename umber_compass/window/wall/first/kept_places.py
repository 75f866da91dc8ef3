"""Where things lie in the picture: a place well within a region, and where what is kept lies."""

from typing import TypeAlias

import numpy as np

from umber_compass.picture.mixes import Labels
from umber_compass.steps.pipeline import Derived

Place: TypeAlias = tuple[float, float]  # shares of width and height
_LOOKED_AT = 240  # px, the longer side


class KeptPlaces:
    """Of one drawing; each place is found once."""

    def __init__(self) -> None:
        self._labels: Labels | None = None
        self._places: dict[int, Place | None] = {}

    def of(self, derived: Derived) -> tuple[Place, ...]:
        """Where what is kept lies in a proposal that has it; none in any other study."""
        kept, labels = derived.plan.first.kept, derived.drawing.labels
        if not derived.study.proposal or not kept:
            return ()
        if self._labels is not labels:
            self._labels, self._places = labels, {}
        found = []
        for region in derived.regions:
            if kept.get(region.id) == derived.colours[region.id].first.hex:
                if region.label not in self._places:
                    self._places[region.label] = place_in(labels, region.label)
                found.append(self._places[region.label])
        return tuple(place for place in found if place is not None)


def place_in(labels: Labels, label: int) -> Place | None:
    """A place well within a label's px, shares of width and height; None where it has none."""
    from scipy.ndimage import distance_transform_cdt

    step = max(1, max(labels.shape) // _LOOKED_AT)
    own = np.pad(labels[::step, ::step] == label, 1)
    if not own.any():
        at = np.argwhere(labels == label)
        if not len(at):
            return None
        y, x = at[len(at) // 2]
        return float(x + 0.5) / labels.shape[1], float(y + 0.5) / labels.shape[0]
    deep = distance_transform_cdt(own, "chessboard")
    y, x = np.unravel_index(int(deep.argmax()), deep.shape)
    high, wide = own.shape
    return (float(x) - 0.5) / (wide - 2), (float(y) - 0.5) / (high - 2)
