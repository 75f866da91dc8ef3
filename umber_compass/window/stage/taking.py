"""Swatches that are let fall on a picture."""

from PySide6.QtCore import Signal
from PySide6.QtGui import QDragEnterEvent, QDropEvent

from umber_compass.window.stage.picture_view import PictureView
from umber_compass.window.widgets.swatch import SWATCH_MIME, swatch_of


class TakingSwatches(PictureView):
    """Says which colour fell where."""

    given = Signal(str, float, float)  # a colour's hex, and the place in picture px

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        if event.mimeData().hasFormat(SWATCH_MIME):
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent) -> None:
        place = self.to_picture(event.position())
        if place[0] >= 0:
            self.given.emit(swatch_of(event.mimeData()), *place)
            event.acceptProposedAction()
