"""A study in numbers, to be compared with others."""

from typing import NamedTuple

import numpy as np
from msgspec.structs import replace

from umber_compass.steps.checks.judging import measure_all
from umber_compass.steps.pipeline import Derived
from umber_compass.steps.values.parting import gaps, wanted
from umber_compass.work import Tick, idle


class Figure(NamedTuple):
    """One number of a study."""

    name: str
    title: str
    text: str
    number: float | None
    better: int  # 1: more is better; -1: less; 0: neither


class Numbers(NamedTuple):
    """What is said of a study in numbers."""

    warnings: int
    notes: int
    titles: tuple[str, ...]  # of the warnings, the worst first
    figures: tuple[Figure, ...]

    @property
    def lead(self) -> float | None:
        """How many times as much the focus pulls as the next thing; None without a focus."""
        return next(f.number for f in self.figures if f.name == "lead")

    @property
    def verdict(self) -> str:
        """How many there are to look at, in words."""
        return f"{self.warnings} to look at" if self.warnings else "fine"


def numbers_of(begin: Derived, tick: Tick = idle) -> Numbers:
    """A study in numbers, what the eye meets first included."""
    # Checks speak of the plan's own study, so this one must be it.
    derived = begin.of(replace(begin.plan, current_study=begin.study.id)).think(tick)
    tick(-1.0)
    results = measure_all(derived)
    warned = [r for r in results if r.level == "warning"]
    notes = sum(r.level == "note" for r in results)
    figures = (
        _lead(derived),
        _parting(derived),
        _strong(derived),
        _heat(derived),
        _lively(derived),
        Figure("colours", "colours", f"{derived.needed}", float(derived.needed), 0),
        Figure("look", "to look at", f"{len(warned)}", float(len(warned)), -1),
    )
    return Numbers(len(warned), notes, tuple(str(r.title) for r in warned), figures)


def _lead(derived: Derived) -> Figure:
    seen = derived.attention
    if seen is None or not seen.focus or seen.rival is None:
        return Figure("lead", "focus stands out", "no focus", None, 1)
    return Figure("lead", "focus stands out", f"{seen.lead:.2f} times", seen.lead, 1)


def _parting(derived: Derived) -> Figure:
    asked = [b for b in wanted(derived.borders, derived.wishes) if b.wish == "parting"]
    if not asked:
        return Figure("parting", "figure from ground", "none", None, 1)
    gap = gaps(derived.adjacency, np.asarray(derived.values.by_code))
    least = min(float(gap[b.pair]) for b in asked)
    return Figure("parting", "figure from ground", f"{least:.0f} L* at least", least, 1)


def _strong(derived: Derived) -> Figure:
    share = sum(derived.strong.values())
    return Figure("strong", "strong colour", f"{share:.0%}", share, 0)


def _heat(derived: Derived) -> Figure:
    heat = derived.temperature
    return Figure("heat", "warm / cool", f"{heat.warm:.0%} / {heat.cool:.0%}", heat.warm, 0)


def _lively(derived: Derived) -> Figure:
    if derived.lively is None:
        return Figure("lively", "lively", "–", None, 0)
    return Figure("lively", "lively", f"{derived.lively:.1f} CIEDE2000", derived.lively, 0)
