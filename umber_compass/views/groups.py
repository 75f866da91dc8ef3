"""A few groups of value, each one grey: what a picture is made of at a glance."""

import numpy as np

from umber_compass.colour.grouping import optimal_edges
from umber_compass.views.grey import as_grey, grey_of, values_of
from umber_compass.views.view import About, Picture, ViewSpec

COUNTS = {2: "Two", 3: "Three", 4: "Four", 5: "Five"}


def _in_groups(picture: Picture, edges: tuple[float, ...]) -> Picture:
    """Every px as the mean value of its group."""
    values = values_of(picture)
    group = np.searchsorted(np.asarray(edges), values, side="right")
    count = np.maximum(np.bincount(group.reshape(-1), minlength=len(edges) + 1), 1)
    mean = np.bincount(group.reshape(-1), values.reshape(-1), len(edges) + 1) / count
    return as_grey(grey_of(mean)[group])


def _by_bands(picture: Picture, about: About) -> Picture:
    return _in_groups(picture, about.edges)


def _optimal(count: int) -> ViewSpec:
    def see(picture: Picture, about: About) -> Picture:
        values = values_of(picture).reshape(-1)
        held = np.bincount(np.clip(values.astype(int), 0, 99), minlength=100)
        return _in_groups(picture, optimal_edges(held / max(held.sum(), 1), count))

    says = f"the {COUNTS[count].lower()} groups of value the picture parts into best"
    return ViewSpec(f"groups-{count}", f"{COUNTS[count]} groups", says, see)


VIEWS = (
    ViewSpec("groups", "Value bands", "the value bands, each one grey", _by_bands),
    *map(_optimal, COUNTS),
)
