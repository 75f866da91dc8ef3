"""The ramps bench: each material's steps, its grey strip, its turn of hue, and a ball of it."""

from typing import NamedTuple

from msgspec.structs import replace
from PySide6.QtCore import QPointF, QRectF, QSize, Qt, QTimer, Signal
from PySide6.QtGui import (
    QColor,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPainterPath,
    QPaintEvent,
    QPen,
    QPolygonF,
)
from PySide6.QtWidgets import (
    QButtonGroup,
    QCheckBox,
    QHBoxLayout,
    QPushButton,
    QScrollArea,
    QSizePolicy,
    QVBoxLayout,
    QWidget,
)

from umber_compass.plan.edits import set_all_recipes, set_recipe, study
from umber_compass.plan.model import Ramp
from umber_compass.steps.colouring import end_names
from umber_compass.steps.handoff import by_family
from umber_compass.steps.pipeline import Derived
from umber_compass.steps.ramps import Steps, all_steps, ramp_of
from umber_compass.steps.recipes import RECIPES
from umber_compass.steps.values import greys_of
from umber_compass.window.benches.bench import Bench, quiet
from umber_compass.window.fields import NumberField
from umber_compass.window.theme import THEME, font

ROW_HEIGHT = 48
_NAME, _TURN, _BALL = 96, 44, 38  # px


class RampLine(NamedTuple):
    """One row: a region's ramp, or one end's of a gradient."""

    region: str
    name: str
    steps: Steps
    greys: tuple[str, ...]


class RampRow(QWidget):
    """One material's ramp. A click on a step copies its hex; Left and Right choose a step, Enter
    copies it."""

    chosen = Signal(str)
    copied = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setFixedHeight(ROW_HEIGHT)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self._line: RampLine | None = None
        self._selected = False
        self._step = 0

    def show_line(self, line: RampLine, selected: bool) -> None:
        """The ramp and whether its region is chosen."""
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

    def paintEvent(self, event: QPaintEvent) -> None:
        if self._line is None:
            return
        painter = QPainter(self)
        ink, line = THEME.colour("ink"), self._line
        painter.setPen(ink)
        painter.setFont(font(13, self._selected))
        painter.drawText(QRectF(6, 5, _NAME - 8, 18), line.name)
        painter.setPen(THEME.colour("quiet"))
        painter.setFont(font(11))
        painter.drawText(QRectF(6, 23, _NAME - 8, 16), RECIPES[line.steps.ramp.recipe].title)
        for i, (box, step, grey) in enumerate(
            zip(self.boxes(), line.steps.steps, line.greys, strict=True)
        ):
            painter.fillRect(box, QColor(step.hex))
            painter.fillRect(QRectF(box.x(), box.bottom() + 1, box.width(), 8), QColor(grey))
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

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if self._line is None:
            return
        self.chosen.emit(self._line.region)
        for i, box in enumerate(self.boxes()):
            if box.contains(event.position()):
                self._step = i
                self.copied.emit(self._line.steps.steps[i].hex)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        move = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}.get(Qt.Key(event.key()))
        if self._line is not None and move is not None:
            self._step = min(max(self._step + move, 0), len(self._line.steps.steps) - 1)
            self.update()
        elif self._line is not None and event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Space):
            self.chosen.emit(self._line.region)
            self.copied.emit(self._line.steps.steps[self._step].hex)
        else:
            super().keyPressEvent(event)

    def sizeHint(self) -> QSize:
        return QSize(460, ROW_HEIGHT)


class RampsBench(Bench):
    """Every material's ramp; the recipe is set for the chosen one or for all."""

    def __init__(self) -> None:
        super().__init__("Ramps")
        self._derived: Derived | None = None
        self._selected = self._shown = ""
        self.column.addLayout(self._build_recipes())
        self.column.addLayout(self._build_steps())
        self.rows: dict[tuple[str, int], RampRow] = {}
        self._list = QVBoxLayout()
        self._list.setSpacing(0)
        self._list.setContentsMargins(0, 0, 0, 0)
        inner = QWidget()
        holder = QVBoxLayout(inner)
        holder.setContentsMargins(0, 0, 0, 0)
        holder.addLayout(self._list)
        holder.addStretch(1)
        self._scroll = QScrollArea()
        self._scroll.setWidgetResizable(True)
        self._scroll.setWidget(inner)
        self._scroll.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.column.addWidget(self._scroll, 1)

    def _build_recipes(self) -> QHBoxLayout:
        line = QHBoxLayout()
        line.setSpacing(4)
        group = QButtonGroup(self)
        self.recipes: dict[str, QPushButton] = {}
        for name, spec in RECIPES.items():
            button = QPushButton(spec.title)
            button.setCheckable(True)
            button.setToolTip(spec.says)
            button.clicked.connect(lambda _=False, n=name: self._change(recipe=n))
            group.addButton(button)
            line.addWidget(button)
            self.recipes[name] = button
        line.addStretch(1)
        self.every = QCheckBox(self.tr("for every region"))
        line.addWidget(self.every)
        return line

    def _build_steps(self) -> QHBoxLayout:
        line = QHBoxLayout()
        line.setSpacing(6)
        self.darker = NumberField(self.tr("Darker steps"), 0, 9, "")
        self.lighter = NumberField(self.tr("Lighter steps"), 0, 9, "")
        self.degrees = NumberField(self.tr("Turn a step, degrees"), 0, 60, "°")
        self.darker.wanted.connect(lambda n: self._change(darker=int(n)))
        self.lighter.wanted.connect(lambda n: self._change(lighter=int(n)))
        self.degrees.wanted.connect(lambda d: self._change(degrees=float(d)))
        for text, field in (
            (self.tr("darker"), self.darker),
            (self.tr("lighter"), self.lighter),
            (self.tr("turn a step"), self.degrees),
        ):
            line.addWidget(quiet(text))
            line.addWidget(field)
        line.addStretch(1)
        self._count = quiet("")
        line.addWidget(self._count)
        return line

    def _change(self, **changes: object) -> None:
        if self._derived is None:
            return
        now = ramp_of(self._derived.plan, self._selected)
        ramp: Ramp = replace(now, **changes)
        if self.every.isChecked():
            self.edit_wanted.emit(set_all_recipes(ramp))
        elif self._selected:
            name = next(r.name for r in self._derived.plan.regions if r.id == self._selected)
            self.edit_wanted.emit(set_recipe(self._selected, ramp, name))

    def show_derived(self, derived: Derived, selected: str) -> None:
        known = {r.id for r in derived.plan.regions}
        self._derived = derived
        self._selected = selected if selected in known else by_family(derived)[0]
        lines = _lines(derived)
        keys = [(line.region, i) for line, i in lines]
        if list(self.rows) != keys:
            self._rebuild(keys)
        for line, i in lines:
            self.rows[line.region, i].show_line(line, line.region == self._selected)
        if selected in known and self._shown != selected:
            row = self.rows[selected, 0]
            # Once the rows are laid out: before that they have no place to scroll to.
            QTimer.singleShot(0, row, lambda: self._scroll.ensureWidgetVisible(row))
        self._shown = selected
        ramp = ramp_of(derived.plan, self._selected)
        self.recipes[ramp.recipe].setChecked(True)
        self.darker.show_number(ramp.darker)
        self.lighter.show_number(ramp.lighter)
        turns = RECIPES[ramp.recipe].turns
        own = derived.rules["ramp.degrees"] if turns else 0.0
        self.degrees.show_number(own if ramp.degrees is None else ramp.degrees)
        self.degrees.setEnabled(ramp.recipe != "straight")
        self.says.setText(RECIPES[ramp.recipe].says)
        count = len({s.hex for line, _ in lines for s in line.steps.steps})
        self._count.setText(self.tr("{count} colours in all").format(count=count))

    def _rebuild(self, keys: list[tuple[str, int]]) -> None:
        for row in self.rows.values():
            row.hide()
            row.deleteLater()
        self.rows = {}
        for key in keys:
            row = RampRow()
            row.chosen.connect(self.chosen)
            row.copied.connect(self.copied)
            self.rows[key] = row
            self._list.addWidget(row)


def _lines(derived: Derived) -> list[tuple[RampLine, int]]:
    """Every ramp, families together, with which end of its region it is."""
    names = {r.id: r.name for r in derived.plan.regions}
    ramps = all_steps(derived.plan, derived.colours)
    lines = []
    for region_id in by_family(derived):
        for i, steps in enumerate(ramps[region_id]):
            ends = end_names(study(derived.plan).colours[region_id])
            greys = greys_of([s.value for s in steps.steps])
            lines.append((RampLine(region_id, names[region_id] + ends[i], steps, greys), i))
    return lines
