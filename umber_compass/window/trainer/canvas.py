"""What a trial shows: colours on a neutral ground, which a click chooses from; and the plot of
results."""

import time
from collections.abc import Sequence

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QColor, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QSizePolicy, QWidget

from umber_compass.document.training import Outcome
from umber_compass.steps.training.drills import Trial
from umber_compass.window.widgets.theme import THEME, font

_GROUND = "#777777"  # L* 50, whatever the room is: a judgement hangs on it
_SIDE = 130.0


class Canvas(QWidget):
    """Shows a trial, and says which row was chosen."""

    chosen = Signal(int)

    def __init__(self) -> None:
        super().__init__()
        self.setAccessibleName(self.tr("The colours of the drill"))
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self._trial: Trial | None = None
        self._grey = ""

    def sizeHint(self) -> QSize:
        return QSize(560, 300)

    def show_trial(self, trial: Trial | None, grey: str = "") -> None:
        """Show a trial; `grey` is a hex that stands beside the colour to be matched."""
        self._trial, self._grey = trial, grey
        self.update()

    def boxes(self) -> list[QRectF]:
        """Where each row of colours stands."""
        if self._trial is None:
            return []
        count, middle = len(self._trial.rows), QRectF(self.rect()).center()
        if len(self._trial.rows[0]) > 1:  # ramps, one above the other
            return [
                QRectF(middle.x() - 210, middle.y() - 110 + i * 120, 420, 100) for i in range(count)
            ]
        gap = 40.0 if count > 1 else 0.0
        left = middle.x() - (count * _SIDE + (count - 1) * gap) / 2
        return [
            QRectF(left + i * (_SIDE + gap), middle.y() - _SIDE / 2, _SIDE, _SIDE)
            for i in range(count)
        ]

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), QColor(_GROUND))
        trial = self._trial
        if trial is None:
            return
        boxes = self.boxes()
        if trial.surround:
            painter.fillRect(boxes[0].adjusted(-110, -85, 110, 85), QColor(trial.surround))
        for box, row in zip(boxes, trial.rows, strict=True):
            width = box.width() / len(row)
            for i, hex_ in enumerate(row):
                x = box.left() + i * width
                painter.fillRect(QRectF(x, box.top(), width + 0.5, box.height()), QColor(hex_))
        if self._grey:
            painter.fillRect(boxes[0].translated(_SIDE, 0), QColor(self._grey))

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if self._trial is None or self._trial.answers or len(self._trial.rows) < 2:
            return
        for i, box in enumerate(self.boxes()):
            if box.contains(event.position()):
                self.chosen.emit(i)
                return


class Plot(QWidget):
    """A drill's results by their order; lower is better."""

    def __init__(self) -> None:
        super().__init__()
        self.setAccessibleName(self.tr("Results so far"))
        self.setFixedHeight(92)
        self._outcomes: tuple[Outcome, ...] = ()
        self._unit = ""

    def show_outcomes(self, outcomes: Sequence[Outcome], unit: str) -> None:
        """Show a drill's results, the oldest first."""
        self._outcomes, self._unit = tuple(outcomes)[-40:], unit
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setFont(font(12))
        painter.setPen(THEME.colour("quiet"))
        if not self._outcomes:
            painter.drawText(self.rect(), Qt.AlignmentFlag.AlignVCenter, self.tr("No results yet"))
            return
        most = max(o.result for o in self._outcomes) * 1.1 or 1.0
        box = QRectF(44, 8, self.width() - 160, self.height() - 30)
        painter.setPen(QPen(THEME.colour("line"), 1))
        painter.drawLine(box.bottomLeft(), box.bottomRight())
        step = box.width() / max(len(self._outcomes) - 1, 1)
        points = [
            QPointF(box.left() + i * step, box.bottom() - box.height() * o.result / most)
            for i, o in enumerate(self._outcomes)
        ]
        painter.setPen(QPen(THEME.colour("ink"), 2))
        painter.drawPolyline(points)
        painter.setBrush(THEME.colour("ink"))
        for point in points:
            painter.drawEllipse(point, 3, 3)
        painter.setPen(THEME.colour("ink"))
        last = self._outcomes[-1]
        place = QRectF(points[-1].x() + 8, points[-1].y() - 9, 120, 18)
        painter.drawText(place, Qt.AlignmentFlag.AlignVCenter, f"{last.result:.1f} {self._unit}")
        painter.setPen(THEME.colour("quiet"))
        painter.drawText(QRectF(0, box.bottom() - 9, 40, 18), Qt.AlignmentFlag.AlignRight, "0")
        foot = QRectF(box.left(), self.height() - 20, box.width(), 20)
        painter.drawText(foot, Qt.AlignmentFlag.AlignLeft, _day(self._outcomes[0].at))
        if len(self._outcomes) > 1:
            painter.drawText(foot, Qt.AlignmentFlag.AlignRight, _day(last.at))


def _day(at: float) -> str:
    return time.strftime("%d %b %Y", time.localtime(at))
