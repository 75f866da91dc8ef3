"""A palette brought within the conventions of a mood."""

from msgspec.structs import replace

from umber_compass.colour.wheels import angle_of
from umber_compass.plan.edits import study, with_scheme, with_study
from umber_compass.plan.harmony_edits import turned
from umber_compass.plan.model import Plan
from umber_compass.plan.moods import MOODS, Between, MoodMeasure, MoodWish
from umber_compass.steps.harmony.colours import region_colours
from umber_compass.steps.harmony.leaning import keyed, leaned, strengthened
from umber_compass.steps.harmony.mood import mood_measures

_LEAN = 0.03  # OKLab toward warm or cool, where a mood asks for it
_INSET = 0.2  # of a wish’s width, by which a measure is brought inside
_LEANS: tuple[tuple[MoodMeasure, float], ...] = (("warm", 1.0), ("cool", -1.0))


def moody(plan: Plan, name: str, shares: dict[str, float]) -> Plan:
    """A plan led by a mood's own hue, brought within what it wishes, and held to it from now on."""
    leads = MOODS[name].leads
    if leads is not None:
        lead = turned(float(angle_of(study(plan).scheme.wheel, leads)))
        plan = with_scheme(plan, lead_deg=lead)
    plan = with_study(plan, replace(study(plan), mood=MoodWish(name=name)))
    return brought_within(plan, shares)


def brought_within(plan: Plan, shares: dict[str, float]) -> Plan:
    """A plan whose temperature, chroma, key and contrast are brought within what its mood wishes,
    each by the least; fixed and locked colours stay."""
    mood = study(plan).mood
    if mood is None:
        return plan
    wishes = mood.wishes()
    for measure, way in _LEANS:
        wished = wishes.get(measure)
        for _ in range(3):
            held = _now(plan, shares)[measure]
            if wished is None or wished[0] <= held <= wished[1]:
                break
            plan = leaned(plan, (way if held < wished[0] else -way) * _LEAN)
    now = _now(plan, shares)
    if "chroma" in wishes:
        times = _within(now["chroma"], wishes["chroma"]) / max(now["chroma"], 0.5)
        if times != 1:
            plan = strengthened(plan, times, max(times, 0.8) if times < 1 else times)
    now = _now(plan, shares)
    by, spread = 0.0, 1.0
    if "key" in wishes:
        by = _within(now["key"], wishes["key"]) - now["key"]
    if "contrast" in wishes:
        spread = _within(now["contrast"], wishes["contrast"]) / max(now["contrast"], 1.0)
    if by or spread != 1:
        plan = keyed(plan, by, min(max(spread, 0.5), 1.8), now["key"])
    return plan


def _now(plan: Plan, shares: dict[str, float]) -> dict[MoodMeasure, float]:
    now = study(plan)
    return mood_measures(region_colours(now.scheme, now.colours), shares)


def _within(now: float, wished: Between) -> float:
    """The nearest number that lies well within a wish; itself where it lies within."""
    low, high = wished
    if low <= now <= high:
        return now
    inset = _INSET * (high - low)
    return min(max(now, low + inset), high - inset)
