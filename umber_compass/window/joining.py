"""How the parts of a window answer each other: a hand's signals to the desk, the desk's to what is
seen."""

from PySide6.QtCore import QObject
from PySide6.QtWidgets import QWidget

from umber_compass.plan.edits import Edit
from umber_compass.steps.checks import Fix
from umber_compass.window.frame.pieces import Pieces
from umber_compass.window.joining_benches import JoiningBenches
from umber_compass.window.strip.peeking import Peeking
from umber_compass.window.widgets.fields import Typed, take_typed
from umber_compass.window.widgets.holding import Holding
from umber_compass.window.works import Works

_HINT_STEP = "harmony"


class Joining(QObject):
    """Joins the parts of one window."""

    def __init__(self, works: Works) -> None:
        super().__init__(works.layout)
        self._works = works
        self._hinting = False
        self._peeking = Peeking(works.director, works.small_views, works.layout.notice)
        self._join_desk()
        self._join_arriving()
        self._join_stage()
        self._join_frame()
        JoiningBenches(works, self._peeking, self.do, self._end_drag)
        Pieces(works.desk, works.layout, works.following, works.small_views)

    def _join_desk(self) -> None:
        desk, notice = self._works.desk, self._works.layout.notice
        desk.session.taking.connect(lambda: take_typed(self._works.layout.window()))
        desk.leaving.connect(self._let_go)
        desk.opened.connect(self._on_opened)
        desk.painted.connect(self._works.following.show_lamps)  # with the picture, not after it
        desk.painted.connect(self._works.director.paint_now)
        desk.live.redrawn.connect(lambda: suit(self._works))
        desk.live.redrawn.connect(self._works.marks.renew)
        desk.live.sharpened.connect(self._works.director.show)
        desk.changed.connect(self._on_changed)
        desk.judge.judged.connect(self._works.following.show_checks)
        desk.judge.looked.connect(self._works.following.follow)
        desk.told.connect(notice.tell)
        desk.live.told.connect(notice.tell)
        desk.worker.slow.connect(notice.go_on)
        desk.worker.rested.connect(notice.end)
        self._works.desk.session.acted.connect(notice.act)
        self._works.desk.session.selected.connect(self._on_selected)
        self._works.desk.session.stepped.connect(self._show_hint)
        self._works.desk.session.viewed.connect(self._on_viewed)

    def _join_arriving(self) -> None:
        """What is read is on the stage before it is there; a bench of nothing is not shown."""
        layout, documents = self._works.layout, self._works.files.documents
        arriving = layout.middle.arriving
        documents.begun.connect(arriving.begin)
        documents.seen.connect(arriving.show_picture)
        documents.ended.connect(arriving.end)
        self._works.desk.worker.slow.connect(arriving.go_on)
        layout.stack.setVisible(False)
        self._works.desk.opened.connect(lambda: layout.stack.setVisible(True))

    def _join_stage(self) -> None:
        stage, at = self._works.layout.stage, self._works.marks.region_at
        stage.pointed.connect(lambda x, y: self._works.following.say_region(at(x, y)))
        stage.twice.connect(lambda x, y: self._works.colouring.open_on(at(x, y)))
        stage.given.connect(lambda r, x, y: self._works.regions.give(r, at(x, y)))
        stage.zoomed.connect(self._works.following.say_zoom)
        stage.began.connect(self._works.desk.begin_drag)
        stage.ended.connect(self._end_drag)

    def _join_frame(self) -> None:
        parts = self._works.layout
        parts.route.chosen.connect(self._works.steps.open)
        for name, button in parts.drawer_buttons.items():
            button.clicked.connect(lambda _=False, n=name: self._works.steps.toggle_drawer(n))
        parts.tray.chosen.connect(self._works.desk.session.select)
        parts.tray.copied.connect(self._works.regions.copy)
        parts.strip.staged.connect(self._stage_view)
        parts.strip.wanted.connect(self._works.small_views.ask)
        parts.checks.taken.connect(self._take_fix)
        parts.checks.peeked.connect(self._peeking.look)
        parts.notice.stopped.connect(self._works.desk.worker.stop)

    def do(self, edit: Edit) -> None:
        """Make an edit that a bench asks for."""
        if edit.merge == "lead":
            self._hinting = False
            self._show_hint()
        self._works.desk.do(edit)

    def _show_hint(self) -> None:
        self._works.layout.hint.setVisible(
            self._hinting and self._works.desk.session.step == _HINT_STEP
        )

    def _let_go(self) -> None:
        """Another plan comes: what a hand holds, and what fields show, is of the one that goes."""
        for part in self._works.layout.findChildren(QWidget):
            if isinstance(part, Holding):
                part.let_go()
            if isinstance(part, Typed):
                part.drop()

    def _on_opened(self) -> None:
        self._hinting, self._works.files.demo_wanted = self._works.files.demo_wanted, False
        self._show_hint()
        self._works.files.handing_off.offer_folder()
        suit(self._works)
        self._works.marks.begin()
        self._works.menus.refresh()

    def _on_changed(self) -> None:
        if self._works.desk.session.held:
            self._works.views.hold("")
        self._works.following.follow()
        self._works.small_views.ask_soon()

    def _on_selected(self, region_id: str) -> None:
        self._works.menus.refresh()
        self._works.following.follow()
        self._works.layout.benches[self._works.desk.session.step].reveal(region_id)
        self._works.following.say_region(region_id)

    def _on_viewed(self) -> None:
        self._works.layout.strip.stage_view(self._works.desk.session.view)
        self._works.following.follow()

    def _stage_view(self, view: str) -> None:
        if view != self._works.desk.session.view:
            self._works.desk.session.put_on_stage(view)

    def _end_drag(self) -> None:
        self._works.desk.seal()
        self._works.small_views.ask()

    def _take_fix(self, fix: Fix) -> None:
        self._peeking.look(None)
        self._works.desk.seal()
        self.do(fix.edit)


def suit(works: Works) -> None:
    """Stand as suits the picture that is there now."""
    derived = works.desk.derived
    if derived is not None:
        height, width = derived.drawing.labels.shape
        works.layout.middle.suit(width / height)
