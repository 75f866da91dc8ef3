"""The stage plan: a row for each role from far to near, regions as names with their colour. Dragged
between rows a region's role changes, within a row what lies in front."""

from collections.abc import Sequence

from PySide6.QtCore import QEvent, QPointF, QRectF, Qt, Signal
from PySide6.QtGui import (
    QFontMetricsF,
    QHelpEvent,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QResizeEvent,
)
from PySide6.QtWidgets import QSizePolicy, QToolTip, QWidget

from umber_compass.picture.drawing import Drawing
from umber_compass.plan.terms import ROLES
from umber_compass.window.benches.sketch.plan_layout import (
    Chip,
    Named,
    Row,
    before_at,
    beside,
    box_of,
    chip_at,
    lay_out,
    row_at,
)
from umber_compass.window.benches.sketch.plan_painting import paint_carried, paint_row
from umber_compass.window.widgets.outlines import Outlines
from umber_compass.window.widgets.theme import THEME, font
from umber_compass.window.widgets.under import Under

_FAR = 6  # px from which a press is a drag
_ARROWS = {
    Qt.Key.Key_Left: -1,
    Qt.Key.Key_Right: 1,
}


class StagePlan(QWidget):
    """Says which regions are chosen, and where they are put."""

    chosen = Signal(object)  # ids, the one that leads first
    pointed = Signal(str)
    moved = Signal(object, str, str)  # ids, the role, before which region or empty
    naming = Signal()  # the chosen region is to be named

    def __init__(self) -> None:
        super().__init__()
        self.setAccessibleName(self.tr("Stage plan"))
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMouseTracking(True)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self._regions: list[Named] = []
        self._selected: tuple[str, ...] = ()
        self.rows: list[Row] = []
        self.outlines: Outlines | None = None
        self._pressed: tuple[QPointF, Chip] | None = None
        self._at: QPointF | None = None  # where what is dragged is held

    def show_regions(
        self, regions: Sequence[Named], selected: tuple[str, ...], drawing: Drawing
    ) -> None:
        """Show regions, from far to near, which are chosen, and where they lie in a drawing."""
        if self.outlines is None or self.outlines.drawing is not drawing:
            self.outlines = Outlines(drawing)
            self.update()
        same = list(regions) == self._regions
        if same and selected == self._selected:
            return
        self._regions, self._selected = list(regions), selected
        if not same:
            self._lay_out()
        self.update()

    def _lay_out(self) -> None:
        metrics = QFontMetricsF(font(13))
        self.rows, height = lay_out(self._regions, self.width(), metrics.horizontalAdvance)
        if round(height) != self.height():
            self.setFixedHeight(max(round(height), 1))
        states = [f"{r.role}: {', '.join(c.region.name for c in r.chips)}" for r in self.rows]
        self.setAccessibleDescription("; ".join(states)[:4000])

    def resizeEvent(self, event: QResizeEvent) -> None:
        if event.size().width() != event.oldSize().width():
            self._lay_out()

    def box_of(self, region_id: str) -> QRectF:
        """Where a region's name stands; a null box where it is not there."""
        return box_of(self.rows, region_id)

    def under(self, place: QPointF) -> Under:
        """The region at a place."""
        chip = chip_at(self.rows, place.x(), place.y())
        return Under() if chip is None else Under(chip.region.id, chip.region.hexes[0])

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        seen = QRectF(event.rect())
        for row in self.rows:
            if row.box.intersects(seen):
                paint_row(painter, row, self._selected, seen, self.outlines)
        if self._at is not None and self._pressed is not None:
            many = len(self._carried())
            paint_carried(painter, self.rows, self._at, self._pressed[1], many, self.outlines)
        if self.hasFocus() and not self._selected:
            painter.setPen(QPen(THEME.colour("ink"), 2))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(self.rect().adjusted(1, 1, -1, -1))

    def mousePressEvent(self, event: QMouseEvent) -> None:
        chip = chip_at(self.rows, event.position().x(), event.position().y())
        if event.button() != Qt.MouseButton.LeftButton:
            return
        if chip is None:
            self.chosen.emit(())
            return
        self._pressed = (event.position(), chip)
        more = Qt.KeyboardModifier.ShiftModifier | Qt.KeyboardModifier.ControlModifier
        if event.modifiers() & more:
            self._pressed = None
            now = [i for i in self._selected if i != chip.region.id]
            was = len(now) < len(self._selected)
            self.chosen.emit(tuple(now) if was else (chip.region.id, *now))
        elif chip.region.id not in self._selected:
            self.chosen.emit((chip.region.id,))

    def _carried(self) -> tuple[str, ...]:
        """What is dragged: all that are chosen, where the pressed one is among them."""
        if self._pressed is None:
            return ()
        own = self._pressed[1].region.id
        return self._selected if own in self._selected else (own,)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._pressed is not None:
            far = (event.position() - self._pressed[0]).manhattanLength()
            if self._at is not None or far >= _FAR:
                self._at = event.position()
                self.update()
            return
        self.pointed.emit(self.under(event.position()).region)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        pressed, at = self._pressed, self._at
        carried = self._carried()
        self._pressed = self._at = None
        if pressed is None or event.button() != Qt.MouseButton.LeftButton:
            return
        if at is None:
            self.chosen.emit((pressed[1].region.id,))
            return
        row = row_at(self.rows, at.y())
        if row is not None:
            before = before_at(row, at.x(), at.y())
            if before not in carried or len(carried) > 1:
                self.moved.emit(carried, row.role, "" if before in carried else before)
        self.update()

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        if chip_at(self.rows, event.position().x(), event.position().y()) is not None:
            self.naming.emit()

    def leaveEvent(self, event: QEvent) -> None:
        self.pointed.emit("")

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key = Qt.Key(event.key())
        order = [c.region.id for row in self.rows for c in row.chips]
        lead = self._selected[0] if self._selected else ""
        plain = event.modifiers() == Qt.KeyboardModifier.NoModifier
        number = key - Qt.Key.Key_1
        if key in _ARROWS and order:
            at = order.index(lead) if lead in order else -1
            self.chosen.emit((order[min(max(at + _ARROWS[key], 0), len(order) - 1)],))
        elif key in (Qt.Key.Key_Up, Qt.Key.Key_Down) and lead:
            near = beside(self.rows, lead, -1 if key == Qt.Key.Key_Up else 1)
            if near:
                self.chosen.emit((near,))
        elif plain and 0 <= number < len(ROLES) and self._selected:
            self.moved.emit(self._selected, ROLES[number], "")
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and lead:
            self.naming.emit()
        elif key == Qt.Key.Key_Escape and self._at is not None:
            self._pressed = self._at = None
            self.update()
        else:
            super().keyPressEvent(event)

    def event(self, event: QEvent) -> bool:
        if isinstance(event, QHelpEvent):
            chip = chip_at(self.rows, event.pos().x(), event.pos().y())
            if chip is None:
                QToolTip.hideText()
            else:
                one = chip.region
                text = self.tr("{name}, {role}: {hex}, {share:.1%} of the picture")
                line = text.format(
                    name=one.name, role=one.role, hex=" – ".join(one.hexes), share=one.share
                )
                QToolTip.showText(event.globalPos(), line, self)
            return True
        return super().event(event)
