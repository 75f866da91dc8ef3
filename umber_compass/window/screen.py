"""What the stage and the small views show: the plan, a view of it, another moment, a preview."""

from typing import Any

import numpy as np
from PIL import Image
from PySide6.QtCore import QObject, Qt, Signal
from PySide6.QtGui import QImage

from umber_compass.plan.light_edits import rig_of
from umber_compass.steps.checks import Fix
from umber_compass.steps.codes import Packed, unpack
from umber_compass.steps.forms import Tick
from umber_compass.steps.pipeline import Derived
from umber_compass.steps.showing import SHOWINGS, shown_in
from umber_compass.steps.values import lit_range
from umber_compass.views import VIEWS
from umber_compass.views.spec import Picture
from umber_compass.window.arrays import Shown, overlay, packed_of
from umber_compass.window.desk import Desk
from umber_compass.window.frame.lamp_marks import LampMark
from umber_compass.window.frame.tags import Tag
from umber_compass.window.marks import Anchors, anchors
from umber_compass.window.parts import Parts
from umber_compass.window.ways import OF_STEP, USUAL
from umber_compass.window.worker import said

_VIEW_PX = 320  # width at which the small views are worked out
_QUICK_PX = 160  # the same while something is dragged
_HALVE_OVER = 900  # px of width beyond which a view on the stage is worked out at half size


class Screen(QObject):
    """Decides which picture is on the stage, and puts words and marks on it."""

    staged = Signal()  # another view was chosen for the stage

    def __init__(self, desk: Desk, parts: Parts) -> None:
        super().__init__(parts)
        self.desk, self.parts = desk, parts
        self.step, self.staged_view, self.looking = "harmony", "", ""
        self._anchors: Anchors | None = None
        self._hovered = ""
        self._slow = self._slow_line = ""
        self._peeked: Shown | None = None
        self._kept: Shown | None = None  # a view on the stage; its memory must stay
        self._staged: Shown | None = None
        self._view_images: list[Shown] = []
        self._outlined: tuple[str, int] | None = None
        self._outline_image: QImage | None = None
        self._views_of: dict[str, list[str]] = {}  # by step, where the artist chose others

    def forget(self) -> None:
        """Begin with another document: its marks are found on the worker."""
        self._anchors, self._outlined, self._hovered = None, None, ""
        self.parts.stage.fit()
        self.parts.stage.invite("")
        if self.desk.document is not None:
            labels = self.desk.document.drawing.labels
            self.desk.worker.ask(
                "anchors",
                lambda tick: anchors(labels),
                self.take_anchors,
                lambda error: self.tell(said(error), True),
            )

    def tell(self, line: str, refused: bool) -> None:
        """One line under the views; a refusal begins with the warning sign and is shown whole.
        Other words are cut where there is no room, or the picture above would move with them."""
        notice = self.parts.notice
        notice.setObjectName("strong" if refused else "quiet")
        notice.style().polish(notice)
        notice.setWordWrap(refused)
        notice.setToolTip("" if refused else line)
        room = max(notice.width() - 8, 240)
        cut = notice.fontMetrics().elidedText(line, Qt.TextElideMode.ElideRight, room)
        notice.setText(f"▲  {line}" if refused else cut)
        notice.setFixedHeight(34 if refused else 18)

    def say_slow(self, kind: str, says: str, share: float) -> None:
        """What goes on for longer than a moment, how far it is, and a button that stops it."""
        self._slow = kind
        done = f" {share:.0%}" if share > 0 else ""
        self._slow_line = f"{says} …{done}"
        self.tell(self._slow_line, False)
        self.parts.stop.setVisible(kind != "save")  # a file is written whole or not at all

    def say_rested(self) -> None:
        """Nothing slow goes on any more."""
        self.parts.stop.setVisible(False)
        if self._slow_line and self.parts.notice.toolTip() == self._slow_line:
            self.tell("", False)
        self._slow_line = ""

    def say_zoom(self) -> None:
        """How large the picture is shown."""
        zoom = self.parts.stage.zoom_percent()
        self.tell(self.tr("Shown at {zoom:.0f} % of its px").format(zoom=zoom), False)

    def stop(self) -> None:
        """Stop what goes on."""
        self.desk.worker.stop(self._slow)

    def take_anchors(self, found: Anchors) -> None:
        self._anchors = found
        self.mark()

    def seen(self, shown: Shown) -> QImage:
        """A picture as the view on the stage sees it."""
        if not self.staged_view:
            return shown.image
        if self.staged_view in SHOWINGS:
            self._kept = self.desk.live.showing(self.staged_view) or shown
            return self._kept.image
        levels = np.ascontiguousarray(unpack(shown.packed))
        self._kept = Shown(packed_of(VIEWS[self.staged_view].see(_half(levels))))
        return self._kept.image

    def show_stage(self) -> None:
        shown = self._looked_at() if self.looking else self.desk.shown
        if shown is None:
            return
        self._staged = shown
        plain = self.looking in SHOWINGS
        height, width = shown.packed.shape
        self.parts.stage.is_dragged = self.desk.dragging
        self.parts.stage.show_image(shown.image if plain else self.seen(shown), (width, height))

    def _looked_at(self) -> Shown | None:
        if self.looking in SHOWINGS:
            return self.desk.live.showing(self.looking)
        return self.desk.before() if self.looking == "before" else self.desk.as_opened()

    def paint_now(self) -> None:
        """The new picture at once: in a drag nothing else is worth waiting for."""
        self.show_stage()
        if self.desk.dragging:
            self.parts.stage.repaint()

    def stage_view(self, view: str) -> None:
        """Put a view on the stage; the same again, or none, brings the picture back."""
        self.staged_view = "" if view == self.staged_view else view
        self.parts.strip.stage_view(self.staged_view)
        self.staged.emit()

    def enter(self, step: str) -> None:
        """Show the views of another step."""
        self._views_of[self.step] = self.parts.strip.views()
        self.step = step
        views = self._views_of.get(step, list(OF_STEP.get(step, USUAL)))
        self.parts.strip.show_views(views)
        self.parts.strip.stage_view(self.staged_view)

    def look(self, at: str) -> None:
        """Show the plan as it was before the last change, as it was opened, in a part of its
        light, or as it is."""
        lit = self.desk.derived is not None and self.desk.derived.lit is not None
        if at in SHOWINGS and at != "flat" and not lit:
            self.tell(self.tr("The light is off; switch it on at the light bench"), False)
            return
        self.looking = at
        if self.desk.derived is not None:
            self.show_stage()

    def ask_views(self) -> None:
        """Have the small views worked out, off the GUI thread, from a small copy."""
        if self.desk.shown is None:
            return
        quick = self.desk.dragging
        small = (_thinned if quick else _small)(self.desk.shown.packed)
        derived = self.desk.derived
        names = self.parts.strip.views()
        assert derived is not None

        def work(tick: Tick) -> list[Packed | None]:
            return [_seen(n, small, derived, quick) for n in names]

        self.desk.worker.ask("views", work, self._take_views, lambda e: self.tell(said(e), True))

    def _take_views(self, pictures: list[Packed | None]) -> None:
        kept = [None if p is None else Shown(p) for p in pictures]
        self._view_images = [s for s in kept if s is not None]
        self.parts.strip.show_images([None if s is None else s.image for s in kept])

    def region_at(self, x: float, y: float) -> str:
        document = self.desk.document
        if document is None or x < 0:
            return ""
        labels = document.drawing.labels
        if self.staged_view == "mirrored":
            x = labels.shape[1] - 1 - x
        if self.staged_view == "small" or not (
            0 <= x < labels.shape[1] and 0 <= y < labels.shape[0]
        ):
            return ""
        label = int(labels[int(y), int(x)])
        return next((r.id for r in document.plan.regions if r.label == label), "")

    def say_region(self, region_id: str) -> None:
        derived = self.desk.derived
        if derived is None or region_id == self._hovered:
            return
        self._hovered = region_id
        if region_id:
            self.tell(_in_words(self, derived, region_id), False)

    def _lamps(self) -> list[LampMark]:
        """The lamps that stand on the stage: on the light bench only."""
        derived = self.desk.derived
        if derived is None or self.step != "light" or not rig_of(derived.plan).on:
            return []
        key = rig_of(derived.plan).lamps[0]
        return [LampMark(key.name, "K", key.hex, key.direction, key.on)]

    def mark(self) -> None:
        derived, document = self.desk.derived, self.desk.document
        self.parts.stage.show_lamps(self._lamps())
        if derived is None or document is None or self.staged_view:
            self.parts.stage.mark(None, [])
            return
        tags: list[Tag] = []
        for region in derived.plan.regions:
            place = self._anchors.places.get(region.label) if self._anchors else None
            chosen = region.id == self.desk.selection
            # While one is dragged only its own name stays: the rest would be in the way.
            named = self.step == "values" and derived.shares[region.id] > 0.012
            named = named and not self.desk.dragging
            if place is not None and (named or chosen):
                value = (
                    f" {derived.colours[region.id].mean_value:.0f}" if self.step == "values" else ""
                )
                tag = Tag(region.label, *place, region.name + value, chosen)
                tags.insert(0 if chosen else len(tags), tag)
        covers = self._anchors.covered if self._anchors is not None else None
        self.parts.stage.mark(self._outline(), tags, covers)

    def _outline(self) -> QImage | None:
        document, chosen = self.desk.document, self.desk.selection
        if document is None or not chosen:
            return None
        if self._outlined != (chosen, id(document)):
            label = next(r.label for r in document.plan.regions if r.id == chosen)
            self._outline_image = overlay(document.drawing.labels == label, 2, 2)
            self._outlined = (chosen, id(document))
        return self._outline_image

    def peek(self, fix: Fix | None) -> None:
        """Fade the stage to what a fix would give, or back."""
        if fix is None:
            self._peeked = None
            self.parts.stage.fade_back()
            return
        self._peeked = self.desk.preview(fix.edit)
        if self._peeked is not None:
            self.parts.stage.fade_to(self.seen(self._peeked))

    def say_purpose(self, purpose: str) -> None:
        """What the piece is for, cut with dots where there is no room for it."""
        metrics = self.parts.plan_says.fontMetrics()
        room = max(self.parts.plan_says.width(), 120)
        self.parts.plan_says.setText(metrics.elidedText(purpose, Qt.TextElideMode.ElideRight, room))
        self.parts.plan_says.setToolTip(purpose)

    def show_empty(self) -> None:
        self.parts.stage.invite(
            self.tr(
                "Drop a flats picture here: one flat colour for each material.\n\n"
                "Or File, New from sketch. Or File, Open the demo."
            )
        )


def _seen(name: str, small: Picture, derived: Derived, quick: bool) -> Packed | None:
    """A small picture seen one way; None for a part of a light that is off."""
    if name in VIEWS:
        return packed_of(VIEWS[name].see(small))
    if derived.lit is None and name != "flat":
        return None
    return packed_of((_thinned if quick else _small)(shown_in(derived, name)))


def _half(levels: Picture) -> Picture:
    if levels.shape[1] <= _HALVE_OVER:
        return levels
    return np.asarray(Image.fromarray(levels).reduce(2))


def _small(packed: Packed) -> Picture:
    """A copy of a picture at about the width of the small views."""
    height, width = packed.shape
    image = Image.frombuffer("RGBX", (width, height), packed, "raw", "BGRX", 0, 1)
    factor = max(1, round(width / _VIEW_PX))
    return np.ascontiguousarray(np.asarray(image.reduce(factor))[..., :3])


def _thinned(packed: Packed) -> Picture:
    """Every so many px of a picture, as many as a small view has: good enough while something
    moves, and the hand must not wait for the worker."""
    factor = max(1, round(packed.shape[1] / _QUICK_PX))
    return np.ascontiguousarray(unpack(np.ascontiguousarray(packed[::factor, ::factor])))


def _in_words(screen: QObject, derived: Any, region_id: str) -> str:
    region = next(r for r in derived.plan.regions if r.id == region_id)
    parts = []
    for end in derived.colours[region_id].ends:
        hue = screen.tr("no hue") if end.hue is None else f"{end.hue:.0f}° OKLCh"
        parts.append(f"{end.hex}  value {end.value:.0f} L*  chroma {end.chroma:.3f}  hue {hue}")
    share = f"{derived.shares[region_id]:.1%} of the picture"
    lit = lit_range(derived.values, derived.grain, region.label) if derived.lit else None
    if lit is not None:
        share += f"  lit {lit[0]:.0f} to {lit[1]:.0f} L*"
    return f"{region.name}, {region.role}:  " + "  –  ".join(parts) + f"  {share}"
