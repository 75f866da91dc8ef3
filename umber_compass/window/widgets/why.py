"""Why? Two sentences and a small picture, where a number stands."""

from PySide6.QtCore import QPoint, QRectF, QSize, Qt
from PySide6.QtGui import QColor, QPainter, QPaintEvent
from PySide6.QtWidgets import QFrame, QLabel, QToolButton, QVBoxLayout, QWidget

from umber_compass.window.widgets.rows import in_row
from umber_compass.window.widgets.theme import THEME, font, sheet
from umber_compass.window.widgets.why_pictures import PICTURES, Shape

_PICTURE = QSize(96, 64)
_WORDS_PX = 250


class _Pair(QWidget):
    """A small picture of what is meant, beside one of what is not."""

    def __init__(self, shapes: tuple[Shape, ...], name: str) -> None:
        super().__init__()
        self._shapes, self._name = shapes, name
        self.setFixedSize(_PICTURE.width(), _PICTURE.height() + 16)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(Qt.PenStyle.NoPen)
        width, height = _PICTURE.width(), _PICTURE.height()
        painter.setClipRect(QRectF(0, 0, width, height))
        for shape in self._shapes:
            painter.setBrush(QColor(shape.hex))
            x, y, w, h = shape.box
            box = QRectF(x * width, y * height, w * width, h * height)
            if shape.round:
                painter.drawEllipse(box)
            else:
                painter.drawRect(box)
        painter.setClipping(False)
        painter.setPen(THEME.colour("ink"))
        painter.setFont(font(11))
        painter.drawText(QRectF(0, height + 1, width, 15), self._name)


class WhyButton(QToolButton):
    """A word that opens the explanation."""

    def __init__(self, title: str, says: str, picture: str) -> None:
        super().__init__()
        self.setObjectName("quiet")
        self.setText(self.tr("why?"))
        self.setAccessibleName(self.tr("Why: {title}").format(title=title))
        self._title, self._says, self._picture = title, says, picture
        self.card: QFrame | None = None
        self.clicked.connect(self.open)

    def open(self) -> None:
        """Open the explanation beside the button; a click elsewhere closes it."""
        self.card = card = QFrame(self, Qt.WindowType.Popup)
        card.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        card.setObjectName("check")
        card.setStyleSheet(sheet())
        column = QVBoxLayout(card)
        column.setContentsMargins(14, 12, 14, 12)
        head, text = QLabel(self._title), QLabel(self._says)
        head.setObjectName("strong")
        text.setWordWrap(True)
        text.setFixedWidth(_WORDS_PX)
        column.addWidget(head)
        column.addWidget(text)
        pair = PICTURES.get(self._picture)
        if pair is not None:
            column.addLayout(
                in_row(
                    _Pair(pair[0], self.tr("as wished")),
                    _Pair(pair[1], self.tr("not so")),
                    1,
                    gap=12,
                )
            )
        card.adjustSize()
        below = self.mapToGlobal(QPoint(self.width() - card.width(), self.height() + 2))
        screen = self.screen().availableGeometry()
        x = min(max(below.x(), screen.left()), screen.right() - card.width())
        y = (
            below.y()
            if below.y() + card.height() <= screen.bottom()
            else below.y() - card.height() - self.height() - 4
        )
        card.move(x, y)
        card.show()
