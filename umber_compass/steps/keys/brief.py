"""Keys about the brief and about the sketch's own shading."""

from typing import Any

from umber_compass.plan.brief_edits import set_distance, set_notes, set_use, set_width
from umber_compass.plan.edits import Edit, study
from umber_compass.plan.model import Plan
from umber_compass.plan.shading_edits import (
    set_shading_hue,
    set_shading_strength,
    shade_beside,
    shading_of,
    switch_shading,
)
from umber_compass.plan.uses import USES
from umber_compass.steps.keys.spec import (
    CHOICE,
    NUMBER,
    SWITCH,
    TEXT,
    Group,
    Key,
    Kind,
    only,
)

_NONE, _USUAL = "none", "usual"


def _use(plan: Plan, subject: str, use: Any) -> Edit:
    return set_use("" if use == _NONE else use)


BRIEF = Group(
    (
        Key(
            "brief.use",
            Kind(CHOICE, choices=(_NONE, *USES)),
            "what the piece is for",
            lambda p, _: p.brief.use or _NONE,
            _use,
        ),
        Key(
            "brief.width",
            Kind(NUMBER, "cm", 0.5, 2000, (_USUAL,)),
            "how wide the piece will be",
            lambda p, _: _USUAL if p.brief.width_cm is None else p.brief.width_cm,
            lambda p, _, x: set_width(x),
        ),
        Key(
            "brief.distance",
            Kind(NUMBER, "cm", 5, 10000, (_USUAL,)),
            "from how far it will be seen",
            lambda p, _: _USUAL if p.brief.distance_cm is None else p.brief.distance_cm,
            lambda p, _, x: set_distance(x),
        ),
        Key(
            "brief.notes",
            Kind(TEXT),
            "what else was agreed",
            lambda p, _: p.brief.notes,
            lambda p, _, x: set_notes(x),
        ),
        Key(
            "shading.on",
            Kind(SWITCH),
            "whether the sketch’s own shading is kept",
            lambda p, _: shading_of(study(p)).on,
            lambda p, _, x: switch_shading(x),
        ),
        Key(
            "shading.strength",
            Kind(NUMBER, "% of the sketch’s", 0, 200),
            "how strong it is",
            lambda p, _: shading_of(study(p)).strength,
            lambda p, _, x: set_shading_strength(x),
        ),
        Key(
            "shading.hue",
            Kind(CHOICE, choices=("kept", "cool-warm", "rig")),
            "what hue does in shade and light",
            lambda p, _: shading_of(study(p)).hue,
            lambda p, _, x: set_shading_hue(x),
        ),
        Key(
            "shading.beside",
            Kind(SWITCH),
            "whether it goes beside the forms, or instead of them",
            lambda p, _: shading_of(study(p)).beside,
            lambda p, _, x: shade_beside(x),
        ),
    ),
    "",
    lambda plan: ("",),
    only,
)
