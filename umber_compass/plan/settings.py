"""The table of settings: each is one row, which says where it is kept in the plan, what the step is
called that changes it, and its words, unit and field. Its type, its range and the edit that sets it
follow from the record it is kept in. A new setting is a new row.

`at` is a path in the plan: `study` is the study shown, `[]` the part that the setting is of, by id,
name or key.
"""

from collections.abc import Callable, Mapping
from functools import cache
from typing import Annotated, Any, Literal, NamedTuple, TypeAlias, Union, get_args, get_origin
from typing import get_type_hints as hints

from msgspec.structs import replace

from umber_compass.plan.edits import Edit, study
from umber_compass.plan.model import Plan, Ramp, Rig, Shading, Study, Variation
from umber_compass.plan.ramp_edits import FIRST
from umber_compass.plan.ranges import bounded
from umber_compass.plan.study_edits import find_study
from umber_compass.plan.terms import Hex, Use
from umber_compass.plan.uses import USES
from umber_compass.words import Refusal, Words, words

NUMBER, WHOLE, TEXT, CHOICE, COLOUR, SWITCH = (
    "number",
    "whole",
    "text",
    "choice",
    "colour",
    "switch",
)
LEAST_SPREAD, MOST_SPREAD = 5.0, 90.0  # wheel degrees
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
    return _get(inner, path[1:], of) if path[1:] else inner


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
        return Kind(COLOUR if annotation is Hex else TEXT)
    return Kind(WHOLE if kind is int else NUMBER, "", meta.ge, meta.le)


def _use(use: Use) -> Words:
    title = USES[use].title if use else "nothing in particular"
    return words("plan it for {use}", use=title.lower())


def _budget(most: int | None) -> Words:
    if most is None:
        return words("set no colour budget")
    return words("allow {most} colours", most=most)


_LIT = (("study.rig.on", True),)
_SIZE = (("brief.width_cm", None), ("brief.distance_cm", None))
_VERDICTS = {"kept": "keep the study", "rejected": "reject the study", "": "take a verdict back"}
_SHADING_HUE = {
    "kept": "let shading that keeps its hue",
    "cool-warm": "let shading that cools and warms",
    "rig": "let shading that follows the lamps",
}

# One row is one setting; the formatter would make ten lines of each.
# fmt: off
_ROWS = (
    Setting("title", "title", "title the plan {n}", "the plan’s title", line=True),
    Setting("purpose", "purpose", "say what it is for", "what the piece is for", line=True),
    Setting("budget", "budget", _budget, "how many colours the piece may use", "colours",
            Field("Colour budget", "How many colours the piece may use; over it, a check proposes"
                  " merges. 0 is any number.", " colours"), none="none"),
    Setting("brief.use", "brief.use", _use, "what the piece is for", none="none", also=_SIZE),
    Setting("brief.width", "brief.width_cm", "set the width of the piece",
            "how wide the piece will be", "cm",
            Field("Width of the piece", "How wide it is printed or shown.", " cm", 1, 1), "usual"),
    Setting("brief.distance", "brief.distance_cm", "set how far off it is seen",
            "from how far it will be seen", "cm",
            Field("Seen from", "How far the eye is from it.", " cm", 5), "usual"),
    Setting("brief.notes", "brief.notes", "note in the brief", "what else was agreed"),

    Setting("first.key", "first.key", "deal first values by {n}", "how first colours deal values"),
    Setting("first.values", "first.values", "{n} values in first colours",
            "whether first colours keep the drawing’s values: kept, order, free, or auto"),
    Setting("first.scheme", "first.scheme", "take first colours’ scheme: {n}",
            "whether first colours choose a scheme or take the one on the wheel"),
    Setting("first.skin", "first.skin", "propose {n} skin",
            "the skin tone that all first colours have"),
    Setting("first.strength", "first.strength", "propose colours of strength {n:.0%}",
            "how strong first colours are", "times the usual chroma",
            Field("Strength of first colours", "Quiet under 100 %, strong over it.", " %", 10,
                  times=100)),
    Setting("first.warm", "first.warm", "wish first colours warm",
            "how much of first colours should be warm", "of what has colour, 0-1",
            Field("Warm colours", "How much of what has colour should be warm.", " %", 10,
                  times=100), "any"),
    Setting("first.seed", "first.seed", "try others", "which of many proposals are shown"),

    Setting("study.title", "study.title", "call the study {n}", "the shown study’s title",
            line=True),
    Setting("study.note", "study.note", "note on a study", "what is written of the shown study"),
    Setting("study.verdict", "study.verdict", _VERDICTS,
            "whether the shown study is kept or rejected", none="none"),
    Setting("study.reason", "study.reason", "say why of a study",
            "why the shown study is kept or rejected", line=True),
    Setting("shading.on", "study.shading.on",
            {True: "keep your shading", False: "leave your shading out"},
            "whether the sketch’s own shading is kept"),
    Setting("shading.strength", "study.shading.strength", "set your shading to {n:.0f} %",
            "how strong it is", "% of the sketch’s",
            Field("Strength of your shading", "Softer under 100 %, stronger over it.", " %", 5)),
    Setting("shading.hue", "study.shading.hue", _SHADING_HUE, "what hue does in shade and light"),
    Setting("shading.beside", "study.shading.beside",
            {True: "shade added to the forms", False: "shade instead of forms"},
            "whether it is added to the forms, or stands for them"),

    Setting("scheme.spread", "study.scheme.spread_deg", "spread the scheme {n:.0f}°",
            "how far the hues that support or answer are spread", "° on the wheel",
            Field("Spread, wheel degrees",
                  "How far the neighbours, or the halves of a split opposite, stand apart.", "°"),
            also=(("study.scheme.chosen", True),), low=LEAST_SPREAD, high=MOST_SPREAD),
    Setting("share.SLOT", "study.scheme.shares[]", "wish {name} a share of {n:.0%}",
            "how much of the picture a slot should hold", "of the picture, 0-1",
            Field("Wished share of {s}", "How much of the picture its colours should hold.", " %",
                  times=100)),
    Setting("slot.SLOT.chroma", "study.scheme.chroma[]", "bring {name}’s chroma to {n:.0%}",
            "how strong a slot’s colours are", "times as planned",
            Field("Chroma of {s}", "How strong its colours are, of what each is planned with.",
                  " %", 5, times=100)),
    Setting("slot.SLOT.arc", "study.scheme.arcs[]", "let {name} stray by {n:.0f}°",
            "half the arc a slot’s colours may stray in", "° OKLCh",
            Field("Half arc of {s}, OKLCh degrees",
                  "How far its colours may stray from its hue, to either side.", "°"),
            also=(("study.scheme.chosen", True),)),

    Setting("region.REGION.name", "regions[].name", "name a region {n}", "its name", line=True,
            also=(("regions[].named", True),)),
    Setting("region.REGION.role", "regions[].role", "make {name} {n}",
            "what part it plays"),
    Setting("region.REGION.material", "regions[].material", "make {name} {n}",
            "what its surface is"),
    Setting("region.REGION.form", "regions[].form", "light {name} as {n}",
            "the form it is lit as", also=(("regions[].shares_form_with", None),)),
    Setting("region.REGION.front", "regions[].front", "move {name} forward or back",
            "its place from back to front, or auto", "from the back", none="auto"),
    Setting("region.REGION.recipe", "study.recipes[].recipe", "{n} steps for {name}",
            "how its steps are made"),
    Setting("region.REGION.darker", "study.recipes[].darker", "darker steps for {name}",
            "how many darker steps it has", "steps",
            Field("Darker steps", "Shade colours below the local colour.")),
    Setting("region.REGION.lighter", "study.recipes[].lighter", "lighter steps for {name}",
            "how many lighter steps it has", "steps",
            Field("Lighter steps", "Light colours above the local colour.")),
    Setting("region.REGION.degrees", "study.recipes[].degrees", "turn the steps of {name}",
            "how far a step turns, or auto for the practice’s number", "° a step",
            Field("Turn a step, degrees",
                  "How far each step’s hue turns: darker to the cool side, lighter to the warm.",
                  "°"), "auto"),

    Setting("region.REGION.vary", "study.variations[].strength", "vary {name} by {n:.0%}",
            "how much a second and a third colour near its own vary it, in soft patches", "0-2"),
    Setting("region.REGION.vary-seed", "study.variations[].seed", "other patches for {name}",
            "where those patches lie"),

    Setting("light.on", "study.rig.on", {True: "turn the light on", False: "turn the light off"},
            "whether the picture is lit"),
    Setting("light.anchor", "study.rig.anchor", "hold the {n} to the planned value",
            "what the exposure holds to the planned values", also=_LIT),
    Setting("ambient.colour", "study.rig.ambient.hex", "colour ambient {n}",
            "the ambient light’s colour", also=_LIT),
    Setting("ambient.strength", "study.rig.ambient.strength", "set ambient to {n:.0f} %",
            "how strong the ambient light is", "%", also=_LIT),
    Setting("ambient.on", "study.rig.ambient.on",
            {True: "switch ambient on", False: "switch ambient off"},
            "whether the ambient light is on", also=_LIT),
    Setting("terminator.colour", "study.rig.terminator.hex", "colour terminator {n}",
            "the tint where light turns", also=_LIT),
    Setting("terminator.strength", "study.rig.terminator.strength",
            "set terminator to {n:.0f} %", "how strong that tint is", "%", also=_LIT),
    Setting("crevice", "study.rig.crevice", "set crevices to {n:.0f} %",
            "how much closeness takes of the ambient light", "%", also=_LIT),
    Setting("lamp.LAMP.colour", "study.rig.lamps[].hex", "colour {name} {n}",
            "the lamp’s colour", also=_LIT),
    Setting("lamp.LAMP.strength", "study.rig.lamps[].strength", "set {name} to {n:.0f} %",
            "how strong it is", "%", also=_LIT),
    Setting("lamp.LAMP.softness", "study.rig.lamps[].softness", "soften the {name} to {n:.0%}",
            "how wide its light turns to shadow", "0-1",
            Field("Softness",
                  "0 is a hard sun, 100 an overcast sky: how far light reaches round forms.",
                  " %", 5, times=100), also=_LIT),
    Setting("lamp.LAMP.on", "study.rig.lamps[].on",
            {True: "switch {name} on", False: "switch {name} off"}, "whether it is on", also=_LIT),
)
# fmt: on
SETTINGS: dict[str, Setting] = {s.key: s for s in _ROWS}


def change_setting(key: str, value: Any, of: str = "", name: str = "") -> Edit:
    """The edit that sets a setting of the table, of a part of the plan by its id, and called so."""
    return SETTINGS[key].edit(value, of, name)
