"""The practice drawer: every number the checks and recipes use, for this plan."""

from PySide6.QtWidgets import QGridLayout, QPushButton, QScrollArea, QWidget

from umber_compass.plan.practice_edits import drop_rules, set_rule
from umber_compass.plan.practices import PRACTICES, Rule
from umber_compass.steps.pipeline import Derived
from umber_compass.window.benches.bench import Bench, quiet
from umber_compass.window.widgets.fields import NumberField


class PracticeDrawer(Bench):
    """A field for each rule; what differs from the practice is said in bold."""

    def __init__(self) -> None:
        super().__init__("Practice")
        inner = QWidget()
        self._grid = QGridLayout(inner)
        self._grid.setContentsMargins(0, 0, 10, 0)
        self._grid.setColumnStretch(0, 1)
        self._fields: dict[str, NumberField] = {}
        self._practice = ""
        scroll = QScrollArea()
        scroll.setWidgetResizable(True)
        scroll.setWidget(inner)
        self.column.addWidget(scroll, 1)
        self.restore = QPushButton(self.tr("Restore the practice’s numbers"))
        self.restore.clicked.connect(lambda: self.edit_wanted.emit(drop_rules()))
        self.column.addWidget(self.restore)

    def show_derived(self, derived: Derived, selected: str) -> None:
        practice = PRACTICES[derived.plan.practice]
        if self._practice != practice.name:
            self._practice = practice.name
            for i, rule in enumerate(practice.rules):
                self._add(i, rule)
        for rule in practice.rules:
            self._fields[rule.key].show_number(derived.rules[rule.key])
        own = len(derived.plan.overrides)
        self.says.setText(
            self.tr("{name}, {count} of its numbers changed").format(name=practice.title, count=own)
        )
        self.restore.setEnabled(own > 0)

    def _add(self, row: int, rule: Rule) -> None:
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
        self._grid.addWidget(quiet(rule.title), row, 0)
        self._grid.addWidget(field, row, 1)
        self._grid.addWidget(quiet(rule.unit), row, 2)
