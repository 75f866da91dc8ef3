"""Variants for a client: the same shading with other base colours, or the same base colours in
another light."""

from collections.abc import Sequence
from typing import Literal, NamedTuple, TypeAlias

from msgspec.structs import replace

from umber_compass.plan.edits import study, with_scheme, with_study
from umber_compass.plan.harmony_edits import turned
from umber_compass.plan.light_edits import light_on, rig_of, with_rig
from umber_compass.plan.model import Plan, Study
from umber_compass.plan.rig import Rig
from umber_compass.steps.studies.grow_rule import lead_word

What: TypeAlias = Literal["colours", "light"]
_TURNS = (0, 60, 120, 180, 240, 300)  # wheel degrees

# Lights by a name a client knows: hexes of key and ambient, percent of each, and the key's
# direction; None keeps the plan's own (studio rule, docs/studies.md).
_LIGHTS: tuple[tuple[str, str, float, str, float, tuple[float, float, float] | None], ...] = (
    ("Morning", "#ffe6b8", 85.0, "#bcd3ea", 70.0, None),
    ("Overcast", "#f2f4f6", 25.0, "#d3dbe2", 105.0, None),
    ("Low sun", "#ffb066", 100.0, "#8f9fd0", 50.0, (-0.8, -0.1, 0.5916)),
    ("Moon", "#a9c2ff", 45.0, "#3c4f86", 45.0, (0.45, -0.7, 0.5545)),
    ("Lamplight", "#ffb45a", 80.0, "#5a4668", 35.0, (0.7, -0.3, 0.6481)),
)


class Variant(NamedTuple):
    """One variant: its caption, and the plan that shows it."""

    caption: str
    plan: Plan


def variants(plan: Plan, what: What, chosen: Sequence[Study] = ()) -> list[Variant]:
    """The variants of a client's sheet, the plan as it is first. For `colours`: those of two or
    more chosen studies, all in the shown study's light; else the scheme turned. For `light`: the
    shown study in five lights."""
    if what == "light":
        return [Variant(study(plan).title, light_on(plan)), *(_lit(plan, row) for row in _LIGHTS)]
    now = study(plan)
    if len(chosen) > 1:
        return [
            Variant(
                one.title,
                with_study(plan, replace(now, scheme=one.scheme, colours=one.colours)),
            )
            for one in chosen
        ]
    found = []
    for by in _TURNS:
        made = with_scheme(plan, lead_deg=turned(now.scheme.lead_deg + by))
        caption = now.title if not by else f"{lead_word(study(made)).capitalize()} leads"
        found.append(Variant(caption, made))
    return found


def _lit(
    plan: Plan, row: tuple[str, str, float, str, float, tuple[float, float, float] | None]
) -> Variant:
    title, key_hex, key_strength, hex_text, strength, direction = row
    rig = replace(rig_of(plan), on=True)
    key = replace(
        rig.key, hex=key_hex, strength=key_strength, direction=direction or rig.key.direction
    )
    lamps = tuple(key if lamp is rig.key else lamp for lamp in rig.lamps)
    made: Rig = replace(
        rig, lamps=lamps, ambient=replace(rig.ambient, hex=hex_text, strength=strength)
    )
    return Variant(title, with_rig(plan, made))
