"""The value ladder under a hand: chips and limits are dragged, what is gathered opens."""

from PySide6.QtCore import QEvent, QPointF, Qt, Signal
from PySide6.QtGui import QColor, QHelpEvent, QIcon, QKeyEvent, QMouseEvent, QPixmap
from PySide6.QtWidgets import QMenu, QToolTip

from umber_compass.window.benches.values.chips import CHIPS, Chip, Gathered
from umber_compass.window.benches.values.ladder_view import LadderView
from umber_compass.window.widgets.holding import Holding
from umber_compass.window.widgets.under import Under


class Ladder(Holding, LadderView):
    """Drag a chip to set a value, a dashed line to move a limit. Up and Down step the chosen chip
    by a point of L*, with Shift by five; Page Up and Page Down choose the next chip. Dragged with
    Shift, a chip takes its whole family with it. Locked chips stay."""

    moved = Signal(str, int, float)  # region, end, L*
    family_moved = Signal(str, float)  # slot, L* from where the drag began
    limit = Signal(str, float)  # dark or light, L*
    began = Signal()
    ended = Signal()
    chosen = Signal(str)

    _family, _begun = "", 0.0  # the family that is dragged, and the value L* its chip began at

    def under(self, place: QPointF) -> Under:
        """The chip at a place."""
        chip, _ = self._hit(place)
        return Under() if chip is None else Under(chip.region, chip.hex)

    def menu_of(self, group: Gathered) -> QMenu:
        """The chips that are gathered, each with its colour and value; one that is chosen comes
        out."""
        menu = QMenu(self)
        for chip in group.chips:
            swatch = QPixmap(14, 14)
            swatch.fill(QColor(chip.hex))
            action = menu.addAction(QIcon(swatch), f"{chip.name}  {chip.value:.0f} L*")
            action.triggered.connect(lambda _=False, c=chip: self._choose(c))
        return menu

    def _choose(self, chip: Chip) -> None:
        self._current = (chip.region, chip.end)
        self.chosen.emit(chip.region)
        self.update()

    def event(self, event: QEvent) -> bool:
        if isinstance(event, QHelpEvent):
            said = self._says(QPointF(event.pos()))
            QToolTip.showText(event.globalPos(), said, self)
            return True
        return super().event(event)

    def _says(self, place: QPointF) -> str:
        """What lies at a place, in a sentence."""
        group = self.group_at(place)
        if group is not None:
            names = ", ".join(c.name for c in group.chips)
            return self.tr("{count} more of this value: {names}. Click to choose one.").format(
                count=len(group.chips), names=names
            )
        chip, kind = self._hit(place)
        if chip is not None:
            what = self.tr(
                "{name} is planned at {value:.0f} L* and holds {share:.1%} of the picture."
            )
            how = self.tr("Drag it up to lighten, down to darken; with Shift its family comes too.")
            if chip.locked:
                how = self.tr("It is locked.")
            said = what.format(name=chip.name, value=chip.value, share=chip.share)
            return f"{said} {how}"
        if kind:
            return self.tr("The limit for extremes: drag it, or set it under Practice.")
        if place.x() < CHIPS:
            return self.tr("How much of the picture lies at each value, L* 0 black to 100 white.")
        return ""

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if event.button() != Qt.MouseButton.LeftButton:
            return
        group = self.group_at(event.position())
        if group is not None:
            self.menu_of(group).popup(event.globalPosition().toPoint())
            return
        chip, kind = self._hit(event.position())
        if chip is not None and chip.locked:
            self._choose(chip)
        elif chip is not None:
            self._held = self._current = (chip.region, chip.end)
            shift = event.modifiers() & Qt.KeyboardModifier.ShiftModifier
            self._family, self._begun = (chip.family if shift else ""), chip.value
            self._grip = event.position().y() - self.scale.y_of(chip.value)
            self.chosen.emit(chip.region)
        elif kind:
            self._held, self._grip = (kind, -1), 0.0
        if self._held is not None:
            self.began.emit()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._held is None:
            chip, kind = self._hit(event.position())
            grab = Qt.CursorShape.SizeVerCursor if chip or kind else Qt.CursorShape.ArrowCursor
            self.setCursor(grab)
            return
        value = self.scale.value_at(event.position().y() - self._grip)
        if self._held[1] < 0:
            self.limit.emit(self._held[0], round(value))
        elif self._family:
            self.family_moved.emit(self._family, value - self._begun)
        else:
            self.moved.emit(self._held[0], self._held[1], value)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        self.let_go()

    def let_go(self) -> None:
        if self._held is not None:
            self._held = None
            self.ended.emit()
            self.update()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        step = 5 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1
        move = {Qt.Key.Key_Up: step, Qt.Key.Key_Down: -step}.get(Qt.Key(event.key()))
        turn = {Qt.Key.Key_PageUp: 1, Qt.Key.Key_PageDown: -1}.get(Qt.Key(event.key()))
        ordered = sorted(self._chips, key=lambda c: c.value)
        at = next((i for i, c in enumerate(ordered) if (c.region, c.end) == self._current), None)
        if move is not None and at is not None:
            chip = ordered[at]
            if not chip.locked:
                self.moved.emit(chip.region, chip.end, min(max(chip.value + move, 0), 100))
        elif turn is not None and ordered:
            at = 0 if at is None else min(max(at + turn, 0), len(ordered) - 1)
            self._current = (ordered[at].region, ordered[at].end)
            self.chosen.emit(ordered[at].region)
        else:
            super().keyPressEvent(event)
