"""The fall-off from the focus under a hand: the band's corners are dragged or stepped."""

from PySide6.QtCore import QEvent, QPointF, Qt, Signal
from PySide6.QtGui import QHelpEvent, QKeyEvent, QMouseEvent
from PySide6.QtWidgets import QToolTip

from umber_compass.plan.wishes import Falloff
from umber_compass.steps.focus.falloff import MOST, UNITS
from umber_compass.window.benches.focus.falloff_view import CORNERS, FalloffView
from umber_compass.window.widgets.holding import Holding


class FalloffChart(Holding, FalloffView):
    """Drag a corner of the band; Page Up and Page Down choose one, Up and Down move it."""

    shaped = Signal(object)  # Falloff
    chosen = Signal(str)
    began = Signal()
    ended = Signal()

    def event(self, event: QEvent) -> bool:
        if isinstance(event, QHelpEvent):
            spot = self._spot_at(QPointF(event.pos()))
            text = self.tr("Drag a corner of the band: what should lie between, near and far.")
            if spot is not None:
                text = self.tr("{name}: {level:.3g} {unit}, {far:.0%} of the way out").format(
                    name=self._names.get(spot.region, ""),
                    level=spot.level[self._of],
                    unit=UNITS[self._of],
                    far=spot.far,
                )
            QToolTip.showText(event.globalPos(), text, self)
            return True
        return super().event(event)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if event.button() != Qt.MouseButton.LeftButton:
            return
        self._held = self._corner_at(event.position())
        if self._held is not None:
            self._current = CORNERS.index(self._held)
            self.began.emit()
            return
        spot = self._spot_at(event.position())
        if spot is not None:
            self.chosen.emit(spot.region)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._held is None:
            over = self._corner_at(event.position()) is not None
            self.setCursor(Qt.CursorShape.SizeVerCursor if over else Qt.CursorShape.ArrowCursor)
            return
        room = self.room()
        share = (room.bottom() - event.position().y()) / max(room.height(), 1.0)
        self._shape(self._held, min(max(share, 0.0), 1.0) * MOST[self._of])

    def _shape(self, corner: tuple[str, int], level: float) -> None:
        end, i = corner
        span = list(getattr(self._wish, end))
        span[i] = min(level, span[1]) if i == 0 else max(level, span[0])
        both = {"near": self._wish.near, "far": self._wish.far, end: (span[0], span[1])}
        self.shaped.emit(Falloff(**both))

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        self.let_go()

    def let_go(self) -> None:
        if self._held is not None:
            self._held = None
            self.ended.emit()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        step = {Qt.Key.Key_Up: 1, Qt.Key.Key_Down: -1}.get(Qt.Key(event.key()))
        turn = {Qt.Key.Key_PageUp: -1, Qt.Key.Key_PageDown: 1}.get(Qt.Key(event.key()))
        if step is not None:
            end, i = CORNERS[self._current]
            level = getattr(self._wish, end)[i] + step * MOST[self._of] / 50
            self._shape((end, i), min(max(level, 0.0), MOST[self._of]))
        elif turn is not None:
            self._current = (self._current + turn) % len(CORNERS)
            self.update()
        else:
            super().keyPressEvent(event)
