"""The focus bench: what pulls the eye, how things fall off from the focus, groups of depth."""

from PySide6.QtWidgets import (
    QHBoxLayout,
    QLabel,
    QPushButton,
    QWidget,
)

from umber_compass.plan.edits import region
from umber_compass.plan.focus_edits import follow_roles
from umber_compass.steps.checks.check import listed
from umber_compass.steps.focus.attention import Attention
from umber_compass.steps.focus.edits import toggle_focus
from umber_compass.steps.focus.pull import PARTS
from umber_compass.steps.pipeline import Derived
from umber_compass.window.bench.bench import Bench
from umber_compass.window.benches.focus.calm_part import CalmPart
from umber_compass.window.benches.focus.depth_page import DepthPage
from umber_compass.window.benches.focus.falloff_part import FalloffPart
from umber_compass.window.benches.focus.pull_chart import GREYS, Bar, PullChart
from umber_compass.window.stage.focus_marks import FocusMarks, marks_of
from umber_compass.window.stage.step_marks import Marks
from umber_compass.window.widgets.rows import in_column, in_row
from umber_compass.window.widgets.tabs import Pages
from umber_compass.window.widgets.theme import THEME
from umber_compass.window.widgets.why import WhyButton

_SAYS = {
    "value": "How much lighter or darker a region is than what lies round it, and than the whole. "
    "A full difference, 1, is 0.30 of OKLab’s lightness.",
    "hue": "How far its hue turns from what lies round it, counted by how coloured both are. "
    "A full difference, 1, is 0.16 in OKLab.",
    "chroma": "How much stronger its colour is than what lies round it; duller counts less. "
    "A full difference, 1, is a chroma of 0.13.",
    "detail": "How much more goes on within it than round it, light and shade included. "
    "A full difference, 1, is 0.075 in OKLab.",
}


class FocusBench(Bench):
    """What is met first, by how much it leads, and what competes."""

    def __init__(self) -> None:
        super().__init__("Focus")
        self._derived: Derived | None = None
        self._selected = ""
        self.chart, self.falloff, self.deep = PullChart(), FalloffPart(), DepthPage()
        self.calm = CalmPart()
        pull = self._build_pull()
        self.pages = Pages({self.tr("Pull"): pull, self.tr("Depth and air"): self.deep})
        self.column.addLayout(self._build_top())
        self.add_pages()
        self._connect()

    def _build_top(self) -> QHBoxLayout:
        self.set_button = QPushButton(self.tr("Focus on the chosen region"))
        self.set_button.setToolTip(
            self.tr("What should be met first: E does the same, on the stage for what lies there")
        )
        self.roles_button = QPushButton(self.tr("By role"))
        self.roles_button.setToolTip(self.tr("The regions whose role is focus"))
        return in_row(self.pages.tabs, 1, self.set_button, self.roles_button, gap=4)

    def _build_pull(self) -> QWidget:
        page = QWidget()
        in_column(self._build_legend(), (self.chart, 1), self.falloff, self.calm, gap=6, on=page)
        return page

    def _build_legend(self) -> QHBoxLayout:
        line = QHBoxLayout()
        line.setSpacing(4)
        heading = QLabel(self.tr("What pulls the eye"))
        heading.setObjectName("heading")
        line.addWidget(heading)
        line.addStretch(1)
        for part, grey in zip(PARTS, GREYS, strict=True):
            dot = QLabel()
            dot.setFixedSize(12, 12)
            dot.setStyleSheet(f"background: {grey}; border: 1px solid {THEME.room.line};")
            word = WhyButton(part, _SAYS[part], part)
            word.setText(part)
            word.setToolTip(_SAYS[part])
            line.addWidget(dot)
            line.addWidget(word)
        return line

    def _connect(self) -> None:
        self.forward(self.chart, self.falloff, self.calm, self.deep)
        self.chart.toggled.connect(self._toggle)
        self.falloff.turned.connect(self.paged)
        self.set_button.clicked.connect(lambda: self._toggle(self._selected))
        self.roles_button.clicked.connect(lambda: self.edit_wanted.emit(follow_roles()))

    def first_focus(self) -> QWidget | None:
        return self.chart

    def needs(self) -> tuple[str, ...]:
        return ("lattice", "attention", "rings")

    def _toggle(self, region_id: str) -> None:
        if self._derived is not None and region_id:
            self.edit_wanted.emit(toggle_focus(self._derived.plan, region_id))

    def show_derived(self, derived: Derived, selected: str) -> None:
        self._derived, self._selected = derived, selected
        seen = derived.attention
        self._say(derived, seen)
        self._show_buttons(derived, selected)
        if self.pages.currentIndex():
            self.deep.show_groups(derived)
            return
        if seen is not None:
            self.chart.show_bars(*_bars(derived, seen), selected)
            self.falloff.show_falloff(derived, selected)
            self.calm.show_calm(derived)

    def _show_buttons(self, derived: Derived, selected: str) -> None:
        chosen = region(derived.plan, selected).name if selected else ""
        text = self.tr("Focus: {name} in or out").format(name=chosen)
        self.set_button.setText(text if chosen else self.tr("Focus on the chosen region"))
        self.set_button.setEnabled(bool(chosen))
        self.roles_button.setEnabled(derived.focus is not None)

    def _say(self, derived: Derived, seen: Attention | None) -> None:
        if seen is None:
            self.says.setText(self.tr("predicting what draws the eye …"))
            return
        by_label = {r.label: r.name for r in derived.regions}
        focus = listed([by_label[i] for i in seen.focus if i in by_label])
        line = self.tr("no focus is set")
        if not seen.focus and not seen.places.is_met:
            line = self.tr("nothing leads, and no focus is set")
        elif seen.focus and seen.rival is None:
            line = self.tr("the focus is the whole picture")
        elif seen.focus:
            line = self.tr("{focus}: stands out {lead:.2f} times (goal {wish:g})").format(
                focus=focus, wish=derived.wishes.number("lead"), lead=seen.lead
            )
        self.says.setText(line)


def _bars(derived: Derived, seen: Attention) -> tuple[list[Bar], float | None]:
    """Every region's pull, the strongest first, and what others should stay below."""
    bars = [
        Bar(
            r.id,
            r.name,
            derived.colours[r.id].first.hex,
            tuple(float(v) for v in seen.pull.parts[:, r.label]),
            r.label in seen.focus,
        )
        for r in derived.regions
        if r.label < len(seen.total) and seen.total[r.label] > 0
    ]
    own = max((float(seen.total[i]) for i in seen.focus), default=0.0)
    most = own / derived.wishes.number("lead") if seen.focus else None
    return sorted(bars, key=lambda b: -b.total), most


def marks(derived: Derived, selected: str) -> Marks:
    """The ring round the focus, and the first three places the eye meets."""
    return Marks(focus=marks_of(derived) if derived.attention is not None else FocusMarks())
