"""A palette from outside beside the regions, a line from each region to the colour it took: drag a
line's end, or a region, onto another colour."""

from typing import NamedTuple

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QColor, QPainter, QPen

from umber_compass.window.widgets.instrument import Hand, Instrument
from umber_compass.window.widgets.theme import THEME, font

_LEAST_PX, _MOST_PX = 15, 24  # of a region's row
_LEFT, _RIGHT = 118, 150  # px that colours and regions take


class MappedRegion(NamedTuple):
    """One region and the colour it took."""

    region: str
    name: str
    hex: str  # as it is shown now
    at: int | None  # which colour of the palette; None where it kept its own


class Mapping(Instrument):
    """Colours left, regions right."""

    moved = Signal(str, int)  # a region, the colour it takes
    chosen = Signal(str)

    drags = False
    smooth = True
    grabs = Qt.CursorShape.OpenHandCursor

    def __init__(self) -> None:
        super().__init__(self.tr("Which colour each region took"), grows=(True, False))
        self._colours: list[tuple[str, str]] = []
        self._regions: list[MappedRegion] = []
        self._selected = ""
        self._hand_at = QPointF()

    def sizeHint(self) -> QSize:
        count = max(len(self._regions), len(self._colours))
        return QSize(400, count * (_MOST_PX if count < 16 else _LEAST_PX) + 4)

    def show_mapping(
        self, colours: list[tuple[str, str]], regions: list[MappedRegion], selected: str
    ) -> None:
        """The palette's colours by hex and name, and the regions in the order of their colours."""
        if (colours, regions, selected) == (self._colours, self._regions, self._selected):
            return
        self._colours, self._regions, self._selected = colours, regions, selected
        self.updateGeometry()
        self.update()

    def colour_box(self, at: int) -> QRectF:
        """Where a colour stands."""
        high = self.height() / max(len(self._colours), 1)
        box = QRectF(0, at * high, _LEFT, min(high, 40))
        return box.adjusted(0, 1, 0, -1)

    def region_box(self, at: int) -> QRectF:
        """Where a region stands."""
        high = self.height() / max(len(self._regions), 1)
        return QRectF(self.width() - _RIGHT, at * high, _RIGHT, min(high, _MOST_PX))

    def paint(self, painter: QPainter) -> None:
        for i, region in enumerate(self._regions):
            self._paint_line(painter, i, region)
        metrics_font = font(11)
        middle = Qt.AlignmentFlag.AlignVCenter
        for i, (colour, name) in enumerate(self._colours):
            box = self.colour_box(i)
            painter.fillRect(QRectF(box.right() - 34, box.y(), 34, box.height()), QColor(colour))
            painter.setFont(metrics_font)
            painter.setPen(THEME.colour("quiet"))
            said = painter.fontMetrics().elidedText(name, Qt.TextElideMode.ElideRight, 78)
            painter.drawText(box.adjusted(0, 0, -38, 0), middle, said)
        for i, region in enumerate(self._regions):
            box = self.region_box(i)
            painter.fillRect(QRectF(box.x(), box.y() + 1, 22, box.height() - 2), QColor(region.hex))
            painter.setPen(THEME.colour("ink"))
            painter.setFont(font(12, region.region == self._selected))
            said = painter.fontMetrics().elidedText(
                region.name, Qt.TextElideMode.ElideRight, int(box.width() - 28)
            )
            painter.drawText(box.adjusted(28, 0, 0, 0), middle, said)

    def _paint_line(self, painter: QPainter, at: int, region: MappedRegion) -> None:
        end = self.region_box(at)
        if region.at is None:
            return
        begin = self.colour_box(region.at)
        held = region.region == self._held
        thick = held or region.region == self._selected
        painter.setPen(QPen(THEME.colour("ink" if thick else "line"), 2.4 if thick else 1.2))
        start = self._hand_at if held else QPointF(begin.right() + 2, begin.center().y())
        painter.drawLine(start, QPointF(end.x() - 3, end.center().y()))

    def _region_at(self, place: QPointF) -> MappedRegion | None:
        boxes = enumerate(self._regions)
        inside = (r for i, r in boxes if self.region_box(i).contains(place))
        return next(inside, None) or self._line_at(place)

    def _line_at(self, place: QPointF) -> MappedRegion | None:
        """The region whose line is within reach of a place, the nearest."""
        near = []
        for i, region in enumerate(self._regions):
            if region.at is None:
                continue
            begin, end = self.colour_box(region.at), self.region_box(i)
            a, b = QPointF(begin.right(), begin.center().y()), QPointF(end.x(), end.center().y())
            part = (place.x() - a.x()) / max(b.x() - a.x(), 1)
            if 0 <= part <= 1:
                near.append((abs(a.y() + (b.y() - a.y()) * part - place.y()), i))
        best = min(near, default=(99.0, 0))
        return self._regions[best[1]] if best[0] <= 5 else None

    def grip(self, place: QPointF) -> str | None:
        found = self._region_at(place)
        return None if found is None else found.region

    def pressed(self, hand: Hand) -> None:
        if self._held is not None:
            self.chosen.emit(self._held)

    def dragged(self, held: str, hand: Hand) -> None:
        self._hand_at = hand.place
        self.update()

    def dropped(self, held: str, hand: Hand) -> None:
        if hand.place.x() <= _LEFT + 30 and self._colours:
            high = self.height() / len(self._colours)
            at = min(max(int(hand.place.y() / high), 0), len(self._colours) - 1)
            self.moved.emit(held, at)

    def stepped(self, right: int, up: int, hand: Hand) -> bool:
        ids = [r.region for r in self._regions]
        if not ids:
            return False
        at = ids.index(self._selected) if self._selected in ids else 0
        own = self._regions[at].at
        if up:
            self.chosen.emit(ids[min(max(at - up, 0), len(ids) - 1)])
        elif own is not None and 0 <= own + right < len(self._colours):
            self.moved.emit(ids[at], own + right)
        return bool(up) or own is not None
