"""The practices: named sets of rules and habits."""

from collections.abc import Mapping

from umber_compass.plan.practices import general, schools
from umber_compass.plan.practices.practice import Practice, Rule
from umber_compass.registry import registered

PRACTICES: dict[str, Practice] = registered("PRACTICES", general, schools)


def rule_of(practice: str, key: str) -> Rule | None:
    """A practice's rule of this key, or None."""
    return next((r for r in PRACTICES[practice].rules if r.key == key), None)


def numbers_of(practice: str, overrides: Mapping[str, float]) -> dict[str, float]:
    """Every number checks and recipes use: the practice's, or the artist's own."""
    own = {r.key: r.number for r in PRACTICES[practice].rules}
    return {k: overrides.get(k, v) for k, v in own.items()}


__all__ = ["PRACTICES", "Practice", "Rule", "numbers_of", "rule_of"]
