"""Palette and mood: one element of another mood undoes it."""

from umber_compass.plan.edits import Edit, part
from umber_compass.plan.model import Planned
from umber_compass.plan.moods import MOODS
from umber_compass.steps.checks.check import BRIEF, CheckSpec, Fix, Result, level_over, names, upper
from umber_compass.steps.harmony.mood import disagreement, odd_one
from umber_compass.steps.harmony.moody import brought_within
from umber_compass.steps.harmony.shifts import Shift, shift_colours
from umber_compass.steps.harmony.warmth import COOL_HUE, WARM_HUE
from umber_compass.steps.pipeline import Derived
from umber_compass.words import words

NAME = "mood"


def _measure(derived: Derived) -> list[Result]:
    mood = derived.mood
    if mood is None or not mood.wishes():
        return []
    off = disagreement(derived.moods)
    level = level_over(off, derived.rules["mood.note"], derived.rules["mood.warning"])
    title = MOODS[mood.name].title
    wanted = derived.rules["mood.note"]
    if level == "fine":
        text = words("every measure lies within what the mood wishes")
        return [
            Result(NAME, "fine", (), off, wanted, "faults", words("{t}, and held", t=title), text)
        ]
    bad = max(derived.moods, key=lambda r: r.off)
    odd = odd_one(derived.colours, derived.shares, mood)
    low, high = bad.wished or (0.0, 0.0)
    line = "{what} {now:.0f}, wished {low:.0f} to {high:.0f} {unit}"
    if odd is not None:
        line += "; {odd} most"
    text = words(
        line,
        what=bad.title,
        now=bad.now,
        low=low,
        high=high,
        unit=bad.unit,
        odd=names(derived)[odd] if odd else "",
    )
    regions = (odd,) if odd is not None else ()
    said = words("{mood}: the palette is of another mood", mood=upper(title))
    return [Result(NAME, level, regions, off, wanted, "faults", said, text, whole=True, rank=BRIEF)]


def _candidates(derived: Derived, result: Result) -> list[Fix]:
    """The element of another mood brought into this one; or all of the palette."""
    found = []
    shares = dict(derived.shares)
    text = words("Bring the palette into the mood")
    found.append(Fix("palette", text, Edit(text, lambda plan: brought_within(plan, shares))))
    for region in result.regions:
        shift = _toward(derived, region)
        if shift is not None:
            name = names(derived)[region]
            line = words("Bring {name} into the mood", name=name)
            found.append(Fix("one", line, Edit(line, shift_colours({region: shift}))))
    return found


def _toward(derived: Derived, region: str) -> Shift | None:
    """The change of one region that the measure farthest off asks for."""
    solid = part(derived.study.colours[region], 0)
    if not isinstance(solid, Planned):
        return None
    now = derived.colours[region].first
    row = max(derived.moods, key=lambda r: r.off)
    low, high = row.wished or (row.now, row.now)
    more = row.now < low
    if row.measure in ("warm", "cool"):
        warm = (row.measure == "warm") == more
        pole = WARM_HUE if warm else COOL_HUE
        turn = (pole - (now.hue or 0.0) + 180) % 360 - 180
        return Shift(hue_deg=turn, chroma=0.0 if now.chroma > 0.03 else 0.03)
    if row.measure == "chroma":
        return Shift(chroma=(now.chroma * 0.6 + 0.03 if more else -0.6 * now.chroma))
    by = (low if more else high) - row.now
    return Shift(value=max(min(by / max(derived.shares[region], 0.15), 45), -45))


_ABOUT = (
    "What a mood wishes of temperature, chroma, key, contrast and hues is a convention, and every "
    "number of it can be changed. One element of another mood undoes it, unless it is meant."
)
CHECK = CheckSpec(NAME, "harmony", _measure, _candidates, _ABOUT, coloured=True, always=True)
