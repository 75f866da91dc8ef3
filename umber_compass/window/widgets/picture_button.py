"""A small live picture, mostly with its name below; resting on it previews what a click takes."""

from PySide6.QtCore import QRectF, QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QSizePolicy

from umber_compass.colour.packed import Packed
from umber_compass.window.widgets.bitmap import Bitmap
from umber_compass.window.widgets.peek_button import PeekButton
from umber_compass.window.widgets.theme import THEME, font
from umber_compass.window.widgets.whole_px import draw_image, fitted, paint_coming

_PICTURE = QSize(104, 92)
_NAME_PX = 22
_LEAST_HIGH, _MOST_PX = 0.3, 190  # of its width; px


class PictureButton(PeekButton):
    """Shows a picture; while the next is worked out the last one stays, dimmed. One that is taken
    has a thick frame and a tick."""

    def __init__(self, title: str, says: str, room: QSize = _PICTURE, named: bool = True) -> None:
        super().__init__(title)
        self._room, self._name_px = room, _NAME_PX if named else 4
        self._bitmap: Bitmap | None = None
        self._waits = False
        self.setCheckable(True)
        self.setToolTip(says)
        self.setAccessibleDescription(says)
        self.setMinimumWidth(room.width())
        if not named:
            self.setMinimumHeight(room.height())
        grows = QSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Preferred)
        grows.setHeightForWidth(named)
        self.setSizePolicy(grows)

    def sizeHint(self) -> QSize:
        return QSize(self._room.width(), self._room.height() + self._name_px)

    def hasHeightForWidth(self) -> bool:
        return self._name_px == _NAME_PX

    def heightForWidth(self, width: int) -> int:
        """As high as its picture is, within bounds."""
        shape = (4, 5) if self._bitmap is None else self._bitmap.packed.shape
        high = min(max(shape[0] / shape[1], _LEAST_HIGH), 1.0)
        return int(min(round(width * high), _MOST_PX)) + self._name_px

    def show_packed(self, packed: Packed) -> None:
        """Its picture, (h, w) 0x00RRGGBB."""
        other = self._bitmap is None or self._bitmap.packed.shape != packed.shape
        self._bitmap, self._waits = Bitmap(packed), False
        if other:
            self.updateGeometry()
        self.update()

    def wait(self) -> None:
        """Its picture is of an earlier plan until the next one comes."""
        if not self._waits:
            self._waits = True
            self.update()

    def nextCheckState(self) -> None:
        """Whether it is taken is shown by the plan, not by the click."""

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        room = QRectF(2, 2, self.width() - 4, self.height() - self._name_px - 3)
        box = room
        if self._bitmap is None:
            paint_coming(painter, room, "…")
        else:
            box = fitted(room, self._bitmap.image)
            draw_image(painter, box, self._bitmap.image, self._waits)
        seen = self.isChecked() or self.hasFocus() or self.underMouse()
        painter.setPen(
            QPen(THEME.colour("ink" if seen else "line"), 3 if self.isChecked() else 1.5)
        )
        painter.drawRect(box)
        if self._name_px == _NAME_PX:
            self._paint_name(painter, box.bottom() + 2)

    def _paint_name(self, painter: QPainter, top: float) -> None:
        painter.setFont(font(13, self.isChecked()))
        painter.setPen(THEME.colour("ink"))
        mark = "✓ " if self.isChecked() else ""
        line = QRectF(2, top, self.width() - 4, _NAME_PX)
        cut = painter.fontMetrics().elidedText(
            mark + self.text(), Qt.TextElideMode.ElideRight, int(line.width())
        )
        painter.drawText(line, Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter, cut)
