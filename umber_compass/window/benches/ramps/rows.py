"""One row of the ramps bench: a material's steps, their greys, their turn, a ball of them."""

from typing import NamedTuple

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import (
    QColor,
    QPainter,
    QPainterPath,
    QPen,
    QPolygonF,
)

from umber_compass.steps.ramps.outline import outline_of
from umber_compass.steps.ramps.ramps import Steps
from umber_compass.steps.ramps.recipes import RECIPES
from umber_compass.window.widgets.instrument import Hand, Instrument
from umber_compass.window.widgets.theme import THEME, font
from umber_compass.window.widgets.under import Under

ROW_HEIGHT = 48
_NAME, _TURN, _BALL = 108, 44, 38  # px
_OUTLINE = 9  # px, of the colour for outlines, before the steps


class RampLine(NamedTuple):
    """One row: a region's ramp, or one end's of a gradient."""

    region: str
    name: str
    steps: Steps
    greys: tuple[str, ...]
    shared: frozenset[str] = frozenset()  # hexes that other ramps have as well

    @property
    def outline(self) -> str:
        """The colour of outlines round it."""
        return outline_of(self.steps)


class RampRow(Instrument):
    """One material's ramp. A click on a step copies its hex; Left and Right choose a step, Enter
    copies it."""

    chosen = Signal(str)
    copied = Signal(str)

    drags = False

    def __init__(self) -> None:
        super().__init__(size=(460, ROW_HEIGHT), grows=(True, False))
        self.setFixedHeight(ROW_HEIGHT)
        self._line: RampLine | None = None
        self._selected = False
        self._step = 0

    def show_line(self, line: RampLine, selected: bool) -> None:
        """The ramp and whether its region is chosen."""
        if (line, selected) == (self._line, self._selected):
            return
        self._line, self._selected = line, selected
        self._step = min(self._step, len(line.steps.steps) - 1)
        self.setAccessibleName(f"{line.name}, {line.steps.ramp.recipe}")
        self.update()

    def boxes(self) -> list[QRectF]:
        """Where each step's swatch lies."""
        if self._line is None:
            return []
        count = len(self._line.steps.steps)
        room = self.width() - _NAME - _TURN - _BALL - 28
        width = room / count
        return [QRectF(_NAME + i * width, 5, width - 2, 26) for i in range(count)]

    def outline_box(self) -> QRectF:
        """Where the colour for outlines lies."""
        return QRectF(_NAME - _OUTLINE - 3, 5, _OUTLINE, 26)

    def paint(self, painter: QPainter) -> None:
        if self._line is None:
            return
        painter.fillRect(self.outline_box(), QColor(self._line.outline))
        ink, line = THEME.colour("ink"), self._line
        painter.setPen(ink)
        painter.setFont(font(13, self._selected))
        painter.drawText(QRectF(6, 5, _NAME - _OUTLINE - 12, 18), line.name)
        painter.setPen(THEME.colour("quiet"))
        painter.setFont(font(11))
        said = RECIPES[line.steps.ramp.recipe].title
        if line.steps.left_out:
            said = self.tr("{n} left out").format(n=line.steps.left_out)
        painter.drawText(QRectF(6, 23, _NAME - _OUTLINE - 12, 16), said)
        for i, (box, step, grey) in enumerate(
            zip(self.boxes(), line.steps.steps, line.greys, strict=True)
        ):
            painter.fillRect(box, QColor(step.hex))
            painter.fillRect(QRectF(box.x(), box.bottom() + 1, box.width(), 8), QColor(grey))
            if step.hex in line.shared:
                painter.fillRect(box.adjusted(0, box.height() - 3, 0, 0), ink)
                painter.fillRect(box.adjusted(0, box.height() - 4, 0, -3), THEME.colour("ground"))
            if i == line.steps.base or (self.hasFocus() and i == self._step):
                painter.setPen(QPen(ink, 2))
                painter.drawRect(box)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        self._paint_turn(painter, line.steps)
        self._paint_ball(painter, line.steps)
        if self._selected or self.hasFocus():
            painter.setPen(QPen(ink, 1.5))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(QRectF(self.rect()).adjusted(1, 1, -1, -1))

    def _paint_turn(self, painter: QPainter, steps: Steps) -> None:
        """The turn of hue from the base, to the right for more degrees, against value upright."""
        box = QRectF(self.width() - _TURN - _BALL - 16, 5, _TURN, 36)
        painter.fillRect(box, THEME.colour("card"))
        base = steps.steps[steps.base].hue
        if base is None:
            return
        points = []
        for step in steps.steps:
            if step.hue is not None:
                turn = (step.hue - base + 180) % 360 - 180
                x = box.center().x() + min(max(turn / 60, -1), 1) * (box.width() / 2 - 3)
                points.append(QPointF(x, box.bottom() - 2 - step.value / 100 * (box.height() - 4)))
        painter.setPen(QPen(THEME.colour("ink"), 1.4))
        painter.drawPolyline(QPolygonF(points))

    def _paint_ball(self, painter: QPainter, steps: Steps) -> None:
        """A ball painted with the steps as crescents, dark to light."""
        middle = QPointF(self.width() - _BALL / 2 - 6, 23)
        radius = _BALL / 2 - 1
        whole = QPainterPath()
        whole.addEllipse(middle, radius, radius)
        painter.save()
        painter.setClipPath(whole)
        painter.setPen(Qt.PenStyle.NoPen)
        count = len(steps.steps)
        for i, step in enumerate(steps.steps):
            share = i / count
            size = radius * (1.15 - share)
            shift = QPointF(radius * 0.42 * share, -radius * 0.42 * share)
            painter.setBrush(QColor(step.hex))
            painter.drawEllipse(middle + shift, size, size)
        painter.restore()

    def under(self, place: QPointF) -> Under:
        """The step at a place, or the whole ramp."""
        if self._line is None:
            return Under()
        step = next((i for i, b in enumerate(self.boxes()) if b.contains(place)), None)
        shown = "" if step is None else self._line.steps.steps[step].hex
        if self.outline_box().contains(place):
            shown = self._line.outline
        return Under(self._line.region, shown)

    def pressed(self, hand: Hand) -> None:
        if self._line is None:
            return
        self.chosen.emit(self._line.region)
        if self.outline_box().contains(hand.place):
            self.copied.emit(self._line.outline)
        for i, box in enumerate(self.boxes()):
            if box.contains(hand.place):
                self._step = i
                self.copied.emit(self._line.steps.steps[i].hex)

    def stepped(self, right: int, up: int, hand: Hand) -> bool:
        if self._line is None or not right:
            return False
        self._step = min(max(self._step + right, 0), len(self._line.steps.steps) - 1)
        self.update()
        return True

    def taken(self) -> bool:
        if self._line is not None:
            self.chosen.emit(self._line.region)
            self.copied.emit(self._line.steps.steps[self._step].hex)
        return self._line is not None
