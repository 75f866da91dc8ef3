"""Strong colour works by being rare: how much of the picture it holds, over all and of one hue."""

from umber_compass.plan.edits import Edit
from umber_compass.steps.checks.check import (
    CheckSpec,
    Fix,
    Level,
    Result,
    level_over,
    listed,
    names,
)
from umber_compass.steps.harmony.shifts import Shift, shift_colours
from umber_compass.steps.mending.room import is_movable
from umber_compass.steps.pipeline import Derived
from umber_compass.words import words

NAME = "strong-colour"
_MARGIN = 0.004  # OKLCh chroma


def _measure(derived: Derived) -> list[Result]:
    held, rules = derived.strong, derived.rules
    whole = 100 * sum(held.values())
    level = level_over(whole, rules["strong-colour.note"], rules["strong-colour.warning"])
    title = "Strong colour is rare" if level == "fine" else "Strong colour is common"
    found = [_result(derived, held, whole, rules["strong-colour.note"], level, title)]
    slots: dict[str, dict[str, float]] = {}
    for region, share in held.items():
        slots.setdefault(derived.colours[region].first.slot, {})[region] = share
    most = rules["strong-colour.hue"]
    for slot, some in sorted(slots.items()):
        share = 100 * sum(some.values())
        if share > most and share < whole - 0.05:  # else it is said already
            of = "fixed colours" if slot == "given" else f"hue {slot}"
            found.append(
                _result(derived, some, share, most, "note", f"Strong colour of {of} is common")
            )
    return found


def _result(
    derived: Derived, held: dict[str, float], share: float, most: float, level: Level, title: str
) -> Result:
    regions = tuple(sorted(held, key=lambda r: -held[r]))
    text = words(
        "{share:.1f} % of the picture{where}, wanted {most:g} % or less",
        share=share,
        where=f", in {_where(derived, regions)}" if regions else "",
        most=most,
    )
    regions = regions if level != "fine" else ()
    return Result(NAME, level, regions, share, most, "%", words(title), text)


def _where(derived: Derived, regions: tuple[str, ...]) -> str:
    """The largest of some regions by name, and how many more: there may be hundreds."""
    first = set(regions[:3])
    named = {r.id: r.name for r in derived.regions if r.id in first}
    return listed([named.get(r, "") for r in regions])


def _candidates(derived: Derived, result: Result) -> list[Fix]:
    """The fewest regions quietened, the largest first, so that the focus stays strong."""
    held, left = derived.strong, result.measured
    focus = {r.id for r in derived.regions if r.role == "focus"}
    if derived.attention is not None:
        focus |= {r.id for r in derived.regions if r.label in derived.attention.focus}
    free = [r for r in result.regions if r not in focus and is_movable(derived, r)]
    chosen: list[str] = []
    for region in sorted(free, key=lambda r: -held.get(r, 0)):
        if left <= result.wanted:
            break
        chosen.append(region)
        left -= 100 * held.get(region, 0)
    # The last ones may have made the first needless: try to leave out the largest again.
    for region in list(chosen):
        if left + 100 * held[region] <= result.wanted:
            chosen.remove(region)
            left += 100 * held[region]
    return [_fix(derived, chosen)] if chosen and left <= result.wanted else []


def _fix(derived: Derived, chosen: list[str]) -> Fix:
    shifts = {}
    for region in chosen:
        ends = zip(derived.colours[region].ends, derived.strong_from[region], strict=True)
        over = [(e.chroma - limit, e.chroma) for e, limit in ends]
        by, shown = max(over)
        shifts[region] = Shift(chroma=-by - _MARGIN, shown=shown)
    text = words("Quieten {which}", which=listed([names(derived)[r] for r in chosen]))
    return Fix("quieten", text, Edit(text, shift_colours(shifts)))


_SAYS = (
    "A strong colour draws the eye because it is rare. Strong is a chroma of 0.12 or four fifths "
    "of what the screen can show there, in the colours as they are planned."
)
CHECK = CheckSpec(NAME, "focus", _measure, _candidates, _SAYS, coloured=True)
