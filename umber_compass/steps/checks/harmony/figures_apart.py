"""Figures and what touches them as they are seen otherwise: which pair comes nearest, and what
parts it."""

from collections.abc import Callable, Mapping, Sequence
from typing import NamedTuple, TypeAlias

import numpy as np

from umber_compass.colour.difference import ciede2000
from umber_compass.colour.spaces import Floats, cielab
from umber_compass.steps.checks.check import Fix, Result
from umber_compass.steps.checks.shifting import least_move, shifting
from umber_compass.steps.harmony.touching import light_of
from umber_compass.steps.pipeline import Derived

Seen: TypeAlias = Callable[[Floats], Floats]  # linear light, (n, 3), to what is seen of it

_APART = 12.0  # CIEDE2000 as it is usually seen, from which two parted at all
_MOST = 30.0  # L*, the largest move that is proposed


class Near(NamedTuple):
    """Two regions that touch, one of them a figure."""

    regions: tuple[str, str]
    way: str  # of seeing
    apart: float  # CIEDE2000, seen so


def all_near(derived: Derived, ways: Mapping[str, Seen]) -> list[Near]:
    """Every pair of a figure and what touches it that is usually well apart, and the way of seeing
    in which it is nearest."""
    pairs, ids = derived.touching.pairs, derived.touching.ids
    part = np.array([r.role in ("figure", "focus") for r in derived.regions])
    if not len(pairs) or not part.any():
        return []
    pairs = pairs[part[pairs].any(axis=1)]
    light = light_of(derived.touching, derived.colours)
    usual = cielab(light)
    told = pairs[ciede2000(usual[pairs[:, 0]], usual[pairs[:, 1]]) >= _APART]
    if not len(told):
        return []
    seen = [cielab(shown(light)) for shown in ways.values()]
    apart = np.array([ciede2000(lab[told[:, 0]], lab[told[:, 1]]) for lab in seen])
    names = list(ways)
    return [
        Near((ids[one], ids[other]), names[int(column.argmin())], float(column.min()))
        for (one, other), column in zip(told.tolist(), apart.T, strict=True)
    ]


def nearest(near: Sequence[Near]) -> Near | None:
    """The nearest of all; None where there is none."""
    return min(near, key=lambda n: n.apart, default=None)


def parting(derived: Derived, result: Result, ways: Mapping[str, Seen]) -> list[Fix]:
    """One of a result's two regions moved in value, up or down, by as little as parts them as far
    as is wanted, CIEDE2000, and brings no other pair nearer than they were."""
    fixes = []
    for region in result.regions:
        for way, word in ((1, "up"), (-1, "down")):

            def enough(by: float, region: str = region, way: int = way) -> bool:
                fix = shifting(derived, "try", {region: by * way})
                after = all_near(derived.of(fix.edit.apply(derived.plan)), ways)
                these = [n.apart for n in after if n.regions == result.regions]
                parted = min(these, default=result.wanted) >= result.wanted
                return parted and all(n.apart >= result.measured for n in after)

            by = least_move(enough, _MOST, 2.0)
            if by is not None:
                fixes.append(shifting(derived, f"{region}-{word}", {region: by * way}))
    return fixes
