"""Lit, a figure leaves the band of values it was planned in: the plan's big shapes come apart."""

from typing import NamedTuple

import numpy as np

from umber_compass.plan.edits import Edit
from umber_compass.plan.settings import change_setting
from umber_compass.steps.checks.check import CheckSpec, Fix, Result, level_over, upper
from umber_compass.steps.checks.light.solving import least_share, rig
from umber_compass.steps.light.contrast import contrast_of, set_contrast
from umber_compass.steps.pipeline import Derived
from umber_compass.steps.values.bands import band_of
from umber_compass.words import words

NAME = "lit-bands"
_NAMES = ("the darks", "the middles", "the lights")
_LEAST = 0.004  # of the picture, from which a figure counts
_FLATTEST = 6.0  # L* from light to shade, to which a fix eases contrast at most


class _Out(NamedTuple):
    region: str
    name: str
    beyond: float  # L* beyond the edge of its band
    band: int


def _worst(derived: Derived) -> _Out | None:
    """The figure whose px lie furthest, on the mean, outside the band of its planned value."""
    if derived.lit is None:
        return None
    edges = tuple(derived.wishes.bands.edges)
    label, pixels = derived.adjacency.label, derived.adjacency.pixels
    most = int(label.max(initial=0)) + 1
    total = np.bincount(label, derived.values.by_code * pixels, most)
    mean = total / np.maximum(np.bincount(label, pixels, most), 1)
    found = []
    for r in derived.regions:
        if r.role not in ("figure", "focus") or derived.shares[r.id] < _LEAST:
            continue
        planned = float(np.mean([c.value for c in derived.colours[r.id].ends]))
        band = int(band_of(np.array([planned]), edges)[0])
        low, high = (0.0, *edges)[band], (*edges, 100.0)[band]
        far = max(low - mean[r.label], mean[r.label] - high, 0.0)
        found.append(_Out(r.id, r.name, float(far), band))
    return max(found, key=lambda o: o.beyond, default=None)


def _measure(derived: Derived) -> list[Result]:
    found = _worst(derived)
    if found is None:
        return []
    wanted = derived.rules["lit-bands.note"]
    level = level_over(found.beyond, wanted, derived.rules["lit-bands.warning"])
    band = _NAMES[found.band] if len(derived.wishes.bands.edges) == 2 else "its band"
    if level == "fine":
        title = words("Lit figures stay in their bands of value")
    else:
        title = words("Lit, {name} leaves {band}", name=found.name, band=band)
    text = words(
        "{name} lies {measured:.0f} L* outside {band} it is planned in, wanted {wanted:g} at most",
        name=upper(found.name), measured=found.beyond, band=band, wanted=wanted,
    )  # fmt: skip
    return [Result(NAME, level, (found.region,), found.beyond, wanted, "L*", title, text)]


def _candidates(derived: Derived, result: Result) -> list[Fix]:
    """The exposure held on it; light and shade eased together by as little as is enough."""
    region, fixes = result.regions[0], []

    def good(then: Derived) -> bool:
        found = _worst(then)
        return found is None or found.beyond <= result.wanted

    hold = change_setting("light.held", region)
    if good(derived.of(hold.apply(derived.plan))):
        fixes.append(Fix("hold", words("Let the exposure hold its planned value"), hold))
    drop = contrast_of(rig(derived))

    def eased(share: float) -> Edit:
        return set_contrast(drop + share * (min(_FLATTEST, drop) - drop))

    share = least_share(derived, eased, good)
    if share is not None:
        text = words("Ease light and shade to {n:.0f} L*", n=drop + share * (_FLATTEST - drop))
        fixes.append(Fix("contrast", text, eased(share)))
    return fixes


_SAYS = (
    "Darks, middles and lights were planned as big shapes. Light that carries a figure from one "
    "into the next takes the shapes apart."
)
CHECK = CheckSpec(NAME, "light", _measure, _candidates, _SAYS)
