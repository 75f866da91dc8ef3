"""Regions ranked by how strongly they draw the eye, split in value, hue, chroma and detail."""

from typing import NamedTuple

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QColor, QMouseEvent, QPainter, QPen

from umber_compass.steps.focus.pull import PARTS
from umber_compass.window.widgets.instrument import Hand, Instrument
from umber_compass.window.widgets.theme import THEME, font
from umber_compass.window.widgets.under import Under
from umber_compass.window.widgets.whole_px import paint_coming

_ROW, _SWATCH, _NAME, _NUMBER = 24, 16, 108, 46  # px
GREYS = ("#1c1c1c", "#5c5c5c", "#8c8c8c", "#e0e0e0")  # of the four parts, in every room


class Bar(NamedTuple):
    """One region's pull."""

    region: str
    name: str
    hex: str
    parts: tuple[float, ...]
    focus: bool

    @property
    def total(self) -> float:
        """All its parts."""
        return sum(self.parts)


class PullChart(Instrument):
    """Up and Down choose a region; Enter makes it the focus, or no longer."""

    chosen = Signal(str)
    pointed = Signal(str)
    toggled = Signal(str)  # in or out of the focus

    framed = True
    drags = False

    def __init__(self) -> None:
        super().__init__(self.tr("What pulls the eye"), (480, 9 * _ROW))
        self.setMinimumHeight(4 * _ROW)
        self._bars: list[Bar] = []
        self._most: float | None = None  # pull that others should stay below
        self._selected = ""

    def show_bars(self, bars: list[Bar], most: float | None, selected: str) -> None:
        """Regions, the strongest first, and the line that all but the focus should stay below."""
        self._bars, self._most, self._selected = bars, most, selected
        self.setAccessibleDescription(
            ", ".join(f"{b.name} {b.total:.2f}" for b in self.shown()[:3])
        )
        self.update()

    def shown(self) -> list[Bar]:
        """As many as there is room for; the focus and the chosen region always among them."""
        room = max(1, (self.height() - 16) // _ROW)
        if len(self._bars) <= room:
            return self._bars
        kept = self._bars[:room]
        extra = [b for b in self._bars[room:] if b.focus or b.region == self._selected][:2]
        return [*kept[: room - len(extra)], *extra]

    def under(self, place: QPointF) -> Under:
        """The region at a place."""
        bar = self._at(place)
        return Under() if bar is None else Under(bar.region, bar.hex)

    def _at(self, place: QPointF) -> Bar | None:
        row, shown = int(place.y() // _ROW), self.shown()
        return shown[row] if 0 <= row < len(shown) else None

    def paint(self, painter: QPainter) -> None:
        shown = self.shown()
        if not shown:
            says = self.tr("Predicting what draws the eye …")
            paint_coming(painter, QRectF(self.rect()), says, well=False)
            return
        top = max([b.total for b in shown] + [self._most or 0.0, 0.4])
        left = _NAME + _SWATCH + 12
        scale = (self.width() - left - _NUMBER) / (top * 1.02)
        for row, bar in enumerate(shown):
            self._paint_row(painter, bar, row * _ROW, left, scale)
        if self._most is not None:
            self._paint_line(painter, left + self._most * scale, len(shown) * _ROW)

    def _paint_row(self, painter: QPainter, bar: Bar, y: int, left: int, scale: float) -> None:
        ink = THEME.colour("ink")
        strong = bar.focus or bar.region == self._selected
        painter.setFont(font(13, strong))
        painter.setPen(ink)
        middle = Qt.AlignmentFlag.AlignVCenter
        cut = painter.fontMetrics().elidedText(bar.name, Qt.TextElideMode.ElideRight, _NAME - 6)
        painter.drawText(QRectF(4, y, _NAME - 6, _ROW), middle, cut)
        swatch = QRectF(_NAME, y + (_ROW - _SWATCH) / 2, _SWATCH, _SWATCH)
        painter.fillRect(swatch, QColor(bar.hex))
        x = float(left)
        for part, grey in zip(bar.parts, GREYS, strict=True):
            painter.fillRect(QRectF(x, y + 4, part * scale, _ROW - 8), QColor(grey))
            x += part * scale
        painter.setPen(ink)
        box = QRectF(self.width() - _NUMBER, y, _NUMBER - 4, _ROW)
        painter.drawText(box, middle | Qt.AlignmentFlag.AlignRight, f"{bar.total:.2f}")
        painter.setBrush(Qt.BrushStyle.NoBrush)
        if bar.focus:
            painter.setPen(QPen(ink, 1.5))
            painter.drawRect(QRectF(0.75, y + 1, self.width() - 1.5, _ROW - 2))
        elif bar.region == self._selected:
            painter.setPen(QPen(ink, 2))
            painter.drawLine(QPointF(0, y + 3), QPointF(0, y + _ROW - 3))

    def _paint_line(self, painter: QPainter, x: float, bottom: int) -> None:
        painter.setPen(QPen(THEME.colour("ink"), 1.5, Qt.PenStyle.DashLine))
        painter.drawLine(QPointF(x, 0), QPointF(x, bottom + 2))
        painter.setFont(font(11))
        painter.setPen(THEME.colour("quiet"))
        text = self.tr("limit for everything else")
        wide = painter.fontMetrics().horizontalAdvance(text)
        at = min(max(x - wide / 2, 4.0), self.width() - wide - 4.0)
        painter.drawText(QPointF(at, bottom + 13), text)

    def says(self, place: QPointF) -> str:
        bar = self._at(place)
        if bar is None:
            return ""
        parts = ", ".join(f"{p} {v:.2f}" for p, v in zip(PARTS, bar.parts, strict=True))
        text = self.tr("{name} draws {total:.2f}: {parts}. 1 is a full difference.")
        return text.format(name=bar.name, total=bar.total, parts=parts)

    def pressed(self, hand: Hand) -> None:
        bar = self._at(hand.place)
        if bar is not None:
            self.chosen.emit(bar.region)

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        bar = self._at(event.position())
        if bar is not None:
            self.toggled.emit(bar.region)

    def hovered(self, place: QPointF) -> None:
        bar = self._at(place)
        self.pointed.emit("" if bar is None else bar.region)

    def stepped(self, right: int, up: int, hand: Hand) -> bool:
        ids = [b.region for b in self._bars]
        if not up or not ids:
            return False
        at = ids.index(self._selected) if self._selected in ids else up if up > 0 else -1
        self.chosen.emit(ids[min(max(at - up, 0), len(ids) - 1)])
        return True

    def taken(self) -> bool:
        if self._selected:
            self.toggled.emit(self._selected)
        return bool(self._selected)
