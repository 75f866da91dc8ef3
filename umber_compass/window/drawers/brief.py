"""The brief drawer: what the piece is for and how it is seen, its mood, how many colours it may
use, and what else was agreed."""

from PySide6.QtCore import QSignalBlocker
from PySide6.QtWidgets import QComboBox, QGridLayout, QLabel, QWidget

from umber_compass.plan.edits import study
from umber_compass.plan.moods import MOODS
from umber_compass.plan.practices import PRACTICES
from umber_compass.plan.settings import change_setting
from umber_compass.plan.study_edits import set_mood
from umber_compass.plan.uses import USES, seen_as
from umber_compass.steps.pipeline import Derived
from umber_compass.window.bench.bench import Bench, quiet
from umber_compass.window.drawers.press_row import PressRow
from umber_compass.window.widgets.fields import NotesField, Of, TextField
from umber_compass.window.widgets.setting_field import SettingField


class BriefDrawer(Bench):
    """A field for each thing that was agreed; beside each, where it comes from."""

    def __init__(self) -> None:
        super().__init__("Brief")
        grid = QGridLayout()
        grid.setHorizontalSpacing(10)
        grid.setVerticalSpacing(8)
        grid.setColumnStretch(1, 1)
        self.title, self.purpose = TextField(needed=True), TextField()
        self.title.typed.connect(lambda _, t: self.edit_wanted.emit(change_setting("title", t)))
        self.purpose.typed.connect(lambda _, t: self.edit_wanted.emit(change_setting("purpose", t)))
        self.purpose.setPlaceholderText(self.tr("as: double page of a picture book, low sun"))
        self.use = QComboBox()
        self.use.addItem(self.tr("not set"), "")
        for name, use in USES.items():
            self.use.addItem(use.title, name)
        self.use.activated.connect(
            lambda i: self.edit_wanted.emit(change_setting("brief.use", self.use.itemData(i)))
        )
        self.width_cm = SettingField("brief.width")
        self.width_cm.asked.connect(self.edit_wanted)
        self.distance = SettingField("brief.distance")
        self.distance.asked.connect(self.edit_wanted)
        self.mood = QComboBox()
        self.mood.addItem(self.tr("none"), None)
        for key, mood in MOODS.items():
            self.mood.addItem(mood.title, key)
        self.mood.activated.connect(
            lambda i: self.edit_wanted.emit(set_mood(self.mood.itemData(i)))
        )
        self.budget = SettingField("budget")
        self.budget.setMinimumWidth(104)
        self.budget.setSpecialValueText(self.tr("any number"))
        self.budget.asked.connect(self.edit_wanted)
        self.from_use, self.from_width, self.from_distance = quiet(""), quiet(""), quiet("")
        self.from_mood, self.from_budget = quiet(""), quiet("")
        self.press = PressRow()
        rows: tuple[tuple[str, QWidget, QLabel | None], ...] = (
            (self.tr("title"), self.title, None),
            (self.tr("in a line"), self.purpose, None),
            (self.tr("what it is for"), self.use, self.from_use),
            (self.tr("width"), self.width_cm, self.from_width),
            (self.tr("seen from"), self.distance, self.from_distance),
            (self.tr("mood"), self.mood, self.from_mood),
            (self.tr("colours at most"), self.budget, self.from_budget),
            (self.tr("printed as"), self.press, None),
        )
        for i, (text, field, source) in enumerate(rows):
            grid.addWidget(quiet(text), i, 0)
            grid.addWidget(field, i, 1, 1, 1 if source is not None else 2)
            field.setAccessibleName(text)
            if source is not None:
                source.setWordWrap(True)
                grid.addWidget(source, i, 2)
        grid.setColumnStretch(2, 2)
        self.column.addLayout(grid)
        self.seen = quiet("")
        self.seen.setWordWrap(True)
        self.column.addWidget(self.seen)
        self.column.addWidget(quiet(self.tr("notes")))
        self.notes = NotesField(self.tr("Notes of the brief"))
        self.notes.typed.connect(
            lambda _, t: self.edit_wanted.emit(change_setting("brief.notes", t))
        )
        self.column.addWidget(self.notes, 1)

    def help_at(self, step: str) -> tuple[str, str]:
        return "sketch", "Brief"

    def show_derived(self, derived: Derived, selected: str) -> None:
        plan, brief = derived.plan, derived.plan.brief
        self.title.fill(Of(), plan.title)
        self.purpose.fill(Of(), plan.purpose)
        width, distance = seen_as(brief)
        with QSignalBlocker(self.use), QSignalBlocker(self.mood):
            self.use.setCurrentIndex(self.use.findData(brief.use))
            mood = study(plan).mood
            self.mood.setCurrentIndex(self.mood.findData(None if mood is None else mood.name))
        self.width_cm.show_setting(width)
        self.distance.show_setting(distance)
        self.budget.show_setting(derived.budget or 0)
        self.press.show_press()
        self.notes.fill(Of(), brief.notes)
        self._say_sources(derived)

    def _say_sources(self, derived: Derived) -> None:
        """Where each number comes from."""
        plan, brief = derived.plan, derived.plan.brief
        practice = PRACTICES[plan.practice].title
        use = USES.get(brief.use)
        usual = self.tr("usual for a {use}").format(use=use.title.lower()) if use else ""
        usual = usual or self.tr("default: screen")
        own = self.tr("set here")
        self.from_use.setText(use.says if use else "")
        self.from_width.setText(usual if brief.width_cm is None else own)
        self.from_distance.setText(usual if brief.distance_cm is None else own)
        self.from_mood.setText(self.tr("of the study that is shown; the check “mood” holds to it"))
        if plan.budget is not None:
            self.from_budget.setText(own)
        else:
            self.from_budget.setText(self.tr("from the practice {name}").format(name=practice))
        width, distance = seen_as(brief)
        self.seen.setText(
            self.tr(
                "The views “Across the room” and “From its place” show it {width:g} cm wide, seen "
                "from {distance:g} cm."
            ).format(width=width, distance=distance)
        )
