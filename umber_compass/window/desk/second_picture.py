"""A second picture of the piece: its regions and hues, or its light and dark, taken into the sketch
that the plan has, as one step."""

from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import QObject, Signal

from umber_compass import document
from umber_compass.document import Pixels
from umber_compass.document.following_sketch import Followed
from umber_compass.document.splitting import split_picture
from umber_compass.formats import picture
from umber_compass.plan.model import Plan
from umber_compass.window.desk.desk import Desk
from umber_compass.window.desk.jobs import job, step
from umber_compass.work import Tick


class SecondPicture(QObject):
    """Has it read and taken in, off the GUI thread."""

    found = Signal(object)  # Followed

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk)
        self.desk = desk

    def take_shading(self, path: Path) -> None:
        """Its light and dark; regions and all that was decided stay."""
        self._take(path, _with_shading, self.tr("Took the shading of {name}"))

    def take_regions(self, path: Path) -> None:
        """Its regions and hues; the light and dark of the sketch that is there stays."""
        self._take(path, _with_regions, self.tr("Took the regions of {name}: {what}"))

    def _take(
        self, path: Path, how: Callable[[Plan, Pixels, Path, Tick], Followed], says: str
    ) -> None:
        def work(plan: Plan, pixels: Pixels, tick: Tick) -> Followed:
            return how(plan, pixels, path, tick)

        def answer(made: Followed, _: Pixels) -> None:
            step(self.desk, made.edit)
            line = says.format(name=document.plain_name(path.name), what=made.says)
            self.desk.told.emit(line, False)
            self.found.emit(made)

        reading = self.tr("Reading {name}").format(name=path.name)
        job(self.desk, "follow", work, answer, reading, of_sketch=True)


def _with_shading(plan: Plan, pixels: Pixels, path: Path, tick: Tick) -> Followed:
    from umber_compass.document.second_picture import take_shading

    read = picture.read(path, lambda share: tick(share / 2))
    return take_shading(plan, pixels, read, document.plain_name(path.name))


def _with_regions(plan: Plan, pixels: Pixels, path: Path, tick: Tick) -> Followed:
    from umber_compass.document.second_picture import take_regions

    read = picture.read(path, lambda share: tick(share / 3))
    name = document.plain_name(path.name)
    return take_regions(plan, pixels, read, split_picture(read, name, tick=tick), name)
