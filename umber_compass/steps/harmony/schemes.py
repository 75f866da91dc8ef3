"""The eight schemes as one table; a scheme that is none of them is called free."""

from collections.abc import Iterable
from typing import NamedTuple, TypeAlias

from umber_compass.plan.model import Scheme
from umber_compass.plan.terms import LeadAt, Slot

Stand: TypeAlias = tuple[float, float]  # wheel degrees from the lead; times the spread beside them


class Needle(NamedTuple):
    """One hue of a scheme: what it does, where it stands, and the share of the picture it should
    hold."""

    slot: Slot
    part: str  # leads, supports or answers
    share: float
    stand: Stand = (0, 0)
    end_led: Stand | None = None  # where it stands if the lead is at the low end

    def at(self, spread: float, lead_at: LeadAt = "middle") -> float:
        """Where it stands from the lead for a spread, both wheel degrees; with the lead at the high
        end as in a mirror."""
        fixed, times = self.stand if lead_at == "middle" else self.end_led or self.stand
        there = fixed + times * spread
        return -there if lead_at == "high" else there


class SchemeSpec(NamedTuple):
    """A harmony as the two choices of its sentence and the needles they make."""

    name: str
    title: str
    supports: str  # the sentence's first choice
    answers: str  # its second
    spread_deg: float  # wheel degrees; 0 where nothing can be spread
    needles: tuple[Needle, ...]


# The choices of a sentence in which nothing supports, and nothing answers; and of a free one.
UNBOUND = ("other hues", "no rule")
ALONE = ("without neighbours", "without an opposite")
# One row is one scheme, a line is one hue; the formatter would make fifteen lines of each.
# fmt: off
_ROWS = (
    # One hue, alive by value and chroma alone.
    SchemeSpec("one-hue", "one hue", ALONE[0], ALONE[1], 0, (
        Needle("A", "leads", 0.75),)),
    # A hue between its two neighbours.
    SchemeSpec("neighbours", "neighbours", "its neighbours", ALONE[1], 30, (
        Needle("A", "leads", 0.5),
        Needle("B", "supports", 0.2, (0, 1)),
        Needle("C", "supports", 0.15, (0, -1), (0, 2)))),
    # A hue and the one across the wheel.
    SchemeSpec("opposites", "opposites", ALONE[0], "the opposite", 0, (
        Needle("A", "leads", 0.65),
        Needle("B", "answers", 0.15, (180, 0)))),
    # A hue with its neighbours, and the one across the wheel.
    SchemeSpec("neighbours-opposite", "neighbours + opposite", "its neighbours", "the opposite",
               30, (
        Needle("A", "leads", 0.45),
        Needle("B", "supports", 0.15, (0, 1)),
        Needle("C", "supports", 0.12, (0, -1), (0, 2)),
        Needle("D", "answers", 0.1, (180, 0), (180, 1)))),
    # A hue and the pair beside its opposite.
    SchemeSpec("split-opposite", "split opposite", ALONE[0], "the split pair", 30, (
        Needle("A", "leads", 0.6),
        Needle("B", "answers", 0.1, (180, -1)),
        Needle("C", "answers", 0.1, (180, 1)))),
    # Three hues a third of the wheel apart.
    SchemeSpec("triad", "triad", ALONE[0], "a triad", 0, (
        Needle("A", "leads", 0.5),
        Needle("B", "answers", 0.15, (120, 0)),
        Needle("C", "answers", 0.15, (240, 0)))),
    # A hue with one neighbour, and the opposites of both.
    SchemeSpec("two-pairs", "two pairs", "one neighbour", "both their opposites", 60, (
        Needle("A", "leads", 0.45),
        Needle("B", "supports", 0.15, (0, 1)),
        Needle("C", "answers", 0.12, (180, 0)),
        Needle("D", "answers", 0.08, (180, 1)))),
    # Four hues a quarter of the wheel apart.
    SchemeSpec("square", "square", ALONE[0], "a square", 0, (
        Needle("A", "leads", 0.45),
        Needle("B", "answers", 0.12, (90, 0)),
        Needle("C", "answers", 0.12, (180, 0)),
        Needle("D", "answers", 0.08, (270, 0)))),
)
# fmt: on
SCHEMES: dict[str, SchemeSpec] = {s.name: s for s in _ROWS}
FREE = "free"
SCHEME_NAMES: tuple[str, ...] = (*SCHEMES, FREE)

_SLOTS: tuple[Slot, ...] = ("B", "C", "D")
_LEADS, _REST = 0.5, 0.12  # shares of a free scheme
_SUPPORTS = 60.0  # wheel degrees from the lead, up to which its hues support; the rest answer


def spec_of(scheme: Scheme) -> SchemeSpec:
    """The spec of a plan's scheme: one of the eight, or the free one it describes."""
    return free_spec(scheme.offsets) if scheme.name == FREE else SCHEMES[scheme.name]


def free_spec(offsets: Iterable[float]) -> SchemeSpec:
    """The spec of a free scheme, whose hues stand so many wheel degrees from the lead."""
    needles = [Needle("A", "leads", _LEADS)]
    for slot, offset in zip(_SLOTS, offsets, strict=False):
        part = "supports" if min(offset, 360 - offset) <= _SUPPORTS else "answers"
        needles.append(Needle(slot, part, _REST, (offset, 0)))
    return SchemeSpec(FREE, FREE, *UNBOUND, 0, tuple(needles))
