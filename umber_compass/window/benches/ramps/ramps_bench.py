"""The ramps bench: each material's steps, its grey strip, its turn of hue, and a ball of it."""

from collections import Counter
from collections.abc import Mapping
from itertools import islice

from msgspec.structs import replace
from PySide6.QtCore import QSignalBlocker, QTimer
from PySide6.QtWidgets import QCheckBox, QHBoxLayout, QVBoxLayout, QWidget

from umber_compass.colour.measured import greys_of
from umber_compass.colour.packed import Packed
from umber_compass.plan.edits import region
from umber_compass.plan.model import Ramp
from umber_compass.plan.ramp_edits import set_all_recipes, set_recipe
from umber_compass.plan.settings import change_setting
from umber_compass.steps.harmony.colours import end_names
from umber_compass.steps.pipeline import Derived
from umber_compass.steps.ramps.ramps import Steps, ramp_of
from umber_compass.steps.ramps.recipes import RECIPES
from umber_compass.window.bench.bench import Bench, quiet
from umber_compass.window.bench.window_parts import WindowParts
from umber_compass.window.benches.ramps.compare_page import NOW, OTHER, ComparePage
from umber_compass.window.benches.ramps.recipe_part import RecipePart
from umber_compass.window.benches.ramps.rows import RampLine, RampRow
from umber_compass.window.benches.ramps.tie_row import TieRow
from umber_compass.window.widgets.rows import in_column, in_row
from umber_compass.window.widgets.scrolled import scrolled
from umber_compass.window.widgets.tabs import Pages
from umber_compass.window.widgets.timers import single_shot
from umber_compass.work import Tick

_ROWS_AT_ONCE = 24


class RampsBench(Bench):
    """Every material's ramp; the recipe is set for the chosen one or for all."""

    def __init__(self) -> None:
        super().__init__("Ramps")
        self._derived: Derived | None = None
        self._selected = self._shown = ""
        self.recipe = RecipePart()
        self.recipe.changed.connect(self._change)
        self.column.addWidget(self.recipe)
        self.tie = TieRow()
        self.column.addLayout(self._build_budget())
        self.rows: dict[tuple[str, int], RampRow] = {}
        self._lines: dict[tuple[str, int], RampLine] = {}
        self._waiting: list[tuple[str, int]] = []
        self._building = single_shot(self, 0, self._build_more)
        self._coming = quiet(self.tr("The steps are being worked out …"))
        self._list = QVBoxLayout()
        self._list.setSpacing(0)
        self._list.setContentsMargins(0, 0, 0, 0)
        inner, steps = QWidget(), QWidget()
        in_column(self._list, 1, on=inner)
        self._scroll = scrolled(inner)
        in_column(self._coming, (self._scroll, 1), gap=0, on=steps)
        self.compare = ComparePage()
        titles = {self.tr("Steps"): steps, self.tr("Two recipes"): self.compare}
        self.pages = Pages(titles, small=True)
        self.column.addWidget(self.pages.tabs)
        self.add_pages()
        self.forward(self.compare, self.tie)

    def _build_budget(self) -> QHBoxLayout:
        """Whether steps share a budget of colours, and how many there are."""
        self.within = QCheckBox()
        self.within.toggled.connect(
            lambda on: self.edit_wanted.emit(change_setting("ramps.within", on))
        )
        self._count = quiet("")
        return in_row(self.tie, self.within, 1, self._count, gap=14)

    def _change(self, changes: Mapping[str, object]) -> None:
        if self._derived is None:
            return
        now = ramp_of(self._derived.recipes, self._selected)
        ramp: Ramp = replace(now, **changes)
        if self.recipe.every.isChecked():
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
        self._coming.setVisible(derived.ramps is None and not self.rows)
        if derived.ramps is not None:
            self._show_rows(derived, derived.ramps, selected)
        self.recipe.show_ramp(derived, self._selected)
        self.says.setText(RECIPES[ramp_of(derived.recipes, self._selected).recipe].says)
        self.tie.show_tie(derived, self._selected)
        self._show_budget(derived)
        self.compare.show_derived(derived, self._selected)

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

    def _show_budget(self, derived: Derived) -> None:
        """Whether all steps keep to the plan's budget."""
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
    held = Counter(hex_ for _, _, steps in every for hex_ in {step.hex for step in steps.steps})
    sharing = getattr(ramps, "sharing", None) is not None
    shared = frozenset(hex_ for hex_, n in held.items() if n > 1 and sharing)
    lines = []
    for region_id, i, steps in every:
        name = names[region_id] + end_names(derived.planned[region_id])[i]
        own = tuple(islice(greys, len(steps.steps)))
        lines.append((RampLine(region_id, name, steps, own, shared), i))
    return lines


def join(bench: Bench, parts: WindowParts) -> None:
    """The pictures of two recipes are worked out on the worker."""
    assert isinstance(bench, RampsBench)
    from umber_compass.window.desk.what_if import PICTURE_PX, WhatIf

    page = bench.compare

    def make(derived: Derived, tick: Tick) -> dict[str, Packed]:
        from umber_compass.document.compared_ramps import compared  # needed here alone

        now, other = compared(derived, page.edit(derived), PICTURE_PX, tick)
        return {NOW: now, OTHER: other}

    pictures = WhatIf(parts.desk, page, page.pictures, "two recipes", make)
    page.followed.connect(lambda other: pictures.again() if other else pictures.follow())
