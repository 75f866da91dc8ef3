"""The checks of a plan run on a painting: as if each region were planned as it is painted."""

from collections.abc import Sequence

from umber_compass.steps.checks import LEVELS, Result
from umber_compass.steps.checks.judging import measure_all
from umber_compass.steps.painting.accepting import accept
from umber_compass.steps.painting.comparing import Drift
from umber_compass.steps.pipeline import Derived
from umber_compass.work import Tick, idle

_STEPS = ("harmony", "values", "focus", "light")  # whose checks speak of what is painted


def worse_checks(derived: Derived, drifts: Sequence[Drift], tick: Tick = idle) -> list[Result]:
    """What checks say of a painting that they do not say of its plan, or say more loudly, worst
    first. `derived` is thought through; regions that are not painted yet stay as planned."""
    from umber_compass.steps.checks import CHECKS

    moved = [d for d in drifts if d.drifted]
    if not moved:
        return []
    after = derived.of(accept(moved, {}).apply(derived.plan), aside=True).think(tick)
    was = {r.key: LEVELS.index(r.level) for r in measure_all(derived)}
    tick(-1.0)
    return [
        r
        for r in measure_all(after)
        if CHECKS[r.check].step in _STEPS and LEVELS.index(r.level) > was.get(r.key, 0)
    ]
