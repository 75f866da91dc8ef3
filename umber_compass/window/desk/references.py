"""Pictures kept beside the plan: brought in, read, seen through the same views. What reads them is
loaded on the worker when a picture is first shown."""

from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING, NamedTuple

import numpy as np
from PySide6.QtCore import QObject, Signal

from umber_compass.colour.packed import Packed, pack, unpack
from umber_compass.document import Pixels, about
from umber_compass.document.seeing import small_of
from umber_compass.formats import atomic, picture
from umber_compass.plan.brief_edits import add_reference
from umber_compass.plan.model import Plan, Reference
from umber_compass.views import VIEWS
from umber_compass.window.desk.desk import Desk
from umber_compass.window.desk.jobs import job
from umber_compass.window.desk.worker import Urgency
from umber_compass.work import Tick

if TYPE_CHECKING:
    from umber_compass.formats.palettes import Palette
    from umber_compass.steps.focus.compared import Compared
    from umber_compass.steps.focus.reading import PictureReading

_SHOWN_PX = 900  # the longer side of what is shown


class Seen(NamedTuple):
    """A picture beside the plan, as it is shown."""

    reference: Reference
    packed: Packed  # as it is, to be picked from
    shown: Packed  # in the view that is on
    view: str  # its name, or empty

    def hex_at(self, x: float, y: float) -> str:
        """The picture's own colour at a place, shares of what is shown, whatever view that is."""
        height, width = self.packed.shape
        x = 1 - x if self.view == "mirrored" else x
        y = 1 - y if self.view == "upside-down" else y
        px = int(self.packed[min(int(y * height), height - 1), min(int(x * width), width - 1)])
        return f"#{px & 0xFFFFFF:06x}"


class Read(NamedTuple):
    """What was read from a picture."""

    reference: Reference
    palette: "Palette"
    rows: list["Compared"]


class References(QObject):
    """Works with references off the GUI thread."""

    seen = Signal(object)  # Seen
    read = Signal(object)  # Read

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk)
        self.desk = desk
        self._pictures: dict[str, Packed] = {}  # as they are shown, by their bytes
        self._kept: dict[object, tuple[PictureReading, Palette]] = {}
        desk.opened.connect(self._pictures.clear)
        desk.opened.connect(self._kept.clear)

    def add_path(self, path: Path) -> None:
        """Keep a file's picture beside the plan."""
        self._add(path.stem, lambda: atomic.read(path, picture.MOST_BYTES), path.name)

    def add_data(self, data: bytes, title: str) -> None:
        """Keep a picture that lies in no file."""
        self._add(title, lambda: data, title)

    def _add(self, title: str, load: Callable[[], bytes], subject: str) -> None:
        desk = self.desk

        def work(plan: Plan, pixels: Pixels, tick: Tick) -> bytes:
            data = load()
            picture.decode(data, subject, tick)  # refused here if it is none
            return data

        def answer(data: bytes, pixels: Pixels) -> None:
            desk.do(add_reference(title, pixels.add_reference(data)))

        job(desk, "reference", work, answer, self.tr("Reading {n}").format(n=subject))

    def see(
        self,
        reference: Reference,
        view: str,
        answer: Callable[[Seen], object],
        name: str = "reference",
    ) -> None:
        """Have a picture shown in a view; none: as it is. Of several orders of one name the last
        counts."""
        pixels, derived = self.desk.pixels, self.desk.derived
        if pixels is None or derived is None:
            return
        data, kept = pixels.references[reference.hash], self._pictures.get(reference.hash)

        def work(tick: Tick) -> Seen:
            own = kept
            if own is None:
                own = small_of(picture.decode(data, reference.title, tick).packed, _SHOWN_PX)
            if view not in VIEWS:
                return Seen(reference, own, own, "")
            told = about(derived, own.shape)._replace(labels=None, pull=None)
            shown = pack(VIEWS[view].see(np.ascontiguousarray(unpack(own)), told))
            return Seen(reference, own, shown, view)

        def keep(found: Seen) -> None:
            self._pictures[reference.hash] = found.packed
            answer(found)

        self.desk.worker.ask(f"{name} seen", work, keep, urgency=Urgency.BENCH)

    def show(self, reference: Reference, view: str) -> None:
        """Have a picture shown, and then read and compared with the plan, which takes longer."""
        self.see(reference, view, lambda found: self._on_seen(found))

    def _on_seen(self, found: Seen) -> None:
        self.seen.emit(found)
        self._compare(found)

    def _compare(self, seen: Seen) -> None:
        desk = self.desk
        derived, pixels = desk.derived, desk.pixels
        if derived is None or pixels is None or desk.live.bitmap is None:
            return
        one = seen.reference
        data = pixels.references[one.hash]
        own = desk.live.bitmap.packed.copy()
        wheel, rules = derived.scheme.wheel, derived.rules
        limits = rules["extremes.dark"], rules["extremes.light"]
        key = (one.hash, wheel, limits)
        kept = self._kept.get(key)

        def work(tick: Tick) -> tuple[Read, tuple["PictureReading", "Palette"]]:
            from umber_compass.document.palettes_in import picture_palette
            from umber_compass.steps.focus.compared import compared
            from umber_compass.steps.focus.reading import read_picture

            found = kept
            if found is None:
                whole = picture.decode(data, one.title, tick).packed
                reading = read_picture(seen.packed, wheel, *limits)
                found = reading, picture_palette(whole, one.title)
            tick(0.6)
            mine = read_picture(small_of(own, _SHOWN_PX), wheel, *limits)
            return Read(one, found[1], compared(mine, found[0])), found

        def answer(found: tuple[Read, tuple["PictureReading", "Palette"]]) -> None:
            self._kept[key] = found[1]
            self.read.emit(found[0])

        desk.worker.ask("compare", work, answer, urgency=Urgency.BENCH)


def reference_of(plan: Plan, reference_id: str) -> Reference | None:
    """The picture with an id, or the first; None where there is none."""
    found = next((r for r in plan.references if r.id == reference_id), None)
    return found or (plan.references[0] if plan.references else None)
