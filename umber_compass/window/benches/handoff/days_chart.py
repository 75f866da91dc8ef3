"""What a painting's values did from save to save: darks, middle and lights over the hours, beside
where the plan has them."""

import time
from collections.abc import Sequence

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QSizePolicy, QToolTip, QWidget

from umber_compass.plan.journal import Look
from umber_compass.window.widgets.theme import THEME, font

_HEIGHT, _LEFT, _RIGHT, _FOOT, _TOP = 96, 30, 64, 16, 6  # px
_MOST = 60  # looks that are drawn: the last ones


class DaysChart(QWidget):
    """A line for each of three values; a dashed one where the plan has it."""

    def __init__(self) -> None:
        super().__init__()
        self.setAccessibleName(self.tr("The painting’s values from save to save"))
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setFixedHeight(_HEIGHT)
        self.setMouseTracking(True)
        self._looks: tuple[Look, ...] = ()

    def sizeHint(self) -> QSize:
        return QSize(400, _HEIGHT)

    def show_looks(self, looks: Sequence[Look]) -> None:
        """The looks at one painting, the oldest first."""
        self._looks = tuple(looks)[-_MOST:]
        self.update()

    def _box(self) -> QRectF:
        return QRectF(_LEFT, _TOP, self.width() - _LEFT - _RIGHT, self.height() - _FOOT - _TOP)

    def _across(self, i: int) -> float:
        box = self._box()
        return box.left() + box.width() * (i / max(len(self._looks) - 1, 1))

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setFont(font(11))
        box = self._box()
        painter.setPen(QPen(THEME.colour("line"), 1))
        for level in (0, 50, 100):
            y = box.bottom() - box.height() * level / 100
            painter.drawLine(QPointF(box.left(), y), QPointF(box.right(), y))
            place = QRectF(0, y - 8, _LEFT - 4, 16)
            painter.drawText(
                place,
                Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter,
                f"{level} L*" if level == 100 else f"{level}",
            )
        if not self._looks:
            return
        for k, name in enumerate((self.tr("darks"), self.tr("middle"), self.tr("lights"))):
            self._paint_line(painter, k, name)
        self._paint_times(painter)

    def _paint_line(self, painter: QPainter, k: int, name: str) -> None:
        box = self._box()
        mine = [(look.darks, look.middle, look.lights)[k] for look in self._looks]
        plan = [m - look.by[k] for m, look in zip(mine, self._looks, strict=True)]
        for levels, dashed in ((plan, True), (mine, False)):
            pen = QPen(THEME.colour("quiet" if dashed else "ink"), 1 if dashed else 2)
            if dashed:
                pen.setStyle(Qt.PenStyle.DashLine)
            painter.setPen(pen)
            points = [
                QPointF(self._across(i), box.bottom() - box.height() * level / 100)
                for i, level in enumerate(levels)
            ]
            painter.drawPolyline(points)
            if len(points) == 1:
                painter.drawEllipse(points[0], 2, 2)
        place = QRectF(box.right() + 6, box.bottom() - box.height() * mine[-1] / 100 - 8, 60, 16)
        painter.setPen(THEME.colour("ink"))
        painter.drawText(place, Qt.AlignmentFlag.AlignVCenter, f"{name} {mine[-1]:.0f}")

    def _paint_times(self, painter: QPainter) -> None:
        painter.setPen(THEME.colour("quiet"))
        first, last = self._looks[0].at, self._looks[-1].at
        box, foot = self._box(), Qt.AlignmentFlag.AlignBottom
        painter.drawText(QRectF(box.left(), 0, 120, self.height()), foot, said_time(first))
        if len(self._looks) > 1:
            place = QRectF(box.right() - 120, 0, 120, self.height())
            painter.drawText(place, foot | Qt.AlignmentFlag.AlignRight, said_time(last))

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        at = event.position()
        if self._looks:
            near = min(range(len(self._looks)), key=lambda i: abs(self._across(i) - at.x()))
            look = self._looks[near]
            worst = "; ".join(f"{d.region}: {d.text}" for d in look.drifted[:3])
            line = self.tr("{when}: {painted:.0%} painted. {worst}")
            text = line.format(when=said_time(look.at), painted=look.painted, worst=worst)
            text += f"\n{look.note}" if look.note else ""
            QToolTip.showText(event.globalPosition().toPoint(), text, self)


def said_time(at: float) -> str:
    """A time of the journal as it is here: day and hour."""
    return time.strftime("%d %b %H:%M", time.localtime(at))
