"""A picture on which a frame or a line is drawn."""

from PySide6.QtCore import QPointF, QRectF, Signal

from umber_compass.window.stage.choosing_hand import FRAME, ChoosingHand
from umber_compass.window.stage.taking import TakingSwatches


class DrawnOn(TakingSwatches):
    """Says what was drawn on it, in px of the picture."""

    pressed = Signal(float, float)  # -1, -1 beside the picture
    framed = Signal(object)  # QRectF
    drawn = Signal(object)  # points of a line, (x, y)

    def __init__(self) -> None:
        super().__init__()
        self.hand = ChoosingHand()

    def show_whole_px(self, whole: bool) -> None:
        """Show px at whole multiples and never smoothed, or as they come."""
        if whole != self.zoom.whole:
            self.zoom.whole = whole
            self.zoomed.emit()
            self.update()

    def take_drawn(self) -> None:
        """Say what the hand drew; where it drew nothing, that it pressed."""
        what, points = self.hand.release()
        self.update()
        places = [self._in_picture(p) for p in points]
        if what and what != FRAME:
            self.drawn.emit(places)
        elif what:
            self.framed.emit(QRectF(QPointF(*places[0]), QPointF(*places[-1])).normalized())
        else:
            self.pressed.emit(*self.to_picture(points[0]))

    def _in_picture(self, at: QPointF) -> tuple[float, float]:
        """A place of the widget in px of the picture, beside it too."""
        frame = self.frame()
        scale = self.picture.width() / frame.width()
        return (at.x() - frame.x()) * scale, (at.y() - frame.y()) * scale
