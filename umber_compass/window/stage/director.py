"""Which picture is on the stage: the plan's, a view of it, another moment, a part of its light, or
what a fix would give."""

import numpy as np
from PIL import Image
from PySide6.QtCore import QObject
from PySide6.QtGui import QImage

from umber_compass.colour.packed import pack, unpack
from umber_compass.steps.checks import Fix
from umber_compass.steps.light.views import LIGHT_VIEWS
from umber_compass.views import VIEWS
from umber_compass.views.spec import Picture
from umber_compass.window.desk.desk import Desk
from umber_compass.window.stage.stage import Stage
from umber_compass.window.widgets.bitmap import Bitmap

_HALVE_OVER = 900  # px of width beyond which a view on the stage is worked out at half size


class Director(QObject):
    """Puts pictures on the stage. Their memory must stay while they are shown."""

    def __init__(self, desk: Desk, stage: Stage) -> None:
        super().__init__(stage)
        self.desk, self.stage = desk, stage
        self._shown: Bitmap | None = None
        self._seen: Bitmap | None = None
        self._peeked: Bitmap | None = None

    def show(self) -> None:
        """The picture that the session asks for."""
        held = self.desk.session.held
        bitmap = self._held(held) if held else self.desk.live.bitmap
        if bitmap is None:
            return
        self._shown = bitmap
        height, width = bitmap.packed.shape
        image = bitmap.image if held in LIGHT_VIEWS else self._in_view(bitmap)
        self.stage.show_image(image, (width, height), self.desk.session.dragging)

    def _held(self, held: str) -> Bitmap | None:
        if held in LIGHT_VIEWS:
            return self.desk.live.in_part(held)
        return self.desk.moment(held)

    def _in_view(self, bitmap: Bitmap) -> QImage:
        """A picture in the view that is on the stage."""
        view = self.desk.session.view
        if not view:
            return bitmap.image
        if view in LIGHT_VIEWS:
            self._seen = self.desk.live.in_part(view) or bitmap
        else:
            levels = np.ascontiguousarray(unpack(bitmap.packed))
            self._seen = Bitmap(pack(VIEWS[view].see(_half(levels))))
        return self._seen.image

    def paint_now(self) -> None:
        """The new picture at once: in a drag nothing else is worth waiting for."""
        self.show()
        if self.desk.session.dragging:
            self.stage.repaint()

    def peek(self, fix: Fix | None) -> None:
        """Fade the stage to what a fix would give, or back."""
        self._peeked = None if fix is None else self.desk.preview(fix.edit)
        if self._peeked is not None:
            self.stage.fading.begin(self._in_view(self._peeked))
        else:
            self.stage.fading.end()
            self.stage.update()


def _half(levels: Picture) -> Picture:
    if levels.shape[1] <= _HALVE_OVER:
        return levels
    return np.asarray(Image.fromarray(levels).reduce(2))
