"""A bar that is dragged to either side and springs back: for changes that are not kept as a
number."""

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QPainter, QPen

from umber_compass.window.widgets.instrument import Hand, Instrument
from umber_compass.window.widgets.theme import THEME, font


class Nudge(Instrument):
    """Drag it; Left and Right step it, each a change of its own."""

    by = Signal(float)  # from where the drag began
    stepped_by = Signal(float)

    smooth = True
    grabs = Qt.CursorShape.SizeHorCursor

    def __init__(
        self, name: str, reach: float, unit: str, step: float, least: float | None = None
    ) -> None:
        super().__init__(name, (110, 24), (True, False))
        self.setToolTip(name)
        self._reach, self._unit, self._step = reach, unit, step
        self._least = -reach if least is None else least
        self._now = 0.0

    def paint(self, painter: QPainter) -> None:
        ink, width = THEME.colour("ink" if self.isEnabled() else "line"), float(self.width())
        middle = self.height() / 2
        painter.fillRect(QRectF(0, middle - 2, width, 4), THEME.colour("well"))
        zero = -self._least / (self._reach - self._least) * (width - 12) + 6
        x = zero + self._now / (self._reach - self._least) * (width - 12)
        painter.fillRect(QRectF(min(zero, x), middle - 2, abs(x - zero), 4), ink)
        painter.setPen(QPen(ink, 2 if self.hasFocus() else 1))
        painter.setBrush(THEME.colour("card"))
        painter.drawRect(QRectF(x - 5, middle - 8, 10, 16))
        if self._now:
            painter.setFont(font(11, True))
            painter.setPen(ink)
            side = Qt.AlignmentFlag.AlignLeft if x > width / 2 else Qt.AlignmentFlag.AlignRight
            text = f"{self._now:+.0f}{self._unit}"
            painter.drawText(QRectF(0, 0, width, middle - 2), side, text)

    def grip(self, place: QPointF) -> float:
        """Where the drag begins, px: anywhere."""
        return place.x()

    def stands(self, held: float) -> QPointF:
        return QPointF(held, 0)

    def dragged(self, held: float, hand: Hand) -> None:
        by = (hand.place.x() - held) / max(self.width() - 12, 1) * (self._reach - self._least)
        self._now = min(max(by, self._least), self._reach)
        self.by.emit(self._now)
        self.update()

    def let_go(self) -> None:
        self._now = 0.0
        super().let_go()

    def stepped(self, right: int, up: int, hand: Hand) -> bool:
        if right and right * self._step >= self._least:
            self.stepped_by.emit(right * self._step)
        return bool(right)
