"""The light bench: the lamps as a list, volumes in their light, and the paint chart."""

from PySide6.QtCore import QSignalBlocker, Signal
from PySide6.QtWidgets import (
    QCheckBox,
    QFrame,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QScrollArea,
    QWidget,
)

from umber_compass.document.rig_library import RigLibrary
from umber_compass.plan.settings import change_setting
from umber_compass.steps.light.lamps import in_words
from umber_compass.steps.pipeline import Derived
from umber_compass.window.bench.bench import Bench
from umber_compass.window.bench.window_parts import WindowParts
from umber_compass.window.benches.light.cell_bar import CellBar
from umber_compass.window.benches.light.chart import Chart, chosen_cell
from umber_compass.window.benches.light.lamp_page import LampPage
from umber_compass.window.benches.light.look_page import LookPage
from umber_compass.window.benches.light.things_page import ThingsPage
from umber_compass.window.benches.light.volume_page import VolumePage
from umber_compass.window.desk.session import Session
from umber_compass.window.stage.lamp_marks import marks_of
from umber_compass.window.stage.step_marks import Marks
from umber_compass.window.widgets.rows import in_column, in_row
from umber_compass.window.widgets.tabs import Pages

LAMPS, LOOK, THINGS, VOLUMES, CHART = range(5)


class LightBench(Bench):
    """Tabs: the lamps, how their light is drawn, what stands where, volumes in it, and the chart of
    what it makes of every material."""

    marked = Signal()  # things are to be marked on the stage, or no longer
    again = Signal()  # build the forms that were stopped

    def __init__(self) -> None:
        super().__init__("Light")
        self._derived: Derived | None = None
        self._selected = ""
        self._session: Session | None = None
        self.lamps, self.look, self.things = LampPage(), LookPage(), ThingsPage()
        self.volumes, self.chart = VolumePage(), Chart()
        chart = self._build_chart()
        self.pages = Pages(
            {
                self.tr("Lamps"): self.lamps,
                self.tr("Look"): self.look,
                self.tr("Things"): self.things,
                self.tr("Volumes"): self.volumes,
                self.tr("Paint chart"): chart,
            }
        )
        self.column.addLayout(self._build_top())
        self.column.addWidget(self._build_invitation())
        self.add_pages()
        self.switch.toggled.connect(self._take_switch)
        self.forward(self.lamps, self.look, self.things, self.cell_bar)
        self.chart.chosen.connect(self.chosen)
        self.chart.copied.connect(self.copied)

    def _build_top(self) -> QHBoxLayout:
        self.switch = QCheckBox(self.tr("light on"))
        self.switch.setToolTip(self.tr("Off, the picture is flat"))
        return in_row(self.pages.tabs, 1, self.switch, gap=4)

    def _build_invitation(self) -> QWidget:
        """What is said while the light is off, and the way to switch it on."""
        self.invitation = QFrame()
        self.invitation.setObjectName("check")
        says = QLabel(
            self.tr(
                "The light is off: the picture shows its flat colours. The lamps below would light "
                "it as the small views under the picture show."
            )
        )
        says.setWordWrap(True)
        self.light_up = QPushButton(self.tr("Switch the light on"))
        self.light_up.setObjectName("chief")
        self.light_up.clicked.connect(lambda: self._take_switch(True))
        in_row((says, 1), self.light_up, gap=16, margins=(12, 10, 12, 10), on=self.invitation)
        return self.invitation

    def _build_chart(self) -> QWidget:
        scroll = self.chart_scroll = QScrollArea()
        scroll.setWidgetResizable(True)
        scroll.setWidget(self.chart)
        self.cell_bar = CellBar()
        self.chart.moved.connect(lambda: self.cell_bar.show_cell(*chosen_cell(self.chart)))
        holder = QWidget()
        in_column(scroll, self.cell_bar, gap=4, on=holder)
        return holder

    def join(self, session: Session) -> None:
        """Know whether something is dragged: the volumes are then drawn quickly."""
        self._session = session

    def needs(self) -> tuple[str, ...]:
        return ("chart",) if self.pages.currentIndex() == CHART else ()

    def show_derived(self, derived: Derived, selected: str) -> None:
        self._derived, self._selected = derived, selected
        rig = derived.rig
        with QSignalBlocker(self.switch):
            self.switch.setChecked(rig.on)
        self.invitation.setVisible(not rig.on)
        self.says.setText(
            self.tr("key {where}").format(where=in_words(rig.key.direction))
            if rig.on
            else self.tr("off: the picture is flat")
        )
        dragging = self._session is not None and self._session.dragging
        page = self.pages.currentIndex()
        if page == LAMPS:
            self.lamps.show_derived(derived, selected, dragging)
        elif page == LOOK:
            self.look.show_derived(derived, selected)
        elif page == VOLUMES:
            self.volumes.show_lights(derived.lights, dragging)
        elif page == CHART and derived.chart is not None:
            self.chart.show_rows(derived.chart, selected, derived.lights, derived.casts)
            self.cell_bar.show_cell(*chosen_cell(self.chart))
        if page == THINGS:
            self.things.show_derived(derived, selected)
        self.marked.emit()

    @property
    def marks_things(self) -> bool:
        """Whether things are to be marked on the stage."""
        return self.isVisible() and self.pages.currentIndex() == THINGS and self.switch.isChecked()

    def _take_switch(self, on: bool) -> None:
        self.edit_wanted.emit(change_setting("light.on", on))
        if on:
            self.again.emit()


def join(bench: Bench, parts: WindowParts) -> None:
    """The lamps on the stage move the bench's; forms that were stopped are asked for again."""
    assert isinstance(bench, LightBench)
    bench.join(parts.desk.session)
    bench.again.connect(parts.desk.live.light_again)
    parts.stage.lamp_moved.connect(bench.lamps.move_lamp)
    parts.stage.spot_moved.connect(bench.lamps.move_spot)
    bench.look.rigs.use(RigLibrary(parts.library.rigs))
    bench.look.rigs.told.connect(lambda line: parts.desk.told.emit(line, True))
    session, more = parts.desk.session, bench.lamps.more_bar
    more.alone_wanted.connect(session.hold)
    session.viewed.connect(lambda: more.show_held(session.held))
    parts.stage.thing_moved.connect(bench.things.take_move)
    parts.stage.thing_pressed.connect(bench.things.take_press)
    stage, things = parts.stage, bench.things

    def mark() -> None:
        derived = parts.desk.derived
        shows = derived is not None and bench.marks_things
        pieces = derived.pieces if derived is not None and shows else None
        standing = derived.standing if derived is not None and shows else None
        changed = stage.things.show(pieces, standing, things.thing)
        stage.things.takes_pieces = shows and things.pieces.isChecked()
        if changed:
            stage.update()

    bench.marked.connect(mark)
    things.marked.connect(mark)
    parts.desk.session.stepped.connect(mark)


def marks(derived: Derived, selected: str) -> Marks:
    """The lamps where they stand; none while the light is off."""
    return Marks(lamps=tuple(marks_of(derived.rig)) if derived.rig.on else ())
