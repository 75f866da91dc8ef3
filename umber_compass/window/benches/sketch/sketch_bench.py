"""The sketch bench: the stage plan of its regions, the candidates, and how it is read."""

from collections.abc import Callable

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QPushButton, QWidget

from umber_compass.plan.settings import change_setting
from umber_compass.steps.pipeline import Derived
from umber_compass.window.bench.bench import Bench, quiet
from umber_compass.window.benches.sketch.candidates_page import CandidatesPage
from umber_compass.window.benches.sketch.plan_page import PlanPage
from umber_compass.window.benches.sketch.reading_page import ReadingPage
from umber_compass.window.widgets.fields import Of, TextField
from umber_compass.window.widgets.rows import in_row
from umber_compass.window.widgets.tabs import Pages

PLAN, CANDIDATES, READING = range(3)


class SketchBench(Bench):
    """Three pages: this sketch, candidates, how it is read."""

    chosen_several = Signal(object)  # ids
    asked = Signal(str)  # an action of regions by name
    replacing = Signal()

    def __init__(self) -> None:
        super().__init__("Sketch")
        self._derived: Derived | None = None
        self.chosen_now: Callable[[], tuple[str, ...]] = tuple
        self._watched = False
        self.plan_page, self.candidates = PlanPage(), CandidatesPage()
        self.reading = ReadingPage()
        self.pages = Pages(
            {
                self.tr("This sketch"): self.plan_page,
                self.tr("Candidates"): self.candidates,
                self.tr("How it is read"): self.reading,
            }
        )
        self.pages.opened.connect(self._on_opened)
        self.replace = QPushButton(self.tr("Replace …"))
        self.replace.setToolTip(
            self.tr("Take another picture of the same piece; what was decided goes over to it")
        )
        self.replace.clicked.connect(self.replacing)
        self.column.addLayout(in_row((self.pages.tabs, 1), self.replace, gap=8))
        self.title = TextField(self.tr("Title of the plan"), needed=True)
        self.title.typed.connect(lambda _, t: self.edit_wanted.emit(change_setting("title", t)))
        self.column.addLayout(in_row(quiet(self.tr("title")), (self.title, 1)))
        for page in (self.plan_page, self.candidates, self.reading):
            page.edit_wanted.connect(self.edit_wanted)
        self.plan_page.chosen.connect(self.chosen_several)
        self.plan_page.pointed.connect(self.pointed)
        self.plan_page.asked.connect(self.asked)
        self.column.addWidget(self.pages, 1)

    def _on_opened(self, number: int) -> None:
        if self._derived is not None:
            if number == CANDIDATES:
                self.candidates.wanted.emit(self.candidates.way)
            elif number == READING:
                self.reading.look()
        self.paged.emit()

    def show_derived(self, derived: Derived, selected: str) -> None:
        self._derived = derived
        plan = derived.plan
        self.title.fill(Of(), plan.title)
        chosen = self.chosen_now() or tuple(filter(None, [selected]))
        known = {r.id for r in plan.regions}
        self.plan_page.show_derived(derived, tuple(i for i in chosen if i in known))
        self.candidates.show_plan(plan)
        self.reading.show_derived(derived, selected)
        many = len(plan.candidates) + 1
        self.pages.tabs.buttons[CANDIDATES].setText(
            self.tr("Candidates  {count}").format(count=many) if many > 1 else self.tr("Candidates")
        )
        self.show_watched(self._watched)

    def show_watched(self, on: bool) -> None:
        """Say what the sketch is, and whether its file is watched."""
        self._watched = on
        if self._derived is None:
            return
        plan = self._derived.plan
        text = self.tr("{count} regions in {file}")
        if on:
            text = self.tr("{count} regions in {file}, watched")
        self.says.setText(text.format(count=len(plan.regions), file=plan.sketch.file_name))
        width, height = plan.sketch.size
        self.says.setToolTip(self.tr("{w} x {h} px").format(w=width, h=height))

    def reveal(self, region_id: str) -> None:
        self.plan_page.reveal(region_id)

    def edit_name(self, region_id: str) -> bool:
        self.open_tab(PLAN)
        self.plan_page.reveal(region_id)
        self.plan_page.panel.edit_name()
        return True

    def first_focus(self) -> QWidget | None:
        return self.plan_page.plan
