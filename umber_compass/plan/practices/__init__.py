"""The practices: named sets of rules and habits. One file each, listed here."""

from umber_compass.plan.model import Plan
from umber_compass.plan.practices import general
from umber_compass.plan.practices.spec import Practice, Rule

PRACTICES: dict[str, Practice] = {p.name: p for p in (general.PRACTICE,)}


def rules(plan: Plan) -> dict[str, float]:
    """Every number checks and recipes use for this plan: the practice's, or the artist's own."""
    own = {r.key: r.number for r in PRACTICES[plan.practice].rules}
    return {k: plan.overrides.get(k, v) for k, v in own.items()}


__all__ = ["PRACTICES", "Practice", "Rule", "rules"]
