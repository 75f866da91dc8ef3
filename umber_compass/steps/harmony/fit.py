"""Which scheme a picture follows."""

from typing import NamedTuple

import numpy as np

from umber_compass.colour.spaces import GREY_CHROMA, Floats, hue_distance
from umber_compass.colour.wheels import angle_of
from umber_compass.plan.model import Scheme, Wheel
from umber_compass.steps.harmony.schemes import SCHEMES, SchemeSpec

_SECTOR_DEG = 9  # half width of a needle's sector, after the 18 degrees of Cohen-Or et al. 2006


_SUPPORT_SECTOR_DEG = 15  # neighbours spread wider


_PRICE_PER_DEGREE = 0.015  # degrees of cost for each degree covered (docs/harmony.md)


_PEDESTAL = 30  # percentile of the histogram that is taken for noise


_LEAD_PRICE_DEG = 4.0  # cost if slot A is not the hue that holds most of the picture


class Fit(NamedTuple):
    """The scheme a picture follows best."""

    scheme: Scheme
    cost_deg: float  # weighted distance of its colours to the scheme, degrees


def fit_picture(hues: Floats, chromas: Floats, areas: Floats, wheel: Wheel = "painter") -> Fit:
    """The scheme and lead that the picture's colours follow: OKLCh hues (n,) in degrees, chromas
    and areas. Template fitting in the manner of Cohen-Or et al. 2006 with our own eight schemes;
    all turns of a template at once, as a circular correlation."""
    strong = chromas >= GREY_CHROMA
    if not strong.any():
        return Fit(_scheme(SCHEMES["one-hue"], wheel, 0), 0.0)
    bins = np.round(angle_of(wheel, hues[strong])).astype(int) % 360
    weight = np.bincount(bins, areas[strong] * chromas[strong], 360)
    weight = np.maximum(weight - np.percentile(weight, _PEDESTAL), 0)
    area = np.bincount(bins, areas[strong], 360)
    fits = [
        _fit_template(s, wheel, weight / weight.sum(), area / area.sum()) for s in SCHEMES.values()
    ]
    return min(fits, key=lambda f: f.cost_deg)


def _scheme(spec: SchemeSpec, wheel: Wheel, lead_deg: float) -> Scheme:
    return Scheme(wheel=wheel, name=spec.name, lead_deg=lead_deg, spread_deg=float(spec.spread_deg))


def _fit_template(spec: SchemeSpec, wheel: Wheel, weight: Floats, area: Floats) -> Fit:
    around = np.arange(360.0)
    gaps, covered = [], np.zeros(360, bool)
    for needle in spec.needles:
        half = _SUPPORT_SECTOR_DEG if needle.part == "supports" else _SECTOR_DEG
        off = np.abs(hue_distance(needle.from_lead(spec.spread_deg), around))
        gaps.append(np.maximum(off - half, 0))
        covered |= off <= half
    cost = _at_every_turn(np.min(gaps, axis=0), weight) + _PRICE_PER_DEGREE * covered.sum()
    held = [_at_every_turn((g == 0).astype(float), area) for g in gaps]
    cost = cost + _LEAD_PRICE_DEG * (np.max(held, axis=0) - held[0])
    # Among equal turns the one whose needle stands in the middle of its hues.
    near_lead = _at_every_turn(np.minimum(np.abs(hue_distance(0, around)), 30), area)
    best = int((cost + 0.02 * near_lead).argmin())
    return Fit(_scheme(spec, wheel, float(best)), float(cost[best]))


def _at_every_turn(template: Floats, weight: Floats) -> Floats:
    """The sum of weight x template for the template turned by 0 to 359 degrees."""
    turned = np.fft.irfft(np.fft.rfft(weight) * np.conj(np.fft.rfft(template)), 360)
    return np.asarray(turned)
