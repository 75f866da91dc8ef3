"""The tray: the palette as one bar, each swatch as wide as its share, its value below."""

from PySide6.QtCore import QEvent, QPoint, QPointF, QRectF, Qt, Signal
from PySide6.QtGui import (
    QColor,
    QHelpEvent,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
)
from PySide6.QtWidgets import QApplication, QSizePolicy, QToolTip, QWidget

from umber_compass.window.frame.tray_painting import BAR, Swatch, paint_swatches
from umber_compass.window.widgets import value_words
from umber_compass.window.widgets.swatch import carry
from umber_compass.window.widgets.theme import THEME, font
from umber_compass.window.widgets.under import Under

_LEAST_WORDS = 12  # px of a swatch under which nothing is written
_LEAST, _HEIGHT = 5, 80  # px: least width of a swatch, height of all


class Tray(QWidget):
    """Swatches, families side by side. A click copies the hex and selects; dragged onto the
    picture, a swatch is given to the region there."""

    copied = Signal(str)
    chosen = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        self.setAccessibleName(self.tr("Palette"))
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMouseTracking(True)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setFixedHeight(_HEIGHT)
        self._swatches: list[Swatch] = []
        self._selected = ""
        self._pressed: QPoint | None = None

    def show_swatches(self, swatches: list[Swatch], selected: str) -> None:
        """The palette, in order."""
        if (swatches, selected) == (self._swatches, self._selected):
            return
        self._swatches, self._selected = swatches, selected
        self.update()

    def boxes(self) -> list[tuple[QRectF, Swatch]]:
        """Where each swatch lies; small shares keep a least width that can still be hit."""
        if not self._swatches:
            return []
        least = min(_LEAST, self.width() / len(self._swatches) / 2)  # where there are hundreds
        room = self.width() - least * len(self._swatches)
        total = sum(s.share for s in self._swatches) or 1.0
        found, x = [], 0.0
        for swatch in self._swatches:
            width = least + room * swatch.share / total
            found.append((QRectF(x, 0, width, BAR), swatch))
            x += width
        return found

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        boxes = self.boxes()
        paint_swatches(painter, boxes, self.width(), self.devicePixelRatioF())
        self._paint_names(painter, boxes)
        for box, swatch in boxes:
            if swatch.region == self._selected:
                painter.setPen(QPen(THEME.colour("ink"), 2))
                painter.setBrush(Qt.BrushStyle.NoBrush)
                painter.drawRect(box.adjusted(1, 1, -1, -1))
                painter.setPen(QPen(QColor("white"), 1))
                painter.drawRect(box.adjusted(2.5, 2.5, -2.5, -2.5))
        if self.hasFocus():
            painter.setPen(QPen(THEME.colour("ink"), 2))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(self.rect().adjusted(1, 1, -1, -1))

    def _paint_names(self, painter: QPainter, boxes: list[tuple[QRectF, Swatch]]) -> None:
        painter.setFont(font(12))
        metrics = painter.fontMetrics()
        quiet, ink = THEME.colour("quiet"), THEME.colour("ink")
        value_text = value_words.notation().shown
        for box, swatch in boxes:
            if box.width() < _LEAST_WORDS:
                continue
            number = value_text(swatch.value)
            if metrics.horizontalAdvance(number) + 4 > box.width():
                continue
            painter.setPen(quiet)
            painter.drawText(QRectF(box.x(), BAR + 26, box.width(), 18), number)
            if metrics.horizontalAdvance(swatch.name) + 6 <= box.width():
                painter.setPen(ink)
                painter.drawText(QRectF(box.x(), BAR + 11, box.width(), 18), swatch.name)

    def _at(self, x: float) -> Swatch | None:
        return next((s for b, s in self.boxes() if b.left() <= x < b.right()), None)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if event.button() == Qt.MouseButton.LeftButton:
            self._pressed = event.position().toPoint()

    def under(self, place: QPointF) -> Under:
        """The swatch at a place."""
        swatch = self._at(place.x())
        return Under() if swatch is None else Under(swatch.region, swatch.hexes[0])

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        swatch = self._at(event.position().x())
        if self._pressed is None or swatch is None:
            return
        far = (event.position().toPoint() - self._pressed).manhattanLength()
        held = self._at(self._pressed.x())
        if (
            event.buttons() & Qt.MouseButton.LeftButton
            and held is not None
            and (far >= QApplication.startDragDistance())
        ):
            self._pressed = None
            carry(self, held.hexes[0])

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        swatch = self._at(event.position().x())
        if self._pressed is not None and swatch is not None:
            self._take(swatch)
        self._pressed = None

    def _take(self, swatch: Swatch) -> None:
        self.chosen.emit(swatch.region)
        self.copied.emit(swatch.hexes[0])

    def keyPressEvent(self, event: QKeyEvent) -> None:
        ids = [s.region for s in self._swatches]
        at = ids.index(self._selected) if self._selected in ids else -1
        step = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}.get(Qt.Key(event.key()))
        if step is not None and ids:
            self.chosen.emit(ids[min(max(at + step, 0), len(ids) - 1)])
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Space) and at >= 0:
            self._take(self._swatches[at])
        else:
            super().keyPressEvent(event)

    def event(self, event: QEvent) -> bool:
        if isinstance(event, QHelpEvent):
            swatch = self._at(event.pos().x())
            if swatch is not None:
                text = self.tr(
                    "{name}: {hex}, value {value:.0f} L*, {share:.1%} of the picture{pin}"
                )
                pin = self.tr(", pinned") if swatch.pinned else ""
                line = text.format(
                    name=swatch.name,
                    hex=" – ".join(swatch.hexes),
                    value=swatch.value,
                    share=swatch.share,
                    pin=pin,
                )
                QToolTip.showText(event.globalPos(), line, self)
            return True
        return super().event(event)
