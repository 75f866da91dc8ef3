"""One file of a hand-off: whether it is written, what is in it, and what it will look like."""

from collections.abc import Sequence

from PySide6.QtCore import QRectF, QSize
from PySide6.QtGui import QColor, QImage, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QCheckBox, QSizePolicy, QWidget

from umber_compass.colour.packed import Packed
from umber_compass.window.bench.bench import quiet
from umber_compass.window.widgets.bitmap import Bitmap
from umber_compass.window.widgets.rows import in_column, in_row
from umber_compass.window.widgets.theme import THEME
from umber_compass.window.widgets.whole_px import draw_image, fitted

_WIDTH, _HEIGHT = 76, 46  # px
_CARDS, _AWAY = 3, 4.0  # of a stack, and px from one to the next


class Glimpse(QWidget):
    """What a file will look like, small: a picture, a stack of layers, or rows of colours."""

    def __init__(self, stacked: bool = False) -> None:
        super().__init__()
        self.setFixedSize(QSize(_WIDTH, _HEIGHT))
        self.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Fixed)
        self._stacked = stacked
        self._bitmap: Bitmap | None = None
        self._rows: list[list[str]] = []

    def show_packed(self, packed: Packed) -> None:
        """Show a picture."""
        self._bitmap = Bitmap(packed)
        self.update()

    def show_rows(self, rows: Sequence[tuple[str, str, str]]) -> None:
        """Show a palette's rows, (hex, name, step)."""
        lines: dict[str, list[str]] = {}
        for hex_, name, _ in rows:
            lines.setdefault(name, []).append(hex_)
        self._rows = list(lines.values())
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        whole = QRectF(self.rect())
        if self._bitmap is not None:
            self._paint_picture(painter, whole, self._bitmap.image)
        elif self._rows:
            self._paint_rows(painter, whole)

    def _paint_picture(self, painter: QPainter, whole: QRectF, image: QImage) -> None:
        painter.setPen(QPen(THEME.colour("line"), 1))
        cards = _CARDS if self._stacked else 1
        room = whole.adjusted(0, (cards - 1) * _AWAY, -(cards - 1) * _AWAY, 0)
        box = fitted(room, image)
        for away in range(cards - 1, 0, -1):
            card = box.translated(away * _AWAY, -away * _AWAY)
            painter.fillRect(card, THEME.colour("card"))
            painter.drawRect(card.adjusted(0, 0, -1, -1))
        draw_image(painter, box, image, False)
        painter.drawRect(box.adjusted(0, 0, -1, -1))

    def _paint_rows(self, painter: QPainter, whole: QRectF) -> None:
        count = min(len(self._rows), int(whole.height()) // 3)
        height = whole.height() / count
        for i, row in enumerate(self._rows[:count]):
            width = whole.width() / len(row)
            for j, hex_ in enumerate(row):
                box = QRectF(j * width, i * height, width + 0.5, height + 0.5)
                painter.fillRect(box, QColor(hex_))


class FileRow(QWidget):
    """A box to tick, a sentence, and a glimpse."""

    def __init__(self, says: str, stacked: bool = False) -> None:
        super().__init__()
        self.box, self.glimpse = QCheckBox(), Glimpse(stacked)
        words = quiet(says)
        words.setContentsMargins(24, 0, 0, 0)
        in_row((in_column(self.box, words, 1, gap=0), 1), self.glimpse, gap=8, on=self)
