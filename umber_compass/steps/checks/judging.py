"""All checks of a plan, worst first; fixes ranked by what they change and what they break."""

from collections.abc import Callable, Mapping
from typing import TypeAlias

from umber_compass.plan.model import Plan
from umber_compass.steps.checks import CHECKS, LEVELS, CheckSpec, Fix, Result
from umber_compass.steps.checks.check import Key
from umber_compass.steps.followed import Followed
from umber_compass.steps.mending.balance import change
from umber_compass.steps.pipeline import Derived, Pipeline
from umber_compass.words import words
from umber_compass.work import Tick, idle

MOST_FIXES = 50
_MOST_TIMES = 2.5  # of a move that was found to be enough
_STEP, _FINE = 2.0, 0.4  # L*: the first step down; within which the least move is found
_MORE = 8  # times a little more, at most
_NONE: Mapping[Key, Result] = {}
# What a fix costs beside its change of colour (area-weighted OKLab x 100); docs/engine.md.
_NEW_WARNING, _NOTE_TO_WARNING, _NEW_NOTE = 3.0, 1.5, 0.5


def _untold(result: Result) -> None:
    """What is told to nobody."""


def measure_all(derived: Derived) -> list[Result]:
    """Every check's results without fixes, worst first. What the eye meets first is left out where
    that is not known."""
    return worst_first([r for check in known_checks(derived) for r in check.results(derived)])


def known_checks(derived: Derived) -> list[CheckSpec]:
    """The checks that can be measured: those that need what the eye meets first only where that is
    known."""
    known = derived.attention is not None
    return [c for c in CHECKS.values() if known or not c.looks]


class Measuring:
    """Measures checks of one plan after another: a check is measured anew only where something that
    it reads is another."""

    def __init__(self) -> None:
        self._read: dict[str, Followed] = {}
        self._found: dict[str, list[Result]] = {}

    def of(self, check: CheckSpec, derived: Derived) -> list[Result]:
        """A check's results for a plan."""
        read = self._read.setdefault(check.name, Followed())
        if read.is_behind(derived):
            self._found[check.name] = check.results(read.reader(derived))
        return self._found[check.name]

    def all(self, derived: Derived) -> list[Result]:
        """Every check's results without fixes, worst first, as `measure_all` gives them."""
        return worst_first([r for c in known_checks(derived) for r in self.of(c, derived)])


def worst_first(found: list[Result]) -> list[Result]:
    """Results in the order they are shown in."""
    return sorted(found, key=lambda r: (-LEVELS.index(r.level), r.rank, -_excess(r)))


def _excess(result: Result) -> float:
    """How far from its wish, as a share of the wish, so that unlike units can be ordered."""
    return abs(result.measured - result.wanted) / max(abs(result.wanted), 10.0)


def judge(
    derived: Derived,
    tick: Tick = idle,
    step: str | None = None,
    tell: Callable[[Result], object] = _untold,
    known: Mapping[Key, Result] = _NONE,
) -> list[Result]:
    """Every check's results, with the fixes of notes and warnings, best first; of all of them, or
    of those that one step shows. Each that has fixes is told as it is found, worst first; those
    that are known of this very plan, by their key, are not worked out again."""
    derived = derived.of(derived.plan).think(tick)
    results, found = measure_all(derived), []
    aside = derived.of(derived.plan, aside=True)
    for i, result in enumerate(results):
        tick(i / len(results))
        if result.level == "fine" or step not in (None, CHECKS[result.check].step):
            found.append(result)
        elif result.key in known:
            found.append(known[result.key])
        else:
            found.append(with_fixes(result, results, aside, tick))
            tell(found[-1])
    return found


def with_fixes(
    result: Result,
    results: list[Result],
    derived: Derived,
    tick: Tick = idle,
) -> Result:
    """A result with its fixes: each measured in full on the plan it would make; those that do not
    reach the wish are left out."""
    # Not for a start: fixes are looked for when the hand rests.
    from umber_compass.steps.checks.refused import is_refused

    scored = []
    spec = CHECKS[result.check]
    for candidate in spec.candidates(derived, result):
        tick(-1.0)  # no share, but a chance to stop
        found = _least(candidate, result, derived, tick)
        if found is None:
            continue
        fix, after = found
        if is_refused(derived, after, result, fix):
            continue
        then = measure_all(after.think(tick))
        if _still_bad(result, then):
            continue
        worse = (*_new_warnings(results, then), *_worse(results, then))
        cost = change(derived, after) + _broken(results, then)
        scored.append((cost, fix._replace(adds=tuple(r.title for r in worse))))
    scored.sort(key=lambda s: s[0])
    said: dict[str, Fix] = {}  # each text once, by the fix that costs least
    for _, fix in scored:
        said.setdefault(str(fix.text), fix)
    fixes = list(said.values())
    if fixes and derived.lit is not None:
        fixes[0] = _exactly(fixes[0], result, derived, tick)
    return result._replace(
        fixes=tuple(_named(f) for f in fixes),
        stuck=spec.mends and not fixes and bool(result.regions),
    )


_Tried: TypeAlias = tuple[Fix, Derived]


class _Trying:
    """Tries fixes of one result on the plan they would make, by its own check alone."""

    def __init__(self, result: Result, derived: Derived, tick: Tick) -> None:
        self._result, self._derived, self._tick = result, derived, tick
        self._check = CHECKS[result.check]

    def made(self, fix: Fix) -> Derived:
        """What a fix would make."""
        self._tick(-1.0)
        after = self._derived.of(fix.edit.apply(self._derived.plan))
        return after.think(self._tick) if self._check.looks else after

    def left(self, after: Derived) -> Result | None:
        """What is still wrong after a fix; None where nothing is."""
        same = [r for r in self._check.results(after) if r.key == self._result.key]
        return next((r for r in same if r.level != "fine"), None)


def _least(fix: Fix, result: Result, derived: Derived, tick: Tick) -> _Tried | None:
    """A fix at the least of its move that reaches its wish in full measure; None where it does not.
    In a light the exposure shifts with what is moved, so what was found to need so much may need
    more or less."""
    trying = _Trying(result, derived, tick)
    after = trying.made(fix)
    reaches = trying.left(after) is None
    if fix.at is None or derived.lit is None:
        return (fix, after) if reaches else None
    found, low, high = (fix, after), 0.0, 1.0
    while not reaches and high < _MOST_TIMES:
        low, high = high, high * 1.4
        found = fix.at(high), trying.made(fix.at(high))
        reaches = trying.left(found[1]) is None
    if not reaches:
        return None
    # What was found without the light is mostly near: down from it in growing steps, then halving.
    step, fine = _STEP / fix.move, _FINE / fix.move
    while high - low > fine * 1.01:
        middle = max(high - step, low) if step else (low + high) / 2
        if middle <= low:
            middle = (low + high) / 2
        closer = fix.at(middle), trying.made(fix.at(middle))
        if trying.left(closer[1]) is not None:
            low, step = middle, 0.0
        else:
            high, found, step = middle, closer, step * 2
    return found


def _exactly(fix: Fix, result: Result, derived: Derived, tick: Tick) -> Fix:
    """A fix that reaches its wish on the exact picture too, and not only on that of a drag: a
    little more of its move, where that is needed and helps."""
    if fix.at is None or not fix.move:
        return fix
    check, base = CHECKS[result.check], fix.at(1.0).move
    for more in range(_MORE + 1):
        times = fix.move / base + more * _FINE / base
        one = fix.at(times)._replace(adds=fix.adds)
        after = derived.of(one.edit.apply(derived.plan))
        if after.lit is None or not _still_bad(result, check.results(after.exactly(tick))):
            return one
    return fix


def _worse(before: list[Result], then: list[Result]) -> list[Result]:
    """Warnings that stood before and are more than a tenth further from their wish."""
    was = {r.key: abs(r.measured - r.wanted) for r in before if r.level == "warning"}
    return [
        r._replace(title=words("{title} the more", title=str(r.title)))
        for r in then
        if r.level == "warning" and r.key in was and _off(r) > 1.1 * was[r.key] + 1e-9
    ]


def _off(result: Result) -> float:
    return abs(result.measured - result.wanted)


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


def mend(plan: Plan, pipeline: Pipeline, only: str | None = None) -> tuple[Plan, list[Fix]]:
    """The plan after the best fixes, taken one by one as long as each leaves fewer warnings."""
    taken: list[Fix] = []
    while len(taken) < MOST_FIXES:
        derived = pipeline.derive(plan).think()
        results = measure_all(derived)
        found = _next_step(derived, results, only)
        if found is None:
            break
        plan, fix = found
        taken.append(fix)
    return plan, taken


def _next_step(
    derived: Derived, results: list[Result], only: str | None
) -> tuple[Plan, Fix] | None:
    warnings = [r for r in results if r.level == "warning"]
    for warning in warnings:
        if only is not None and warning.check != only:
            continue
        for fix in with_fixes(warning, results, derived).fixes:
            plan = fix.edit.apply(derived.plan)
            then = measure_all(derived.of(plan).think())
            if sum(r.level == "warning" for r in then) < len(warnings):
                return plan, fix
    return None
