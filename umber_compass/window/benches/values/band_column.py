"""The value bands beside the ladder: their names, what they hold and should, edges to drag."""

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QPainter, QPen, QResizeEvent

from umber_compass.plan.wishes import Bands
from umber_compass.steps.checks.values.band_share import BAND_NAMES
from umber_compass.window.benches.values.chips import Scale
from umber_compass.window.widgets.fields import NumberField
from umber_compass.window.widgets.instrument import Hand, Instrument
from umber_compass.window.widgets.theme import THEME, font
from umber_compass.window.widgets.value_words import value_text

_WIDTH, _FIELD = 100, 58
_GRIP = 5  # px round an edge in which it is taken
_NARROW = 62  # px of height under which a band has no field


class BandColumn(Instrument):
    """Drag an edge, or choose it with Page Up and Page Down and move it with Up and Down; type what
    a band should hold."""

    edge_moved = Signal(int, float)  # which, L*
    share_wished = Signal(int, float)  # which band, 0-1

    def __init__(self) -> None:
        super().__init__(self.tr("Value bands"), (_WIDTH, 400), (False, True))
        self.setFixedWidth(_WIDTH)
        self.setToolTip(
            self.tr(
                "What each band of values holds of the picture, and what it should. Drag an edge, "
                "or type a share."
            )
        )
        self._bands = Bands(edges=(35, 68), shares=(0.25, 0.5, 0.25))
        self._shares: tuple[float, ...] = (0.0, 0.0, 0.0)  # that bands hold now
        self._on = False
        self._current = 0  # the edge that keys move
        self.fields: list[NumberField] = []
        self._seen: object = None

    def show_bands(self, bands: Bands, held: tuple[float, ...], on: bool) -> None:
        """Bands, what each holds, and whether they are wished."""
        if len(bands.shares) != len(self.fields):
            self._build_fields(len(bands.shares))
        seen = (bands, tuple(round(100 * h) for h in held), on, value_text(0.0), self.height())
        self._bands, self._shares, self._on = bands, held, on
        if seen == self._seen:
            return  # nothing that is shown changed: in a drag every millisecond counts
        self._seen = seen
        for field, share in zip(self.fields, bands.shares, strict=True):
            field.show_number(round(100 * share))
        self._place_fields()
        self.update()

    def _build_fields(self, count: int) -> None:
        for field in self.fields:
            field.deleteLater()
        self.fields = []
        for i in range(count):
            says = self.tr("What this band should hold of the picture; the others give way.")
            field = NumberField(self.tr("Wished share"), 0, 100, " %", 5, 0, says)
            field.setParent(self)
            field.wanted.connect(lambda share, n=i: self.share_wished.emit(n, share / 100))
            self.fields.append(field)

    def _span(self, band: int) -> tuple[float, float]:
        """The top and bottom of a band, px."""
        edges = (0.0, *self._bands.edges, 100.0)
        scale = Scale(self.width(), self.height())
        return scale.y_of(edges[band + 1]), scale.y_of(edges[band])

    def _place_fields(self) -> None:
        for i, field in enumerate(self.fields):
            top, bottom = self._span(i)
            field.setFixedWidth(_FIELD)
            field.setVisible(bottom - top >= _NARROW)
            field.move(self.width() - _FIELD, round((top + bottom) / 2) + 4)

    def resizeEvent(self, event: QResizeEvent) -> None:
        self._place_fields()

    def paint(self, painter: QPainter) -> None:
        scale, ink = Scale(self.width(), self.height()), THEME.colour("ink")
        names = BAND_NAMES[len(self._bands.shares)]
        for i, name in enumerate(names):
            top, bottom = self._span(i)
            middle = (top + bottom) / 2
            if bottom - top < 17:
                continue
            tall = bottom - top >= _NARROW
            painter.setPen(ink)
            painter.setFont(font(12, True))
            now = f"{100 * self._shares[i]:.0f} %"
            right = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter
            text = name if tall else f"{name} {now}"
            up = 30 if tall else 9
            painter.drawText(QRectF(0, middle - up, self.width(), 18), right, text)
            if tall:
                painter.setFont(font(12))
                painter.drawText(QRectF(0, middle - 14, self.width(), 18), right, now)
                painter.setPen(THEME.colour("quiet"))
                wish = self.tr("wish") if self._on else self.tr("off")
                room = QRectF(0, middle + 4, self.width() - _FIELD - 6, 22)
                painter.drawText(room, right, wish)
        self._paint_edges(painter, scale)

    def _paint_edges(self, painter: QPainter, scale: Scale) -> None:
        for i, edge in enumerate(self._bands.edges):
            chosen = self.hasFocus() and i == self._current
            style = Qt.PenStyle.SolidLine if self._on else Qt.PenStyle.DotLine
            painter.setPen(QPen(THEME.colour("ink"), 3 if chosen else 1.5, style))
            y = scale.y_of(edge)
            painter.drawLine(QPointF(0, y), QPointF(self.width(), y))
            painter.setFont(font(11))
            painter.setPen(THEME.colour("quiet"))
            painter.drawText(QPointF(0, y - 3), value_text(edge))

    def grip(self, place: QPointF) -> int | None:
        scale = Scale(self.width(), self.height())
        near = (abs(scale.y_of(e) - place.y()) <= _GRIP for e in self._bands.edges)
        return next((i for i, is_near in enumerate(near) if is_near), None)

    def stands(self, held: int) -> QPointF:
        return QPointF(0, Scale(self.width(), self.height()).y_of(self._bands.edges[held]))

    def pressed(self, hand: Hand) -> None:
        if self._held is not None:
            self._current = self._held

    def dragged(self, held: int, hand: Hand) -> None:
        value = Scale(self.width(), self.height()).value_at(hand.place.y())
        self.edge_moved.emit(held, round(value))

    def stepped(self, right: int, up: int, hand: Hand) -> bool:
        if up:
            by = up * (5 if hand.shift else 1)
            self.edge_moved.emit(self._current, self._bands.edges[self._current] + by)
        return bool(up)

    def turned_page(self, by: int) -> bool:
        self._current = min(max(self._current + by, 0), len(self._bands.edges) - 1)
        self.update()
        return True
