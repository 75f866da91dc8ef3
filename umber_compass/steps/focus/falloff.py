"""How chroma, contrast and hue fall off from the focus, and the change that makes them."""

from collections.abc import Mapping
from typing import NamedTuple

import numpy as np

from umber_compass.colour.spaces import Floats, hue_distance, oklab_to_linear, value
from umber_compass.plan.edits import Edit
from umber_compass.plan.model import Region
from umber_compass.plan.wishes import Falloff, FalloffOf
from umber_compass.steps.focus.attention import Attention
from umber_compass.steps.focus.lattice import Lattice
from umber_compass.steps.harmony.colours import RegionColour
from umber_compass.steps.harmony.shifts import Shift, shift_colours
from umber_compass.words import Words, words

KINDS: tuple[FalloffOf, ...] = ("chroma", "contrast", "hue")
UNITS: dict[FalloffOf, str] = {"chroma": "OKLCh", "contrast": "L*", "hue": "°"}
_STILL: dict[FalloffOf, float] = {"chroma": 0.002, "contrast": 0.5, "hue": 0.5}  # no change seen
MOST: dict[FalloffOf, float] = {"chroma": 0.3, "contrast": 80.0, "hue": 180.0}


class Spot(NamedTuple):
    """One region against its distance from the focus."""

    region: str
    far: float  # 0 at the focus, 1 at the farthest corner
    level: dict[FalloffOf, float]
    share: float
    hex: str


class Spots(NamedTuple):
    """Every region against its distance, and what the changes start from."""

    spots: tuple[Spot, ...]
    focal_hue: float | None  # OKLCh degrees; None where the focus is grey
    beside: dict[str, float]  # mean value L* of each region’s neighbours
    value: dict[str, float]  # L* each shows on the mean


NO_SPOTS = Spots((), None, {}, {})


def falloff_spots(
    lattice: Lattice | None,
    seen: Attention | None,
    colours: Mapping[str, RegionColour],
    regions: tuple[Region, ...],
) -> Spots:
    """Every region against its distance from the focus; none where no focus is set or known."""
    if lattice is None or seen is None or not seen.focus:
        return NO_SPOTS
    by_label = {r.label: r.id for r in regions if r.label < len(lattice.share)}
    focus = list(seen.focus)
    at = np.average(lattice.centre[focus], axis=0, weights=np.maximum(lattice.area[focus], 1e-9))
    shape = np.array([lattice.aspect, 1.0])
    corners = np.array([[x, y] for x in (0, 1) for y in (0, 1)])
    most = float(np.linalg.norm((corners - at) * shape, axis=1).max())
    away = np.linalg.norm((lattice.centre - at) * shape, axis=1) / most
    values = value(np.clip(oklab_to_linear(seen.pull.look.lab), 0, 1))
    lonely = 1 - lattice.near.sum(axis=1)
    beside = lattice.near @ values + lonely * values
    first = by_label.get(seen.focus[0], "")
    hue = colours[first].first.hue if first and not colours[first].first.is_grey else None
    spots = [
        _spot(
            label, region, float(away[label]), lattice, seen, values, beside, colours[region], hue
        )
        for label, region in by_label.items()
        if lattice.share[label] > 0
    ]
    return Spots(
        tuple(spots),
        hue,
        {r: float(beside[i]) for i, r in by_label.items()},
        {r: float(values[i]) for i, r in by_label.items()},
    )


def _spot(
    label: int,
    region: str,
    away: float,
    lattice: Lattice,
    seen: Attention,
    values: Floats,
    beside: Floats,
    colour: RegionColour,
    hue: float | None,
) -> Spot:
    own = colour.first.hue
    turned = (
        0.0
        if hue is None or own is None or colour.first.is_grey
        else abs(float(hue_distance(hue, own)))
    )
    level: dict[FalloffOf, float] = {
        "chroma": max(e.chroma for e in colour.ends),
        "contrast": abs(float(values[label] - beside[label])),
        "hue": turned,
    }
    far = 0.0 if label in seen.focus else away
    return Spot(region, far, level, float(lattice.share[label]), colour.first.hex)


def wished(own: Mapping[FalloffOf, Falloff], rules: Mapping[str, float], of: FalloffOf) -> Falloff:
    """Between which levels something should lie: as the artist shaped it, else as the practice
    says."""
    if of in own:
        return own[of]
    near, far = rules[f"falloff.{of}-near"], rules[f"falloff.{of}-far"]
    return Falloff(near=(0.0, near), far=(0.0, far))


def band_at(wish: Falloff, far: float) -> tuple[float, float]:
    """The lowest and highest level wished at a distance, 0-1."""
    low = wish.near[0] + (wish.far[0] - wish.near[0]) * far
    high = wish.near[1] + (wish.far[1] - wish.near[1]) * far
    return low, high


def apply_falloff(
    spots: Spots, wish: Falloff, of: FalloffOf, strength: float, free: frozenset[str]
) -> Edit:
    """The change that brings free regions a part of the way, 0-1, into the wished band; those that
    lie in it stay."""
    shifts = {}
    for spot in spots.spots:
        low, high = band_at(wish, spot.far)
        level = spot.level[of]
        by = (min(max(level, low), high) - level) * strength
        if spot.region in free and spot.far > 0 and abs(by) > 1e-4:
            shifts[spot.region] = _shift(spots, spot, of, by)
    text = words("let {of} fall off from the focus, {strength:.0%}", of=of, strength=strength)
    return Edit(text, shift_colours(shifts), f"falloff {of}")


def why_nothing_falls(
    spots: Spots, wish: Falloff, of: FalloffOf, free: frozenset[str]
) -> Words | None:
    """Why applying the fall-off would change nothing; None where it would."""
    if not spots.spots:
        return words("no focus is set: choose a region and press E")
    if of == "hue" and spots.focal_hue is None:
        return words("the focus is grey, so there is no hue to turn toward")
    outside = [
        s
        for s in spots.spots
        if s.far > 0 and not _lies_in(s.level[of], band_at(wish, s.far), _STILL[of])
    ]
    if not outside:
        return words("every region lies in the band already")
    if not any(s.region in free for s in outside):
        return words("what lies outside the band is fixed or locked")
    return None


def _lies_in(level: float, band: tuple[float, float], slack: float) -> bool:
    return band[0] - slack <= level <= band[1] + slack


def _shift(spots: Spots, spot: Spot, of: FalloffOf, by: float) -> Shift:
    if of == "chroma":
        return Shift(chroma=by, shown=max(spot.level["chroma"], 0.0))
    if of == "contrast":
        lighter = spots.value[spot.region] >= spots.beside[spot.region]
        return Shift(value=by if lighter else -by)
    return Shift(hue_deg=_toward(spots, spot, by))


def _toward(spots: Spots, spot: Spot, by: float) -> float:
    """The turn, degrees, that brings a hue nearer to the focal hue by -`by`."""
    from umber_compass.colour.measured import measure_hex

    own = measure_hex(spot.hex).hue
    if spots.focal_hue is None or own is None:
        return 0.0
    away = float(hue_distance(spots.focal_hue, own))
    return by if away >= 0 else -by
