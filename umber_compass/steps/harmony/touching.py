"""Regions that touch, with the length of their border, and how lively those of like value are."""

from collections.abc import Mapping
from typing import NamedTuple

import numpy as np

from umber_compass.colour.difference import ciede2000
from umber_compass.colour.spaces import Floats, cielab, decode, parse_hex
from umber_compass.picture.adjacency import Adjacency
from umber_compass.picture.mixes import Ints
from umber_compass.plan.model import Region
from umber_compass.steps.harmony.colours import RegionColour

LIKE_VALUE = 10.0  # L* within which two neighbours count as of like value (docs/engine.md)


class Touching(NamedTuple):
    """Pairs of regions that touch."""

    ids: tuple[str, ...]
    pairs: Ints  # (pairs, 2), places in `ids`
    px: Ints  # (pairs,) length of the border


def touching_of(adjacency: Adjacency, regions: tuple[Region, ...]) -> Touching:
    """The pairs of a plan's regions that share a border."""
    at = {r.label: i for i, r in enumerate(regions)}
    rows = [
        (at[a], at[b], px)
        for (a, b), px in zip(
            adjacency.pair_labels.tolist(), adjacency.pair_px.tolist(), strict=True
        )
        if a in at and b in at
    ]
    table = np.array(rows, np.intp).reshape(-1, 3)
    return Touching(tuple(r.id for r in regions), table[:, :2], table[:, 2])


def light_of(touching: Touching, colours: Mapping[str, RegionColour]) -> Floats:
    """Linear light (n, 3) of each region, in the middle of a gradient."""
    rows = [
        [parse_hex(e.hex) for e in (colours[r].first, colours[r].ends[-1])] for r in touching.ids
    ]
    return np.asarray(decode(np.array(rows)).mean(axis=1))


def labs_of(touching: Touching, colours: Mapping[str, RegionColour]) -> Floats:
    """CIELAB (n, 3) of the same."""
    return np.asarray(cielab(light_of(touching, colours)))


def liveliness(touching: Touching, colours: Mapping[str, RegionColour]) -> float | None:
    """How far touching regions of like value lie apart beside their value: CIEDE2000 at equal L*,
    the mean over their borders by length; None where no two touch that are alike in value. Fine
    from 2.5 to 6 for a quiet palette (docs/engine.md)."""
    if not len(touching.pairs):
        return None
    lab = labs_of(touching, colours)
    first, second = lab[touching.pairs[:, 0]], lab[touching.pairs[:, 1]].copy()
    like = np.abs(first[:, 0] - second[:, 0]) <= LIKE_VALUE
    if not like.any():
        return None
    second[:, 0] = first[:, 0]
    apart = ciede2000(first[like], second[like])
    return float(np.average(apart, weights=touching.px[like]))
