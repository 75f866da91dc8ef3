"""What the colours of a study follow now: the likeliest schemes, what each leaves outside, and the
free scheme that takes them as they are."""

from collections.abc import Mapping
from typing import NamedTuple

import numpy as np

from umber_compass.colour.spaces import GREY_CHROMA, Floats
from umber_compass.colour.wheels import angle_of
from umber_compass.picture.mixes import Ints
from umber_compass.plan.harmony_edits import turned
from umber_compass.plan.model import Region, Scheme
from umber_compass.plan.terms import Wheel
from umber_compass.steps.harmony.colours import RegionColour
from umber_compass.steps.harmony.fit import read_schemes, uncoloured
from umber_compass.steps.harmony.scheme import slot_hues, stray_deg
from umber_compass.steps.harmony.schemes import FREE, SCHEMES

_OUTSIDE_DEG = 18.0  # OKLCh degrees from a needle, beyond which a colour is outside
_GAP_DEG = 24.0  # between hue families, OKLCh degrees
_MOST_FAMILIES = 4
_ONE_VALUE = 3.0  # L*, within which values are one
# Greys, levels, by which the areas of a line drawing are told apart until anything is planned.
DEALT_GREYS = (214, 186, 158, 232, 172, 200, 144, 222)
_DEALT = {f"#{g:02x}{g:02x}{g:02x}" for g in DEALT_GREYS}
_PAPER, _PAPER_APART = 65.0, 18.0  # L* of paper at least, and how much its areas may differ
_LEAST_SHARE = 0.002  # of the picture, of what is said to be outside


class NowReading(NamedTuple):
    """One scheme that the colours may follow."""

    scheme: Scheme
    title: str
    fit: float  # share of the colour that lies near its hues, 0-1
    outside: tuple[str, ...]  # region ids, the largest first
    near: bool  # as likely as the first
    free: bool  # only the nearest: no scheme fits


class NowReadings(NamedTuple):
    """What the colours follow, likeliest first, and the free scheme made of them."""

    ranked: tuple[NowReading, ...]
    own: Scheme


def read_now(
    colours: Mapping[str, RegionColour], shares: Mapping[str, float], wheel: Wheel
) -> NowReadings:
    """What the local colours of a study follow on a wheel."""
    ends = [(e, shares[r] / len(c.ends)) for r, c in colours.items() for e in c.ends]
    hues = np.array([e.hue or 0.0 for e, _ in ends])
    chromas = np.array([e.chroma for e, _ in ends])
    areas = np.array([a for _, a in ends])
    found = read_schemes(hues, chromas, areas, wheel)
    ranked = tuple(
        NowReading(
            r.scheme,
            SCHEMES[r.scheme.name].title,
            min(r.fit, 1.0),
            _outside(r.scheme, colours, shares),
            r is found.also,
            found.is_free,
        )
        for r in found.ranked
        if not uncoloured(chromas, areas)  # greys follow no scheme
    )
    return NowReadings(ranked, own_scheme(hues, chromas * areas, chromas, wheel))


def is_uncoloured(
    colours: Mapping[str, RegionColour], shares: Mapping[str, float], regions: tuple[Region, ...]
) -> bool:
    """Whether a study has no colour yet: the mean OKLCh chroma of all but its lines is hardly
    any."""
    ends = [
        (e.chroma, shares[r.id] / len(colours[r.id].ends))
        for r in regions
        if r.role != "line"
        for e in colours[r.id].ends
    ]
    return uncoloured(*np.array(ends or [(0.0, 1.0)]).T)


def is_unpainted(
    uncoloured: bool, colours: Mapping[str, RegionColour], regions: tuple[Region, ...]
) -> bool:
    """Whether nothing is planned yet: no colour, and one value for all but the lines, as a line
    drawing has when it is brought in; or the greys that its areas are told apart by."""
    shown = {e.hex for r in regions if r.role != "line" for e in colours[r.id].ends}
    if uncoloured and shown <= _DEALT:
        return True
    values = [e.value for r in regions if r.role != "line" for e in colours[r.id].ends]
    if not uncoloured or not values:
        return uncoloured
    apart = max(values) - min(values)
    return apart < _ONE_VALUE or (apart < _PAPER_APART and min(values) > _PAPER)


def _outside(
    scheme: Scheme, colours: Mapping[str, RegionColour], shares: Mapping[str, float]
) -> tuple[str, ...]:
    hues, found = slot_hues(scheme), []
    for region, colour in colours.items():
        away = [
            stray_deg(hues, e.hue, _OUTSIDE_DEG)[0]
            for e in colour.ends
            if e.hue is not None and e.chroma >= GREY_CHROMA
        ]
        if max(away, default=0.0) > 0 and shares[region] >= _LEAST_SHARE:
            found.append(region)
    return tuple(sorted(found, key=lambda r: -shares[r]))


def own_scheme(hues: Floats, holds: Floats, chromas: Floats, wheel: Wheel) -> Scheme:
    """The free scheme of the four hue families that hold most, the largest leading."""
    strong = (chromas >= GREY_CHROMA) & (holds > 0)
    families = hue_families(hues[strong], holds[strong])[:_MOST_FAMILIES]
    angles = [float(angle_of(wheel, h)) for h, _ in families] or [0.0]
    offsets = tuple(turned(a - angles[0]) for a in angles[1:])
    return Scheme(
        wheel=wheel,
        name=FREE,
        chosen=False,
        lead_deg=turned(angles[0]),
        spread_deg=0.0,
        offsets=offsets,
    )


def family_of(hues: Floats) -> Ints:
    """Which family, from 0, each of some hues, OKLCh degrees, (n,), belongs to, where gaps of 24
    degrees part them; families go round with the hue."""
    order = np.argsort(hues)
    gaps = np.diff(np.append(hues[order], hues[order[:1]] + 360))
    cuts = np.flatnonzero(gaps >= _GAP_DEG)
    family = np.zeros(len(hues), np.intp)
    if len(cuts):
        start = int(cuts[-1] + 1) % len(hues)
        new = np.roll(gaps, -start)[:-1] >= _GAP_DEG
        family[np.roll(order, -start)] = np.cumsum(np.append(0, new))
    return family


def hue_families(hues: Floats, holds: Floats) -> list[tuple[float, float]]:
    """Families of hues, OKLCh degrees: the mean hue of each and what it holds, the fullest
    first."""
    if not len(hues):
        return []
    family, found = family_of(hues), []
    for k in range(int(family.max()) + 1):
        own = family == k
        turn = (np.exp(1j * np.radians(hues[own])) * holds[own]).sum()
        found.append((float(np.degrees(np.angle(turn)) % 360), float(holds[own].sum())))
    return sorted(found, key=lambda f: -f[1])
