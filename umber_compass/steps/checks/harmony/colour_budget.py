"""More colours than the piece may use."""

from umber_compass.steps.checks.check import BRIEF, CheckSpec, Fix, Result
from umber_compass.steps.harmony.budget import Budget, merging, within
from umber_compass.steps.pipeline import Derived
from umber_compass.steps.values.parting import wanted
from umber_compass.words import Refusal, words

NAME = "colour-budget"


def budget_of(derived: Derived, most: int) -> Budget:
    """The merges that bring a plan to so many colours. Raises Refusal where that cannot be."""
    apart = frozenset((b.figure, b.behind) for b in wanted(derived.borders, derived.wishes))
    given = {r for r, c in derived.colours.items() if c.first.slot == "given"}
    fixed = frozenset(given | set(derived.locked))
    return within(derived.colours, derived.shares, most, apart, fixed)


def _measure(derived: Derived) -> list[Result]:
    most = derived.budget
    if most is None:
        return []
    needed = derived.needed
    text = words("{needed} local colours, {most} may be used", needed=needed, most=most)
    if needed <= most:
        title = words("Within the colour budget")
        return [Result(NAME, "fine", (), needed, most, "colours", title, text)]
    title = words("{over} colours over the budget", over=needed - most)
    try:
        budget_of(derived, most)
    except Refusal as refusal:
        text = words("{needed} local colours; {why}", needed=needed, why=str(refusal))
    regions = tuple(r.id for r in derived.regions)[:1]
    return [
        Result(
            NAME, "warning", regions, needed, most, "colours", title, text, whole=True, rank=BRIEF
        )
    ]


def _candidates(derived: Derived, result: Result) -> list[Fix]:
    """The merges that cost least; none where what is wished apart needs more."""
    most = derived.planned_budget
    if most is None:
        return []
    try:
        found = budget_of(derived, most)
    except Refusal:
        return []
    count = sum(len(m.regions) for m in found.merges)
    text = words("Join {count} regions into {n} colours", count=count, n=len(found.merges))
    return [Fix("merge", text, merging(found.merges, text))]


_ABOUT = (
    "A print run, a sprite or a habit may hold a piece to so many colours. The merges that cost "
    "least are proposed; regions that are wished apart are never joined."
)
CHECK = CheckSpec(NAME, "harmony", _measure, _candidates, _ABOUT, always=True)
