"""The frame follows the plan that is on: title, tray, bench, checks, route, names in the menus."""

from PySide6.QtCore import QObject, Qt
from PySide6.QtWidgets import QMainWindow

from umber_compass.plan.edits import find_region
from umber_compass.plan.practices import PRACTICES
from umber_compass.steps.checks import CHECKS
from umber_compass.steps.followed import Followed
from umber_compass.steps.pipeline import Derived
from umber_compass.steps.sketch.flats.palette import SPRITE_PX
from umber_compass.steps.values.measured import lit_range
from umber_compass.window.bench.bench import Bench
from umber_compass.window.benches import BENCHES
from umber_compass.window.desk.desk import Desk
from umber_compass.window.frame.checks import warned
from umber_compass.window.frame.layout import Layout
from umber_compass.window.frame.tray_painting import Swatch
from umber_compass.window.stage.director import Director
from umber_compass.window.stage.marks import StageMarks
from umber_compass.window.strip.views import OF_LIGHT
from umber_compass.window.widgets.actions import Actions

_LEAST_ROOM = 120  # px for what the piece is for


class Following(QObject):
    """Shows results in every part of the frame."""

    def __init__(
        self,
        window: QMainWindow,
        desk: Desk,
        layout: Layout,
        director: Director,
        marks: StageMarks,
        actions: Actions,
    ) -> None:
        super().__init__(window)
        self._window, self.desk, self.layout = window, desk, layout
        self.director, self.marks, self.actions = director, marks, actions
        self._hovered = ""
        self.bench_read, self.tray_read = Followed(), Followed()  # what these show

    def follow(self) -> None:
        """Show the plan that is on now."""
        derived = self.desk.derived
        if derived is None:
            return
        is_sprite = derived.drawing.labels.size <= SPRITE_PX
        self.layout.stage.show_whole_px(is_sprite or derived.rules["picture.smooth"] < 0.5)
        if not self.desk.session.dragging:
            self.director.show()
        self.show_bench(derived)
        self._show_frame(derived)

    def _show_frame(self, derived: Derived) -> None:
        """Title, tray, route and checks."""
        self.layout.title.setText(derived.plan.title)
        self.say_purpose()
        self.show_tray(derived)
        self.layout.route.set_order(PRACTICES[derived.plan.practice].route)
        self.show_edited()

    def show_edited(self) -> None:
        """Checks and history."""
        self.show_checks()
        self._show_history()

    def show_bench(self, derived: Derived) -> None:
        """The open bench, its marks on the stage, and what it waits for."""
        row, reader = BENCHES[self.desk.session.step], self.bench_read.reader(derived)
        self.marks.show(row.parts().marks(reader, self.desk.session.selection))
        current = self.layout.stack.currentWidget()
        if isinstance(current, Bench):
            current.show_derived(reader, self.desk.session.selection)
            current.show_offer(derived.uncoloured and not row.takes_stage)
            self.desk.live.work_out(current.needs())

    def show_lamps(self) -> None:
        """The lamps while something is dragged, where the open step puts them on the stage."""
        derived, dragging = self.desk.derived, self.desk.session.dragging
        if derived is not None and dragging and self.layout.stage.lamps:
            marks = BENCHES[self.desk.session.step].parts().marks
            self.layout.stage.show_lamps(list(marks(derived, "").lamps))

    def show_tray(self, derived: Derived) -> None:
        """The palette of a plan."""
        derived = self.tray_read.reader(derived)
        names = {r.id: r.name for r in derived.regions}
        swatches = [
            Swatch(
                r,
                names[r],
                tuple(e.hex for e in derived.colours[r].ends),
                derived.colours[r].mean_value,
                derived.shares[r],
                derived.colours[r].first.slot == "given",
            )
            for r in derived.families
        ]
        self.layout.tray.show_swatches(swatches, self.desk.session.selection)

    def show_checks(self) -> None:
        """The checks of the open step, and how many wait at the others."""
        results = self.desk.judge.results
        current = self.layout.stack.currentWidget()
        if isinstance(current, Bench):
            current.show_results(results)
        step = self.desk.session.step
        if not self.desk.session.dragging:
            of_step = {s: [r for r in results if CHECKS[r.check].step == s] for s in BENCHES}
            self.layout.route.show_step(step, {s: warned(of) for s, of in of_step.items()})
        mine = [r for r in results if CHECKS[r.check].step == step]
        self.layout.checks.setVisible(bool(mine))
        if not self.desk.session.dragging:
            self.layout.checks.show_results(mine)

    def _show_history(self) -> None:
        history = self.desk.history
        assert history is not None
        self.actions.refresh("undo", "redo")
        title = self.tr("{title} – Umber Compass")
        if self.desk.unsaved:
            title = self.tr("{title} * – Umber Compass")
        self._window.setWindowTitle(title.format(title=history.now.title))

    def say_purpose(self) -> None:
        """What the piece is for, cut with dots where there is no room for it."""
        purpose = self.desk.derived.plan.purpose if self.desk.derived is not None else ""
        label = self.layout.purpose
        room = max(label.width(), _LEAST_ROOM)
        cut = label.fontMetrics().elidedText(purpose, Qt.TextElideMode.ElideRight, room)
        label.setText(cut)
        label.setToolTip(purpose)

    def say_region(self, region_id: str) -> None:
        """What is pointed at, in words and numbers."""
        derived = self.desk.derived
        if derived is None or region_id == self._hovered:
            return
        self._hovered = region_id
        if region_id:
            self.layout.notice.tell(self._in_words(derived, region_id), False)

    def _in_words(self, derived: Derived, region_id: str) -> str:
        named = find_region(derived.plan, region_id)
        if named is None:
            return ""  # it went since it was painted
        said = self.tr("{hex}  value {value:.0f} L*  chroma {chroma:.3f}  hue {hue:.0f}° OKLCh")
        grey = self.tr("{hex}  value {value:.0f} L*  chroma {chroma:.3f}  no hue")
        ends = [
            (grey if e.hue is None else said).format(
                hex=e.hex, value=e.value, chroma=e.chroma, hue=e.hue
            )
            for e in derived.colours[region_id].ends
        ]
        line = self.tr("{name}, {role}:  {ends}  {share:.1%} of the picture")
        lit = lit_range(derived.values, derived.adjacency, named.label) if derived.lit else None
        if lit is not None:
            line = self.tr(
                "{name}, {role}:  {ends}  {share:.1%} of the picture  "
                "lit {low:.0f} to {high:.0f} L*"
            )
        low, high = lit if lit is not None else (0.0, 0.0)
        return line.format(
            name=named.name,
            role=named.role,
            ends="  –  ".join(ends),
            share=derived.shares[region_id],
            low=low,
            high=high,
        )

    def say_zoom(self) -> None:
        """How large the picture is shown."""
        stage = self.layout.stage
        percent = stage.scale * stage.devicePixelRatioF() * 100
        line = self.tr("Shown at {zoom:.0f} % of its actual size").format(zoom=percent)
        self.layout.notice.tell(line, False)

    def can_hold(self, what: str) -> bool:
        """Whether a held key has something to show; says why where it has not."""
        lit = self.desk.derived is not None and self.desk.derived.lit is not None
        if what in OF_LIGHT and not lit:
            line = self.tr("The light is off; switch it on at the light bench")
            self.layout.notice.tell(line, False)
            return False
        return True
