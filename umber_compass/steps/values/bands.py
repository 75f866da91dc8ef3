"""Bands of value: what each holds, where a picture would draw them itself, and the keys to start
from."""

from typing import NamedTuple

import numpy as np

from umber_compass.colour.spaces import Floats
from umber_compass.picture.grain import Grain
from umber_compass.picture.mixes import Ints
from umber_compass.plan.wishes import Bands

_LEAST = 2  # L*, the narrowest band that is drawn
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


def band_shares(by_code: Floats, grain: Grain, edges: tuple[float, ...]) -> tuple[float, ...]:
    """The share of the picture that every band holds, the darkest first."""
    weight = np.where(grain.label > 0, grain.pixels, 0)
    held = np.bincount(band_of(by_code, edges), weight, len(edges) + 1)
    return tuple((held / max(float(weight.sum()), 1.0)).tolist())


def optimal_edges(histogram: Floats, count: int) -> tuple[float, ...]:
    """The edges, L*, that part a picture into some groups within which values differ least (after
    Fisher 1958, by dynamic programming on points of L*)."""
    share = np.asarray(histogram, float)
    at = np.arange(len(share)) + 0.5
    sums = [np.concatenate([[0.0], np.cumsum(share * at**k)]) for k in range(3)]

    def spread(low: Ints, high: int) -> Floats:
        n, s, q = (total[high] - total[low] for total in sums)
        return np.asarray(q - s * s / np.maximum(n, 1e-12))

    size = len(share)
    best = np.array([float(spread(np.array([0]), j)[0]) for j in range(size + 1)])
    cuts = []
    for _ in range(count - 1):
        after, cut = np.full(size + 1, np.inf), np.zeros(size + 1, np.intp)
        for high in range(_LEAST, size + 1):
            low = np.arange(0, high - _LEAST + 1)
            cost = best[low] + spread(low, high)
            cut[high] = int(cost.argmin())
            after[high] = cost[cut[high]]
        cuts.append(cut)
        best = after
    edges, high = [], size
    for cut in reversed(cuts):
        high = int(cut[high])
        edges.append(float(high))
    return _rising(edges[::-1])


def _rising(edges: list[float]) -> tuple[float, ...]:
    """Edges that part something: a picture of fewer values than groups gives equal ones."""
    found: list[float] = []
    for i, edge in enumerate(edges):
        low = (found[-1] if found else 0.0) + _LEAST
        high = 100.0 - _LEAST * (len(edges) - i)
        found.append(min(max(edge, low), high))
    return tuple(found)


def bands_of_picture(by_code: Floats, grain: Grain, histogram: Floats, count: int) -> Bands:
    """The bands a picture has by itself, with the share that each holds, in twentieths."""
    edges = optimal_edges(histogram, count)
    shares = band_shares(by_code, grain, edges)
    whole = [int(s * _ROUND + 1e-9) for s in shares]
    order = sorted(range(count), key=lambda i: whole[i] - shares[i] * _ROUND)
    for i in order[: _ROUND - sum(whole)]:
        whole[i] += 1
    return Bands(edges=edges, shares=tuple(w / _ROUND for w in whole))
