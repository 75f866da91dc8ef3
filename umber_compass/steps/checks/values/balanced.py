"""Fixes by balance: the least movement that meets one constraint and keeps those that are met."""

from umber_compass.steps.checks.check import Fix, Result
from umber_compass.steps.checks.shifting import shifting
from umber_compass.steps.mending.balance import Balance, balance
from umber_compass.steps.pipeline import Derived
from umber_compass.words import words


def balanced(derived: Derived, result: Result, *constraints: str) -> list[Fix]:
    """The fix that meets some constraints by moving values, and the one that balances all."""
    found = [("least", balance(derived, frozenset(constraints))), ("balance", balance(derived))]
    fixes = [_fix(derived, kind, made) for kind, made in found if made.moved]
    return fixes[:1] if len(fixes) > 1 and found[0][1].moved == found[1][1].moved else fixes


def _fix(derived: Derived, kind: str, made: Balance) -> Fix:
    by = {m.region: m.after - m.before for m in made.moved}
    said = (lambda _: words("Balance values")) if kind == "balance" else None
    return shifting(derived, f"{kind}-{len(by)}", by, said)
