"""A quiet palette needs small differences where values are alike, or it goes dead."""

from umber_compass.plan.edits import Edit
from umber_compass.steps.checks.check import CheckSpec, Fix, Result
from umber_compass.steps.harmony.quiet import QUIET, quieten
from umber_compass.steps.pipeline import Derived
from umber_compass.words import words

NAME = "lively"
_AMOUNTS = (0.15, 0.35, 0.6, 1.0)


def _measure(derived: Derived) -> list[Result]:
    now = derived.lively if derived.scheme.chosen and derived.scheme.name in QUIET else None
    if now is None:
        return []
    low, high = derived.rules["lively.low"], derived.rules["lively.high"]
    said = words("{now:.1f} between touching regions of like value", now=now)
    if now < low:
        title = words("The quiet palette is dead")
        return [Result(NAME, "note", (), now, low, "CIEDE2000", title, said, whole=True)]
    if now > high:
        title = words("The palette is not quiet")
        return [Result(NAME, "note", (), now, high, "CIEDE2000", title, said, whole=True)]
    return [Result(NAME, "fine", (), now, low, "CIEDE2000", words("Quiet, and alive"), said)]


def _candidates(derived: Derived, result: Result) -> list[Fix]:
    """A quiet palette in several strengths."""
    found = []
    for i, amount in enumerate(_AMOUNTS):
        edit = quieten(derived.touching, amount)
        text = words("Make a quiet palette, {amount:.0%} lively", amount=amount)
        found.append(Fix(f"quiet-{i}", text, Edit(text, edit.change)))
    return found


_ABOUT = (
    "A palette held together by one hue lives by small differences of chroma and hue where values "
    "are alike. Under the wish it goes dead; over it, it is no longer quiet."
)
CHECK = CheckSpec(NAME, "harmony", _measure, _candidates, _ABOUT, coloured=True)
