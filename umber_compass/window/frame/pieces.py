"""What the window shows between two frames of a drag, in pieces that a move of the hand comes
between."""

from PySide6.QtCore import QCoreApplication, QEvent, QObject

from umber_compass.steps.pipeline import Derived
from umber_compass.window.desk.desk import Desk
from umber_compass.window.desk.turns import Part
from umber_compass.window.frame.following import Following
from umber_compass.window.frame.layout import Layout
from umber_compass.window.strip.small_views import SmallViews

_PIECE = 3.0  # ms in which results are worked out


class Pieces(QObject):
    """Shows each part where anything that it shows changed."""

    def __init__(
        self, desk: Desk, layout: Layout, following: Following, small_views: SmallViews
    ) -> None:
        super().__init__(following)
        self._desk, self._layout = desk, layout
        self._following, self._small_views = following, small_views
        self._begun: Derived | None = None  # what a part shows that is not done yet
        desk.turns.follow = self.follow
        desk.live.worked.connect(self._on_worked)

    def follow(self, part: Part) -> bool:
        """Show what is dragged in one part; gives whether that is done, or goes on in another
        piece."""
        done = self._show(part)
        # Painted now, in the pause between two moves, rather than with the picture's next frame.
        QCoreApplication.postEvent(self._layout.window(), QEvent(QEvent.Type.UpdateRequest))
        self._small_views.ask_soon()
        return done

    def _show(self, part: Part) -> bool:
        derived = self._begun or self._desk.derived
        if derived is None or part is Part.CHECKS:
            self._desk.judge.count_some()
            return True
        following, is_bench = self._following, part is Part.BENCH
        read = following.bench_read if is_bench else following.tray_read
        if not read.work_out(derived, _PIECE):
            self._begun = derived
            return False
        self._begun = None
        if not is_bench:
            following.show_edited()
        if read.is_behind(derived):
            (following.show_bench if is_bench else following.show_tray)(derived)
        return True

    def _on_worked(self) -> None:
        if self._desk.session.dragging:
            self._desk.turns.frame()
        else:
            self._following.follow()
