"""The plan's picture, live: quickly while something is dragged, exactly once it is let go; flat
until the forms are there."""

from collections.abc import Sequence
from typing import Any

from PySide6.QtCore import QObject, Signal

from umber_compass.colour.packed import Packed
from umber_compass.document import Kept, built_buffers
from umber_compass.picture.seen import Grid
from umber_compass.plan.model import Plan
from umber_compass.steps.light_views import in_part
from umber_compass.steps.pictures import exact_picture, picture
from umber_compass.steps.pipeline import Derived, Pipeline, carried
from umber_compass.window.desk.grids import Grids
from umber_compass.window.desk.session import Session
from umber_compass.window.desk.worker import Urgency, Worker, error_line
from umber_compass.window.widgets.bitmap import Bitmap
from umber_compass.window.widgets.timers import single_shot
from umber_compass.work import Stopped, Tick


class LivePicture(QObject):
    """What follows from a plan, and its picture. One pipeline serves the window, previews, the
    judge and what is worked out for the benches."""

    rebuilt = Signal()  # forms are there that were not: derive and measure anew
    sharpened = Signal()  # the exact picture took the place of the quick one
    worked = Signal()  # what a bench shows was worked out
    redrawn = Signal()  # the plan has another drawing
    told = Signal(str, bool)  # a line for the artist; whether it is about something refused

    def __init__(self, worker: Worker, session: Session, kept: Kept | None) -> None:
        super().__init__()
        self._worker, self._session, self.kept = worker, session, kept
        self.derived: Derived | None = None
        self.grids = Grids(worker)
        self._bitmap: Bitmap | None = None
        self._stale = False  # the picture of what is dragged was only painted on grids
        self._pipeline: Pipeline | None = None
        self._asked: tuple[
            object, ...
        ] = ()  # needs of the surface buffers that were asked for last
        self.sharpening = single_shot(self, 0, self._sharpen)

    def begin(self, pipeline: Pipeline) -> None:
        """Another document."""
        self._pipeline = pipeline
        self._asked = ()
        self.derived, self._bitmap, self._stale = None, None, False
        self.grids.clear()

    def follow(self, plan: Plan) -> bool:
        """Derive a plan and paint it; gives whether it may look otherwise than the one before."""
        assert self._pipeline is not None
        before = self.derived
        if before is not None and before.plan is not plan:
            same = carried(before, plan)
            if same is not None:
                self.derived = same
                return False
        self.derived = self._pipeline.derive(plan)
        if self._session.dragging and self.grids.suit(self.derived):
            self._stale = True
        else:
            self._repaint(self.derived)
        if before is not None and before.drawing is not self.derived.drawing:
            self.redrawn.emit()
        self.ask_buffers()
        self._worker.forget("exact")  # of the plan before
        if not self._session.dragging:
            self.sharpening.start()
        return True

    @property
    def bitmap(self) -> Bitmap | None:
        """The whole picture at working size."""
        if self._stale and self.derived is not None:
            self._repaint(self.derived)
        return self._bitmap

    def _repaint(self, now: Derived) -> None:
        """The whole picture anew: lit from codes, over the one that was there in a drag; or
        flat."""
        over = self._bitmap.packed if self._bitmap is not None else None
        fits = over is not None and over.shape == now.drawing.labels.shape
        self._stale = False
        self._bitmap = Bitmap(picture(now, over if self._session.dragging and fits else None))

    def ask_buffers(self) -> None:
        """Have the forms built where the plan is lit and they are not there; the flat picture, or
        the one of the old forms, stays until then."""
        derived = self.derived
        if derived is None or self._pipeline is None or not derived.rig.on:
            return
        needs = derived.needs(Derived.built)
        if derived.has(Derived.built):
            if not derived.casts or derived.has(Derived.standees):
                return
            needs = (*needs, *derived.needs(Derived.standees))
        if _alike(needs, self._asked):
            return
        self._asked = needs
        pipeline, plan = self._pipeline, derived.plan

        def work(tick: Tick) -> bool:
            return (
                built_buffers(pipeline.derive(plan, works=True, tick=tick), self.kept) is not None
            )

        def answer(_: bool) -> None:
            self.say_damage()
            self.rebuilt.emit()

        says = self.tr("Building forms")
        self._worker.ask("buffers", work, answer, self._on_no_buffers, says, Urgency.PICTURE)

    def _on_no_buffers(self, error: Exception) -> None:
        if isinstance(error, Stopped):
            line = self.tr("Stopped; the picture stays as it is until the light or a form changes")
            self.told.emit(line, False)
        else:
            self.told.emit(error_line(error), True)

    def light_again(self) -> None:
        """Ask for forms that were stopped once more."""
        if self.derived is not None and self.derived.lit is None:
            self._asked = ()
            self.ask_buffers()

    def say_damage(self) -> None:
        """Say, once, that something kept was damaged."""
        if self.kept is not None and self.kept.cache.take_damage():
            self.told.emit(self.tr("A kept copy of the forms was damaged; it is made anew"), False)

    def _sharpen(self) -> None:
        """Have the exact picture made, once nothing is dragged."""
        derived = self.derived
        if derived is None or derived.lit is None or self._session.dragging:
            return
        if self._session.walled:
            return  # nobody sees it

        def answer(found: Packed) -> None:
            if derived is self.derived and not self._session.dragging:
                self._bitmap, self._stale = Bitmap(found), False
                self.sharpened.emit()

        self._worker.ask(
            "exact",
            lambda tick: exact_picture(derived, tick),
            answer,
            urgency=Urgency.PICTURE,
        )

    def work_out(self, names: Sequence[str]) -> None:
        """Have slow stages that a bench shows worked out, where they are not there."""
        derived = self.derived
        if derived is None:
            return
        missing = [n for n in names if not derived.has(getattr(Derived, n))]
        if not missing:
            return
        plan = derived.plan

        def work(tick: Tick) -> dict[str, Any]:
            # Only what the bench asked for may work here: buffers are another request. It works
            # on a record of its own: the window reads the other one meanwhile.
            own, found = derived.of(plan), {}
            for name in missing:
                own.forget_missing()  # one may be what the next needs
                found[name] = own.worked(getattr(Derived, name), tick)
            return found

        def answer(found: dict[str, Any]) -> None:
            if self.derived is derived:
                derived.forget_missing()
                for name, result in found.items():
                    derived.take(getattr(Derived, name), result)
                self.worked.emit()

        self._worker.ask("stages", work, answer)

    def in_part(self, view: str, grid: Grid | None = None) -> Bitmap | None:
        """The picture in a part of its light; on a grid, where that is ready, or whole."""
        if self.derived is None:
            return None
        seen = None if grid is None else self.grids.seen(self.derived, grid)
        return Bitmap(in_part(self.derived, view, seen))

    def picture_of(self, plan: Plan) -> Bitmap:
        """The picture another plan of this document would give."""
        assert self._pipeline is not None
        return Bitmap(picture(self._pipeline.derive(plan)))

    @property
    def pipeline(self) -> Pipeline:
        """The one pipeline; only once a document is there."""
        assert self._pipeline is not None
        return self._pipeline


def _alike(one: tuple[object, ...], other: tuple[object, ...]) -> bool:
    return len(one) == len(other) and all(a is b for a, b in zip(one, other, strict=True))
