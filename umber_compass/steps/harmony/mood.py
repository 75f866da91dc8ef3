"""What a mood wishes of a palette, held against what it is."""

from collections.abc import Mapping
from typing import NamedTuple

import numpy as np

from umber_compass.colour.spaces import GREY_CHROMA, Floats
from umber_compass.plan.moods import MEASURES, Between, MoodMeasure, MoodWish
from umber_compass.steps.harmony.colours import RegionColour
from umber_compass.steps.harmony.readings import hue_families
from umber_compass.steps.harmony.warmth import temperature

_FAMILY_SHARE = 0.02  # of the colour, from which a family counts
# How far from a wish is one whole fault, in each measure's unit.
_SCALE: dict[MoodMeasure, float] = {
    "warm": 25.0,
    "cool": 25.0,
    "chroma": 4.0,
    "key": 15.0,
    "contrast": 20.0,
    "hues": 1.5,
}


class MoodRow(NamedTuple):
    """One measure of a palette, and what the mood wishes of it."""

    measure: MoodMeasure
    title: str
    unit: str
    now: float
    wished: Between | None
    off: float  # beyond the wish, in its unit; 0 within


def mood_measures(
    colours: Mapping[str, RegionColour], shares: Mapping[str, float]
) -> dict[MoodMeasure, float]:
    """What a palette comes to, in the units of plan/moods.py."""
    ends = [(e, shares[r] / len(c.ends)) for r, c in colours.items() for e in c.ends]
    weight = np.array([w for _, w in ends])
    weight = weight / max(float(weight.sum()), 1e-9)
    chroma = np.array([e.chroma for e, _ in ends])
    values = np.array([e.value for e, _ in ends])
    hue = np.array([e.hue or 0.0 for e, _ in ends])
    heat = temperature(colours, shares)
    strong = chroma >= GREY_CHROMA
    holds = (weight * chroma)[strong]
    families = hue_families(hue[strong], holds)
    seen = sum(h >= _FAMILY_SHARE * holds.sum() for _, h in families)
    low, high = _percentile(values, weight, 0.05), _percentile(values, weight, 0.95)
    return {
        "warm": heat.warm * 100,
        "cool": heat.cool * 100,
        "chroma": float(chroma @ weight) * 100,
        "key": float(values @ weight),
        "contrast": high - low,
        "hues": float(seen),
    }


def _percentile(values: Floats, weight: Floats, share: float) -> float:
    order = np.argsort(values)
    return float(values[order][np.searchsorted(np.cumsum(weight[order]), share)])


def mood_rows(
    colours: Mapping[str, RegionColour], shares: Mapping[str, float], mood: MoodWish | None
) -> tuple[MoodRow, ...]:
    """Every measure, with the wishes of a mood where there is one."""
    wishes = mood.wishes() if mood is not None else {}
    rows = []
    for measure, now in mood_measures(colours, shares).items():
        wished = wishes.get(measure)
        title, unit = MEASURES[measure]
        rows.append(MoodRow(measure, title, unit, now, wished, beyond(now, wished)))
    return tuple(rows)


def beyond(now: float, wished: Between | None) -> float:
    """How far a number lies outside a wish; 0 within."""
    return 0.0 if wished is None else max(wished[0] - now, now - wished[1], 0.0)


def disagreement(rows: tuple[MoodRow, ...]) -> float:
    """How much palette and mood disagree: 0 not at all, 1 about one whole fault."""
    return sum(r.off / _SCALE[r.measure] for r in rows)


def odd_one(
    colours: Mapping[str, RegionColour], shares: Mapping[str, float], mood: MoodWish
) -> str | None:
    """The region without which palette and mood would disagree least, for its size; None where they
    agree."""
    begin = disagreement(mood_rows(colours, shares, mood))
    if begin <= 0:
        return None
    gain: dict[str, float] = {}
    for region in colours:
        left = {r: s for r, s in shares.items() if r != region}
        rest = disagreement(mood_rows({r: colours[r] for r in left}, left, mood)) if left else begin
        gain[region] = (begin - rest) / (shares[region] + 0.02)
    best = max(gain, key=lambda r: gain[r])
    return best if gain[best] > 1e-6 else None
