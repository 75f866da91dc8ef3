"""Every decision of a plan by name, over the same edits that the window makes."""

from collections.abc import Iterator

from umber_compass.plan.edits import Edit
from umber_compass.plan.model import Plan
from umber_compass.plan.practices import rule_of
from umber_compass.plan.setting import NUMBER, Kind
from umber_compass.steps.keys.key import Group, Key, Setting, setting, with_unlisted
from umber_compass.steps.keys.piece import LAMPS, PIECE, POOLS, RIG, RULES, SHARES, SLOTS
from umber_compass.steps.keys.regions import REGIONS
from umber_compass.steps.keys.scene import SCENE, THING, THINGS
from umber_compass.steps.keys.wishes import FOCUS, WISHES
from umber_compass.words import Refusal, words

_LISTED = (
    PIECE, RULES, SHARES, SLOTS, FOCUS, WISHES, REGIONS, RIG, LAMPS, POOLS, SCENE, THINGS,
)  # fmt: skip
# A row of the table of settings that no group names stands behind the first group of its kind.
GROUPS: tuple[Group, ...] = with_unlisted(_LISTED)


def edit_from(plan: Plan, text: str) -> Edit:
    """The edit that `KEY=VALUE` asks of a plan. Raises Refusal if there is no such key, or it does
    not take that."""
    name, equals, written = text.partition("=")
    if not equals:
        raise Refusal(text[:60], words("is not KEY=VALUE; set --keys lists the keys"))
    group, key, subject = _found(plan, name)
    kind = kind_of(plan, key, subject) if group is RULES else key.kind
    return key.edit(plan, subject, setting(kind, name[:60], written))


def _found(plan: Plan, name: str) -> tuple[Group, Key, str]:
    for group in GROUPS:
        for key in group.keys:
            before, _, after = key.name.partition("SUBJECT")
            if name == key.name and not group.subject:
                return group, key, ""
            long_enough = len(name) > len(before) + len(after)
            if group.subject and long_enough and name.startswith(before) and name.endswith(after):
                return group, key, group.named(plan, name[len(before) : len(name) - len(after)])
    raise Refusal(name[:60], words("is no key; set --keys lists them"))


def kind_of(plan: Plan, key: Key, subject: str) -> Kind:
    """What a key may be for one subject: a rule brings its own unit and range."""
    if key not in RULES.keys:
        return key.kind
    rule = rule_of(plan.practice, subject)
    assert rule is not None  # subjects are the practice's own
    return Kind(NUMBER, rule.unit, rule.low, rule.high)


def keys_of(plan: Plan) -> Iterator[tuple[str, Kind, Setting, str]]:
    """Every key of a plan: its name, what it may be, what it is now, what it is about."""
    for group in GROUPS:
        for subject in group.subjects(plan):
            for key in group.keys:
                yield (
                    key.said(subject),
                    kind_of(plan, key, subject),
                    key.now(plan, subject),
                    key.text,
                )


def keys_in_general() -> Iterator[tuple[str, Kind, str]]:
    """Every key with a word for what it is about, what it may be, and what it is about."""
    for group in GROUPS:
        for key in group.keys:
            yield key.said(group.subject), key.kind, key.text


__all__ = [
    "GROUPS",
    "THING",
    "Group",
    "Key",
    "Kind",
    "Setting",
    "edit_from",
    "keys_in_general",
    "keys_of",
]
