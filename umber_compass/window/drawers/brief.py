"""The brief drawer: what the piece is for and how it is seen, its mood, how many colours it may
use, and what else was agreed."""

from PySide6.QtCore import QSignalBlocker
from PySide6.QtWidgets import QComboBox, QGridLayout, QLabel, QWidget

from umber_compass.plan.brief_edits import set_distance, set_notes, set_use, set_width
from umber_compass.plan.edits import study
from umber_compass.plan.moods import MOODS
from umber_compass.plan.palette_edits import set_budget
from umber_compass.plan.practices import PRACTICES
from umber_compass.plan.sketch_edits import set_purpose, set_title
from umber_compass.plan.study_edits import set_mood
from umber_compass.plan.uses import USES, seen_as
from umber_compass.steps.pipeline import Derived
from umber_compass.window.benches.bench import Bench, quiet
from umber_compass.window.widgets.fields import NotesField, NumberField, Of, TextField


class BriefDrawer(Bench):
    """A field for each thing that was agreed; beside each, where it comes from."""

    def __init__(self) -> None:
        super().__init__("Brief")
        grid = QGridLayout()
        grid.setHorizontalSpacing(10)
        grid.setVerticalSpacing(8)
        grid.setColumnStretch(1, 1)
        self.title, self.purpose = TextField(needed=True), TextField()
        self.title.typed.connect(lambda _, t: self.edit_wanted.emit(set_title(t)))
        self.purpose.typed.connect(lambda _, t: self.edit_wanted.emit(set_purpose(t)))
        self.purpose.setPlaceholderText(self.tr("as: double page of a picture book, low sun"))
        self.use = QComboBox()
        self.use.addItem(self.tr("not said"), "")
        for name, use in USES.items():
            self.use.addItem(use.title, name)
        self.use.activated.connect(lambda i: self.edit_wanted.emit(set_use(self.use.itemData(i))))
        self.width_cm = NumberField(self.tr("Width of the piece"), 0.5, 2000, " cm", 1, 1)
        self.width_cm.wanted.connect(lambda n: self.edit_wanted.emit(set_width(n)))
        self.distance = NumberField(self.tr("Seen from"), 5, 10000, " cm", 5, 0)
        self.distance.wanted.connect(lambda n: self.edit_wanted.emit(set_distance(n)))
        self.mood = QComboBox()
        self.mood.addItem(self.tr("none"), None)
        for key, mood in MOODS.items():
            self.mood.addItem(mood.title, key)
        self.mood.activated.connect(
            lambda i: self.edit_wanted.emit(set_mood(self.mood.itemData(i)))
        )
        self.budget = NumberField(self.tr("Colours at most"), 0, 256, "", 1, 0)
        self.budget.setMinimumWidth(104)
        self.budget.setSpecialValueText(self.tr("any number"))
        self.budget.wanted.connect(lambda n: self.edit_wanted.emit(set_budget(int(n) or None)))
        self.from_use, self.from_width, self.from_distance = quiet(""), quiet(""), quiet("")
        self.from_mood, self.from_budget = quiet(""), quiet("")
        rows: tuple[tuple[str, QWidget, QLabel | None], ...] = (
            (self.tr("title"), self.title, None),
            (self.tr("in a line"), self.purpose, None),
            (self.tr("what it is for"), self.use, self.from_use),
            (self.tr("width"), self.width_cm, self.from_width),
            (self.tr("seen from"), self.distance, self.from_distance),
            (self.tr("mood"), self.mood, self.from_mood),
            (self.tr("colours at most"), self.budget, self.from_budget),
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
        self.notes.typed.connect(lambda _, t: self.edit_wanted.emit(set_notes(t)))
        self.column.addWidget(self.notes, 1)

    def show_derived(self, derived: Derived, selected: str) -> None:
        plan, brief = derived.plan, derived.plan.brief
        self.title.fill(Of(), plan.title)
        self.purpose.fill(Of(), plan.purpose)
        width, distance = seen_as(brief)
        with QSignalBlocker(self.use), QSignalBlocker(self.mood):
            self.use.setCurrentIndex(self.use.findData(brief.use))
            mood = study(plan).mood
            self.mood.setCurrentIndex(self.mood.findData(None if mood is None else mood.name))
        self.width_cm.show_number(width)
        self.distance.show_number(distance)
        self.budget.show_number(derived.budget or 0)
        self.notes.fill(Of(), brief.notes)
        self._say_sources(derived)

    def _say_sources(self, derived: Derived) -> None:
        """Where each number comes from."""
        plan, brief = derived.plan, derived.plan.brief
        practice = PRACTICES[plan.practice].title
        use = USES.get(brief.use)
        usual = self.tr("usual for a {use}").format(use=use.title.lower()) if use else ""
        usual = usual or self.tr("as on a screen, for nothing was said")
        own = self.tr("said here")
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
