"""The window: route, stage, tray, views and the open step's bench, round one desk."""

from pathlib import Path
from typing import Any

import numpy as np
from PIL import Image
from platformdirs import user_documents_dir
from PySide6.QtCore import QEvent, QObject, Qt, QTimer
from PySide6.QtGui import (
    QCloseEvent,
    QDragEnterEvent,
    QDropEvent,
    QGuiApplication,
    QImage,
    QKeyEvent,
)
from PySide6.QtWidgets import (
    QAbstractSpinBox,
    QApplication,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QMainWindow,
    QStackedWidget,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from umber_compass.demo import plans as demos
from umber_compass.plan.edits import Edit
from umber_compass.steps.checks import CHECKS, Fix
from umber_compass.steps.codes import Packed, unpack
from umber_compass.steps.colouring import give_colour, make_gradient, toggle_pin
from umber_compass.steps.handoff import by_family
from umber_compass.views import VIEWS
from umber_compass.window import actions, theme
from umber_compass.window.arrays import Shown, overlay, packed_of
from umber_compass.window.benches.bench import Bench
from umber_compass.window.benches.handoff import HandoffBench
from umber_compass.window.benches.harmony import HarmonyBench
from umber_compass.window.benches.practice import PracticeDrawer
from umber_compass.window.benches.ramps import RampsBench
from umber_compass.window.benches.sketch import SketchBench
from umber_compass.window.benches.values import ValuesBench
from umber_compass.window.desk import Desk
from umber_compass.window.dialogs import Dialogs
from umber_compass.window.frame.checks import Checks
from umber_compass.window.frame.route import Route
from umber_compass.window.frame.stage import Stage, Tag
from umber_compass.window.frame.tray import Swatch, Tray
from umber_compass.window.frame.view_strip import ViewStrip
from umber_compass.window.marks import anchors
from umber_compass.window.worker import said

STEPS = (
    ("sketch", "Sketch"),
    ("harmony", "Harmony"),
    ("values", "Values"),
    ("ramps", "Ramps"),
    ("handoff", "Hand-off"),
)
_VIEW_PX = 320  # width at which the small views are worked out
_VIEWS_AFTER = 60  # ms between two rounds of views while something is dragged


class MainWindow(QMainWindow):
    """One plan on the desk and everything round it."""

    def __init__(self, dialogs: Dialogs | None = None) -> None:
        super().__init__()
        self.setWindowTitle("Umber Compass")
        self.setAcceptDrops(True)
        self.setMinimumSize(1000, 640)
        self.resize(1280, 800)
        self.dialogs = dialogs or Dialogs()
        self.desk = Desk()
        self.step, self.staged_view, self._looking = "harmony", "", ""
        self._anchors: dict[int, tuple[float, float]] = {}
        self._hovered = ""
        self._peeked: Shown | None = None
        self._kept: Shown | None = None  # whatever else is on the stage, kept alive
        self._view_images: list[Shown] = []
        self._build()
        self.actions_by_name = actions.build(self, self.run)
        self.actions_by_name["room-gallery"].setChecked(True)
        self._views_timer = QTimer(self)
        self._views_timer.setSingleShot(True)
        self._views_timer.setInterval(_VIEWS_AFTER)
        self._views_timer.timeout.connect(self._ask_views)
        self._connect()
        self.open_step("harmony")
        self._show_empty()

    # --- building ---

    def _build(self) -> None:
        whole = QWidget()
        whole.setObjectName("desk")
        row = QHBoxLayout(whole)
        row.setContentsMargins(0, 0, 16, 8)
        row.setSpacing(16)
        self.route = Route(list(STEPS))
        self.practice_button = QToolButton()
        self.practice_button.setObjectName("quiet")
        self.practice_button.setText(self.tr("Practice"))
        self.practice_button.setCheckable(True)
        self.route.add_below(self.practice_button)
        row.addWidget(self.route)
        row.addLayout(self._build_middle(), 100)
        row.addWidget(self._build_right())
        self.setCentralWidget(whole)

    def _build_middle(self) -> QVBoxLayout:
        middle = QVBoxLayout()
        middle.setContentsMargins(0, 10, 0, 0)
        middle.setSpacing(6)
        head = QHBoxLayout()
        head.setSpacing(12)
        self.plan_title, self.plan_says = QLabel(), QLabel()
        self.plan_title.setObjectName("title")
        self.plan_says.setObjectName("quiet")
        self.hint = QLabel(self.tr("Drag the leading hue"))
        self.hint.setObjectName("hint")
        self.hint.setVisible(False)
        head.addWidget(self.plan_title)
        head.addWidget(self.plan_says)
        head.addStretch(1)
        head.addWidget(self.hint)
        middle.addLayout(head)
        self.stage, self.tray, self.strip = Stage(), Tray(), ViewStrip()
        middle.addWidget(self.stage, 100)
        middle.addWidget(self.tray)
        middle.addWidget(self.strip)
        self.strip.setFixedHeight(138)
        self.notice = QLabel()
        self.notice.setObjectName("quiet")
        self.notice.setMinimumHeight(20)
        self.notice.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
        self.notice.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.notice.setWordWrap(True)
        middle.addWidget(self.notice)
        return middle

    def _build_right(self) -> QWidget:
        right = QWidget()
        right.setFixedWidth(488)
        column = QVBoxLayout(right)
        column.setContentsMargins(0, 10, 0, 4)
        column.setSpacing(12)
        self.sketch_bench, self.harmony_bench = SketchBench(), HarmonyBench()
        self.values_bench, self.ramps_bench = ValuesBench(), RampsBench()
        self.handoff_bench, self.practice_drawer = HandoffBench(), PracticeDrawer()
        self.benches: dict[str, Bench] = {
            "sketch": self.sketch_bench,
            "harmony": self.harmony_bench,
            "values": self.values_bench,
            "ramps": self.ramps_bench,
            "handoff": self.handoff_bench,
            "practice": self.practice_drawer,
        }
        self.stack = QStackedWidget()
        for bench in self.benches.values():
            self.stack.addWidget(bench)
        self.checks = Checks()
        column.addWidget(self.stack, 1)
        column.addWidget(self.checks)
        self.right = right
        return right

    def _connect(self) -> None:
        desk = self.desk
        desk.opened.connect(self._on_opened)
        desk.changed.connect(self._on_changed)
        desk.judged.connect(self._show_checks)
        desk.told.connect(self.tell)
        desk.selected.connect(self._on_selected)
        for bench in self.benches.values():
            bench.edit_wanted.connect(self.do)
            bench.drag_began.connect(self._drag_began)
            bench.drag_ended.connect(self._drag_ended)
            bench.chosen.connect(desk.select)
            bench.copied.connect(self.copy)
        self.harmony_bench.pointed.connect(self._say_region)
        self.handoff_bench.wanted.connect(self._hand_off)
        self.handoff_bench.browsed.connect(self._browse)
        self.route.chosen.connect(self.open_step)
        self.practice_button.clicked.connect(lambda: self.run("practice"))
        self.stage.pointed.connect(lambda x, y: self._say_region(self._region_at(x, y)))
        self.stage.pressed.connect(lambda x, y: desk.select(self._region_at(x, y)))
        self.stage.twice.connect(self._edit_at)
        self.stage.given.connect(self._give)
        self.tray.chosen.connect(desk.select)
        self.tray.copied.connect(self.copy)
        self.strip.staged.connect(self.stage_view)
        self.strip.wanted.connect(self._ask_views)
        self.checks.taken.connect(self._take_fix)
        self.checks.peeked.connect(self._peek)
        QApplication.instance().installEventFilter(self)  # type: ignore[union-attr]  # there is one

    # --- what the artist does ---

    def do(self, edit: Edit) -> None:
        """Make an edit that a bench asks for."""
        if edit.merge == "lead":
            self.hint.setVisible(False)
        self.desk.do(edit)

    def _drag_began(self) -> None:
        self.desk.seal()
        self.desk.dragging = True

    def _drag_ended(self) -> None:
        self.desk.seal()
        self._ask_views()

    def open_step(self, step: str) -> None:
        """Open a step's bench."""
        self.step = step
        self.practice_button.setChecked(False)
        self.actions_by_name["practice"].setChecked(False)
        self.stack.setCurrentWidget(self.benches[step])
        self._refresh()

    def _toggle_practice(self) -> None:
        open_now = self.stack.currentWidget() is not self.practice_drawer
        self.stack.setCurrentWidget(self.practice_drawer if open_now else self.benches[self.step])
        self.practice_button.setChecked(open_now)
        self.actions_by_name["practice"].setChecked(open_now)
        self._refresh()

    def run(self, name: str) -> None:
        """Do what a menu's action says."""
        kind, _, rest = name.partition("-")
        if kind == "step":
            self.open_step(rest)
        elif kind == "view":
            self.stage_view(self.strip.views()[int(rest) - 1])
        elif kind == "room":
            self._enter(rest)
        elif kind == "look":
            self._look("" if self._looking == rest else rest)
        else:
            plain = {
                "new": self._new,
                "open": self._open,
                "demo": lambda: self.open_path(demos.find(None).plan, demo=True),
                "save": self._save,
                "save-as": self._save_as,
                "quit": self.close,
                "undo": self.desk.undo,
                "redo": self.desk.redo,
                "copy": self._copy_chosen,
                "practice": self._toggle_practice,
                "next-region": lambda: self._step_region(1),
                "previous-region": lambda: self._step_region(-1),
                "name-region": self._name_chosen,
                "pin": self._pin_chosen,
                "gradient": self._gradient_chosen,
                "picture": lambda: self.stage_view(""),
            }
            plain[name]()

    def open_path(self, path: Path, demo: bool = False) -> None:
        """Open a plan or bring a picture in, once unsaved work is settled."""
        self._when_settled(lambda: self._open_now(path, demo))

    def _open_now(self, path: Path, demo: bool) -> None:
        self._demo_wanted = demo
        self.desk.open(path, keep_path=not demo)

    def _when_settled(self, then: Any) -> None:
        """Ask once about unsaved work, then go on, unless the artist says cancel."""
        desk = self.desk
        if not desk.unsaved or desk.history is None or not desk.history.past:
            then()
            return
        answer = self.dialogs.unsaved(self, desk.history.now.title)
        if answer == "discard":
            then()
        elif answer == "save":
            self._save(then)

    def _new(self) -> None:
        path = self.dialogs.sketch(self)
        if path is not None:
            self.open_path(path)

    def _open(self) -> None:
        path = self.dialogs.plan(self)
        if path is not None:
            self.open_path(path)

    def _save(self, then: Any = None) -> None:
        if self.desk.path is None:
            self._save_as(then)
        else:
            self.desk.save(self.desk.path, then)

    def _save_as(self, then: Any = None) -> None:
        if self.desk.history is None:
            return
        from umber_compass.steps.handoff import stem

        name = stem(self.desk.history.now.title) + ".umber"
        start = self.desk.path or Path(user_documents_dir()) / name
        path = self.dialogs.save_as(self, str(start))
        if path is not None:
            self.desk.save(path, then)

    def _browse(self) -> None:
        folder = self.dialogs.folder(self, self.handoff_bench.folder.text())
        if folder is not None:
            self.handoff_bench.show_folder(str(folder))

    def _hand_off(self, folder: str, kinds: list[str]) -> None:
        self.desk.hand_off(Path(folder).expanduser(), kinds)

    def copy(self, colour: str) -> None:
        """Put a hex on the clipboard."""
        QGuiApplication.clipboard().setText(colour)
        self.tell(self.tr("Copied {colour}").format(colour=colour), False)

    def _copy_chosen(self) -> None:
        if self.desk.derived is not None and self.desk.selection:
            self.copy(self.desk.derived.colours[self.desk.selection].first.hex)

    def _name_of(self, region_id: str) -> str:
        if self.desk.derived is None:
            return ""
        return next((r.name for r in self.desk.derived.plan.regions if r.id == region_id), "")

    def _name_chosen(self) -> None:
        if self.desk.selection:
            self.open_step("sketch")
            self.sketch_bench.edit_name(self.desk.selection)

    def _pin_chosen(self) -> None:
        chosen = self.desk.selection
        if chosen and self.desk.derived is not None:
            self.do(toggle_pin(self.desk.derived.plan, chosen, self._name_of(chosen)))

    def _gradient_chosen(self) -> None:
        chosen = self.desk.selection
        if chosen and self.desk.derived is not None:
            self.do(make_gradient(self.desk.derived.plan, chosen, self._name_of(chosen)))

    def _step_region(self, step: int) -> None:
        if self.desk.derived is None:
            return
        ids = by_family(self.desk.derived)
        at = ids.index(self.desk.selection) if self.desk.selection in ids else -step
        self.desk.select(ids[(at + step) % len(ids)])

    def _give(self, source: str, x: float, y: float) -> None:
        target = self._region_at(x, y)
        if target and target != source and self.desk.derived is not None:
            colour = self.desk.derived.colours[source].first.hex
            self.do(give_colour(target, colour, self._name_of(target)))

    def _edit_at(self, x: float, y: float) -> None:
        region_id = self._region_at(x, y)
        if region_id:
            self.desk.select(region_id)
            self.open_step("values")

    def _take_fix(self, fix: Fix) -> None:
        self._peek(None)
        self.desk.seal()
        self.do(fix.edit)

    def _peek(self, fix: Fix | None) -> None:
        """Fade the stage to what a fix would give, or back."""
        if fix is None:
            self._peeked = None
            self.stage.fade_back()
            return
        self._peeked = self.desk.preview(fix.edit)
        if self._peeked is not None:
            self.stage.fade_to(self._seen(self._peeked))

    # --- showing ---

    def tell(self, line: str, refused: bool) -> None:
        """One line under the views; a refusal begins with the warning sign."""
        self.notice.setText(f"▲  {line}" if refused else line)
        self.notice.setObjectName("strong" if refused else "quiet")
        self.notice.style().polish(self.notice)

    def _on_opened(self) -> None:
        desk = self.desk
        self.stage.invite("")
        self._anchors = {}
        demo = bool(getattr(self, "_demo_wanted", False))
        self.hint.setVisible(demo)
        self._demo_wanted = False
        if not self.handoff_bench.folder.text():
            base = desk.path.parent if desk.path is not None else Path(user_documents_dir())
            self.handoff_bench.show_folder(str(base / "hand-off"))
        if desk.document is not None:
            labels = desk.document.drawing.labels
            desk.worker.ask(
                "anchors", lambda: anchors(labels), self._take_anchors, lambda e: self.tell(said(e), True)
            )

    def _take_anchors(self, found: dict[int, tuple[float, float]]) -> None:
        self._anchors = found
        self._mark()

    def _on_changed(self) -> None:
        self._looking = ""
        self._refresh()
        if not self._views_timer.isActive():
            self._views_timer.start()

    def _on_selected(self, region_id: str) -> None:
        self._refresh()
        if self.step == "sketch":
            self.sketch_bench.reveal(region_id)
        self._say_region(region_id)

    def _refresh(self) -> None:
        """Show the plan that is on now, in the stage, the tray, the bench and the menus."""
        derived = self.desk.derived
        if derived is None or self.desk.history is None:
            return
        self._show_stage()
        self._mark()
        current = self.stack.currentWidget()
        if isinstance(current, Bench):
            current.show_derived(derived, self.desk.selection)
        self.plan_title.setText(derived.plan.title)
        self.plan_says.setText(derived.plan.purpose)
        names = {r.id: r.name for r in derived.plan.regions}
        self.tray.show_swatches(
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
        self.route.show_step(self.step, counts)
        mine = [r for r in results if CHECKS[r.check].step == self.step]
        self.checks.setVisible(bool(mine))
        if not self.desk.dragging:
            self.checks.show_results(mine)

    def _show_empty(self) -> None:
        self.route.show_step(self.step, {})
        self.checks.setVisible(False)
        self.stage.invite(
            self.tr(
                "Drop a flats picture here: one flat colour for each material.\n\n"
                "Or File, New from sketch. Or File, Open the demo."
            )
        )

    def _seen(self, shown: Shown) -> QImage:
        """A picture as the view on the stage sees it."""
        if not self.staged_view:
            return shown.image
        levels = np.ascontiguousarray(unpack(shown.packed))
        self._kept = Shown(packed_of(VIEWS[self.staged_view].see(_half(levels))))
        return self._kept.image

    def _show_stage(self) -> None:
        shown = self.desk.shown
        if self._looking:
            shown = self.desk.before() if self._looking == "before" else self.desk.as_opened()
        if shown is None:
            return
        self._staged = shown
        self.stage.show_image(self._seen(shown))

    def stage_view(self, view: str) -> None:
        """Put a view on the stage; the same again, or none, brings the picture back."""
        self.staged_view = "" if view == self.staged_view else view
        self.strip.stage_view(self.staged_view)
        self._refresh()

    def _look(self, at: str) -> None:
        """Show the plan as it was before the last change, as it was opened, or as it is."""
        self._looking = at
        self.actions_by_name["look-before"].setChecked(at == "before")
        self.actions_by_name["look-opened"].setChecked(at == "opened")
        if self.desk.derived is not None:
            self._show_stage()

    def _enter(self, room: str) -> None:
        for name in theme.ROOMS:
            self.actions_by_name[f"room-{name}"].setChecked(name == room)
        application = QApplication.instance()
        assert isinstance(application, QApplication)
        theme.enter(application, room)
        self._refresh()

    def _ask_views(self) -> None:
        """Have the small views worked out, off the GUI thread, from a small copy."""
        if self.desk.shown is None:
            return
        small = _small(self.desk.shown.packed)
        names = self.strip.views()

        def work() -> list[Packed]:
            return [packed_of(VIEWS[n].see(small)) for n in names]

        self.desk.worker.ask("views", work, self._take_views, lambda e: self.tell(said(e), True))

    def _take_views(self, pictures: list[Packed]) -> None:
        self._view_images = [Shown(p) for p in pictures]
        self.strip.show_images([s.image for s in self._view_images])

    # --- pointing ---

    def _region_at(self, x: float, y: float) -> str:
        document = self.desk.document
        if document is None or x < 0:
            return ""
        labels = document.drawing.labels
        if self.staged_view == "mirrored":
            x = labels.shape[1] - 1 - x * self._stage_scale()
        else:
            x *= self._stage_scale()
        y *= self._stage_scale()
        if self.staged_view == "small" or not (0 <= x < labels.shape[1] and 0 <= y < labels.shape[0]):
            return ""
        label = int(labels[int(y), int(x)])
        return next((r.id for r in document.plan.regions if r.label == label), "")

    def _stage_scale(self) -> float:
        return 2.0 if self.staged_view and self._kept is not None and self._halved() else 1.0

    def _halved(self) -> bool:
        return self.desk.shown is not None and self.desk.shown.packed.shape[1] > _HALVE_OVER

    def _say_region(self, region_id: str) -> None:
        derived = self.desk.derived
        if derived is None or region_id == self._hovered:
            return
        self._hovered = region_id
        if region_id:
            self.tell(_in_words(self, derived, region_id), False)

    def _mark(self) -> None:
        derived, document = self.desk.derived, self.desk.document
        if derived is None or document is None or self.staged_view:
            self.stage.mark(None, [])
            return
        tags: list[Tag] = []
        for region in derived.plan.regions:
            place = self._anchors.get(region.label)
            chosen = region.id == self.desk.selection
            named = self.step == "values" and derived.shares[region.id] > 0.012
            if place is not None and (named or chosen):
                value = f" {derived.colours[region.id].mean_value:.0f}" if self.step == "values" else ""
                tags.insert(0 if chosen else len(tags), Tag(*place, region.name + value))
        self.stage.mark(self._outline(), tags)

    def _outline(self) -> QImage | None:
        document, chosen = self.desk.document, self.desk.selection
        if document is None or not chosen:
            return None
        if getattr(self, "_outlined", None) != (chosen, id(document)):
            label = next(r.label for r in document.plan.regions if r.id == chosen)
            self._outline_image = overlay(document.drawing.labels == label, 2, 2)
            self._outlined = (chosen, id(document))
        return self._outline_image

    # --- events ---

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Hold B or O anywhere but in a field that is typed into."""
        if event.type() in (QEvent.Type.KeyPress, QEvent.Type.KeyRelease) and isinstance(
            event, QKeyEvent
        ):
            at = {Qt.Key.Key_B: "before", Qt.Key.Key_O: "opened"}.get(Qt.Key(event.key()))
            typing = isinstance(QApplication.focusWidget(), QLineEdit | QAbstractSpinBox)
            plain = event.modifiers() == Qt.KeyboardModifier.NoModifier
            if at and plain and not typing and isinstance(watched, QWidget):
                if not event.isAutoRepeat() and watched.window() is self:
                    self._look(at if event.type() == QEvent.Type.KeyPress else "")
                return watched.window() is self
        return super().eventFilter(watched, event)

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        if event.mimeData().hasUrls():
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent) -> None:
        files = [Path(u.toLocalFile()) for u in event.mimeData().urls() if u.isLocalFile()]
        if files:
            event.acceptProposedAction()
            self.open_path(files[0])

    def closeEvent(self, event: QCloseEvent) -> None:
        desk = self.desk
        if desk.unsaved and desk.history is not None and desk.history.past:
            answer = self.dialogs.unsaved(self, desk.history.now.title)
            if answer == "cancel":
                event.ignore()
                return
            if answer == "save":
                event.ignore()
                self._save(self.close)
                return
        QApplication.instance().removeEventFilter(self)  # type: ignore[union-attr]
        self._views_timer.stop()
        desk.close()
        event.accept()


_HALVE_OVER = 900  # px of width beyond which a view on the stage is worked out at half size


def _half(levels: np.ndarray[Any, np.dtype[np.uint8]]) -> np.ndarray[Any, np.dtype[np.uint8]]:
    if levels.shape[1] <= _HALVE_OVER:
        return levels
    return np.asarray(Image.fromarray(levels).reduce(2))


def _small(packed: Packed) -> np.ndarray[Any, np.dtype[np.uint8]]:
    """A copy of a picture at about the width of the small views."""
    height, width = packed.shape
    image = Image.frombuffer("RGBX", (width, height), packed, "raw", "BGRX", 0, 1)
    factor = max(1, round(width / _VIEW_PX))
    return np.ascontiguousarray(np.asarray(image.reduce(factor))[..., :3])


def _in_words(window: QWidget, derived: Any, region_id: str) -> str:
    region = next(r for r in derived.plan.regions if r.id == region_id)
    parts = []
    for end in derived.colours[region_id].ends:
        hue = window.tr("no hue") if end.hue is None else f"{end.hue:.0f}° OKLCh"
        parts.append(f"{end.hex}  value {end.value:.0f} L*  chroma {end.chroma:.3f}  hue {hue}")
    share = f"{derived.shares[region_id]:.1%} of the picture"
    return f"{region.name}, {region.role}:  " + "  –  ".join(parts) + f"  {share}"
