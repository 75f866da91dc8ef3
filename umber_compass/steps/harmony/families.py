"""Families of regions: their order, what each holds, which colours are given."""

from functools import lru_cache
from typing import NamedTuple

from umber_compass.colour.measured import measure_hex
from umber_compass.plan.model import Region, Scheme
from umber_compass.plan.terms import Slot, Wheel
from umber_compass.steps.harmony.colour_words import colour_name
from umber_compass.steps.harmony.colours import RegionColour
from umber_compass.steps.harmony.rose import ring
from umber_compass.steps.harmony.scheme import needle_angles, wished_shares
from umber_compass.steps.harmony.schemes import FREE, spec_of

_NO_HUE = "#808080"  # what stands for the greys


class SlotShare(NamedTuple):
    """What one slot holds of the picture, and what it should."""

    slot: Slot
    part: str  # leads, supports, answers, greys
    angle_deg: float | None  # on the wheel; None for the greys
    now: float  # 0-1
    wished: float  # 0-1
    hex: str
    name: str  # what its colours are called, as `teal`
    asked: bool = True  # whether the artist chose the scheme, or the share; else it is only usual
    usual: bool = True  # whether the scheme has a usual share for it; a free one has none


def hue_shown(wheel: Wheel, angle_deg: float) -> str:
    """A hue of a wheel as the ring shows it nearest, as hex."""
    hues = ring(wheel)
    return hues[round(angle_deg / 360 * len(hues)) % len(hues)]


def hue_word(wheel: Wheel, angle_deg: float) -> str:
    """A hue of a wheel as a painter says it, as `teal`."""
    return _word(hue_shown(wheel, angle_deg))


@lru_cache(256)
def _word(shown: str) -> str:
    """A hue of the ring in words: a ring has 72, while angles are hardly ever the same twice."""
    return colour_name(measure_hex(shown))


def family_order(scheme: Scheme) -> dict[str, int]:
    """Families in the order they are shown: the lead, the others by letter, greys, given."""
    slots = [s for s in needle_angles(scheme) if s != "grey"]
    return {s: i for i, s in enumerate([*sorted(slots), "grey", "given"])}


def by_family(
    scheme: Scheme, colours: dict[str, RegionColour], shares: dict[str, float]
) -> list[str]:
    """Region ids, families together, the largest region of each first."""
    order = family_order(scheme)
    return sorted(colours, key=lambda r: (order.get(colours[r].first.slot, 0), -shares[r]))


def given_names(regions: tuple[Region, ...], colours: dict[str, RegionColour]) -> tuple[str, ...]:
    """The names of the regions that have a given colour."""
    return tuple(r.name for r in regions if any(e.slot == "given" for e in colours[r.id].ends))


def slot_shares(
    scheme: Scheme, colours: dict[str, RegionColour], shares: dict[str, float]
) -> list[SlotShare]:
    """What each slot holds and should hold, the lead first; a gradient's ends count half each."""
    held: dict[str, float] = {}
    for region_id, colour in colours.items():
        for end in colour.ends:
            held[end.slot] = held.get(end.slot, 0.0) + shares[region_id] / len(colour.ends)
    parts = {n.slot: n.part for n in spec_of(scheme).needles}
    angles, wheel = needle_angles(scheme), scheme.wheel
    rows, usual = [], scheme.name != FREE
    for slot, wished in wished_shares(scheme).items():
        now, asked = held.get(slot, 0.0), scheme.chosen or slot in scheme.shares
        if slot == "grey":
            rows.append(SlotShare(slot, "greys", None, now, wished, _NO_HUE, "grey", asked, usual))
            continue
        angle = angles[slot]
        shown, word = hue_shown(wheel, angle), hue_word(wheel, angle)
        rows.append(SlotShare(slot, parts[slot], angle, now, wished, shown, word, asked, usual))
    return rows
