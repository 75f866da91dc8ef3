"""The small views: worked out on the worker from a small copy of the picture."""

import numpy as np
from PIL import Image
from PySide6.QtCore import QObject

from umber_compass.colour.packed import Packed, pack, unpack
from umber_compass.document import about, built_buffers
from umber_compass.picture.seen import whole
from umber_compass.plan.light_edits import light_on
from umber_compass.steps.light_views import in_part
from umber_compass.steps.pictures import SeenForms
from umber_compass.steps.pipeline import Derived
from umber_compass.views import VIEWS
from umber_compass.views.view import Picture
from umber_compass.window.desk.desk import Desk
from umber_compass.window.desk.grids import QUICK_PX
from umber_compass.window.desk.live_picture import LivePicture
from umber_compass.window.desk.worker import error_line
from umber_compass.window.strip.view_strip import ViewStrip
from umber_compass.window.strip.views import OF_LIGHT, OF_PULL, OF_RAMPS
from umber_compass.window.widgets.bitmap import Bitmap
from umber_compass.window.widgets.check_pattern import CheckPattern
from umber_compass.window.widgets.timers import single_shot
from umber_compass.work import Tick

VIEW_PX = 320  # width at which the small views are worked out
_DIM_AFTER = 400  # ms without an answer: no flicker where views come at once
_AFTER = 100  # ms between two rounds of views while something is dragged


class SmallViews(QObject):
    """Keeps the strip's tiles up with the picture, and each step's own choice of views."""

    def __init__(self, desk: Desk, strip: ViewStrip) -> None:
        super().__init__(strip)
        self.desk, self.strip = desk, strip
        self.timer = single_shot(self, _AFTER, self.ask)
        self._slow = single_shot(self, _DIM_AFTER, strip.wait)
        self._open, self._step = True, ""
        self._chosen: dict[str, list[str]] = {}  # by step
        self._bitmaps: list[Bitmap | None] = []
        self._made_from: tuple[object, ...] = ()
        self._check = CheckPattern()
        desk.opened.connect(self._forget)

    def close(self) -> None:
        """Ask for nothing more."""
        self._open = False
        self.timer.stop()
        self._slow.stop()

    def _forget(self) -> None:
        """Another document: nothing of the one before is shown any more."""
        self.desk.worker.forget("views")
        self._bitmaps, self._made_from = [], ()
        self.strip.show_images([None] * len(self.strip.views()), False)
        self.ask_soon()

    def anew(self) -> None:
        """Have the views worked out again, where what they show is not the plan's alone."""
        self._made_from = ()
        self.ask_soon()

    def ask_soon(self) -> None:
        """Have the views worked out, in the next round."""
        if not self.desk.session.walled and not self.timer.isActive():
            self.timer.start()

    def ask(self) -> None:
        """Have the views worked out now, unless they are there for this very picture."""
        if self.desk.session.walled:
            return
        derived, live = self.desk.derived, self.desk.live
        quick, names = self.desk.session.dragging, self.strip.views()
        bitmap, seen = None, None
        if quick and derived is not None:
            grid = whole(derived.drawing.labels.shape, QUICK_PX)
            bitmap, seen = live.grids.paint(derived, grid), live.grids.seen(derived, grid)
        bitmap = bitmap or live.bitmap
        if bitmap is None or derived is None or not self._open:
            return
        # The things themselves, not their numbers: those are given anew when a thing is gone.
        made_from, was = (derived, bitmap, quick, *names), self._made_from
        if was[2:] == made_from[2:] and was and was[0] is derived and was[1] is bitmap:
            return  # the very same picture in the same views
        self._made_from = made_from
        shown = bitmap.packed if quick else self._check.over(bitmap.packed, derived.drawing)
        small = (_thinned if quick else _small)(shown)

        promised = derived.lit is None and any(n in OF_LIGHT for n in names)

        def work(tick: Tick) -> list[Packed | None]:
            lit = _if_lit(live, derived, tick) if promised and not quick else derived
            if not quick and any(n in OF_PULL for n in names):
                lit = lit.of(lit.plan).think(tick)
            if any(n in OF_RAMPS for n in names) and not quick:
                lit = lit.of(lit.plan)
                lit.take(Derived.ramps, lit.worked(Derived.ramps, tick))
            return [_seen(n, small, lit, quick, seen) for n in names]

        says = self.tr("Trying the light") if promised and not quick else ""
        if not quick and not self._slow.isActive():
            self._slow.start()
        self.desk.worker.ask(
            "views", work, lambda found: self._take(found, promised), self._failed, says
        )

    def _take(self, pictures: list[Packed | None], promised: bool) -> None:
        """Show the pictures; where there is none, as while colours are dragged with the light off,
        the one before stays."""
        self._slow.stop()
        before = self._bitmaps if len(self._bitmaps) == len(pictures) else [None] * len(pictures)
        self._bitmaps = [
            old if p is None else Bitmap(p) for p, old in zip(pictures, before, strict=True)
        ]
        self.strip.show_images([None if b is None else b.image for b in self._bitmaps], promised)

    def _failed(self, error: Exception) -> None:
        self._slow.stop()
        self._made_from = ()
        self.desk.told.emit(error_line(error), True)

    def peek(self, bitmap: Bitmap | None) -> None:
        """Show what a change that is only looked at would give; or the picture again."""
        derived = self.desk.derived
        self._made_from = ()
        if bitmap is None or derived is None:
            self.ask()
            return
        small = _small(bitmap.packed)
        names = [n if n in VIEWS and n not in OF_PULL else "" for n in self.strip.views()]

        def work(tick: Tick) -> list[Packed | None]:
            return [_seen(n, small, derived, False) if n else None for n in names]

        self.desk.worker.ask("views", work, lambda found: self._take(found, False), self._failed)

    def enter(self, step: str, views: tuple[str, ...]) -> None:
        """Show the views of another step: those the artist chose there, or its own."""
        if self._step:
            self._chosen[self._step] = self.strip.views()
        self._step = step
        self.strip.show_views(self._chosen.get(step, list(views)))
        self.ask_soon()  # behind the wall none was worked out


def _seen(
    name: str, small: Picture, derived: Derived, quick: bool, on: SeenForms | None = None
) -> Packed | None:
    """A small picture in one view; None for a part of a light that is off. `on` is what a grid of
    small px shows of it, while something is dragged."""
    if name in OF_PULL and derived.attention is None:
        return None
    if name in VIEWS:
        return pack(VIEWS[name].see(small, about(derived, small.shape)))
    if derived.lit is None and name in OF_LIGHT:
        return None
    found = in_part(derived, name, on)
    if on is not None and found.shape == on.gather.shape:
        return found
    return pack((_thinned if quick else _small)(found))


def _if_lit(live: LivePicture, derived: Derived, tick: Tick) -> Derived:
    """What the light would give a plan whose light is off; on the worker. Its forms are kept, so
    that switching it on need not wait for them."""
    found = live.pipeline.derive(light_on(derived.plan), works=True, tick=tick)
    built_buffers(found, live.kept)
    return found


def _small(packed: Packed) -> Picture:
    """A copy of a picture at about the width of the small views."""
    height, width = packed.shape
    image = Image.frombuffer("RGBX", (width, height), packed, "raw", "BGRX", 0, 1)
    factor = max(1, round(width / VIEW_PX))
    return np.ascontiguousarray(np.asarray(image.reduce(factor))[..., :3])


def _thinned(packed: Packed) -> Picture:
    """Every so many px of a picture, as many as a small view has: good enough while something
    moves, and the hand must not wait for the worker."""
    factor = max(1, round(packed.shape[1] / QUICK_PX))
    return np.ascontiguousarray(unpack(np.ascontiguousarray(packed[::factor, ::factor])))
