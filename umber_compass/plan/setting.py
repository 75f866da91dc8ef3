"""What a setting is: a row of the table in settings.py. It says where it is kept in the plan, what
the step is called that changes it, and its words, unit and field. Its type, its range and the edit
that sets it follow from the record it is kept in.

`at` is a path in the plan: `study` is the study shown, `[]` the part that the setting is of, by id,
name or key.
"""

from collections.abc import Callable, Mapping
from functools import cache
from typing import Annotated, Any, Literal, NamedTuple, TypeAlias, Union, get_args, get_origin
from typing import get_type_hints as hints

from msgspec.structs import replace

from umber_compass.plan.edits import Edit, study
from umber_compass.plan.model import Plan, Ramp, Shading, Study, Variation
from umber_compass.plan.ramp_edits import FIRST
from umber_compass.plan.ranges import bounded
from umber_compass.plan.rig import Rig
from umber_compass.plan.study_edits import find_study
from umber_compass.plan.terms import Hex
from umber_compass.words import Refusal, Words, words

NUMBER, WHOLE, TEXT, CHOICE, COLOUR, SWITCH = (
    "number",
    "whole",
    "text",
    "choice",
    "colour",
    "switch",
)
_DEFAULTS: dict[type, Any] = {
    Rig: Rig(on=False),
    Shading: Shading(),
    Ramp: FIRST,
    Variation: Variation(),
}

Change: TypeAlias = str | Mapping[Any, str] | Callable[[Any], Words]


class Kind(NamedTuple):
    """What a setting may be: its type, unit, and the ends of its range or its choices."""

    type: str
    unit: str = ""
    low: float | None = None
    high: float | None = None
    choices: tuple[str, ...] = ()

    @property
    def range(self) -> list[float] | list[str] | None:
        """The ends of the range, or the choices."""
        if self.low is not None and self.high is not None:
            return [self.low, self.high]
        return list(self.choices) or None


class Field(NamedTuple):
    """The number field of a setting: its title, what it means in a sentence, its unit, and how
    finely it goes. It shows so many times what is kept."""

    title: str
    says: str
    unit: str = ""
    step: float = 1.0
    places: int = 0
    times: float = 1.0


class Setting(NamedTuple):
    """One setting. A word in capitals in its key stands for the part it is of."""

    key: str
    at: str
    change: Change  # what the step is called: by value where it is no one template
    text: str  # what it is, in a clause
    unit: str = ""
    field: Field | None = None
    none: str = ""  # the word for having no number of its own
    also: tuple[tuple[str, Any], ...] = ()  # what else is set then, by path
    line: bool = False  # whether a text is brought onto one line
    low: float | None = None  # where it is narrower than its record has it
    high: float | None = None

    @property
    def kind(self) -> Kind:
        """Its type, unit and range, as its record has them."""
        found = _kind_of(_annotation(self.at))
        low = found.low if self.low is None else self.low
        high = found.high if self.high is None else self.high
        choices = (self.none, *(c for c in found.choices if c)) if self.none else found.choices
        return Kind(found.type, self.unit, low, high, choices)

    def now(self, plan: Plan, of: str = "") -> Any:
        """What it is now; the word for none where it is none."""
        found = _get(plan, self.at.split("."), of)
        return self.none if self.none and found in (None, "") else found

    def edit(self, value: Any, of: str = "", name: str = "") -> Edit:
        """The edit that sets it, of a part called so: numbers are kept within the range, texts
        within their length. Raises Refusal for no number and for an empty text where there must
        be one, and, when it is made, where the plan has no such part."""
        kind, kept = self.kind, self._kept(value)

        def change(plan: Plan) -> Plan:
            for path, told in ((self.at, kept), *self.also):
                part = "" if "[" in self.at and "[" not in path else of
                plan = _put(plan, path.split("."), part, told)
            return plan

        long = kind.type == TEXT and not self.line
        merge = f"{self.key} {of}" if long or kind.type in (NUMBER, WHOLE) else None
        return Edit(self._words(kept, name or of), change, merge)

    def _kept(self, value: Any) -> Any:
        kind, note = self.kind, _annotation(self.at)
        if value is None or (self.none and value == self.none):
            return "" if kind.type == CHOICE else None
        if kind.type in (NUMBER, WHOLE):
            kept = bounded(Annotated[float, _Range(kind.low, kind.high)], value)
            return int(kept) if kind.type == WHOLE else kept
        if kind.type == TEXT:
            text = (" ".join(value.split()) if self.line else value)[: _longest(note)]
            if not text and _least(note):
                raise Refusal(self.key, words("may not be empty; write something"))
            return text
        return value

    def _words(self, value: Any, name: str) -> Words:
        if callable(self.change):
            return self.change(value)
        text = self.change if isinstance(self.change, str) else self.change[value]
        fields = {"n": value, "name": name}
        return words(text, **{k: v for k, v in fields.items() if "{" + k in text})


class _Range(NamedTuple):
    ge: float | None
    le: float | None


def _get(record: Any, path: list[str], of: str) -> Any:
    """What is kept at a path."""
    inner = _inner(record, path, of)
    return _get(inner, path[1:], of) if path[1:] and inner is not None else inner


def _inner(record: Any, path: list[str], of: str) -> Any:
    """The first part of a path in a record; None where there is none."""
    head = path[0]
    if head == "study":
        whole = not of or any("[" in part for part in path)
        return study(record) if whole else find_study(record, of)
    attribute, indexed, _ = head.partition("[")
    found = getattr(record, attribute)
    made: Any = type(record)
    kind = _stored(_annotations(made)[attribute])
    if not indexed:
        return _DEFAULTS.get(kind) if found is None else found
    if isinstance(found, dict):
        return found.get(of, _DEFAULTS.get(get_args(kind)[1]))
    return next((x for x in found if _key_of(x) == of), None)


def _key_of(record: Any) -> str:
    return str(getattr(record, "id", None) or record.name)


def _put(record: Any, path: list[str], of: str, value: Any) -> Any:
    """The record with another value at a path."""
    head, *rest = path
    inner = _inner(record, path, of)
    if inner is None and rest:
        raise Refusal(of[:60], words("is no part of this plan"))
    new = _put(inner, rest, of, value) if rest else value
    if new is inner:
        return record
    if head == "study":
        studies = (new if s.id == inner.id else s for s in record.studies)
        return replace(record, studies=tuple(studies))
    attribute, indexed, _ = head.partition("[")
    if not indexed:
        return replace(record, **{attribute: new})
    found = getattr(record, attribute)
    if isinstance(found, dict):
        return replace(record, **{attribute: {**found, of: new}})
    return replace(record, **{attribute: tuple(new if x is inner else x for x in found)})


@cache
def _annotations(record: Any) -> dict[str, Any]:
    return hints(record, include_extras=True)


@cache
def _annotation(at: str) -> Any:
    """How the record at the end of a path has what is kept there."""
    kind: Any = Plan
    for head in at.split("."):
        if head == "study":
            kind = Study
            continue
        attribute, indexed, _ = head.partition("[")
        kind = _annotations(_stored(kind))[attribute]
        if indexed:
            kind = next(a for a in get_args(_stored(kind))[::-1] if a is not ...)
    return kind


def _stored(kind: Any) -> Any:
    """A type without its range and without being none."""
    if get_origin(kind) is Annotated:
        return _stored(get_args(kind)[0])
    if get_origin(kind) in (Union, type(int | None)):
        return _stored(next(a for a in get_args(kind) if a is not type(None)))
    return kind


def _meta(kind: Any) -> Any:
    if get_origin(kind) is Annotated:
        return get_args(kind)[1]
    return next((m for a in get_args(kind) if (m := _meta(a)) is not None), None)


def _least(kind: Any) -> int:
    return getattr(_meta(kind), "min_length", None) or 0


def _longest(kind: Any) -> int | None:
    return getattr(_meta(kind), "max_length", None)


def _kind_of(annotation: Any) -> Kind:
    kind, meta = _stored(annotation), _meta(annotation)
    if kind is bool:
        return Kind(SWITCH)
    if get_origin(kind) is Literal:
        return Kind(CHOICE, choices=get_args(kind))
    if kind is str:
        is_hex = any(a is Hex for a in (annotation, *get_args(annotation)))
        return Kind(COLOUR if is_hex else TEXT)
    return Kind(WHOLE if kind is int else NUMBER, "", meta.ge, meta.le)
