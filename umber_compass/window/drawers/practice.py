"""The practice drawer: a school, and every rule of it as a sentence with its number inside, by
step; where the picture stands now; each can be changed for this plan."""

from PySide6.QtCore import QSignalBlocker
from PySide6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QGridLayout,
    QLabel,
    QPushButton,
    QWidget,
)

from umber_compass.plan.practice_edits import drop_rules, set_practice, set_rule
from umber_compass.plan.practices import PRACTICES, Rule
from umber_compass.steps.checks import CHECKS, Result
from umber_compass.steps.checks.rule_steps import step_of_rule
from umber_compass.steps.pipeline import Derived
from umber_compass.window.bench.bench import Bench, quiet
from umber_compass.window.benches import steps_titles
from umber_compass.window.widgets.fields import NumberField
from umber_compass.window.widgets.rows import in_row
from umber_compass.window.widgets.scrolled import scrolled


class PracticeDrawer(Bench):
    """Choose a practice; change its numbers."""

    def __init__(self) -> None:
        super().__init__("Practice")
        self.which = QComboBox()
        self.which.setAccessibleName(self.tr("Practice"))
        for practice in PRACTICES.values():
            self.which.addItem(practice.title, practice.name)
        self.which.activated.connect(
            lambda i: self.edit_wanted.emit(set_practice(self.which.itemData(i)))
        )
        self.about = quiet("")
        self.about.setWordWrap(True)
        self.column.addLayout(in_row(self.which, (self.about, 1), gap=8))
        inner = QWidget()
        self._grid = QGridLayout(inner)
        self._grid.setContentsMargins(0, 0, 10, 0)
        self._grid.setHorizontalSpacing(8)
        self._grid.setVerticalSpacing(3)
        self._grid.setColumnStretch(0, 3)
        self._grid.setColumnStretch(3, 2)
        self._fields: dict[str, NumberField] = {}
        self._switches: dict[str, QCheckBox] = {}
        self._titles: dict[str, QLabel] = {}
        self._now: dict[str, QLabel] = {}
        self.results: list[Result] = []
        self.column.addWidget(scrolled(inner), 1)
        self.restore = QPushButton(self.tr("Restore the practice’s numbers"))
        self.restore.clicked.connect(lambda: self.edit_wanted.emit(drop_rules()))
        self.column.addWidget(self.restore)

    def show_derived(self, derived: Derived, selected: str) -> None:
        practice = PRACTICES[derived.plan.practice]
        if not self._fields:
            self._build(practice.rules)
        with QSignalBlocker(self.which):
            self.which.setCurrentIndex(self.which.findData(practice.name))
        self.about.setText(practice.says)
        for rule in practice.rules:
            own = rule.key in derived.plan.overrides
            if rule.is_switch:
                self._switches[rule.key].setChecked(derived.rules[rule.key] >= 0.5)
                continue
            self._fields[rule.key].show_number(derived.rules[rule.key])
            label = self._titles[rule.key]
            if (label.objectName() == "strong") != own:
                label.setObjectName("strong" if own else "quiet")
                label.style().unpolish(label)
                label.style().polish(label)
        many = len(derived.plan.overrides)
        self.says.setText(
            self.tr("{count} of its numbers changed for this plan").format(count=many)
        )
        self.restore.setEnabled(many > 0)
        self._show_now()

    def show_results(self, results: list[Result]) -> None:
        """Where the picture stands, as the checks measured it."""
        self.results = results
        if self.isVisible():
            self._show_now()

    def _show_now(self) -> None:
        worst: dict[str, Result] = {}
        for result in self.results:
            before = worst.get(result.check)
            if before is None or _rank(result) > _rank(before):
                worst[result.check] = result
        for check, label in self._now.items():
            found = worst.get(check)
            text = ""
            if found is not None:
                mark = {"warning": "▲ ", "note": "△ "}.get(found.level, "✓ ")
                text = self.tr("{mark}now {n:.3g} {unit}").format(
                    mark=mark, n=found.measured, unit=found.unit
                )
            label.setText(text)

    def _build(self, rules: tuple[Rule, ...]) -> None:
        """A heading for each step, and a line for each of its rules."""
        row = 0
        for step, title in steps_titles().items():
            mine = [r for r in rules if step_of_rule(r.key) == step]
            if not mine:
                continue
            head = QLabel(title)
            head.setObjectName("strong")
            self._grid.addWidget(head, row, 0, 1, 4)
            row += 1
            last = ""
            for rule in mine:
                check = rule.key.partition(".")[0]
                self._add(row, rule)
                if check in CHECKS and check != last:
                    self._now[check] = quiet("")
                    self._grid.addWidget(self._now[check], row, 3)
                last = check
                row += 1

    def _add_switch(self, row: int, rule: Rule) -> None:
        box = QCheckBox(rule.title)
        box.setToolTip(rule.source)
        box.clicked.connect(
            lambda on: self.edit_wanted.emit(set_rule(rule.key, float(on), rule.title))
        )
        self._switches[rule.key] = box
        self._grid.addWidget(box, row, 0, 1, 4)

    def _add(self, row: int, rule: Rule) -> None:
        if rule.is_switch:
            self._add_switch(row, rule)
            return
        # As fine as they are: chroma in thousandths, times in hundredths, the rest in tenths.
        step, places = (0.005, 3) if rule.high <= 1 else (0.05, 2) if rule.high <= 20 else (1, 1)
        field = NumberField(
            rule.title,
            rule.low,
            rule.high,
            "",
            step,
            places,
            self.tr("{title}, {unit}: {low:g} to {high:g}. From: {source}").format(
                title=rule.title, unit=rule.unit, low=rule.low, high=rule.high, source=rule.source
            ),
        )
        field.wanted.connect(
            lambda n, r=rule: self.edit_wanted.emit(set_rule(r.key, round(n, 3), r.title))
        )
        self._fields[rule.key] = field
        self._titles[rule.key] = quiet(rule.title)
        self._titles[rule.key].setWordWrap(True)
        self._grid.addWidget(self._titles[rule.key], row, 0)
        self._grid.addWidget(field, row, 1)
        self._grid.addWidget(quiet(rule.unit), row, 2)


def _rank(result: Result) -> int:
    return {"warning": 2, "note": 1}.get(result.level, 0)
