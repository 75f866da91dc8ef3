"""Another mood: lead, chroma, key and contrast brought within its conventions."""

from functools import partial

from msgspec.structs import replace

from umber_compass.colour.wheels import angle_of
from umber_compass.plan.edits import study, with_scheme, with_study
from umber_compass.plan.harmony_edits import turned
from umber_compass.plan.model import Plan
from umber_compass.plan.moods import MOODS, Mood, MoodMeasure, MoodWish
from umber_compass.steps.harmony.colours import region_colours
from umber_compass.steps.harmony.mood import mood_measures
from umber_compass.steps.studies.leaning import keyed, leaned, strengthened
from umber_compass.steps.studies.spec import GrowRule, Soil, Version

_LEAN = 0.045  # OKLab toward warm or cool, where a mood asks for it
_INSET = 0.2  # of a wish’s width, by which a measure is brought inside
_LEANS: tuple[tuple[MoodMeasure, float], ...] = (("warm", 1.0), ("cool", -1.0))


def _versions(plan: Plan, soil: Soil) -> list[Version]:
    own = study(plan).mood
    return [
        Version(
            mood.title,
            f"{mood.title.lower()}: {mood.says}",
            partial(moody, plan, mood, soil.shares),
        )
        for mood in MOODS.values()
        if mood.wishes and (own is None or own.name != mood.name)
    ]


def moody(plan: Plan, mood: Mood, shares: dict[str, float]) -> Plan:
    """A plan brought toward a mood, and held to it from now on."""
    if mood.leads is not None:
        lead = turned(float(angle_of(study(plan).scheme.wheel, mood.leads)))
        plan = with_scheme(plan, lead_deg=lead)
    for measure, way in _LEANS:
        wished = mood.wishes.get(measure)
        if wished is not None and _now(plan, shares)[measure] < wished[0]:
            plan = leaned(plan, way * _LEAN)
    now = _now(plan, shares)
    if "chroma" in mood.wishes:
        times = _within(now["chroma"], mood, "chroma") / max(now["chroma"], 0.5)
        plan = strengthened(plan, times, max(times, 0.8))
    now = _now(plan, shares)
    by = _within(now["key"], mood, "key") - now["key"] if "key" in mood.wishes else 0.0
    spread = 1.0
    if "contrast" in mood.wishes:
        spread = _within(now["contrast"], mood, "contrast") / max(now["contrast"], 1.0)
    plan = keyed(plan, by, min(max(spread, 0.5), 1.8), now["key"])
    return with_study(plan, replace(study(plan), mood=MoodWish(name=mood.name)))


def _now(plan: Plan, shares: dict[str, float]) -> dict[MoodMeasure, float]:
    now = study(plan)
    return mood_measures(region_colours(now.scheme, now.colours), shares)


def _within(now: float, mood: Mood, measure: MoodMeasure) -> float:
    """The nearest number that lies well within what the mood wishes of a measure."""
    low, high = mood.wishes[measure]
    inset = _INSET * (high - low)
    return min(max(now, low + inset), high - inset)


RULE = GrowRule("mood", "Another mood", "sombre, tender, festive …", _versions)
