"""The plans that were open last, as far as their files are there. Each is looked at beside
everything else: one that lies on a mount that does not answer holds nothing up."""

from datetime import datetime
from functools import partial
from pathlib import Path
from typing import NamedTuple

from PySide6.QtCore import QObject, Signal

from umber_compass.formats import atomic, thumbnail
from umber_compass.window.desk.aside import Aside
from umber_compass.window.desk.remembered import Remembered


class Known(NamedTuple):
    """A plan that was open before."""

    path: Path
    thumbnail: bytes  # PNG, or empty
    when: str  # it was saved last


class RecentPlans(QObject):
    """Knows which of the remembered plans are there."""

    changed = Signal(object)  # list of Known, the newest first

    def __init__(self, remembered: Remembered) -> None:
        super().__init__(remembered)
        self._remembered = remembered
        self._aside = Aside(self)
        self._known: dict[Path, Known | None] = {}
        remembered.changed.connect(self.look)

    @property
    def known(self) -> list[Known]:
        """The plans that were found, the newest first."""
        found = (self._known.get(p) for p in self._remembered.recent())
        return [one for one in found if one is not None]

    def look(self) -> None:
        """Look at every remembered plan; `changed` says each that is found, or is gone."""
        self.changed.emit(self.known)
        for path in self._remembered.recent():
            self._aside.look(partial(_look, path), partial(self._take, path))

    def _take(self, path: Path, found: Known | None) -> None:
        if path not in self._known or self._known[path] != found:
            self._known[path] = found
            self.changed.emit(self.known)


def _look(path: Path) -> Known | None:
    stamp = atomic.stamp(path)
    if stamp is None or not path.is_file():
        return None
    return Known(path, thumbnail.read(path), when_of(stamp.time_ns / 1e9))


def when_of(time_s: float) -> str:
    """A time, s since 1970, as day and minute."""
    return f"{datetime.fromtimestamp(time_s):%d %b %Y, %H:%M}"
