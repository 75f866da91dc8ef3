"""Keys about the piece: title, purpose, practice, study, scheme and shares."""

from umber_compass.colour.wheels import WHEELS
from umber_compass.plan.edits import study
from umber_compass.plan.harmony_edits import (
    LEAST_SPREAD,
    MOST_SPREAD,
    set_arc,
    set_slot_chroma,
    set_spread,
    set_wished_share,
    turn_lead,
)
from umber_compass.plan.model import Plan
from umber_compass.plan.moods import MOODS
from umber_compass.plan.palette_edits import MOST_COLOURS, set_budget
from umber_compass.plan.practice_edits import set_practice, set_rule
from umber_compass.plan.practices import PRACTICES, numbers_of, rule_of
from umber_compass.plan.sketch_edits import set_purpose, set_title
from umber_compass.plan.study_edits import (
    choose_study,
    judge_study,
    name_study,
    note_study,
    reason_study,
    set_mood,
)
from umber_compass.plan.terms import HalfArc, Share, Slot, Times
from umber_compass.steps.harmony.scheme import wished_shares
from umber_compass.steps.harmony.scheme_edits import choose_scheme, choose_wheel
from umber_compass.steps.harmony.schemes import SCHEME_NAMES
from umber_compass.steps.keys.spec import (
    CHOICE,
    NUMBER,
    TEXT,
    WHOLE,
    Group,
    Key,
    Kind,
    number,
    only,
)
from umber_compass.words import Refusal, words

_NONE = "none"


def _mood(plan: Plan) -> str:
    mood = study(plan).mood
    return _NONE if mood is None else mood.name


def _rule_named(plan: Plan, text: str) -> str:
    if rule_of(plan.practice, text) is None:
        raise Refusal(f"rule.{text}"[:60], words("is no rule of the practice {p}", p=plan.practice))
    return text


def _slot_named(plan: Plan, text: str) -> Slot:
    slots = wished_shares(study(plan).scheme)
    for slot in slots:
        if slot == text:
            return slot
    raise Refusal(f"share.{text}"[:60], words("is no slot; take {k}", k=", ".join(slots)))


def _arc(plan: Plan, slot: str) -> float:
    usual = numbers_of(plan.practice, plan.overrides)["hue-off-scheme.arc"]
    return study(plan).scheme.arcs.get(_slot_named(plan, slot), usual)


def _level(plan: Plan, slot: str) -> float:
    return study(plan).scheme.chroma.get(_slot_named(plan, slot), 1.0)


PIECE = Group(
    (
        Key(
            "title",
            Kind(TEXT),
            "the plan’s title",
            lambda p, _: p.title,
            lambda p, _, x: set_title(x),
        ),
        Key(
            "purpose",
            Kind(TEXT),
            "what the piece is for",
            lambda p, _: p.purpose,
            lambda p, _, x: set_purpose(x),
        ),
        Key(
            "practice",
            Kind(CHOICE, choices=tuple(PRACTICES)),
            "whose numbers the checks hold to",
            lambda p, _: p.practice,
            lambda p, _, x: set_practice(x),
        ),
        Key(
            "study.current",
            Kind(TEXT),
            "the colour version that is shown, by id",
            lambda p, _: p.current_study,
            lambda p, _, x: choose_study(p, x),
        ),
        Key(
            "study.title",
            Kind(TEXT),
            "the shown study’s title",
            lambda p, _: study(p).title,
            lambda p, _, x: name_study(p.current_study, x),
        ),
        Key(
            "study.note",
            Kind(TEXT),
            "what is written of the shown study",
            lambda p, _: study(p).note,
            lambda p, _, x: note_study(p.current_study, x),
        ),
        Key(
            "study.verdict",
            Kind(CHOICE, choices=("kept", "rejected", _NONE)),
            "whether the shown study is kept or rejected",
            lambda p, _: study(p).verdict or _NONE,
            lambda p, _, x: judge_study(p.current_study, "" if x == _NONE else x),
        ),
        Key(
            "study.reason",
            Kind(TEXT),
            "why the shown study is kept or rejected",
            lambda p, _: study(p).reason,
            lambda p, _, x: reason_study(p.current_study, x),
        ),
        Key(
            "study.mood",
            Kind(CHOICE, choices=(_NONE, *MOODS)),
            "the mood the shown study is held to",
            lambda p, _: _mood(p),
            lambda p, _, x: set_mood(None if x == _NONE else x),
        ),
        Key(
            "budget",
            Kind(WHOLE, "colours", 1, MOST_COLOURS, (_NONE,)),
            "how many colours the piece may use",
            lambda p, _: _NONE if p.budget is None else p.budget,
            lambda p, _, x: set_budget(x),
        ),
        Key(
            "scheme.name",
            Kind(CHOICE, choices=SCHEME_NAMES),
            "which hues lead, support and answer",
            lambda p, _: study(p).scheme.name,
            lambda p, _, x: choose_scheme(x),
        ),
        Key(
            "scheme.wheel",
            Kind(CHOICE, choices=tuple(WHEELS)),
            "the wheel its angles stand on",
            lambda p, _: study(p).scheme.wheel,
            lambda p, _, x: choose_wheel(x),
        ),
        Key(
            "scheme.lead",
            Kind(NUMBER, "° on the wheel", 0, 360),
            "the leading hue",
            lambda p, _: study(p).scheme.lead_deg,
            lambda p, _, x: turn_lead(x),
        ),
        Key(
            "scheme.spread",
            Kind(NUMBER, "° on the wheel", LEAST_SPREAD, MOST_SPREAD),
            "how far the hues that support or answer are spread",
            lambda p, _: study(p).scheme.spread_deg,
            lambda p, _, x: set_spread(x),
        ),
    ),
    "",
    lambda plan: ("",),
    only,
)
RULES = Group(
    (
        Key(
            "rule.SUBJECT",
            Kind(NUMBER),
            "one number of the practice, for this plan",
            lambda p, r: numbers_of(p.practice, p.overrides)[r],
            lambda p, r, x: set_rule(r, x, r),
        ),
    ),
    "RULE",
    lambda plan: (r.key for r in PRACTICES[plan.practice].rules),
    _rule_named,
)
SHARES = Group(
    (
        Key(
            "share.SUBJECT",
            number(Share, "of the picture, 0-1"),
            "how much of the picture a slot should hold",
            lambda p, s: wished_shares(study(p).scheme)[_slot_named(p, s)],
            lambda p, s, x: set_wished_share(_slot_named(p, s), x),
        ),
    ),
    "SLOT",
    lambda plan: wished_shares(study(plan).scheme),
    _slot_named,
)
SLOTS = Group(
    (
        Key(
            "slot.SUBJECT.chroma",
            number(Times, "times as planned"),
            "how strong a slot’s colours are",
            _level,
            lambda p, s, x: set_slot_chroma(_slot_named(p, s), x),
        ),
        Key(
            "slot.SUBJECT.arc",
            number(HalfArc, "° OKLCh"),
            "half the arc a slot’s colours may stray in",
            _arc,
            lambda p, s, x: set_arc(_slot_named(p, s), x),
        ),
    ),
    "SLOT",
    lambda plan: wished_shares(study(plan).scheme),
    _slot_named,
)
