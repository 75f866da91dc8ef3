"""What the focus checks share: fixes of region colours, solved and measured in turn."""

from collections.abc import Callable

from umber_compass.colour.spaces import Floats, hue_distance
from umber_compass.plan.edits import Edit
from umber_compass.steps.checks.check import Fix, listed, names
from umber_compass.steps.checks.shifting import lighten_or_darken
from umber_compass.steps.harmony.shifts import Shifts, all_shifts
from umber_compass.steps.mending.focus import until
from umber_compass.steps.mending.scene import Scene
from umber_compass.steps.pipeline import Derived
from umber_compass.words import Words, words

_HUE_SHOWN, _CHROMA_SHOWN, _VALUE_SHOWN = 4.0, 0.008, 1.0  # changes that are named on a button
_CHROMATIC = 0.02


def fix_until(
    derived: Derived,
    kind: str,
    step: Callable[[Scene], Floats | None],
    good: Callable[[Derived], bool],
) -> list[Fix]:
    """The fix of a kind that makes a picture good, in a list; or none."""
    taken = until(derived, step, good)
    if taken is None:
        return []
    change = all_shifts(taken)
    text = _said(derived, derived.of(change(derived.plan)), taken)
    return [Fix(kind, text, Edit(text, change))]


def _said(derived: Derived, after: Derived, taken: list[Shifts]) -> Words:
    named, regions = names(derived), list(dict.fromkeys(r for shifts in taken for r in shifts))
    if len(regions) > 1:
        return words("Change {which}", which=listed([named[r] for r in regions]))
    name, before, now = named[regions[0]], derived.colours[regions[0]], after.colours[regions[0]]
    value, chroma = now.mean_value, now.first.chroma
    lighter, stronger = value - before.mean_value, chroma - before.first.chroma
    if abs(lighter) >= _VALUE_SHOWN and abs(stronger) < _CHROMA_SHOWN:
        return lighten_or_darken(name, lighter, value)
    if abs(lighter) < _VALUE_SHOWN and abs(stronger) >= _CHROMA_SHOWN:
        text = (
            "Strengthen {name} to chroma {c:.2f}"
            if stronger > 0
            else "Quieten {name} to chroma {c:.2f}"
        )
        return words(text, name=name, c=chroma)
    turn = _turn(before.first.hue, now.first.hue)
    if abs(lighter) < _VALUE_SHOWN and abs(turn) >= _HUE_SHOWN and chroma >= _CHROMATIC:
        return words("Turn {name} {turn:+.0f}°", name=name, turn=turn)
    text = (
        "Strengthen {name}: value {v:.0f}, chroma {c:.2f}"
        if stronger > 0
        else "Mute {name}: value {v:.0f}, chroma {c:.2f}"
    )
    return words(text, name=name, v=value, c=chroma)


def _turn(before: float | None, now: float | None) -> float:
    return 0.0 if before is None or now is None else float(hue_distance(before, now))
