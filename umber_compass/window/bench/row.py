"""What the window needs to know of a bench: one row each."""

from collections.abc import Callable
from importlib import import_module
from typing import NamedTuple

from umber_compass.steps.pipeline import Derived
from umber_compass.window.bench.bench import Bench
from umber_compass.window.bench.window_parts import WindowParts
from umber_compass.window.stage.step_marks import Marks
from umber_compass.window.strip.views import USUAL


def no_marks(derived: Derived, selected: str) -> Marks:
    """Nothing but the chosen region, which every step marks."""
    return Marks()


def no_joining(bench: Bench, parts: WindowParts) -> None:
    """Nothing beside what every bench is joined to."""


class BenchParts(NamedTuple):
    """What is loaded when a bench is first opened: the bench, its marks on the stage, and what
    only this bench is joined to."""

    make: Callable[[], Bench]
    marks: Callable[[Derived, str], Marks] = no_marks
    join: Callable[[Bench, WindowParts], None] = no_joining


class BenchRow(NamedTuple):
    """One bench. `number` is its key, Alt+number, and stays when others come between; `folder` is
    the package that holds its `PARTS`."""

    step: str
    title: str
    number: int
    folder: str
    views: tuple[str, ...] = USUAL
    takes_stage: bool = False  # it shows something of its own in the stage's place

    def parts(self) -> BenchParts:
        """The bench's parts, loaded when they are first asked for: a start loads one bench."""
        parts: BenchParts = import_module(self.folder).PARTS
        return parts

    def make(self) -> Bench:
        """The bench itself."""
        return self.parts().make()
