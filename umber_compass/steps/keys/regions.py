"""Keys about one region: what it is, its colour, its steps."""

from typing import Any

from msgspec.structs import replace

from umber_compass.plan.edits import Edit, part, region, study
from umber_compass.plan.harmony_edits import set_colour
from umber_compass.plan.model import Pinned, Plan, Planned
from umber_compass.plan.ramp_edits import set_recipe
from umber_compass.plan.sketch_edits import rename, set_form, set_front, set_material, set_role
from umber_compass.plan.terms import (
    Chroma,
    Form,
    Front,
    Material,
    Role,
    Slot,
    Steps,
    StepTurn,
    Value,
)
from umber_compass.plan.wish_edits import lock
from umber_compass.steps.harmony.colours import region_colours
from umber_compass.steps.harmony.edits import (
    MOST_CHROMA,
    pin_to,
    set_chroma,
    set_hue_offset,
    set_slot,
    set_value,
    toggle_pin,
)
from umber_compass.steps.keys.spec import (
    CHOICE,
    COLOUR,
    NUMBER,
    SWITCH,
    TEXT,
    WHOLE,
    Group,
    Key,
    Kind,
    number,
    one_of,
)
from umber_compass.steps.ramps.ramps import ramp_of
from umber_compass.steps.ramps.recipes import RECIPES
from umber_compass.words import Refusal, words

_AUTO, _OFF = "auto", "off"


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


def _name(plan: Plan, region_id: str) -> str:
    return region(plan, region_id).name


def _pin(plan: Plan, region_id: str, text: str) -> Edit:
    pinned = isinstance(_solid(plan, region_id), Pinned)
    if text == _OFF:
        if pinned:
            return toggle_pin(plan, region_id, _name(plan, region_id))
        same = study(plan).colours[region_id]
        return set_colour(region_id, same, words("leave {name} free", name=_name(plan, region_id)))
    return pin_to(region_id, text, _name(plan, region_id))


def _turn(plan: Plan, region_id: str, turn: float) -> Edit:
    text = words(
        "turn {name} to {turn:+.0f}° from its slot", name=_name(plan, region_id), turn=turn
    )
    return set_hue_offset(region_id, 0, turn, text)


def _ramp(plan: Plan, region_id: str, **changes: Any) -> Edit:
    now = ramp_of(study(plan).recipes, region_id)
    return set_recipe(region_id, replace(now, **changes), _name(plan, region_id))


def _ramp_now(plan: Plan, region_id: str) -> Any:
    return ramp_of(study(plan).recipes, region_id)


_STEPS = number(Steps, "steps")._replace(type=WHOLE)
REGIONS = Group(
    (
        Key("region.SUBJECT.name", Kind(TEXT), "its name", _name, lambda p, r, x: rename(r, x)),
        Key(
            "region.SUBJECT.role",
            one_of(Role),
            "what part it plays",
            lambda p, r: region(p, r).role,
            lambda p, r, x: set_role(r, x, _name(p, r)),
        ),
        Key(
            "region.SUBJECT.material",
            one_of(Material),
            "what its surface is",
            lambda p, r: region(p, r).material,
            lambda p, r, x: set_material(r, x, _name(p, r)),
        ),
        Key(
            "region.SUBJECT.form",
            one_of(Form),
            "the form it is lit as",
            lambda p, r: region(p, r).form,
            lambda p, r, x: set_form(r, x, _name(p, r)),
        ),
        Key(
            "region.SUBJECT.front",
            number(Front, "from the back")._replace(type=WHOLE, choices=(_AUTO,)),
            "its place from back to front, or auto",
            lambda p, r: region(p, r).front,
            lambda p, r, x: set_front(r, x, _name(p, r)),
        ),
        Key(
            "region.SUBJECT.value",
            number(Value, "L*"),
            "its planned value",
            lambda p, r: _shown(p, r).value,
            lambda p, r, x: set_value(r, 0, x, _name(p, r)),
        ),
        Key(
            "region.SUBJECT.chroma",
            number(Chroma, "OKLCh")._replace(high=MOST_CHROMA),
            "its planned chroma",
            lambda p, r: _shown(p, r).chroma,
            lambda p, r, x: set_chroma(r, 0, x, _name(p, r)),
        ),
        Key(
            "region.SUBJECT.turn",
            Kind(NUMBER, "° OKLCh", -180, 180),
            "how far it turns from its slot’s hue",
            lambda p, r: getattr(_solid(p, r), "hue_offset_deg", None),
            _turn,
        ),
        Key(
            "region.SUBJECT.slot",
            one_of(Slot),
            "whose hue it follows",
            lambda p, r: getattr(_solid(p, r), "slot", None),
            lambda p, r, x: set_slot(p, r, x, _name(p, r)),
        ),
        Key(
            "region.SUBJECT.pin",
            Kind(COLOUR, choices=(_OFF,)),
            "a given colour that stays, or off",
            lambda p, r: getattr(_solid(p, r), "hex", _OFF),
            _pin,
        ),
        Key(
            "region.SUBJECT.lock",
            Kind(SWITCH),
            "whether all but the artist’s own hand leaves its colour alone",
            lambda p, r: r in study(p).locked,
            lambda p, r, x: lock(r, x, _name(p, r)),
        ),
        Key(
            "region.SUBJECT.recipe",
            Kind(CHOICE, choices=tuple(RECIPES)),
            "how its steps are made",
            lambda p, r: _ramp_now(p, r).recipe,
            lambda p, r, x: _ramp(p, r, recipe=x),
        ),
        Key(
            "region.SUBJECT.darker",
            _STEPS,
            "how many darker steps it has",
            lambda p, r: _ramp_now(p, r).darker,
            lambda p, r, x: _ramp(p, r, darker=x),
        ),
        Key(
            "region.SUBJECT.lighter",
            _STEPS,
            "how many lighter steps it has",
            lambda p, r: _ramp_now(p, r).lighter,
            lambda p, r, x: _ramp(p, r, lighter=x),
        ),
        Key(
            "region.SUBJECT.degrees",
            number(StepTurn, "° a step")._replace(choices=(_AUTO,)),
            "how far a step turns, or auto for the practice’s number",
            lambda p, r: _ramp_now(p, r).degrees,
            lambda p, r, x: _ramp(p, r, degrees=x),
        ),
    ),
    "REGION",
    lambda plan: (r.id for r in plan.regions),
    named,
)
