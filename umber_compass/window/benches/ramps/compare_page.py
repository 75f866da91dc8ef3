"""Two recipes for one region side by side: their steps, a ball of each, the picture in the steps of
each."""

from msgspec.structs import replace
from PySide6.QtCore import QSize, Signal
from PySide6.QtWidgets import QComboBox, QGridLayout, QLabel, QPushButton, QWidget

from umber_compass.colour.measured import greys_of
from umber_compass.plan.edits import Edit, region
from umber_compass.plan.ramp_edits import set_recipe
from umber_compass.steps.pipeline import Derived
from umber_compass.steps.ramps.ball import ball
from umber_compass.steps.ramps.ramps import Steps, make_steps, ramp_of
from umber_compass.steps.ramps.recipes import RECIPES
from umber_compass.window.bench.bench import quiet
from umber_compass.window.benches.ramps.rows import RampLine, RampRow
from umber_compass.window.widgets.picture_box import PictureBox
from umber_compass.window.widgets.picture_button import PictureButton
from umber_compass.window.widgets.rows import in_row
from umber_compass.window.widgets.theme import THEME

_BALL = 110  # px
NOW, OTHER = "now", "other"
_SAID = {NOW: "now", OTHER: "beside"}


class ComparePage(QWidget):
    """Says which edit is wanted: the other recipe for the chosen region."""

    edit_wanted = Signal(object)
    copied = Signal(str)
    followed = Signal(bool)  # whether other pictures are wished of the same plan

    def __init__(self) -> None:
        super().__init__()
        self._derived: Derived | None = None
        self._selected = ""
        self._asked: tuple[str, str] = "", ""
        self.which = QComboBox()
        self.which.setAccessibleName(self.tr("The other recipe"))
        for name, spec in RECIPES.items():
            self.which.addItem(spec.title, name)
        self.which.setCurrentIndex(self.which.findData("straight"))
        self.which.activated.connect(lambda _: self._show())
        self.take = QPushButton(self.tr("Take it"))
        self.take.clicked.connect(self._take)
        self.titles = {NOW: QLabel(), OTHER: QLabel(self.tr("beside"))}
        self.rows = {name: RampRow() for name in (NOW, OTHER)}
        self.balls = {
            NOW: PictureBox(self.tr("A ball in the steps now"), _BALL),
            OTHER: PictureBox(self.tr("A ball in the other steps"), _BALL),
        }
        room = QSize(150, 110)
        self.pictures = {
            NOW: PictureButton(self.tr("now"), self.tr("The picture in the steps now"), room),
            OTHER: PictureButton(
                self.tr("beside"),
                self.tr("The picture in the other steps; a click takes them"),
                room,
            ),
        }
        self.pictures[NOW].setEnabled(False)
        self.pictures[OTHER].clicked.connect(self._take)
        grid = QGridLayout(self)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setHorizontalSpacing(12)
        head = in_row(self.titles[OTHER], self.which, self.take, 1, gap=8)
        grid.addWidget(self.titles[NOW], 0, 0, 1, 2)
        grid.addWidget(self.rows[NOW], 1, 0, 1, 2)
        grid.addLayout(head, 2, 0, 1, 2)
        grid.addWidget(self.rows[OTHER], 3, 0, 1, 2)
        for column, name in enumerate((NOW, OTHER)):
            grid.addWidget(self.balls[name], 4, column)
            grid.addWidget(self.pictures[name], 5, column)
            self.rows[name].copied.connect(self.copied)
        self.says = quiet(self.tr("Left as it is now, right in the other recipe."))
        grid.addWidget(self.says, 6, 0, 1, 2)
        grid.setRowStretch(7, 1)

    def show_derived(self, derived: Derived, selected: str) -> None:
        """The chosen region's steps, now and in the other recipe."""
        self._derived, self._selected = derived, selected
        if self.isVisible():
            self._show()

    def steps(self, derived: Derived) -> dict[str, Steps]:
        """The steps now and in the other recipe."""
        now = ramp_of(derived.recipes, self._selected)
        base = derived.colours[self._selected].first.hex
        other = replace(now, recipe=str(self.which.currentData()))
        return {
            NOW: make_steps(base, now, derived.rules, derived.rig),
            OTHER: make_steps(base, other, derived.rules, derived.rig),
        }

    def edit(self, derived: Derived) -> Edit:
        """The other recipe for the chosen region."""
        now = ramp_of(derived.recipes, self._selected)
        other = replace(now, recipe=str(self.which.currentData()))
        return set_recipe(self._selected, other, region(derived.plan, self._selected).name)

    def _show(self) -> None:
        derived = self._derived
        if derived is None or not self._selected:
            return
        name = region(derived.plan, self._selected).name
        ground = THEME.colour("ground").rgb() & 0xFFFFFF
        for which, steps in self.steps(derived).items():
            title = RECIPES[steps.ramp.recipe].title
            if which == NOW:
                line = self.tr("{name} now: {recipe}")
                self.titles[NOW].setText(line.format(name=name, recipe=title))
            greys = tuple(greys_of([step.value for step in steps.steps]))
            self.rows[which].show_line(
                RampLine(self._selected, self.tr(_SAID[which]), steps, greys), False
            )
            self.balls[which].show_packed(ball(steps, _BALL, ground))
        self.take.setEnabled(
            ramp_of(derived.recipes, self._selected).recipe != self.which.currentData()
        )
        asked = self._selected, str(self.which.currentData())
        self.followed.emit(asked != self._asked)
        self._asked = asked

    def _take(self) -> None:
        if self._derived is not None:
            self.edit_wanted.emit(self.edit(self._derived))

    def showEvent(self, event: object) -> None:
        self._show()
