"""More colours in all ramps than the piece may use."""

from functools import partial

from msgspec.structs import replace

from umber_compass.plan.edits import Edit, study, with_study
from umber_compass.plan.model import Plan
from umber_compass.plan.ramp_edits import FIRST
from umber_compass.steps.checks.check import CheckSpec, Fix, Result
from umber_compass.steps.pipeline import Derived
from umber_compass.steps.ramps.sharing import Ramps
from umber_compass.words import words

NAME = "step-budget"


def _count(derived: Derived) -> int:
    ramps = derived.ramps or Ramps()
    return len({step.hex for many in ramps.values() for ramp in many for step in ramp.steps})


def _measure(derived: Derived) -> list[Result]:
    most = derived.budget
    if most is None or not derived.ramps:
        return []
    count = _count(derived)
    text = words("{count} colours in the steps of all ramps, {most} may be used",
                 count=count, most=most)  # fmt: skip
    if count <= most:
        title = words("All steps are within the budget")
        return [Result(NAME, "fine", (), count, most, "colours", title, text)]
    title = words("Steps are {over} colours over the budget", over=count - most)
    regions = tuple(r.id for r in derived.regions)[:1]
    return [Result(NAME, "warning", regions, count, most, "colours", title, text, whole=True)]


def _candidates(derived: Derived, result: Result) -> list[Fix]:
    """Steps that share the budget; fewer steps for every region, as many as fit."""
    most = int(result.wanted)
    text = words("Let all steps share {most} colours", most=most)
    fixes = [Fix("share", text, Edit(text, lambda plan: _shared(plan, most), "share steps"))]
    for darker, lighter in ((2, 1), (1, 1), (1, 0)):
        text = words("At most {d} darker and {n} lighter steps each", d=darker, n=lighter)
        fewer = Edit(text, partial(_fewer, darker, lighter), "fewer steps")
        then = derived.of(fewer.apply(derived.plan))
        then.take(Derived.ramps, then.worked(Derived.ramps))
        if _count(then) <= most:
            fixes.append(Fix(f"steps-{darker}-{lighter}", text, fewer))
            break
    return fixes


def _shared(plan: Plan, most: int) -> Plan:
    now = study(plan)
    return with_study(replace(plan, budget=most), replace(now, within_budget=True))


def _fewer(darker: int, lighter: int, plan: Plan) -> Plan:
    """No region with more steps than these."""
    now = study(plan)
    recipes = {r.id: now.recipes.get(r.id, FIRST) for r in plan.regions}
    less = {
        k: replace(r, darker=min(r.darker, darker), lighter=min(r.lighter, lighter))
        for k, r in recipes.items()
    }
    return with_study(plan, replace(now, recipes=less))


_ABOUT = (
    "A sprite or a print run has so many colours, and shades and lights count as much as bases. "
    "Steps may be shared between materials, or there may be fewer of them."
)
CHECK = CheckSpec(NAME, "ramps", _measure, _candidates, _ABOUT, always=True)
