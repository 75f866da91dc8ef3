"""Two colours that are hardly told apart are one colour, mixed twice."""

import numpy as np

from umber_compass.colour.difference import ciede2000
from umber_compass.colour.spaces import Floats, cielab, decode, parse_hex
from umber_compass.picture.mixes import Ints
from umber_compass.steps.checks.check import CheckSpec, Fix, Result, names
from umber_compass.steps.harmony.budget import Merge, merging
from umber_compass.steps.pipeline import Derived
from umber_compass.words import words

NAME = "near-duplicates"
_REACH = 3.0  # times what is asked in CIEDE2000 that two colours may lie apart in CIELAB


def _pairs(derived: Derived) -> list[tuple[float, str, str]]:
    """Regions of one colour each that are nearly, but not, the same: how far apart, and which; the
    nearest first."""
    solid = [r for r, c in derived.colours.items() if c.second is None]
    if len(solid) < 2:
        return []
    hexes = [derived.colours[r].first.hex for r in solid]
    lab = cielab(decode(np.array([parse_hex(h) for h in hexes])))
    limit = derived.rules["near-duplicates.apart"]
    first, second = _near(lab, _REACH * limit)
    apart = ciede2000(lab[first], lab[second])
    rows = zip(apart.tolist(), first.tolist(), second.tolist(), strict=True)
    return sorted((d, solid[a], solid[b]) for d, a, b in rows if 0 < d < limit)


def _near(lab: Floats, reach: float) -> tuple[Ints, Ints]:
    """Pairs of CIELAB colours, (n, 3), that may be nearly the same, as two columns of places: those
    that lie near in L* first, for all of them are too many to be compared in a drag."""
    order = np.argsort(lab[:, 0], kind="stable")
    light = lab[order, 0]
    found = []
    for shift in range(1, len(order)):
        near = np.flatnonzero(light[shift:] - light[:-shift] < reach)
        if not len(near):
            break
        pair = np.stack([order[near], order[near + shift]])
        found.append(pair[:, np.linalg.norm(lab[pair[0]] - lab[pair[1]], axis=1) < reach])
    pairs = np.concatenate(found, axis=1) if found else np.zeros((2, 0), np.intp)
    return pairs[0], pairs[1]


def _measure(derived: Derived) -> list[Result]:
    limit = derived.rules["near-duplicates.apart"]
    found = _pairs(derived)
    if not found:
        line = words("no two colours lie within {d:g} CIEDE2000", d=limit)
        title = words("No colour is there twice")
        return [Result(NAME, "fine", (), limit, limit, "CIEDE2000", title, line)]
    far, one, two = found[0]
    said = names(derived)
    regions = tuple(dict.fromkeys(r for _, a, b in found for r in (a, b)))
    title = words("{count} colours are nearly others", count=len(found))
    if len(found) == 1:
        title = words("{one} and {two} are nearly one colour", one=said[one], two=said[two])
    text = words(
        "{one} and {two} lie {far:.1f} CIEDE2000 apart", one=said[one], two=said[two], far=far
    )
    return [Result(NAME, "note", regions, far, limit, "CIEDE2000", title, text, whole=True)]


def _candidates(derived: Derived, result: Result) -> list[Fix]:
    """Each such pair made one colour, the larger region's."""
    merges: list[Merge] = []
    group: dict[str, str] = {}
    for _, one, two in _pairs(derived):
        a, b = group.get(one, one), group.get(two, two)
        keep = max((a, b), key=lambda r: derived.shares[r])
        group = {r: keep if g in (a, b) else g for r, g in group.items()}
        group[one] = group[two] = group[a] = group[b] = keep
    for keep in dict.fromkeys(group.values()):
        mine = tuple(r for r, g in group.items() if g == keep and r not in derived.locked)
        merges.append(Merge((*mine,), derived.colours[keep].first.hex, 0.0))
    text = words("Make them one colour each")
    return [Fix("join", text, merging(tuple(merges), text))]


_ABOUT = (
    "Two colours that nobody tells apart cost a place in the palette and the time to mix them. "
    "Keep both where they are parted by light later."
)
CHECK = CheckSpec(NAME, "harmony", _measure, _candidates, _ABOUT, coloured=True)
