"""What a key is: a decision of the plan by its name, as `region.coat.value`, what it may be, and
the edit that makes it so."""

import math
from collections.abc import Callable, Iterable
from functools import partial
from typing import Any, NamedTuple, TypeAlias

from umber_compass.colour.measured import measure_hex
from umber_compass.plan.edits import Edit, find_region
from umber_compass.plan.model import Plan
from umber_compass.plan.setting import CHOICE, COLOUR, NUMBER, SWITCH, TEXT, WHOLE, Kind
from umber_compass.plan.setting import Setting as Row
from umber_compass.plan.settings import SETTINGS
from umber_compass.words import Refusal, words

Subject: TypeAlias = str  # a region's id, a lamp's name, ... ; empty where a key has none
Subjects: TypeAlias = Callable[[Plan], Iterable[Subject]]
Setting: TypeAlias = str | float | bool | None

_ON, _OFF = ("on", "yes", "true", "1"), ("off", "no", "false", "0")


class Key(NamedTuple):
    """One decision. `name` has the word SUBJECT where what it is about stands."""

    name: str
    kind: Kind
    text: str
    now: Callable[[Plan, Subject], Setting]
    edit: Callable[[Plan, Subject, Any], Edit]

    def said(self, subject: Subject) -> str:
        """The key for one subject."""
        return self.name.replace("SUBJECT", subject)


class Group(NamedTuple):
    """Keys about the same kind of subject, and which subjects a plan has."""

    keys: tuple[Key, ...]
    subject: str  # how it is called in general, as `REGION`; empty where there is none
    subjects: Subjects
    named: Callable[[Plan, str], Subject]  # from what was written to the subject; raises Refusal


def from_table(
    key: str, kind: Kind | None = None, now: Callable[[Plan, Subject], Setting] | None = None
) -> Key:
    """The key of a row of the table of settings; its kind, or what it is now, where those follow
    from more than its record."""
    row = SETTINGS[key]
    name = ".".join("SUBJECT" if part.isupper() else part for part in key.split("."))
    return Key(name, kind or row.kind, row.text, now or row.now, partial(_row_edit, row))


def with_unlisted(groups: tuple[Group, ...]) -> tuple[Group, ...]:
    """The groups with every row of the table of settings: one that none of them names is added to
    the first group of its subject."""
    listed = {key.name for group in groups for key in group.keys}
    found = list(groups)
    for row in SETTINGS:
        made = from_table(row)
        if made.name not in listed:
            subject = next((part for part in row.split(".") if part.isupper()), "")
            at = next(i for i, group in enumerate(found) if group.subject == subject)
            found[at] = found[at]._replace(keys=(*found[at].keys, made))
    return tuple(found)


def _row_edit(row: Row, plan: Plan, of: Subject, value: Any) -> Edit:
    named = find_region(plan, of)
    return row.edit(value, of, of if named is None else named.name)


def setting(kind: Kind, key: str, text: str) -> Setting:
    """What was written, as the key takes it. Raises Refusal if it is none of that."""
    if kind.type in (NUMBER, WHOLE):
        return _number(kind, key, text)
    if kind.type == SWITCH:
        if text.lower() not in _ON + _OFF:
            raise Refusal(key, words("{text} is neither on nor off", text=text[:40]))
        return text.lower() in _ON
    if kind.type == TEXT:
        _must_be_text(key, text)
    if kind.type == COLOUR and text not in kind.choices:
        return measure_hex(text).hex
    if kind.type == CHOICE and text not in kind.choices:
        known = ", ".join(kind.choices)
        raise Refusal(key, words("{text} is no choice; take {known}", text=text[:40], known=known))
    return text


def _number(kind: Kind, key: str, text: str) -> Setting:
    if text in kind.choices:
        return None
    try:
        found = int(text) if kind.type == WHOLE else float(text)
    except ValueError:
        raise Refusal(key, words("{text} is no number", text=text[:40])) from None
    low = -math.inf if kind.low is None else kind.low
    high = math.inf if kind.high is None else kind.high
    if not low <= found <= high or abs(found) == math.inf:
        raise Refusal(
            key,
            words("{text} is not between {low:g} and {high:g}", text=text[:40], low=low, high=high),
        )
    return found


def _must_be_text(key: str, text: str) -> None:
    try:
        text.encode()
    except UnicodeEncodeError as error:
        raise Refusal(key, words("holds bytes that are no text; write it in UTF-8")) from error


def only(plan: Plan, text: str) -> Subject:
    """The subject of keys that have none."""
    return ""
