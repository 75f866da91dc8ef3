"""The plan sheet while it is seen, made on the worker while the hand rests; and written."""

import datetime
from pathlib import Path
from typing import NamedTuple

from PySide6.QtCore import QObject, Signal
from PySide6.QtGui import QImage
from PySide6.QtWidgets import QWidget

from umber_compass.document.plan_sheet import Wish, plan_sheet
from umber_compass.formats import atomic
from umber_compass.steps.handoff.palette import stem
from umber_compass.steps.pipeline import Derived
from umber_compass.window.desk.desk import Desk
from umber_compass.window.desk.files import Files
from umber_compass.window.desk.with_ending import with_ending
from umber_compass.window.widgets.timers import single_shot
from umber_compass.work import Tick

AFTER = 250  # ms of rest
_SHOWN_PX = 1100  # across


class _Of(NamedTuple):
    derived: Derived
    wish: Wish


class SheetMaking(QObject):
    """Says when the sheet waits to be made, and what it looks like."""

    waits = Signal()
    made = Signal(QImage)

    def __init__(self, desk: Desk, files: Files, parent: QWidget) -> None:
        super().__init__(parent)
        self._desk, self._files, self._parent = desk, files, parent
        self._wish, self._seen = Wish(), False
        self._shown: _Of | None = None
        self.timer = single_shot(self, AFTER, self._ask)
        desk.closed.connect(self.timer.stop)

    def follow(self, seen: bool) -> None:
        """The plan may be another; whether its sheet is seen now."""
        self._seen = seen
        derived = self._desk.derived
        if seen and derived is not None and self._shown != _Of(derived, self._wish):
            self.waits.emit()
            self.timer.start()

    def change(self, wish: Wish) -> None:
        """Make it otherwise."""
        self._wish = wish
        self.follow(self._seen)

    def _ask(self) -> None:
        derived, wish = self._desk.derived, self._wish
        if derived is None or not self._seen:
            return
        if self._desk.session.dragging:
            self.timer.start()
            return

        def work(tick: Tick) -> QImage:
            from umber_compass.window.desk.printing import picture_of  # needed here alone

            return picture_of(_sheet(derived, wish, tick), _SHOWN_PX)

        def answer(image: QImage) -> None:
            self._shown = _Of(derived, wish)
            self.made.emit(image)

        self._desk.worker.ask("sheet", work, answer, says=self.tr("Making the sheet"))

    def write(self) -> None:
        """Write it to a file that the artist names."""
        derived, wish = self._desk.derived, self._wish
        if derived is None:
            return
        title = derived.plan.title
        dialogs = self._files.dialogs
        path = dialogs.sheet(self._parent, f"{stem(title)}-sheet.pdf")
        named = with_ending(path, ".pdf", dialogs, self._parent)
        if named is None:
            return

        def work(tick: Tick) -> Path:
            from umber_compass.window.desk.printing import file_of

            data = file_of(_sheet(derived, wish, tick), named, title)
            atomic.write_data(named, data)
            return named

        def answer(written: Path) -> None:
            self._desk.told.emit(self.tr("Wrote {file}").format(file=written), False)

        says = self.tr("Writing the sheet")
        self._desk.orders.ask("sheet written", lambda: work, answer, says=says)


def _sheet(derived: Derived, wish: Wish, tick: Tick) -> str:
    """On a record of its own: the window reads the other one meanwhile."""
    own = derived.of(derived.plan)
    own.think(tick)
    return plan_sheet(own, wish, datetime.date.today(), tick)
