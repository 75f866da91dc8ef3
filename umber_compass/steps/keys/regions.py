"""Keys about one region: what it is, its colour, its steps."""

import re
from functools import partial
from typing import Any, get_args

from umber_compass.colour.measured import listed_hexes
from umber_compass.plan.edits import Edit, part, region, study
from umber_compass.plan.first_edits import keep_colours
from umber_compass.plan.harmony_edits import set_colour
from umber_compass.plan.light_edits import correct_chart
from umber_compass.plan.model import Pinned, Plan, Planned
from umber_compass.plan.ramp_edits import borrow_ramp, set_region_gradient, tie_shade
from umber_compass.plan.setting import CHOICE, COLOUR, NUMBER, SWITCH, TEXT, Kind
from umber_compass.plan.terms import ChartPlace, Chroma, Slot, Value
from umber_compass.plan.wish_edits import lock
from umber_compass.steps.harmony.colours import region_colours
from umber_compass.steps.harmony.edits import (
    MOST_CHROMA,
    give_colour,
    give_hue,
    pin_to,
    set_chroma,
    set_hue_offset,
    set_slot,
    set_value,
    toggle_pin,
)
from umber_compass.steps.keys.key import Group, Key, from_table
from umber_compass.steps.ramps.ramps import ramp_of
from umber_compass.steps.ramps.recipes import RECIPES
from umber_compass.words import Refusal, words

_OFF = "off"


def _number(annotated: Any, unit: str) -> Kind:
    meta = get_args(annotated)[1]
    return Kind(NUMBER, unit, meta.ge, meta.le)


def named(plan: Plan, text: str) -> str:
    """A region's id from its id or its name."""
    if any(r.id == text for r in plan.regions):
        return text
    found = [r.id for r in plan.regions if r.name == text]
    if len(found) != 1:
        why = "is no region’s id or name" if not found else "is the name of several; use an id"
        raise Refusal(text[:60], words(why))
    return found[0]


def _solid(plan: Plan, region_id: str) -> Planned | Pinned:
    return part(study(plan).colours[region_id], 0)


def _shown(plan: Plan, region_id: str) -> Any:
    colour = study(plan).colours[region_id]
    return region_colours(study(plan).scheme, {region_id: colour})[region_id].first


def _shade(plan: Plan, region_id: str) -> str:
    found = study(plan).shades.get(region_id)
    return _OFF if found is None else f"{found.of}:{found.step:+d}"


def _tie(plan: Plan, region_id: str, text: str) -> Edit:
    """Tie a region to another's ramp, or free it."""
    if text.strip() in (_OFF, ""):
        return tie_shade(region_id, None, 0, _name(plan, region_id))
    of, _, step = text.rpartition(":")
    if not re.fullmatch("[+-]?[0-9]", step.strip()):
        raise Refusal(text[:60], words("is no region and step, as {like}", like="r2:-1"))
    other = named(plan, of.strip())
    if other == region_id or other in study(plan).shades:
        raise Refusal(text[:60], words("is tied itself; choose a region that has its own colour"))
    return tie_shade(region_id, other, int(step), _name(plan, region_id))


def _name(plan: Plan, region_id: str) -> str:
    return region(plan, region_id).name


def _cell(place: ChartPlace, plan: Plan, region_id: str) -> str:
    return study(plan).chart.get(region_id, {}).get(place, _OFF)


def _correct(place: ChartPlace, plan: Plan, region_id: str, text: str) -> Edit:
    return correct_chart(region_id, place, None if text == _OFF else text, _name(plan, region_id))


def _pin(plan: Plan, region_id: str, text: str) -> Edit:
    pinned = isinstance(_solid(plan, region_id), Pinned)
    if text == _OFF:
        if pinned:
            return toggle_pin(plan, region_id, _name(plan, region_id))
        same = study(plan).colours[region_id]
        return set_colour(region_id, same, words("leave {name} free", name=_name(plan, region_id)))
    return pin_to(region_id, text, _name(plan, region_id))


def _keep(plan: Plan, region_id: str, text: str) -> Edit:
    name = _name(plan, region_id)
    if text == _OFF:
        return keep_colours({region_id: None}, words("let go of {name}", name=name))
    return keep_colours({region_id: text}, words("keep {name} {hex}", name=name, hex=text))


def _turn(plan: Plan, region_id: str, turn: float) -> Edit:
    text = words(
        "turn {name} to {turn:+.0f}° from its slot", name=_name(plan, region_id), turn=turn
    )
    return set_hue_offset(region_id, 0, turn, text)


# fmt: off
REGIONS = Group((
    *map(from_table, ("region.REGION.name", "region.REGION.role", "region.REGION.material",
                      "region.REGION.form", "region.REGION.front")),
    Key("region.SUBJECT.value", _number(Value, "L*"), "its planned value",
        lambda p, r: _shown(p, r).value, lambda p, r, x: set_value(r, 0, x, _name(p, r))),
    Key("region.SUBJECT.chroma", _number(Chroma, "OKLCh")._replace(high=MOST_CHROMA),
        "its planned chroma",
        lambda p, r: _shown(p, r).chroma, lambda p, r, x: set_chroma(r, 0, x, _name(p, r))),
    Key("region.SUBJECT.turn", Kind(NUMBER, "° OKLCh", -180, 180),
        "how far it turns from its slot’s hue",
        lambda p, r: getattr(_solid(p, r), "hue_offset_deg", None), _turn),
    Key("region.SUBJECT.slot", Kind(CHOICE, choices=get_args(Slot)), "whose hue it follows",
        lambda p, r: getattr(_solid(p, r), "slot", None),
        lambda p, r, x: set_slot(p, r, x, _name(p, r))),
    *(Key(f"region.SUBJECT.chart.{place}", Kind(COLOUR, choices=(_OFF,)),
          f"its {place.replace('-', ' ')} in the paint chart, by hand, or off",
          partial(_cell, place), partial(_correct, place)) for place in get_args(ChartPlace)),
    Key("region.SUBJECT.pin", Kind(COLOUR, choices=(_OFF,)), "a given colour that stays, or off",
        lambda p, r: getattr(_solid(p, r), "hex", _OFF), _pin),
    Key("region.SUBJECT.colour", Kind(COLOUR), "a colour as it is given, that follows the scheme",
        lambda p, r: _shown(p, r).hex, lambda p, r, x: give_colour(r, x, _name(p, r))),
    Key("region.SUBJECT.hue", Kind(COLOUR),
        "a colour whose hue and chroma it takes, its value kept",
        lambda p, r: _shown(p, r).hex, lambda p, r, x: give_hue(r, x, _name(p, r))),
    Key("region.SUBJECT.keep", Kind(COLOUR, choices=(_OFF,)),
        "a colour that every first proposal has, or off",
        lambda p, r: p.first.kept.get(r, _OFF), _keep),
    Key("region.SUBJECT.lock", Kind(SWITCH),
        "whether all but the artist’s own hand leaves its colour alone",
        lambda p, r: r in study(p).locked, lambda p, r, x: lock(r, x, _name(p, r))),
    *map(from_table, ("region.REGION.vary", "region.REGION.vary-seed")),
    from_table("region.REGION.recipe", Kind(CHOICE, choices=tuple(RECIPES))),
    Key("region.SUBJECT.shade-of", Kind(TEXT, "REGION:STEP, or off"),
        "whose ramp its colour is a step of, and which: -1 is the first darker one",
        _shade, _tie),
    Key("region.SUBJECT.picked", Kind(TEXT, "hexes by comma"),
        "colours picked from a picture, whose way from dark to light its steps borrow",
        lambda p, r: ",".join(ramp_of(study(p).recipes, r).picked),
        lambda p, r, x: borrow_ramp(r, listed_hexes(x), _name(p, r))),
    Key("region.SUBJECT.over", Kind(TEXT, "hexes by comma"),
        "a gradient over the values of its own shading; none: it follows shading.hue",
        lambda p, r: ",".join(ramp_of(study(p).recipes, r).over),
        lambda p, r, x: set_region_gradient(r, listed_hexes(x), _name(p, r))),
    *map(from_table, ("region.REGION.darker", "region.REGION.lighter", "region.REGION.degrees")),
), "REGION", lambda plan: (r.id for r in plan.regions), named)
