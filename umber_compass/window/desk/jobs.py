"""What is worked out off the GUI thread for one document: made of its plan as that is when its
turn comes, and answered only while the document is on the desk."""

from collections.abc import Callable
from typing import TypeVar

from umber_compass.document import Pixels
from umber_compass.plan.edits import Edit
from umber_compass.plan.model import Plan
from umber_compass.window.desk.desk import Desk
from umber_compass.work import Tick

T = TypeVar("T")


def job(
    desk: Desk,
    kind: str,
    work: Callable[[Plan, Pixels, Tick], T],
    answer: Callable[[T, Pixels], object],
    says: str,
    failed: Callable[[Exception], object] | None = None,
    of_sketch: bool = False,
) -> None:
    """Have `work` done after all that was asked for before, and its result answered. Where it is
    `of_sketch` and the sketch was changed meanwhile, by an undo for instance, it is done again.
    Without a plan nothing is done."""
    if desk.history is None or desk.pixels is None:
        return
    pixels = desk.pixels

    def prepare() -> Callable[[Tick], tuple[Plan, T]] | None:
        if desk.pixels is not pixels or desk.history is None:
            return None  # another plan came meanwhile
        desk.session.taking.emit()  # and no seal: a drag goes on until there is an answer
        plan = desk.history.now
        return lambda tick: (plan, work(plan, pixels, tick))

    def answered(found: tuple[Plan, T]) -> None:
        plan, made = found
        if desk.pixels is not pixels or desk.history is None:
            return
        if of_sketch and desk.history.now.sketch is not plan.sketch:
            job(desk, kind, work, answer, says, failed, of_sketch)
            return
        answer(made, pixels)

    desk.orders.ask(kind, prepare, answered, failed, says)


def step(desk: Desk, edit: Edit) -> None:
    """Make an edit that is a step of its own, after what is being typed."""
    desk.session.taking.emit()
    desk.seal()
    desk.do(edit)
