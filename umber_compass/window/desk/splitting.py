"""The sketch split another way: looked at first, taken as one step."""

from typing import NamedTuple

import numpy as np
from PySide6.QtCore import QObject, Signal

from umber_compass.colour.packed import Levels, Packed, pack
from umber_compass.document import Pixels
from umber_compass.document.following_sketch import Followed, followed
from umber_compass.document.splitting import Chosen, split_picture
from umber_compass.formats import picture
from umber_compass.picture.mixes import Labels
from umber_compass.plan.model import Neck, Plan
from umber_compass.steps.sketch.kinds import Settings
from umber_compass.window.desk.desk import Desk
from umber_compass.window.desk.gaps import NeckMark, neck_marks_of
from umber_compass.window.desk.jobs import job, step
from umber_compass.window.desk.worker import Urgency, error_line
from umber_compass.window.widgets.timers import single_shot
from umber_compass.work import Tick

_RESTS = 220  # ms without another wish, after which a preview is made
_PREVIEW_PX = 720  # its longer side


class Preview(NamedTuple):
    """What another way of splitting would give."""

    kind: str
    regions: int
    shown: Packed
    necks: tuple[Neck, ...]
    line: str  # why it cannot be had; empty where it can
    size: tuple[int, int] = (1, 1)  # of the sketch, px

    def gaps(self) -> tuple[NeckMark, ...]:
        """Its gaps, to be marked on the picture."""
        return neck_marks_of(self.necks, self.size)


class Splitting(QObject):
    """Asks for previews of a way to split the sketch, and takes one."""

    previewed = Signal(object)  # Preview
    found = Signal(object)  # Followed

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk)
        self.desk = desk
        self._wish: tuple[str, dict[str, float]] | None = None
        self._resting = single_shot(self, _RESTS, self._preview)

    def want(self, kind: str, settings: Settings) -> None:
        """Another way is looked at, once the hand rests."""
        self._wish = kind, dict(settings)
        self._resting.start()

    def _preview(self) -> None:
        desk = self.desk
        if desk.history is None or desk.pixels is None or self._wish is None:
            return
        plan, pixels = desk.history.now, desk.pixels
        kind, settings = self._wish
        data = pixels.sketches[plan.sketch.hash]

        def work(tick: Tick) -> Preview:
            read = picture.decode(data, plan.sketch.file_name)
            found = split_picture(read, plan.sketch.file_name, kind, settings, tick).split
            shown = picture_of(found.labels, found.colours)
            height, width = found.labels.shape
            return Preview(kind, len(found.colours), shown, found.necks, "", (width, height))

        def fail(error: Exception) -> None:
            nothing = np.zeros((1, 1), np.uint32)
            self.previewed.emit(Preview(kind, 0, nothing, (), error_line(error)))

        says = self.tr("Reading the sketch")
        desk.worker.ask("split", work, self.previewed.emit, fail, says, Urgency.BENCH)

    def close(self) -> None:
        """Look at nothing any more."""
        self._resting.stop()

    def take(self, kind: str, settings: Settings) -> None:
        """The sketch split so, the regions matched to those that are there, as one step."""
        desk, told = self.desk, dict(settings)

        def work(plan: Plan, pixels: Pixels, tick: Tick) -> Followed:
            name, data = plan.sketch.file_name, pixels.sketches[plan.sketch.hash]
            read = picture.decode(data, name)
            chosen: Chosen = split_picture(read, name, kind, told, tick)
            tick(0.7)
            return followed(plan, pixels, read, chosen, name)

        def answer(made: Followed, _: Pixels) -> None:
            step(desk, made.edit)
            desk.told.emit(self.tr("Read anew: {what}").format(what=made.says), False)
            self.found.emit(made)

        job(desk, "follow", work, answer, self.tr("Reading the sketch"), of_sketch=True)


def picture_of(labels: Labels, colours: Levels) -> Packed:
    """Regions as a small picture, each in its colour, what borders it dark."""
    step = max(1, max(labels.shape) // _PREVIEW_PX)
    small = labels[::step, ::step]
    table = np.vstack([[[255, 255, 255]], colours]).astype(np.uint8)
    shown = table[small]
    edge = np.zeros(small.shape, bool)
    edge[:, 1:] |= small[:, 1:] != small[:, :-1]
    edge[1:] |= small[1:] != small[:-1]
    shown[edge] = shown[edge] // 3
    return pack(shown)
