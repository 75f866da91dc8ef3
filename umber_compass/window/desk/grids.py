"""Pictures on no more px than are shown: the stage's own, and a small view's. What each grid shows
of a sketch is made on the worker while nothing is dragged."""

from typing import NamedTuple

from umber_compass.picture.seen import Grid
from umber_compass.steps.pictures import SeenForms, painted_through, seen_on, seen_picture
from umber_compass.steps.pipeline import Derived
from umber_compass.window.desk.worker import Urgency, Worker
from umber_compass.window.widgets.bitmap import Bitmap

QUICK_PX = 160  # width of the small views while something is dragged


class _Made(NamedTuple):
    """What a grid shows, and of which codes."""

    of: object
    seen: SeenForms
    bitmap: Bitmap | None  # painted over in a drag


class Grids:
    """The grids that are wanted, by what they are for."""

    def __init__(self, worker: Worker) -> None:
        self._worker = worker
        self._wanted: dict[str, Grid] = {}
        self._made: dict[Grid, _Made] = {}

    def clear(self) -> None:
        """Another document."""
        self._made = {}

    def want(self, derived: Derived, **grids: Grid) -> None:
        """Have grids made ready for a plan's picture."""
        self._wanted |= grids
        kept = set(self._wanted.values())
        self._made = {grid: made for grid, made in self._made.items() if grid in kept}
        missing = [g for g in dict.fromkeys(self._wanted.values()) if not self._is_for(derived, g)]
        if not missing:
            return

        of = painted_through(derived)

        def work(tick: object) -> list[tuple[Grid, SeenForms]]:
            return [(grid, seen_on(derived, grid)) for grid in missing]

        def answer(found: list[tuple[Grid, SeenForms]]) -> None:
            for grid, seen in found:
                self._made[grid] = _Made(of, seen, None)

        # A drag goes on without them, only slower: what goes wrong here is not the artist's.
        self._worker.ask("grids", work, answer, lambda error: None, urgency=Urgency.BENCH)

    def suit(self, derived: Derived) -> bool:
        """Whether every grid that is wanted is ready for a plan's picture."""
        wanted = self._wanted.values()
        return bool(wanted) and all(self._is_for(derived, grid) for grid in wanted)

    def _is_for(self, derived: Derived, grid: Grid) -> bool:
        return grid in self._made and self._made[grid].of is painted_through(derived)

    def seen(self, derived: Derived, grid: Grid) -> SeenForms | None:
        """What a grid shows of a plan's picture; None where it is not ready for it."""
        return self._made[grid].seen if self._is_for(derived, grid) else None

    def paint(self, derived: Derived, grid: Grid) -> Bitmap | None:
        """A plan's picture on a grid; None where the grid is not ready for it."""
        if not self._is_for(derived, grid):
            return None
        made = self._made[grid]
        over = None if made.bitmap is None else made.bitmap.packed
        packed = seen_picture(derived, made.seen, over)
        if made.bitmap is None:
            self._made[grid] = made = made._replace(bitmap=Bitmap(packed))
        return made.bitmap
