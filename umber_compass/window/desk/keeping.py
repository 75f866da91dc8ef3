"""Unsaved work, kept in the state folder while it is done, so that nothing ends it."""

from threading import Thread

from PySide6.QtCore import QObject, Signal

from umber_compass.document.kept_work import record_of
from umber_compass.document.opening import thumbnail_of
from umber_compass.document.seeing import small_of
from umber_compass.plan.history import History
from umber_compass.window.desk.desk import Desk
from umber_compass.window.widgets.timers import single_shot
from umber_compass.words import Refusal

_AFTER = 1000  # ms after a change; writing takes far less than the second that is left
_SMALL_PX = 320


class Keeping(QObject):
    """Keeps what no file holds, within two seconds of a change; forgets it once it is saved or let
    go."""

    _refused = Signal(str)

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk)
        self._desk, self._kept = desk, desk.kept_work
        self._thumbnail = b""
        self._writing: Thread | None = None
        self._is_told = False  # whether it was said that nothing can be kept
        self._holds = False  # whether a record is there
        self._is_written = False  # whether the last one could be written
        self.soon = single_shot(self, _AFTER, self._keep)
        if self._kept.is_on:
            desk.edited.connect(self._on_edited)
            desk.leaving.connect(self._on_leaving)
            desk.filed.connect(self._on_filed)
        self._refused.connect(self._tell)

    def _on_edited(self) -> None:
        if not self.soon.isActive():
            self.soon.start()

    def _on_filed(self) -> None:
        if not self._desk.unsaved:
            self.soon.stop()
            self._forget()

    def _tell(self, line: str) -> None:
        """Say, once, that unsaved work is not kept, and why."""
        if not self._is_told:
            self._is_told = True
            text = self.tr("Unsaved work is not kept beside the plan: {why}").format(why=line)
            self._desk.told.emit(text, True)

    def _on_leaving(self) -> None:
        """Another plan comes; what became of this one's changes was asked before."""
        self.soon.stop()
        self._thumbnail = b""
        self._forget()

    def _forget(self) -> None:
        self._end()
        if self._holds:
            self._holds = False
            self._kept.forget()

    def _keep(self) -> None:
        """Write the work that is there now, on a thread of its own: the worker may be busy for long
        with something else."""
        desk = self._desk
        if desk.history is None or desk.pixels is None:
            return
        if not desk.unsaved:
            self._forget()
            return
        if self._writing is not None and self._writing.is_alive():
            self.soon.start()
            return
        history, pixels = desk.history, desk.pixels
        path, stamp, saved = desk.path, desk.stamp, desk.saved
        # While something is dragged the whole picture is not painted: it is taken once it is.
        bitmap = None if desk.session.dragging else desk.live.bitmap
        shown = None if bitmap is None else bitmap.packed.copy()

        def write() -> None:
            if shown is not None:
                self._thumbnail = thumbnail_of(small_of(shown, _SMALL_PX))
            names = changes_since(history, saved)
            record = record_of(history.now, path, self._thumbnail, stamp, names, pixels.journal)
            try:
                self._kept.keep(pixels, record)
                self._is_written = True
            except Refusal as refusal:
                self._refused.emit(str(refusal))

        self._holds, self._is_written = True, False
        self._writing = Thread(target=write, name="umber-keeping")
        self._writing.start()

    def now(self) -> bool:
        """Keep the work at once: the program is told to end, or another's record is about to go.
        Gives whether it was written."""
        self._desk.session.taking.emit()
        self.soon.stop()
        self._end()
        self._is_written = False
        if self._kept.is_on:
            self._keep()
            self._end()
        return self._is_written

    def _end(self) -> None:
        if self._writing is not None:
            self._writing.join()
            self._writing = None

    def close(self, keeps: bool = False) -> None:
        """The window goes. Its work was saved or let go, unless it `keeps` it for the next time."""
        self.soon.stop()
        self._end()
        if not keeps:
            self._holds = False
            self._kept.close()


def changes_since(history: History, saved: object) -> list[str]:
    """The names of the changes that no file holds, the oldest first."""
    plans = [m.plan for m in history.past]
    at = next((i for i in reversed(range(len(plans))) if plans[i] is saved), -1)
    return [str(m.change) for m in history.past[max(at, 0) :]]
