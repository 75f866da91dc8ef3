"""The parts of a window styled one after the other. Styling costs about half a millisecond a
widget, so a whole window at once would hold the hand up; what is not seen is styled when it is."""

from collections.abc import Sequence

from PySide6.QtCore import QEvent, QObject
from PySide6.QtWidgets import QWidget

from umber_compass.window.widgets import theme
from umber_compass.window.widgets.timers import single_shot


class Dressing(QObject):
    """Styles parts by the room that is on: those that are seen in turns, the others when shown."""

    def __init__(self, parts: Sequence[QWidget], parent: QObject) -> None:
        super().__init__(parent)
        self._parts: list[QWidget] = []
        self._worn: dict[QWidget, str] = {}
        self.turn = single_shot(self, 0, self.dress)
        for part in parts:
            self.add(part)

    def add(self, part: QWidget) -> None:
        """One more part, styled when it is seen."""
        self._parts.append(part)
        part.installEventFilter(self)

    def dress(self) -> None:
        """Style all that is seen: the first now, the rest in the next turns."""
        wanted = theme.sheet()
        bare = [p for p in self._parts if p.isVisible() and self._worn.get(p) != wanted]
        if bare:
            self._put_on(bare[0], wanted)
        if len(bare) > 1:
            self.turn.start()

    def _put_on(self, part: QWidget, wanted: str) -> None:
        self._worn[part] = wanted
        part.setStyleSheet(wanted)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """A part that is about to be seen is styled first."""
        if event.type() == QEvent.Type.Show and isinstance(watched, QWidget):
            wanted = theme.sheet()
            if self._worn.get(watched) != wanted:
                self._put_on(watched, wanted)
        return super().eventFilter(watched, event)
