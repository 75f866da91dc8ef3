"""What the window needs to know of a bench: one row each."""

from collections.abc import Callable
from typing import NamedTuple

from umber_compass.steps.pipeline import Derived
from umber_compass.window.bench.bench import Bench
from umber_compass.window.bench.hands import Hands
from umber_compass.window.stage.step_marks import Marks
from umber_compass.window.strip.views import USUAL


def no_marks(derived: Derived, selected: str) -> Marks:
    """Nothing but the chosen region, which every step marks."""
    return Marks()


def no_joining(bench: Bench, hands: Hands) -> None:
    """Nothing beside what every bench is joined to."""


class BenchRow(NamedTuple):
    """One bench. `number` is its key, Alt+number, and stays when others come between."""

    step: str
    title: str
    number: int
    make: Callable[[], Bench]
    views: tuple[str, ...] = USUAL
    marks: Callable[[Derived, str], Marks] = no_marks
    takes_stage: bool = False  # it shows something of its own in the stage's place
    join: Callable[[Bench, Hands], None] = no_joining  # what only this bench is joined to
