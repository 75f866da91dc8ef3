"""What a check says, and what it is made of."""

from collections import defaultdict
from collections.abc import Callable
from typing import Literal, NamedTuple, TypeAlias

from umber_compass.plan.edits import Edit
from umber_compass.plan.practices import numbers_of
from umber_compass.steps.pipeline import Derived
from umber_compass.words import Words

# The numbers of the practice the program starts with, by the check they are for.
_HABITS: defaultdict[str, dict[str, float]] = defaultdict(dict)
for _key, _number in numbers_of("general", {}).items():
    _HABITS[_key.partition(".")[0]][_key] = _number

Level: TypeAlias = Literal["fine", "note", "warning"]
LEVELS: tuple[Level, ...] = ("fine", "note", "warning")


TOGETHER = "all"  # the id of a fix that moves all of something by one amount


class Fix(NamedTuple):
    """A change that a check proposes, and what else it would raise."""

    id: str
    text: Words  # on a button, as `Turn door 24°`
    edit: Edit
    adds: tuple[Words, ...] = ()  # titles of warnings it would bring elsewhere, or make worse
    at: "Callable[[float], Fix] | None" = (
        None  # the same at so many times its move, where it has one
    )
    move: float = 0.0  # L*, the largest it makes


# Places of results among those of one level, before what has none.
WHOLE_PICTURE, BRIEF, SUBJECT, FOCUS, RIVALS, OTHERS = range(6)


Key: TypeAlias = tuple[str, tuple[str, ...]]  # the check, and the regions it speaks of


class Result(NamedTuple):
    """One measurement held against a wish."""

    check: str
    level: Level
    regions: tuple[str, ...]
    measured: float
    wanted: float
    unit: str
    title: Words
    text: Words
    fixes: tuple[Fix, ...] = ()
    stuck: bool = False  # nothing that is free to move mends it
    whole: bool = False  # it is about the picture, whichever regions have a part in it
    damage: bool = False  # the picture is spoiled by it, whatever anyone wished
    rank: int = OTHERS  # among results of one level: what causes others stands before them

    @property
    def key(self) -> Key:
        """What the measurement is about, whatever it came to."""
        return self.check, () if self.whole else self.regions


class CheckSpec(NamedTuple):
    """A check: which step shows it, its measuring, and candidates for mending a result; each
    candidate meets the wish by the smallest change of its kind."""

    name: str
    step: str
    measure: Callable[[Derived], list[Result]]
    candidates: Callable[[Derived, Result], list[Fix]]
    says: str = ""  # in two sentences, what it is about and why it matters
    many: str = ""  # what several of its results are called together, by their `{count}`
    mends: bool = True  # whether it may have fixes at all
    looks: bool = False  # it needs what the eye meets first, which no hand waits for
    coloured: bool = False  # it says nothing of a picture that has no colour yet
    always: bool = False  # it measures only what the artist wished, so it may warn
    wishes: tuple[str, ...] = ()  # those of the wishes of values and focus that it is about

    def results(self, derived: Derived) -> list[Result]:
        """What it says of a plan. It warns where the artist made a wish or took it over with a
        practice, and of damage; a habit of the practice that is not kept is a note. Of a drawing
        on which nothing is planned yet it says nothing."""
        if derived.unpainted or (self.coloured and derived.uncoloured):
            return []
        wished = self.always or self._is_wished(derived)
        return [r if wished or r.damage else _as_habit(r) for r in self.measure(derived)]

    def _is_wished(self, derived: Derived) -> bool:
        """Whether a wish was said, or a number of this check is not that of the practice the
        program starts with."""
        if any(derived.wishes.is_said(name) for name in self.wishes):
            return True
        return any(derived.rules[k] != n for k, n in _HABITS[self.name].items())


def _as_habit(result: Result) -> Result:
    """A result held against a habit, which nobody wished for: a note at most."""
    text = result.text
    said = Words(text.template.replace("wanted ", "usually "), text.fields)
    return result._replace(level="fine" if result.level == "fine" else "note", text=said)


def level_over(measured: float, note: float, warning: float) -> Level:
    """The level of a number that should stay low."""
    return "warning" if measured > warning else "note" if measured > note else "fine"


def level_under(measured: float, note: float, warning: float) -> Level:
    """The level of a number that should stay high."""
    return "warning" if measured < warning else "note" if measured < note else "fine"


def names(derived: Derived) -> dict[str, str]:
    """Region names by id."""
    return {r.id: r.name for r in derived.regions}


def upper(name: str) -> str:
    """A name at the head of a sentence."""
    return name[:1].upper() + name[1:]


def listed(found: list[str]) -> str:
    """Names in a sentence: two, or the first two and how many more."""
    if len(found) == 3:
        return f"{found[0]}, {found[1]} and {found[2]}"
    if len(found) <= 2:
        return " and ".join(found)
    return f"{found[0]}, {found[1]} and {len(found) - 2} more"
