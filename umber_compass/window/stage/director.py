"""Which picture is on the stage: the plan's, a view of it, another moment, a part of its light, or
what a fix would give."""

import numpy as np
from PIL import Image
from PySide6.QtCore import QObject
from PySide6.QtGui import QImage

from umber_compass.colour.packed import pack, unpack
from umber_compass.document import about
from umber_compass.picture.seen import whole
from umber_compass.steps.checks import Fix
from umber_compass.steps.light_views import LIGHT_VIEWS, light_view
from umber_compass.steps.sketch.flats.palette import SPRITE_PX
from umber_compass.views import PLAIN, VIEWS
from umber_compass.views.view import Picture
from umber_compass.window.desk.desk import Desk
from umber_compass.window.desk.grids import QUICK_PX
from umber_compass.window.desk.moments import moment, preview
from umber_compass.window.stage.stage import Stage
from umber_compass.window.widgets.bitmap import Bitmap
from umber_compass.window.widgets.check_pattern import CheckPattern
from umber_compass.window.widgets.timers import single_shot

_PREPARE_AFTER = 60  # ms of rest before the px that are seen are looked up
_HALVE_OVER = 900  # px of width beyond which a view on the stage is worked out at half size


class Director(QObject):
    """Puts pictures on the stage. Their memory must stay while they are shown."""

    def __init__(self, desk: Desk, stage: Stage) -> None:
        super().__init__(stage)
        self.desk, self.stage = desk, stage
        self._shown: Bitmap | None = None
        self._seen: Bitmap | None = None
        self._peeked: Bitmap | None = None
        self._faded: Bitmap | None = None
        self._checked: Bitmap | None = None
        self.check = CheckPattern()
        self.preparing = single_shot(self, _PREPARE_AFTER, self._prepare)
        stage.zoomed.connect(self._on_moved)
        stage.resized.connect(self._on_moved)

    def _on_moved(self) -> None:
        """The stage shows another part of the picture."""
        if self.desk.session.dragging and self.desk.derived is not None:
            self.show()
        self.preparing.start()

    def _prepare(self) -> None:
        """Have what the stage and the small views show made ready for a drag."""
        derived = self.desk.derived
        grid = self.stage.grid(bool(self.desk.session.view))
        if derived is not None and grid is not None and not self.desk.session.dragging:
            small = whole(derived.drawing.labels.shape, QUICK_PX)
            self.desk.live.grids.want(derived, stage=grid, small=small)

    def show(self) -> None:
        """The picture that the session asks for."""
        if self.desk.session.walled and not self.stage.alone:
            return
        held = self.desk.session.held
        # A moment of the plan is as it was; all else is shown quickly while something is dragged.
        live = not held or light_view(held) is not None
        if self.desk.session.dragging and live and self._show_quickly(held):
            return
        self.preparing.start()
        bitmap = self._held(held) if held else self.desk.live.bitmap
        if bitmap is None:
            return
        self._shown = bitmap
        height, width = bitmap.packed.shape
        image = bitmap.image if light_view(held) is not None else self._in_view(bitmap)
        self.stage.show_image(image, (width, height), self.desk.session.dragging)

    def _show_quickly(self, held: str) -> bool:
        """The picture of what is dragged on the stage's own px, where that can be had."""
        view, derived = held or self.desk.session.view, self.desk.derived
        grid = self.stage.grid(bool(self.desk.session.view))
        if derived is None or grid is None:
            return False
        if derived.drawing.labels.size <= SPRITE_PX:
            return False  # so few px are quick as they are, and keep their check
        if light_view(view) is not None:
            bitmap = self.desk.live.in_part(view, grid)
        else:
            bitmap = self.desk.live.grids.paint(derived, grid)
        if bitmap is None or bitmap.packed.shape != (grid.rows, grid.columns):
            return False
        if view in VIEWS:
            levels = unpack(bitmap.packed)
            self._seen = Bitmap(pack(VIEWS[view].see(levels, about(derived, levels.shape))))
            height, width = derived.drawing.labels.shape
            self.stage.show_image(self._seen.image, (width, height), True)
        else:
            self._shown = bitmap
            self.stage.show_part(bitmap.image, grid)
        return True

    def _held(self, held: str) -> Bitmap | None:
        if light_view(held) is not None:
            return self.desk.live.in_part(held)
        return moment(self.desk, held)

    def _in_view(self, bitmap: Bitmap) -> QImage:
        """A picture in the view that is on the stage."""
        view, derived = self.desk.session.view, self.desk.derived
        if derived is not None:
            checked = self.check.over(bitmap.packed, derived.drawing)
            if checked is not bitmap.packed:
                bitmap = self._checked = Bitmap(checked)
        if not view:
            return bitmap.image
        if view in LIGHT_VIEWS:
            self._seen = self.desk.live.in_part(view) or bitmap
        else:
            if VIEWS[view].needs_ramps:
                self.desk.live.work_out(("ramps",))
            levels = _half(np.ascontiguousarray(unpack(bitmap.packed)))
            told = PLAIN if derived is None else about(derived, levels.shape)
            self._seen = Bitmap(pack(VIEWS[view].see(levels, told)))
        return self._seen.image

    def paint_now(self) -> None:
        """The new picture at once: in a drag nothing else is worth waiting for."""
        self.show()
        if self.desk.session.dragging:
            self.stage.repaint()

    @property
    def peeked(self) -> Bitmap | None:
        """What is only looked at; None where nothing is."""
        return self._peeked

    def peek(self, fix: Fix | None) -> None:
        """Fade the stage to what a fix would give, or back."""
        self._peeked = None if fix is None else preview(self.desk, fix.edit)
        if self._peeked is not None:
            self.stage.fading.begin(self._in_view(self._peeked))
        else:
            self.stage.fading.end()
            self.stage.update()

    def fade_to(self, view: str) -> None:
        """Fade the stage to a view of its picture, without putting it there; none: back."""
        self._peeked = None
        bitmap, derived = self.desk.live.bitmap, self.desk.derived
        if not view or bitmap is None or derived is None:
            self.stage.fading.end()
            self.stage.update()
            return
        levels = _half(np.ascontiguousarray(unpack(bitmap.packed)))
        self._faded = Bitmap(pack(VIEWS[view].see(levels, about(derived, levels.shape))))
        self.stage.fading.begin(self._faded.image)


def _half(levels: Picture) -> Picture:
    if levels.shape[1] <= _HALVE_OVER:
        return levels
    return np.asarray(Image.fromarray(levels).reduce(2))
