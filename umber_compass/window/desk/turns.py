"""What follows a frame of a drag: one part of the window in turn, so that none of them takes the
time of the frame after it."""

from collections.abc import Callable
from enum import Enum, auto

from PySide6.QtCore import QObject

from umber_compass.window.widgets.timers import single_shot

FOLLOW_AFTER = 1  # ms after a frame at which one part follows
_REST_AFTER = 12  # ms after which the next part follows where no frame came between


class Part(Enum):
    """A part of the window that follows on its own."""

    BENCH = auto()
    FRAME = auto()  # title, tray, route, practice, history
    CHECKS = auto()


# The bench shows what is dragged: it follows every second frame.
ORDER = (Part.BENCH, Part.FRAME, Part.BENCH, Part.CHECKS)


class Turns(QObject):
    """Has the parts follow, each by `follow`, which gives whether the part is done: what takes long
    is done in pieces, and a move of the hand comes between them. Moves do not begin the order anew:
    each frame is followed by the next part, and after the last frame the rest of the order follows
    by itself."""

    def __init__(self) -> None:
        super().__init__()
        self.follow: Callable[[Part], bool] = lambda part: True
        self._next, self._owed = 0, 0
        self.timer = single_shot(self, FOLLOW_AFTER, self._follow)

    def frame(self) -> None:
        """A frame was painted, or results came: every part is owed a turn."""
        self._owed = len(ORDER)
        if not self.timer.isActive():
            self.timer.start(FOLLOW_AFTER)

    def _follow(self) -> None:
        if not self.follow(ORDER[self._next]):
            self.timer.start(0)
            return
        self._next = (self._next + 1) % len(ORDER)
        self._owed -= 1
        if self._owed > 0 and not self.timer.isActive():
            self.timer.start(_REST_AFTER)

    def end(self) -> None:
        """Nothing is owed any more: all was shown at once, or the drag is over."""
        self._owed = 0
        self.timer.stop()
