"""All checks of a plan, worst first; fixes ranked by what they change and what they break."""

import numpy as np

from umber_compass.colour.spaces import decode, oklab, parse_hex
from umber_compass.plan.model import Plan
from umber_compass.steps.checks import CHECKS, LEVELS, Fix, Result
from umber_compass.steps.pipeline import Derived, Pipeline
from umber_compass.words import words
from umber_compass.work import Tick, idle

MOST_FIXES = 50
# What a fix costs beside its change of colour (area-weighted OKLab x 100); docs/engine.md.
_NEW_WARNING, _NOTE_TO_WARNING, _NEW_NOTE = 3.0, 1.5, 0.5


def measure_all(derived: Derived) -> list[Result]:
    """Every check's results without fixes, worst first."""
    found = [r for check in CHECKS.values() for r in check.measure(derived)]
    return sorted(found, key=lambda r: (-LEVELS.index(r.level), -_excess(r)))


def _excess(result: Result) -> float:
    """How far from its wish, as a share of the wish, so that unlike units can be ordered."""
    return abs(result.measured - result.wanted) / max(abs(result.wanted), 10.0)


def judge(derived: Derived, pipeline: Pipeline, tick: Tick = idle) -> list[Result]:
    """Every check's results, with the fixes of notes and warnings, best first."""
    results, found = measure_all(derived), []
    for i, result in enumerate(results):
        tick(i / len(results))
        fine = result.level == "fine"
        found.append(result if fine else with_fixes(result, results, derived, pipeline, tick))
    return found


def with_fixes(
    result: Result,
    results: list[Result],
    derived: Derived,
    pipeline: Pipeline,
    tick: Tick = idle,
) -> Result:
    """A result with its fixes: each measured in full on the plan it would make; those that do not
    reach the wish are left out."""
    scored = []
    for fix in CHECKS[result.check].candidates(derived, result):
        tick(-1.0)  # no share, but a chance to stop
        after = pipeline.derive(fix.edit.apply(derived.plan))
        then = measure_all(after)
        if _still_bad(result, then):
            continue
        new = _new_warnings(results, then)
        cost = 100 * _change(derived, after) + _broken(results, then)
        scored.append((cost, fix._replace(adds=tuple(r.title for r in new))))
    scored.sort(key=lambda s: s[0])
    return result._replace(fixes=tuple(_named(f) for _, f in scored))


def _named(fix: Fix) -> Fix:
    if not fix.adds:
        return fix
    adds = "; ".join(str(a) for a in fix.adds)
    return fix._replace(text=words("{fix} (but: {adds})", fix=str(fix.text), adds=adds))


def _still_bad(result: Result, then: list[Result]) -> bool:
    return any(r.key == result.key and r.level != "fine" for r in then)


def _new_warnings(before: list[Result], then: list[Result]) -> list[Result]:
    known = {r.key for r in before if r.level == "warning"}
    return [r for r in then if r.level == "warning" and r.key not in known]


def _broken(before: list[Result], then: list[Result]) -> float:
    was = {r.key: r.level for r in before}
    cost = 0.0
    for r in then:
        level = was.get(r.key, "fine")
        if r.level == "warning" and level != "warning":
            cost += _NOTE_TO_WARNING if level == "note" else _NEW_WARNING
        elif r.level == "note" and level == "fine":
            cost += _NEW_NOTE
    return cost


def _change(before: Derived, after: Derived) -> float:
    """Area-weighted OKLab distance between two colourings of the same sketch."""
    total = 0.0
    for region_id, share in before.shares.items():
        ends = zip(before.colours[region_id].ends, after.colours[region_id].ends, strict=True)
        moved = [_distance(a.hex, b.hex) for a, b in ends if a.hex != b.hex]
        total += share * (sum(moved) / len(before.colours[region_id].ends))
    return total


def _distance(first: str, second: str) -> float:
    pair = oklab(decode(np.array([parse_hex(first), parse_hex(second)])))
    return float(np.linalg.norm(pair[1] - pair[0]))


def mend(plan: Plan, pipeline: Pipeline, only: str | None = None) -> tuple[Plan, list[Fix]]:
    """The plan after the best fixes, taken one by one as long as each leaves fewer warnings."""
    taken: list[Fix] = []
    while len(taken) < MOST_FIXES:
        derived = pipeline.derive(plan)
        results = measure_all(derived)
        found = _next_step(derived, results, pipeline, only)
        if found is None:
            break
        plan, fix = found
        taken.append(fix)
    return plan, taken


def _next_step(
    derived: Derived, results: list[Result], pipeline: Pipeline, only: str | None
) -> tuple[Plan, Fix] | None:
    warnings = [r for r in results if r.level == "warning"]
    for warning in warnings:
        if only is not None and warning.check != only:
            continue
        for fix in with_fixes(warning, results, derived, pipeline).fixes:
            plan = fix.edit.apply(derived.plan)
            then = measure_all(pipeline.derive(plan))
            if sum(r.level == "warning" for r in then) < len(warnings):
                return plan, fix
    return None
