"""The ramps bench: each material's steps, its grey strip, its turn of hue, and a ball of it."""

from itertools import islice

from msgspec.structs import replace
from PySide6.QtCore import QSignalBlocker, Qt, QTimer
from PySide6.QtWidgets import (
    QButtonGroup,
    QCheckBox,
    QHBoxLayout,
    QPushButton,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from umber_compass.colour.measured import greys_of, measure_hex
from umber_compass.plan.edits import region
from umber_compass.plan.model import Ramp
from umber_compass.plan.ramp_edits import set_all_recipes, set_recipe
from umber_compass.plan.settings import change_setting
from umber_compass.steps.harmony.colours import end_names
from umber_compass.steps.pipeline import Derived
from umber_compass.steps.ramps.ramps import Steps, ramp_of
from umber_compass.steps.ramps.recipes import RECIPES
from umber_compass.window.bench.bench import Bench, quiet
from umber_compass.window.bench.choice_row import ChoiceRow
from umber_compass.window.benches.ramps.rows import RampLine, RampRow
from umber_compass.window.widgets.fields import Of, TextField
from umber_compass.window.widgets.flow import Flow
from umber_compass.window.widgets.rows import in_column, in_row
from umber_compass.window.widgets.setting_field import SettingField
from umber_compass.window.widgets.timers import single_shot
from umber_compass.words import Refusal

_ROWS_AT_ONCE = 24
_SPREADS = {
    "even": ("even", "every step looks as far from the next"),
    "shade": ("closer in shade", "smaller steps below the base, wider ones above"),
    "light": ("closer in light", "smaller steps above the base, wider ones below"),
}
_ON_VALUES = ("straight", "hsb-sum", "rig")  # whose steps follow numbers of value alone


class RampsBench(Bench):
    """Every material's ramp; the recipe is set for the chosen one or for all."""

    def __init__(self) -> None:
        super().__init__("Ramps")
        self._derived: Derived | None = None
        self._selected = self._shown = ""
        self.column.addLayout(self._build_recipes())
        self.column.addLayout(self._build_steps())
        self.column.addLayout(self._build_spacing())
        self.column.addLayout(self._build_budget())
        self.rows: dict[tuple[str, int], RampRow] = {}
        self._lines: dict[tuple[str, int], RampLine] = {}
        self._waiting: list[tuple[str, int]] = []
        self._building = single_shot(self, 0, self._build_more)
        self._coming = quiet(self.tr("The steps are being worked out …"))
        self.column.addWidget(self._coming)
        self._list = QVBoxLayout()
        self._list.setSpacing(0)
        self._list.setContentsMargins(0, 0, 0, 0)
        inner = QWidget()
        in_column(self._list, 1, on=inner)
        self._scroll = QScrollArea()
        self._scroll.setWidgetResizable(True)
        self._scroll.setWidget(inner)
        self._scroll.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.column.addWidget(self._scroll, 1)

    def _build_recipes(self) -> QHBoxLayout:
        group = QButtonGroup(self)
        self.recipes: dict[str, QPushButton] = {}
        for name, spec in RECIPES.items():
            button = QPushButton(spec.title)
            button.setCheckable(True)
            button.setToolTip(spec.says)
            button.clicked.connect(lambda _=False, n=name: self._change(recipe=n))
            group.addButton(button)
            self.recipes[name] = button
        self.every = QCheckBox()
        holder = QWidget()
        holder.setLayout(Flow([*self.recipes.values(), self.every], gap=4))
        return in_row((holder, 1))

    def _build_spacing(self) -> QHBoxLayout:
        """Where steps lie closer, and whether they are those of grey."""
        self.spread = ChoiceRow(self.tr("steps"), _SPREADS)
        self.spread.chosen.connect(lambda name: self._change(spread=name))
        self.grey = QCheckBox(self.tr("same in grey"))
        self.grey.setToolTip(
            self.tr("Give every step the value that a straight one has: in grey none is told apart")
        )
        self.grey.toggled.connect(lambda on: self._change(same_in_grey=on))
        return in_row(self.spread, self.grey, 1, gap=8)

    def _build_budget(self) -> QHBoxLayout:
        """Whether steps share a budget of colours, and how many there are."""
        self.within = QCheckBox()
        self.within.toggled.connect(
            lambda on: self.edit_wanted.emit(change_setting("ramps.within", on))
        )
        self._count = quiet("")
        return in_row(self.within, 1, self._count)

    def _take_tint(self, of: Of, text: str) -> None:
        """A hex was typed; what is none is put back."""
        try:
            tint = measure_hex(text).hex if text.strip() else None
        except Refusal:
            self._show_tint()
            return
        self._change(tint=tint)

    def _show_tint(self) -> None:
        if self._derived is not None:
            ramp = ramp_of(self._derived.recipes, self._selected)
            self.tint.fill(Of(self._derived.study.id, self._selected), ramp.tint or "")
            if self.tint.text() != (ramp.tint or ""):
                self.tint.setText(ramp.tint or "")

    def _build_steps(self) -> QHBoxLayout:
        line = QHBoxLayout()
        line.setSpacing(6)
        self.darker = SettingField("region.REGION.darker")
        self.lighter = SettingField("region.REGION.lighter")
        self.degrees = SettingField("region.REGION.degrees")
        self.darker.wanted.connect(lambda n: self._change(darker=int(n)))
        self.lighter.wanted.connect(lambda n: self._change(lighter=int(n)))
        self.degrees.wanted.connect(lambda d: self._change(degrees=float(d)))
        for text, field in (
            (self.tr("darker"), self.darker),
            (self.tr("lighter"), self.lighter),
            (self.tr("turn"), self.degrees),
        ):
            line.addWidget(quiet(text))
            line.addWidget(field)
        self.tint = TextField(self.tr("Colour that the steps lean or go to, hex"), rests=False)
        self.tint.setFixedWidth(70)
        self.tint.setPlaceholderText("#…")
        self.tint.setToolTip(
            self.tr("What shades lean to, are tinted with, or go to; empty for the recipe’s own")
        )
        self.tint.typed.connect(self._take_tint)
        self.toward = quiet(self.tr("toward"))
        line.addWidget(self.toward)
        line.addWidget(self.tint)
        line.addStretch(1)
        return line

    def _change(self, **changes: object) -> None:
        if self._derived is None:
            return
        now = ramp_of(self._derived.recipes, self._selected)
        ramp: Ramp = replace(now, **changes)
        if self.every.isChecked():
            self.edit_wanted.emit(set_all_recipes(ramp))
        elif self._selected:
            name = region(self._derived.plan, self._selected).name
            self.edit_wanted.emit(set_recipe(self._selected, ramp, name))

    def needs(self) -> tuple[str, ...]:
        return ("ramps",)

    def show_derived(self, derived: Derived, selected: str) -> None:
        known = {r.id for r in derived.regions}
        self._derived = derived
        self._selected = selected if selected in known else derived.families[0]
        names = {r.id: r.name for r in derived.regions}
        self.every.setText(self.tr("for all {count} regions").format(count=len(names)))
        line = self.tr(
            "Ticked, a recipe or a number is given to every region; else to {name} alone"
        )
        self.every.setToolTip(line.format(name=names[self._selected]))
        self._coming.setVisible(derived.ramps is None and not self.rows)
        if derived.ramps is not None:
            self._show_rows(derived, derived.ramps, selected)
        self._show_recipe(derived)

    def _show_rows(
        self, derived: Derived, ramps: dict[str, tuple[Steps, ...]], selected: str
    ) -> None:
        lines = _lines(derived, ramps)
        self._lines = {(line.region, i): line for line, i in lines}
        if [*self.rows, *self._waiting] != list(self._lines):
            self._rebuild(list(self._lines))
        for key, row in self.rows.items():
            row.show_line(self._lines[key], key[0] == self._selected)
        if (selected, 0) in self.rows and self._shown != selected:
            row = self.rows[selected, 0]
            # Once the rows are laid out: before that they have no place to scroll to.
            QTimer.singleShot(0, row, lambda: self._scroll.ensureWidgetVisible(row))
        self._shown = selected
        count = len({s.hex for line, _ in lines for s in line.steps.steps})
        budget = derived.planned_budget
        over = budget is not None and count > budget
        line = (
            self.tr("{count} colours in all")
            if not over
            else self.tr("{count} colours in all, over the budget of {n}")
        )
        self._count.setText(line.format(count=count, n=budget))
        self._count.setToolTip(_said_of(self, derived))

    def _show_recipe(self, derived: Derived) -> None:
        """The chosen region's recipe, above the rows."""
        ramp = ramp_of(derived.recipes, self._selected)
        spec = RECIPES[ramp.recipe]
        self.recipes[ramp.recipe].setChecked(True)
        of = Of(derived.study.id, self._selected)
        self.darker.show_number(ramp.darker, of)
        self.lighter.show_number(ramp.lighter, of)
        own = derived.rules["ramp.degrees"] if spec.turns else 0.0
        self.degrees.show_number(own if ramp.degrees is None else ramp.degrees, of)
        self.degrees.setEnabled(ramp.recipe != "straight")
        self.says.setText(spec.says)
        self.spread.show_choice(ramp.spread)
        even = ramp.recipe not in _ON_VALUES and not ramp.same_in_grey
        self.spread.setEnabled(even)
        with QSignalBlocker(self.grey):
            self.grey.setChecked(ramp.same_in_grey)
        self.grey.setEnabled(spec.turns)
        for widget in (self.toward, self.tint):
            widget.setVisible(spec.tints)
        self._show_tint()
        budget = derived.planned_budget
        with QSignalBlocker(self.within):
            self.within.setChecked(derived.study.within_budget and budget is not None)
        self.within.setEnabled(budget is not None)
        self.within.setText(
            self.tr("within {n} colours").format(n=budget) if budget else self.tr("within a budget")
        )
        self.within.setToolTip(
            self.tr("Bases stay; all other steps share as many colours as the plan’s budget leaves")
            if budget
            else self.tr("Set a budget of colours on the Harmony bench first")
        )

    def _rebuild(self, keys: list[tuple[str, int]]) -> None:
        for row in self.rows.values():
            row.hide()
            row.deleteLater()
        self.rows, self._waiting = {}, keys
        self._build_more()

    def _build_more(self) -> None:
        """The next rows. A sketch of hundreds of regions must not hold the window up."""
        now, self._waiting = self._waiting[:_ROWS_AT_ONCE], self._waiting[_ROWS_AT_ONCE:]
        for key in now:
            row = RampRow()
            row.chosen.connect(self.chosen)
            row.copied.connect(self.copied)
            row.show_line(self._lines[key], key[0] == self._selected)
            self.rows[key] = row
            self._list.addWidget(row)
        if self._waiting:
            self._building.start()


def _said_of(bench: RampsBench, derived: Derived) -> str:
    """How steps share colours, where they do."""
    found = None if derived.ramps is None else derived.ramps.sharing
    if found is None:
        return ""
    names = {r.id: r.name for r in derived.regions}
    line = bench.tr(
        "Steps are off by CIEDE2000 {off:.1f} on the mean; {whole} regions keep every step"
    ).format(off=found.off, whole=found.whole)
    if found.worst is None:
        return line
    worst = bench.tr("{line}; {name} is off the most, by {n:.0f}")
    return worst.format(line=line, name=names[found.worst[0]], n=found.worst[1])


def _lines(derived: Derived, ramps: dict[str, tuple[Steps, ...]]) -> list[tuple[RampLine, int]]:
    """Every ramp, families together, with which end of its region it is."""
    names = {r.id: r.name for r in derived.regions}
    every = [(r, i, s) for r in derived.families for i, s in enumerate(ramps[r])]
    # All greys at once: one by one they would hold a large sketch up.
    greys = iter(greys_of([step.value for _, _, steps in every for step in steps.steps]))
    lines = []
    for region_id, i, steps in every:
        name = names[region_id] + end_names(derived.planned[region_id])[i]
        own = tuple(islice(greys, len(steps.steps)))
        lines.append((RampLine(region_id, name, steps, own), i))
    return lines
