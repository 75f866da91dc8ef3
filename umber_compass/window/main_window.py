"""The window: the parts round one desk, and what each action and event does."""

from pathlib import Path

from PySide6.QtCore import Qt, QTimer
from PySide6.QtGui import QCloseEvent, QDragEnterEvent, QDropEvent, QKeyEvent, QResizeEvent
from PySide6.QtWidgets import (
    QAbstractButton,
    QAbstractSpinBox,
    QApplication,
    QLineEdit,
    QMainWindow,
)

from umber_compass.formats.cache import Cache
from umber_compass.plan.edits import Edit
from umber_compass.steps.checks import CHECKS, Fix
from umber_compass.steps.handoff import by_family
from umber_compass.window import actions, commands, theme
from umber_compass.window.benches.bench import Bench
from umber_compass.window.desk import Desk
from umber_compass.window.dialogs import Dialogs
from umber_compass.window.files import Files
from umber_compass.window.frame.tray import Swatch
from umber_compass.window.parts import STEPS, Parts
from umber_compass.window.regions import Regions
from umber_compass.window.screen import Screen

# Held down, a letter shows another moment of the plan, or a part of its light.
LOOKS = {
    Qt.Key.Key_B: "before",
    Qt.Key.Key_O: "opened",
    Qt.Key.Key_F: "flat",
    Qt.Key.Key_L: "lights-off",
    Qt.Key.Key_A: "ambient-only",
    Qt.Key.Key_K: "key-only",
}
_VIEWS_AFTER = 100  # ms between two rounds of views while something is dragged


class MainWindow(QMainWindow):
    """One plan on the desk and everything round it."""

    def __init__(self, dialogs: Dialogs | None = None, cache: Cache | None = None) -> None:
        super().__init__()
        self.setWindowTitle("Umber Compass")
        self.setAcceptDrops(True)
        self.setMinimumSize(1000, 640)
        self.resize(1280, 800)
        self.step, self.hinting = "harmony", False
        self.desk, self.parts = Desk(cache), Parts()
        self.setCentralWidget(self.parts)
        self.files = Files(self.desk, self.parts, dialogs or Dialogs())
        self.regions = Regions(self.desk)
        self.screen_now = Screen(self.desk, self.parts)
        self.actions_by_name = actions.build(self, self.run)
        self.actions_by_name["room-gallery"].setChecked(True)
        self._views_timer = QTimer(self)
        self._views_timer.setSingleShot(True)
        self._views_timer.setInterval(_VIEWS_AFTER)
        self._views_timer.timeout.connect(self.screen_now.ask_views)
        self._connect()
        self._connect_parts()
        self.open_step("harmony")
        self.screen_now.show_empty()
        self.parts.checks.setVisible(False)

    def _connect(self) -> None:
        desk, screen = self.desk, self.screen_now
        desk.opened.connect(self._on_opened)
        desk.painted.connect(screen.paint_now)
        desk.sharpened.connect(screen.show_stage)
        desk.changed.connect(self._on_changed)
        desk.judged.connect(self._show_checks)
        desk.told.connect(screen.tell)
        desk.selected.connect(self._on_selected)
        screen.staged.connect(self._refresh)
        for bench in self.parts.benches.values():
            bench.edit_wanted.connect(self.do)
            bench.drag_began.connect(self._drag_began)
            bench.drag_ended.connect(self._drag_ended)
            bench.chosen.connect(desk.select)
            bench.copied.connect(self.regions.copy)

    def _connect_parts(self) -> None:
        parts, screen = self.parts, self.screen_now
        parts.harmony_bench.pointed.connect(screen.say_region)
        parts.handoff_bench.wanted.connect(self.files.hand_off)
        parts.handoff_bench.browsed.connect(self.files.browse)
        parts.route.chosen.connect(self.open_step)
        parts.practice_button.clicked.connect(lambda: self.run("practice"))
        parts.stage.pointed.connect(lambda x, y: screen.say_region(screen.region_at(x, y)))
        parts.stage.pressed.connect(lambda x, y: self.desk.select(screen.region_at(x, y)))
        parts.stage.twice.connect(self._edit_at)
        parts.stage.sight_changed.connect(screen.say_zoom)
        parts.stage.lamp_moved.connect(lambda _, at: parts.light_bench.move_key(at))
        parts.stage.began.connect(self._drag_began)
        parts.stage.ended.connect(self._drag_ended)
        parts.light_bench.again.connect(self.desk.live.light_again)
        parts.stop.clicked.connect(screen.stop)
        self.desk.worker.slow.connect(screen.say_slow)
        self.desk.worker.rested.connect(screen.say_rested)
        parts.stage.given.connect(lambda r, x, y: self.regions.give(r, screen.region_at(x, y)))
        parts.tray.chosen.connect(self.desk.select)
        parts.tray.copied.connect(self.regions.copy)
        parts.strip.staged.connect(screen.stage_view)
        parts.strip.wanted.connect(screen.ask_views)
        parts.checks.taken.connect(self._take_fix)
        parts.checks.peeked.connect(screen.peek)

    def run(self, name: str) -> None:
        """Do what a menu's action says."""
        commands.run(self, name)

    def set_alone(self, alone: bool) -> None:
        """The picture alone on the whole window, or all of it again."""
        self.actions_by_name["alone"].setChecked(alone)
        self.menuBar().setVisible(not alone)
        self.parts.set_alone(alone)
        self._refresh()
        self.parts.stage.setFocus()

    def look(self, at: str) -> None:
        """Show another moment of the plan or a part of its light, and say so in the menu."""
        self.screen_now.look(at)
        for name in LOOKS.values():
            self.actions_by_name[f"look-{name}"].setChecked(self.screen_now.looking == name)

    def _on_opened(self) -> None:
        self.hinting, self.files.demo_wanted = self.files.demo_wanted, False
        self._show_hint()
        self.files.show_folder()
        self.screen_now.forget()

    def _on_changed(self) -> None:
        if self.screen_now.looking:
            self.look("")
        self._refresh()
        if self.desk.dragging:
            # Painted now, in the pause between two moves, rather than with the picture's next
            # frame: painting one part paints whatever else waits for it.
            self.parts.route.repaint()
        if not self._views_timer.isActive():
            self._views_timer.start()

    def do(self, edit: Edit) -> None:
        """Make an edit that a bench asks for."""
        if edit.merge == "lead":
            self.hinting = False
            self._show_hint()
        self.desk.do(edit)

    def _show_hint(self) -> None:
        self.parts.hint.setVisible(self.hinting and self.step == "harmony")

    def _drag_began(self) -> None:
        self.desk.seal()
        self.desk.dragging = self.parts.light_bench.dragging = True

    def _drag_ended(self) -> None:
        self.parts.light_bench.dragging = False
        self.desk.seal()
        self.screen_now.ask_views()

    def open_step(self, step: str) -> None:
        """Open a step's bench."""
        self.step = step
        self.screen_now.enter(step)
        self.parts.practice_button.setChecked(False)
        self.actions_by_name["practice"].setChecked(False)
        self.parts.stack.setCurrentWidget(self.parts.benches[step])
        self._show_hint()
        self._refresh()
        instrument = {
            "harmony": self.parts.harmony_bench.rose,
            "values": self.parts.values_bench.ladder,
        }
        if not isinstance(QApplication.focusWidget(), QAbstractButton):
            instrument.get(step, self.parts.stage).setFocus()

    def toggle_practice(self) -> None:
        """Open the practice's numbers over the bench, or close them."""
        open_now = self.parts.stack.currentWidget() is not self.parts.practice_drawer
        self.parts.stack.setCurrentWidget(
            self.parts.practice_drawer if open_now else self.parts.benches[self.step]
        )
        self.parts.practice_button.setChecked(open_now)
        self.actions_by_name["practice"].setChecked(open_now)
        self._refresh()

    def name_chosen(self) -> None:
        """Put the caret into the chosen region's name."""
        if self.desk.selection:
            self.open_step("sketch")
            self.parts.sketch_bench.edit_name(self.desk.selection)

    def _edit_at(self, x: float, y: float) -> None:
        region_id = self.screen_now.region_at(x, y)
        if region_id:
            self.desk.select(region_id)
            self.open_step("values")

    def _take_fix(self, fix: Fix) -> None:
        self.screen_now.peek(None)
        self.desk.seal()
        self.do(fix.edit)

    def _on_selected(self, region_id: str) -> None:
        self._refresh()
        if self.step == "sketch":
            self.parts.sketch_bench.reveal(region_id)
        self.screen_now.say_region(region_id)

    def _refresh(self) -> None:
        """Show the plan that is on now, in the stage, the tray, the bench and the menus."""
        derived = self.desk.derived
        if derived is None or self.desk.history is None:
            return
        if not self.desk.dragging:
            self.screen_now.show_stage()
        self.screen_now.mark()
        current = self.parts.stack.currentWidget()
        if isinstance(current, Bench):
            current.show_derived(derived, self.desk.selection)
        self.parts.plan_title.setText(derived.plan.title)
        self.screen_now.say_purpose(derived.plan.purpose)
        names = {r.id: r.name for r in derived.plan.regions}
        self.parts.tray.show_swatches(
            [
                Swatch(
                    r,
                    names[r],
                    tuple(e.hex for e in derived.colours[r].ends),
                    derived.colours[r].mean_value,
                    derived.shares[r],
                    derived.colours[r].first.slot == "given",
                )
                for r in by_family(derived)
            ],
            self.desk.selection,
        )
        self._show_checks()
        self._show_history()

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Cut the purpose anew once the layout has settled."""
        if self.desk.derived is not None:
            purpose = self.desk.derived.plan.purpose
            QTimer.singleShot(0, self, lambda: self.screen_now.say_purpose(purpose))

    def _show_history(self) -> None:
        history = self.desk.history
        assert history is not None
        for name, steps, word in (
            ("undo", history.past[-1:], self.tr("Undo")),
            ("redo", history.future[:1], self.tr("Redo")),
        ):
            action = self.actions_by_name[name]
            action.setEnabled(bool(steps))
            action.setText(f"{word}: {steps[0].change}" if steps else word)
        mark = " *" if self.desk.unsaved and history.past else ""
        self.setWindowTitle(f"{history.now.title}{mark} – Umber Compass")

    def _show_checks(self) -> None:
        results = self.desk.results
        counts = {
            step: sum(r.level == "warning" and CHECKS[r.check].step == step for r in results)
            for step, _ in STEPS
        }
        self.parts.route.show_step(self.step, counts)
        mine = [r for r in results if CHECKS[r.check].step == self.step]
        self.parts.checks.setVisible(bool(mine))
        if not self.desk.dragging:
            self.parts.checks.show_results(mine)

    def enter_room(self, room: str) -> None:
        """Light the window's own surround another way."""
        for name in theme.ROOMS:
            self.actions_by_name[f"room-{name}"].setChecked(name == room)
        application = QApplication.instance()
        assert isinstance(application, QApplication)
        theme.enter(application, room)
        self._refresh()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """A letter is held, or Escape leaves the picture alone. What a field takes never comes
        here."""
        if event.key() == Qt.Key.Key_Escape and self.parts.stage.alone:
            self.set_alone(False)
        elif not self._hold(event, True):
            super().keyPressEvent(event)

    def keyReleaseEvent(self, event: QKeyEvent) -> None:
        if not self._hold(event, False):
            super().keyReleaseEvent(event)

    def _hold(self, event: QKeyEvent, down: bool) -> bool:
        """Show what a held letter stands for, anywhere but in a field that is typed into."""
        at = LOOKS.get(Qt.Key(event.key()))
        typing = isinstance(QApplication.focusWidget(), QLineEdit | QAbstractSpinBox)
        plain = event.modifiers() == Qt.KeyboardModifier.NoModifier
        if at is None or not plain or typing:
            return False
        if not event.isAutoRepeat():
            self.look(at if down else "")
        return True

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        if event.mimeData().hasUrls():
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent) -> None:
        files = [Path(u.toLocalFile()) for u in event.mimeData().urls() if u.isLocalFile()]
        if files:
            event.acceptProposedAction()
            self.files.open_path(files[0])

    def closeEvent(self, event: QCloseEvent) -> None:
        if not self.files.may_close(self.close):
            event.ignore()
            return
        self._views_timer.stop()
        self.desk.close()
        event.accept()
