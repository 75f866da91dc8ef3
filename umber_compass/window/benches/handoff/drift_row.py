"""One region of a painting that drifted: its planned and painted colour, how it drifted, where, and
the way to take that into the plan."""

from typing import NamedTuple

from PySide6.QtCore import QRectF, QSize, Qt, Signal
from PySide6.QtGui import QColor, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QLabel, QPushButton, QWidget

from umber_compass.window.bench.bench import quiet
from umber_compass.window.widgets.rows import in_column, in_row
from umber_compass.window.widgets.theme import THEME

_SWATCH = QSize(56, 34)


class DriftSaid(NamedTuple):
    """What is said of a region that drifted."""

    region: str
    name: str
    says: str  # how it drifted
    where: str  # in the picture, and how much of it
    planned: str  # hex
    painted: str


class _Pair(QWidget):
    """The planned colour on the left, the painted one on the right, touching."""

    def __init__(self, planned: str, painted: str) -> None:
        super().__init__()
        self._colours = QColor(planned), QColor(painted)
        self.setFixedSize(_SWATCH)
        line = self.tr("left planned {a}, right painted {b}").format(a=planned, b=painted)
        self.setToolTip(line)
        self.setAccessibleName(line)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        half = self.width() / 2
        for i, colour in enumerate(self._colours):
            painter.fillRect(QRectF(i * half, 0, half, self.height()), colour)
        # A colour may be that of the room.
        painter.setPen(QPen(THEME.colour("line"), 1))
        painter.drawRect(QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5))


class DriftRow(QWidget):
    """Says that its region is chosen, or that it is to be planned as it is painted."""

    chosen = Signal(str)
    accepted = Signal(str)

    def __init__(self, said: DriftSaid) -> None:
        super().__init__()
        self.region = said.region
        name = QLabel(f"{said.name}: {said.says}")
        name.setWordWrap(True)
        words = in_column(name, quiet(said.where), gap=0)
        self.accept = QPushButton(self.tr("Accept"))
        self.accept.setToolTip(
            self.tr("Plan {name} as it is painted; else paint it as it is planned").format(
                name=said.name
            )
        )
        self.accept.clicked.connect(lambda: self.accepted.emit(self.region))
        in_row(_Pair(said.planned, said.painted), (words, 1), self.accept, gap=10, on=self)
        self.setCursor(Qt.CursorShape.PointingHandCursor)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.chosen.emit(self.region)
