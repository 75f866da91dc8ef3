"""Distributions of values to start from, as small pictures."""

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QColor, QPainter, QPaintEvent, QPen, QPolygonF
from PySide6.QtWidgets import QAbstractButton, QHBoxLayout, QWidget

from umber_compass.colour.measured import greys_of
from umber_compass.steps.values.bands import KEYS, Key
from umber_compass.window.widgets.theme import THEME

_SIZE = QSize(46, 34)
# Sky, hill and figure of the small picture, L*, by key.
_SCENES = {
    "high": (88.0, 74.0, 40.0),
    "middle": (62.0, 46.0, 82.0),
    "low": (22.0, 12.0, 62.0),
    "dark-on-light": (86.0, 70.0, 18.0),
    "light-on-dark": (18.0, 30.0, 88.0),
}


class KeyPicture(QAbstractButton):
    """One key: a hill and a figure in its values."""

    def __init__(self, key: Key) -> None:
        super().__init__()
        self.key = key
        self.setFixedSize(_SIZE)
        self.setAccessibleName(key.title)
        shares = ", ".join(f"{s:.0%}" for s in key.bands.shares)
        line = self.tr("{title}: {says}; dark to light {shares}")
        self.setToolTip(line.format(title=key.title, says=key.says, shares=shares))
        self._greys = greys_of(list(_SCENES[key.name]))

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        box = QRectF(2, 2, self.width() - 4, self.height() - 4)
        sky, hill, figure = (QColor(g) for g in self._greys)
        painter.fillRect(box, sky)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(hill)
        low, right = box.bottom(), box.right()
        corners = [(2.0, 22.0), (16.0, 15.0), (right, 20.0), (right, low), (2.0, low)]
        painter.drawPolygon(QPolygonF([QPointF(x, y) for x, y in corners]))
        painter.setBrush(figure)
        painter.drawEllipse(QPointF(29, 12), 3.2, 3.2)
        painter.drawRoundedRect(QRectF(25.5, 15.5, 7, 13), 3, 3)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        strong = self.hasFocus() or self.underMouse()
        painter.setPen(QPen(THEME.colour("ink"), 2 if strong else 1))
        painter.drawRect(box)


class Keys(QWidget):
    """All keys in a row."""

    picked = Signal(object)  # Key

    def __init__(self) -> None:
        super().__init__()
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(4)
        self.buttons = {}
        for key in KEYS.values():
            button = KeyPicture(key)
            button.clicked.connect(lambda _=False, k=key: self.picked.emit(k))
            self.buttons[key.name] = button
            row.addWidget(button)
