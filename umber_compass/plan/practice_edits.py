"""Changes to the numbers a plan is held against."""

from msgspec.structs import replace

from umber_compass.plan.edits import Edit
from umber_compass.plan.model import Plan
from umber_compass.plan.practices import PRACTICES, rule_of
from umber_compass.words import Refusal, words


def set_practice(name: str) -> Edit:
    """Another practice; numbers that were changed under the old one go. Raises Refusal for a name
    that is unknown."""
    if name not in PRACTICES:
        known = ", ".join(PRACTICES)
        raise Refusal(name, words("is no practice known here; choose {known}", known=known))
    return Edit(
        words("follow the practice {name}", name=name),
        lambda plan: replace(plan, practice=name, overrides={}),
    )


def set_rule(key: str, number: float, title: str) -> Edit:
    """One number of the practice, for this plan, kept within the rule's bounds."""

    def change(plan: Plan) -> Plan:
        rule = rule_of(plan.practice, key)
        if rule is None:
            raise Refusal(key, words("is no rule of the practice {name}", name=plan.practice))
        kept = min(max(number, rule.low), rule.high)
        return replace(plan, overrides={**plan.overrides, key: kept})

    return Edit(
        words("set {title} to {number:g}", title=title, number=number), change, f"rule {key}"
    )


def drop_rules() -> Edit:
    """Every number of the practice back to what the practice says."""
    return Edit(words("restore the practice's numbers"), lambda plan: replace(plan, overrides={}))
