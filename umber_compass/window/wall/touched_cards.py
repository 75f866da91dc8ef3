"""Pictures of cards that are touched, and colours that are carried from one to another."""

from collections.abc import Callable

from PySide6.QtCore import QPointF, Signal
from PySide6.QtGui import QDragEnterEvent, QDropEvent
from PySide6.QtWidgets import QApplication, QWidget

from umber_compass.window.wall.card import BELOW, CardFace
from umber_compass.window.wall.card_layout import CardLayout
from umber_compass.window.widgets.swatch import SWATCH_MIME, carry, swatch_of


class TouchedCards(QWidget):
    """Knows where cards stand; says where a picture was clicked, and what fell on it."""

    touched = Signal(str, float, float)  # a study, and where its picture was clicked, shares
    given = Signal(str, float, float, str)  # the same, and the hex of the swatch that fell there

    def __init__(self) -> None:
        super().__init__()
        self.setAcceptDrops(True)
        self._faces: list[CardFace] = []
        self._aspect, self._room = 4 / 3, 400
        # The hex to be carried from a place of a study, or an empty text.
        self.carried: Callable[[str, float, float], str] = lambda *_: ""

    @property
    def placing(self) -> CardLayout:
        """Where the cards stand."""
        return CardLayout(len(self._faces), self._aspect, self.width(), self._room)

    def in_picture(self, place: QPointF) -> tuple[str, float, float] | None:
        """The study whose picture lies at a place, and where in it, shares."""
        at = self.placing.hit(place)
        if at is None:
            return None
        box = self.placing.boxes()[at]
        x = (place.x() - box.x()) / box.width()
        y = (place.y() - box.y()) / (box.height() - BELOW)
        return (self._faces[at].id, x, y) if 0 <= x < 1 and 0 <= y < 1 else None

    def carries(self, start: QPointF, now: QPointF) -> bool:
        """Carry the colour that was pressed, where it is one that is kept; whether it was."""
        if (now - start).manhattanLength() < QApplication.startDragDistance():
            return False
        place = self.in_picture(start)
        colour = self.carried(*place) if place is not None else ""
        if colour:
            carry(self, colour)
        return bool(colour)

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        if event.mimeData().hasFormat(SWATCH_MIME):
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent) -> None:
        place = self.in_picture(event.position())
        if place is not None:
            self.given.emit(*place, swatch_of(event.mimeData()))
            event.acceptProposedAction()
