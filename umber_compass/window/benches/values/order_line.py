"""The order of materials, from dark to light, rearranged by dragging."""

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QFontMetricsF, QKeyEvent, QPainter, QPen

from umber_compass.window.widgets.instrument import Hand, Instrument
from umber_compass.window.widgets.theme import THEME, font
from umber_compass.window.widgets.under import Under

_HEIGHT, _GAP, _PAD = 26, 18, 5
_MORE = 40  # px for how many there is no room for


class OrderLine(Instrument):
    """Drag a name to where it belongs; Left and Right choose one, with Shift they move it; Delete
    takes it out."""

    ordered = Signal(tuple)  # region ids, the darkest first
    chosen = Signal(str)

    drags = False
    grabs = Qt.CursorShape.SizeHorCursor

    def __init__(self) -> None:
        name = self.tr("Order of materials, dark to light")
        super().__init__(name, (300, _HEIGHT), (True, False))
        self.setToolTip(
            self.tr(
                "Materials from the darkest to the lightest. Drag a name to wish another order; "
                "Delete takes one out."
            )
        )
        self._ids: list[str] = []
        self._names: dict[str, str] = {}
        self._broken: set[str] = set()
        self._wished = False
        self._current = ""
        self._at = 0.0
        self._shown: object = None

    def show_order(
        self, ids: tuple[str, ...], names: dict[str, str], wished: bool, broken: set[str]
    ) -> None:
        """An order: the one that is wished, or the one materials stand in today; and which of them
        break it."""
        if self._held is None:
            self._ids = list(ids)
        now = (names, wished, broken, tuple(self._ids))
        if now != self._shown:
            self._shown = now
            self._names, self._wished, self._broken = names, wished, broken
            self.update()

    def boxes(self) -> list[tuple[str, QRectF]]:
        """Where each name stands; those there is no room for are left out."""
        found: list[tuple[str, QRectF]] = []
        metrics, x = QFontMetricsF(font(13)), 0.0
        for region in self._ids:
            wide = metrics.horizontalAdvance(self._names.get(region, "")) + 2 * _PAD
            left = len(self._ids) - len(found) - 1
            if x + wide + (_MORE if left else 0) > self.width():
                break
            found.append((region, QRectF(x, 1, wide, _HEIGHT - 2)))
            x += wide + _GAP
        return found

    def under(self, place: QPointF) -> Under:
        """The region at a place."""
        return Under(self._hit(place))

    def _hit(self, place: QPointF) -> str:
        return next((r for r, box in self.boxes() if box.contains(place)), "")

    def paint(self, painter: QPainter) -> None:
        ink, quiet = THEME.colour("ink"), THEME.colour("quiet")
        boxes = self.boxes()
        for i, (region, box) in enumerate(boxes):
            held = region == self._held
            shown = box.translated(self._at - box.center().x(), 0) if held else box
            if held or (self.hasFocus() and region == self._current):
                painter.fillRect(shown, THEME.colour("card"))
                painter.setPen(QPen(ink, 1.5))
                painter.drawRect(shown)
            painter.setPen(ink if self._wished else quiet)
            painter.setFont(font(13, region in self._broken))
            painter.drawText(shown, Qt.AlignmentFlag.AlignCenter, self._names.get(region, ""))
            if i + 1 < len(boxes):
                painter.setPen(quiet)
                painter.setFont(font(13))
                gap = QRectF(box.right(), 1, _GAP, _HEIGHT - 2)
                painter.drawText(gap, Qt.AlignmentFlag.AlignCenter, "<")
        left = len(self._ids) - len(boxes)
        if left > 0 and boxes:
            painter.setPen(quiet)
            end = QPointF(boxes[-1][1].right() + 6, _HEIGHT / 2 + 5)
            painter.drawText(end, f"< +{left}")

    def grip(self, place: QPointF) -> str | None:
        return self._hit(place) or None

    def pressed(self, hand: Hand) -> None:
        if self._held is not None:
            self._current, self._at = self._held, hand.place.x()
            self.chosen.emit(self._held)
            self.update()

    def dragged(self, held: str, hand: Hand) -> None:
        self._at = hand.place.x()
        others = [(r, b.center().x()) for r, b in self.boxes() if r != held]
        place = sum(1 for _, x in others if x < self._at)
        rest = [r for r in self._ids if r != held]
        self._ids = [*rest[:place], held, *rest[place:]]
        self.update()

    def let_go(self) -> None:
        if self._held is not None:
            self._held = None
            self.ordered.emit(tuple(self._ids))
            self.update()

    def stepped(self, right: int, up: int, hand: Hand) -> bool:
        if self._current not in self._ids:
            self._current = self._ids[0] if self._ids else ""
        if not right or not self._current:
            return False
        at = self._ids.index(self._current)
        to = min(max(at + right, 0), len(self._ids) - 1)
        if hand.shift:
            self._ids.insert(to, self._ids.pop(at))
            self.ordered.emit(tuple(self._ids))
        else:
            self._current = self._ids[to]
            self.chosen.emit(self._current)
        self.update()
        return True

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Delete and self._current in self._ids:
            self.ordered.emit(tuple(r for r in self._ids if r != self._current))
        else:
            super().keyPressEvent(event)
