"""The practice drawer: five schools as pictures and sentences; then, folded by step, every number
of the chosen one and where the picture stands. Each can be changed for this plan."""

from PySide6.QtCore import QSize, Qt, Signal
from PySide6.QtWidgets import (
    QCheckBox,
    QGridLayout,
    QLabel,
    QPushButton,
    QSizePolicy,
    QVBoxLayout,
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
from umber_compass.window.widgets.fold import Fold
from umber_compass.window.widgets.picture_button import PictureButton
from umber_compass.window.widgets.rows import in_column
from umber_compass.window.widgets.scrolled import scrolled

_PICTURE = QSize(86, 56)


class PracticeDrawer(Bench):
    """Choose a practice; change its numbers."""

    shown = Signal()  # a plan is shown

    def __init__(self) -> None:
        super().__init__("Practice")
        self._names: dict[str, QLabel] = {}
        self.pictures = {name: self._build_choice(name) for name in PRACTICES}
        inner = QWidget()
        self._inner = QVBoxLayout(inner)
        self._inner.setContentsMargins(0, 0, 10, 0)
        self._inner.setSpacing(8)
        choices = QGridLayout()
        choices.setHorizontalSpacing(12)
        choices.setColumnStretch(1, 1)
        for i, (name, button) in enumerate(self.pictures.items()):
            choices.addWidget(button, i, 0)
            title, says = QLabel(PRACTICES[name].title), QLabel(PRACTICES[name].says)
            title.setObjectName("strong")
            says.setWordWrap(True)
            choices.addLayout(in_column(title, says, gap=0), i, 1, Qt.AlignmentFlag.AlignVCenter)
            self._names[name] = title
        self._inner.addLayout(choices)
        self._fields: dict[str, NumberField] = {}
        self._switches: dict[str, QCheckBox] = {}
        self._titles: dict[str, QLabel] = {}
        self._now: dict[str, QLabel] = {}
        self.results: list[Result] = []
        self.folds: list[Fold] = []
        self.column.addWidget(scrolled(inner), 1)
        self.restore = QPushButton(self.tr("Restore the practice’s numbers"))
        self.restore.clicked.connect(lambda: self.edit_wanted.emit(drop_rules()))
        self.column.addWidget(self.restore)

    def _build_choice(self, name: str) -> PictureButton:
        practice = PRACTICES[name]
        button = PictureButton(practice.title, practice.says, _PICTURE, named=False)
        button.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Fixed)
        button.clicked.connect(lambda: self.edit_wanted.emit(set_practice(name)))
        return button

    def help_at(self, step: str) -> tuple[str, str]:
        return "practices", ""

    def show_derived(self, derived: Derived, selected: str) -> None:
        practice = PRACTICES[derived.plan.practice]
        if not self._fields:
            self._build(practice.rules)
        for name, button in self.pictures.items():
            button.setChecked(name == practice.name)
            mark = "✓ " if name == practice.name else ""
            self._names[name].setText(mark + PRACTICES[name].title)
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
        self.shown.emit()

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
        """A folded part for each step, and a line in it for each of its rules."""
        for step, title in steps_titles().items():
            mine = [r for r in rules if step_of_rule(r.key) == step]
            if not mine:
                continue
            grid = _grid()
            last = ""
            for row, rule in enumerate(mine):
                check = rule.key.partition(".")[0]
                self._add(grid, row, rule)
                if check in CHECKS and check != last:
                    self._now[check] = quiet("")
                    grid.addWidget(self._now[check], row, 3)
                last = check
            inner = QWidget()
            inner.setLayout(grid)
            line = self.tr("{step}: {count} numbers").format(step=title, count=len(mine))
            fold = Fold(line, inner)
            self.folds.append(fold)
            self._inner.addWidget(fold)
        self._inner.addStretch(1)

    def _add_switch(self, grid: QGridLayout, row: int, rule: Rule) -> None:
        box = QCheckBox(rule.title)
        box.setToolTip(rule.source)
        box.clicked.connect(
            lambda on: self.edit_wanted.emit(set_rule(rule.key, float(on), rule.title))
        )
        self._switches[rule.key] = box
        grid.addWidget(box, row, 0, 1, 4)

    def _add(self, grid: QGridLayout, row: int, rule: Rule) -> None:
        if rule.is_switch:
            self._add_switch(grid, row, rule)
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
        grid.addWidget(self._titles[rule.key], row, 0)
        grid.addWidget(field, row, 1)
        grid.addWidget(quiet(rule.unit), row, 2)


def _grid() -> QGridLayout:
    grid = QGridLayout()
    grid.setContentsMargins(14, 0, 0, 4)
    grid.setHorizontalSpacing(8)
    grid.setVerticalSpacing(3)
    grid.setColumnStretch(0, 3)
    grid.setColumnStretch(3, 2)
    return grid


def _rank(result: Result) -> int:
    return {"warning": 2, "note": 1}.get(result.level, 0)
