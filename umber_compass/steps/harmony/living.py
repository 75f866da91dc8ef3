"""Skin and fur stay what they are, and locked colours stay, whatever is done to a whole palette."""

from collections.abc import Mapping
from typing import NamedTuple

from msgspec.structs import replace

from umber_compass.colour.spaces import hue_distance
from umber_compass.plan.edits import Edit, part, study, with_colours, with_part
from umber_compass.plan.harmony_edits import half_turned
from umber_compass.plan.harmony_edits import turn_lead as turned_lead
from umber_compass.plan.model import Colour, Gradient, Pinned, Plan, Planned, Region, Solid
from umber_compass.plan.terms import Slot
from umber_compass.steps.harmony.scheme import slot_hues
from umber_compass.steps.harmony.skin import is_named_skin

FLESH = ("skin", "fur", "creature")  # whose hue and chroma nothing may push
_CHROMA = (0.7, 1.25)  # times its own, that it may have
_DARKER, _LIGHTER, _LIGHTEST = 26.0, 10.0, 90.0  # L* that it may move by, and have at most


def is_living(region: Region) -> bool:
    """Whether a region is said to be skin or fur, by its material, or by its name while no
    material is said. A material called any frees it."""
    if region.material in FLESH:
        return True
    return region.material == "matte" and region.named and is_named_skin(region)


def holding(edit: Edit) -> Edit:
    """The same change, but skin and fur keep their hue and most of their chroma, and locked colours
    stay as they are."""
    return edit._replace(change=lambda plan: held(plan, edit.change(plan)))


def turn_lead(angle_deg: float) -> Edit:
    """The leading hue put at an angle of the wheel; the scheme turns with it, skin, fur and locked
    colours stay."""
    return holding(turned_lead(angle_deg))


def held(before: Plan, after: Plan) -> Plan:
    """A plan with the hue and most of the chroma that skin and fur had before, and the locked
    colours of before."""
    old, new = study(before), study(after)
    mine = {r.id for r in before.regions if is_living(r)} | set(old.locked)
    if not mine:
        return after
    hues = slot_hues(old.scheme), slot_hues(new.scheme)
    same = hues[0] == hues[1]
    colours: dict[str, Colour] = {}
    for region in mine:
        was, now = old.colours.get(region), new.colours.get(region)
        if was is None or now is None or (same and was == now):
            continue
        levels = old.scheme.chroma, new.scheme.chroma
        made = _of_one(was, now, _Turn(hues, levels, region in old.locked))
        if made != now:
            colours[region] = made
    return with_colours(after, colours) if colours else after


class _Turn(NamedTuple):
    """What a colour is carried from and to: hues and levels of the slots, before and after; and
    whether it is locked."""

    hues: tuple[dict[Slot, float], dict[Slot, float]]
    levels: tuple[Mapping[Slot, float], Mapping[Slot, float]]
    locked: bool


def _of_one(was: Colour, now: Colour, turn: _Turn) -> Colour:
    base = was if turn.locked or isinstance(was, Gradient) != isinstance(now, Gradient) else now
    for end in (0, 1) if isinstance(base, Gradient) else (0,):
        base = with_part(base, end, _kept(part(was, end), part(now, end), turn))
    return base


def _kept(was: Solid, now: Solid, turn: _Turn) -> Solid:
    if isinstance(was, Pinned):
        return was
    before, after = turn.hues
    hue = before.get(was.slot, before["A"]) + was.hue_offset_deg
    chroma = was.chroma * turn.levels[0].get(was.slot, 1.0)
    value = was.value
    if not turn.locked and isinstance(now, Planned):
        low, high = max(was.value - _DARKER, 0.0), max(_LIGHTEST, was.value)
        value = min(max(now.value, low), was.value + _LIGHTER, high)
        own = now.chroma * turn.levels[1].get(now.slot, 1.0)
        chroma = min(max(own, _CHROMA[0] * chroma), _CHROMA[1] * chroma)
    slot = was.slot if was.slot in after else "A"
    level = max(turn.levels[1].get(slot, 1.0), 1e-3)
    offset = half_turned(float(hue_distance(after[slot], hue)))
    return replace(
        was, slot=slot, hue_offset_deg=offset, value=value, chroma=min(chroma / level, 0.5)
    )
