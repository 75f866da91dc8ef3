"""The studies bench: rules to grow by, what is said of the chosen study, its numbers beside those
of the one that is shown."""

from PySide6.QtCore import Signal
from PySide6.QtWidgets import (
    QCheckBox,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from umber_compass.plan.model import Study
from umber_compass.plan.practice_edits import set_rule
from umber_compass.plan.settings import change_setting
from umber_compass.steps.pipeline import Derived
from umber_compass.steps.studies.rules import FIRST, RULES
from umber_compass.window.bench.bench import Bench, quiet
from umber_compass.window.wall.number_rows import NumberTable
from umber_compass.window.widgets.fields import NumberField, Of, TextField
from umber_compass.window.widgets.rows import in_row
from umber_compass.window.widgets.scrolled import scrolled


class StudiesBench(Bench):
    """Grow, decide, compare."""

    asked = Signal(str)  # an action of studies by name

    def __init__(self) -> None:
        super().__init__("Studies")
        self._chosen: Study | None = None
        body = QWidget()
        column = QVBoxLayout(body)
        column.setContentsMargins(0, 0, 10, 0)
        column.setSpacing(8)
        self._build_rules(column)
        self._build_study(column)
        self.table = NumberTable()
        column.addWidget(self.table)
        column.addStretch(1)
        self.column.addWidget(scrolled(body), 1)

    def _build_rules(self, column: QVBoxLayout) -> None:
        self.heading = QLabel()
        self.heading.setObjectName("heading")
        column.addWidget(self.heading)
        grid = QGridLayout()
        grid.setHorizontalSpacing(12)
        grid.setVerticalSpacing(5)
        self.rules: dict[str, QCheckBox] = {}
        for row, rule in enumerate(RULES.values()):
            box = QCheckBox(self.tr(rule.title))
            box.setChecked(rule.name in FIRST)
            box.toggled.connect(self._show_grow)
            self.rules[rule.name] = box
            grid.addWidget(box, row, 0)
            grid.addWidget(quiet(self.tr(rule.says)), row, 1)
        grid.setColumnStretch(1, 1)
        column.addLayout(grid)
        self.grow = QPushButton(self.tr("Grow six"))
        self.grow.setObjectName("chief")
        self.grow.clicked.connect(lambda: self.asked.emit("grow"))
        self.apart = NumberField(
            self.tr("How far apart studies lie at least"),
            0,
            1,
            self.tr(" apart"),
            0.01,
            2,
            self.tr(
                "OKLab weighted by area, hue counted twice: how much a study must differ from all "
                "others. Wish more, and fewer may be found."
            ),
        )
        self.apart.wanted.connect(
            lambda n: self.edit_wanted.emit(set_rule("studies.apart", n, self.tr("apart")))
        )
        column.addLayout(in_row((self.grow, 1), quiet(self.tr("at least")), self.apart, gap=8))

    def _build_study(self, column: QVBoxLayout) -> None:
        self.title, self.note, self.reason = TextField(needed=True), TextField(), TextField()
        grid = QGridLayout()
        grid.setHorizontalSpacing(12)
        grid.setVerticalSpacing(5)
        rows = (
            (self.tr("study"), self.title, self.tr("The chosen study’s title")),
            (self.tr("note"), self.note, self.tr("What you want to remember of it")),
            (self.tr("reason"), self.reason, self.tr("Why it was kept or rejected")),
        )
        for row, (said, field, says) in enumerate(rows):
            field.setAccessibleName(says)
            field.setToolTip(says)
            field.setPlaceholderText(says)
            grid.addWidget(quiet(said), row, 0)
            grid.addWidget(field, row, 1)
        column.addLayout(grid)
        for field, key in (
            (self.title, "study.title"),
            (self.note, "study.note"),
            (self.reason, "study.reason"),
        ):
            field.typed.connect(
                lambda of, t, k=key: self.edit_wanted.emit(change_setting(k, t, of.study))
            )
        line = QHBoxLayout()
        line.setSpacing(6)
        self.keep = self._button(line, self.tr("Keep"), "study-keep")
        self.reject = self._button(line, self.tr("Reject"), "study-reject")
        for button in (self.keep, self.reject):
            button.setCheckable(True)
            button.clicked.connect(self._go_to_reason)
        line.addStretch(1)
        self.current = self._button(line, self.tr("Make it current"), "study-current")
        self.copy = self._button(line, self.tr("Duplicate"), "study-copy")
        self.remove = self._button(line, self.tr("Remove"), "study-remove")
        column.addLayout(line)

    def _button(self, line: QHBoxLayout, text: str, action: str) -> QPushButton:
        button = QPushButton(text)
        button.clicked.connect(lambda: self.asked.emit(action))
        line.addWidget(button)
        return button

    def chosen_rules(self) -> list[str]:
        """The rules that are ticked."""
        return [name for name, box in self.rules.items() if box.isChecked()]

    def _show_grow(self) -> None:
        self.grow.setEnabled(bool(self.chosen_rules()))

    def _go_to_reason(self) -> None:
        """After a verdict the caret goes to why."""
        if self._chosen is not None and self._chosen.verdict:
            self.reason.setFocus()

    def show_derived(self, derived: Derived, selected: str) -> None:
        studies = derived.plan.studies
        kept = sum(s.verdict == "kept" for s in studies)
        rejected = sum(s.verdict == "rejected" for s in studies)
        line = self.tr("{count} in all, {kept} kept, {rejected} rejected")
        self.says.setText(line.format(count=len(studies), kept=kept, rejected=rejected))
        self.apart.show_number(derived.rules["studies.apart"])
        title = derived.study.title
        self.heading.setText(self.tr("Grow from “{title}”").format(title=title))

    def show_study(self, study: Study | None, is_current: bool, alone: bool) -> None:
        """The study that is chosen; None where none or several are."""
        self._chosen = study
        fields = ((self.title, "title"), (self.note, "note"), (self.reason, "reason"))
        for field, name in fields:
            field.setEnabled(study is not None)
            text = "" if study is None else str(getattr(study, name))
            field.fill(None if study is None else Of(study=study.id), text)
        self.keep.setChecked(study is not None and study.verdict == "kept")
        self.reject.setChecked(study is not None and study.verdict == "rejected")
        for button in (self.keep, self.reject, self.copy):
            button.setEnabled(study is not None)
        self.current.setEnabled(study is not None and not is_current)
        self.remove.setEnabled(study is not None and not alone)
