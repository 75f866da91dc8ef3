"""A bar that is dragged to either side and springs back: for changes that are not kept as a
number."""

from PySide6.QtCore import QRectF, QSize, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QSizePolicy, QWidget

from umber_compass.window.widgets.holding import Holding
from umber_compass.window.widgets.theme import THEME, font


class Nudge(Holding, QWidget):
    """Drag it; Left and Right step it, each a change of its own."""

    dragged = Signal(float)  # from where the drag began
    stepped = Signal(float)
    began = Signal()
    ended = Signal()

    def __init__(
        self, name: str, reach: float, unit: str, step: float, least: float | None = None
    ) -> None:
        super().__init__()
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setAccessibleName(name)
        self.setToolTip(name)
        self.setCursor(Qt.CursorShape.SizeHorCursor)
        self._reach, self._unit, self._step = reach, unit, step
        self._least = -reach if least is None else least
        self._from: float | None = None
        self._now = 0.0

    def sizeHint(self) -> QSize:
        return QSize(110, 24)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        ink, width = THEME.colour("ink"), float(self.width())
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

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if event.button() == Qt.MouseButton.LeftButton:
            self._from, self._now = event.position().x(), 0.0
            self.began.emit()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._from is None:
            return
        by = (event.position().x() - self._from) / max(self.width() - 12, 1)
        by *= self._reach - self._least
        self._now = min(max(by, self._least), self._reach)
        self.dragged.emit(self._now)
        self.update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        self.let_go()

    def let_go(self) -> None:
        if self._from is not None:
            self._from, self._now = None, 0.0
            self.ended.emit()
            self.update()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        step = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}.get(Qt.Key(event.key()))
        if step is None:
            super().keyPressEvent(event)
        elif step * self._step >= self._least:
            self.stepped.emit(step * self._step)
