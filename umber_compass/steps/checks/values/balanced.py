"""Fixes by balance: the least movement that meets one demand and keeps those that are met."""

from umber_compass.plan.edits import Edit
from umber_compass.steps.checks.spec import Fix, Result, names
from umber_compass.steps.harmony.edits import shift_values
from umber_compass.steps.pipeline import Derived
from umber_compass.steps.values.balance import Balance, balance
from umber_compass.words import Words, words


def balanced(derived: Derived, result: Result, *demands: str) -> list[Fix]:
    """The fix that meets some demands by moving values, and the one that balances everything."""
    found = [("least", balance(derived, frozenset(demands))), ("balance", balance(derived))]
    fixes = [_fix(derived, kind, made) for kind, made in found if made.moved]
    return fixes[:1] if len(fixes) > 1 and found[0][1].moved == found[1][1].moved else fixes


def _fix(derived: Derived, kind: str, made: Balance) -> Fix:
    by = {m.region: m.after - m.before for m in made.moved}

    def at(times: float) -> Fix:
        return _scaled(derived, kind, made, by, times)

    return at(1.0)._replace(at=at)


def _scaled(derived: Derived, kind: str, made: Balance, by: dict[str, float], times: float) -> Fix:
    text = _said(derived, kind, made, by, times)
    moved = {r: b * times for r, b in by.items()}
    return Fix(
        f"{kind}-{len(by)}",
        text,
        Edit(text, shift_values(moved)),
        at=lambda more: _scaled(derived, kind, made, by, more),
        move=max(map(abs, moved.values())),
    )


def _said(derived: Derived, kind: str, made: Balance, by: dict[str, float], times: float) -> Words:
    if len(by) > 1:
        text = "Balance values" if kind == "balance" else "Move {count} values"
        return words(text, count=len(by))
    region, move = next(iter(by.items()))
    to = derived.colours[region].mean_value + move * times
    text = "Lighten {name} to {v:.0f}" if move > 0 else "Darken {name} to {v:.0f}"
    return words(text, name=names(derived)[region], v=to)
