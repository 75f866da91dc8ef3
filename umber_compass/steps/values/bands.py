"""Bands of value: what each holds, where a picture would draw them itself, and the keys to start
from."""

from typing import NamedTuple

import numpy as np

from umber_compass.colour.grouping import optimal_edges
from umber_compass.colour.spaces import Floats
from umber_compass.picture.adjacency import Adjacency
from umber_compass.picture.mixes import Ints
from umber_compass.plan.wishes import Bands

_ROUND = 20  # shares are said in twentieths


class Key(NamedTuple):
    """A distribution of values to start from (studio rules, docs/values.md)."""

    name: str
    title: str
    says: str
    bands: Bands
    figure: float = 0.0  # L*, by which figures should be lighter than grounds; 0: as they are


def _bands(dark: float, light: float, shares: tuple[float, float, float]) -> Bands:
    return Bands(edges=(dark, light), shares=shares)


KEYS: dict[str, Key] = {
    k.name: k
    for k in (
        Key("high", "high key", "mostly light, darks are accents", _bands(40, 68, (0.1, 0.3, 0.6))),
        Key("middle", "middle key", "mostly middle tones", _bands(35, 68, (0.25, 0.5, 0.25))),
        Key("low", "low key", "mostly dark, lights are accents", _bands(35, 62, (0.6, 0.3, 0.1))),
        Key(
            "dark-on-light",
            "dark figure, light ground",
            "the figure is the dark",
            _bands(38, 66, (0.2, 0.3, 0.5)),
            -20,
        ),
        Key(
            "light-on-dark",
            "light figure, dark ground",
            "the figure is the light",
            _bands(36, 64, (0.5, 0.3, 0.2)),
            20,
        ),
    )
}


def band_of(values: Floats, edges: tuple[float, ...]) -> Ints:
    """The band each value L* lies in, 0 the darkest."""
    return np.searchsorted(np.asarray(edges), values, side="right").astype(np.intp)


def band_shares(
    by_code: Floats, histogram: Floats, adjacency: Adjacency, edges: tuple[float, ...]
) -> tuple[float, ...]:
    """The share of the picture that every band holds, the darkest first. `histogram` is in points
    of L*, and enough where edges are whole ones."""
    if all(edge == round(edge) for edge in edges):
        sums = np.add.reduceat(histogram, [0, *(min(round(e), 99) for e in edges)])
        return tuple(sums.tolist())
    weight = np.where(adjacency.label > 0, adjacency.pixels, 0)
    held = np.bincount(band_of(by_code, edges), weight, len(edges) + 1)
    return tuple((held / max(float(weight.sum()), 1.0)).tolist())


def bands_of_picture(by_code: Floats, adjacency: Adjacency, histogram: Floats, count: int) -> Bands:
    """The bands a picture has by itself, with the share that each holds, in twentieths."""
    edges = optimal_edges(histogram, count)
    shares = band_shares(by_code, histogram, adjacency, edges)
    whole = [int(s * _ROUND + 1e-9) for s in shares]
    order = sorted(range(count), key=lambda i: whole[i] - shares[i] * _ROUND)
    for i in order[: _ROUND - sum(whole)]:
        whole[i] += 1
    return Bands(edges=edges, shares=tuple(w / _ROUND for w in whole))
