"""A change that is only looked at: on the stage, in the small views, and in a line."""

from PySide6.QtCore import QObject

from umber_compass.steps.checks import Fix
from umber_compass.window.stage.director import Director
from umber_compass.window.strip.small_views import SmallViews
from umber_compass.window.widgets.notice import Notice


class Peeking(QObject):
    """Shows what a fix would give, and takes it away again."""

    def __init__(self, director: Director, small_views: SmallViews, notice: Notice) -> None:
        super().__init__(director)
        self._director, self._small_views, self._notice = director, small_views, notice

    def look(self, fix: Fix | None) -> None:
        """Look at a fix, with all that it would do in words; or no longer at any."""
        before = self._director.peeked
        self._director.peek(fix)
        if before is not None or self._director.peeked is not None:
            self._small_views.peek(self._director.peeked)
        if fix is not None:
            self._notice.tell(str(fix.text), False)
