"""Opens the story strip, and has the plans read that it asks for."""

from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject
from PySide6.QtWidgets import QWidget

from umber_compass.window.desk.desk import Desk
from umber_compass.window.desk.files import Files
from umber_compass.window.desk.remembered import Remembered
from umber_compass.work import Tick

if TYPE_CHECKING:
    from umber_compass.document.story import Pages
    from umber_compass.window.story.story_window import StoryWindow


_WORD = "story"  # that is remembered: the pages, a line each
_MOST = 200  # pages


class StoryTelling(QObject):
    """One story strip at a time; its pages are known from one day to the next."""

    def __init__(self, parent: QWidget, desk: Desk, files: Files, remembered: Remembered) -> None:
        super().__init__(desk)
        self._parent, self._desk, self._files = parent, desk, files
        self._remembered = remembered
        self.window: StoryWindow | None = None
        desk.closed.connect(self._close)

    def open(self) -> None:
        """Open the strip; the plan that is on stands in it where it lies in a file."""
        from umber_compass.window.story.story_window import StoryWindow

        if self.window is not None:
            self.window.raise_()
            return
        self.window = StoryWindow(self._parent)
        self.window.add_wanted.connect(self._add)
        self.window.open_wanted.connect(self._files.open_path)
        self.window.pages_changed.connect(self._keep)
        self.window.finished.connect(self._forget)
        self.window.show()
        known = [Path(p) for p in self._remembered.word(_WORD).splitlines() if p][:_MOST]
        own = self._desk.path
        if own is not None and own.absolute() not in known:
            known.append(own.absolute())
        self.read(known)

    def _keep(self) -> None:
        """The pages are others, or stand otherwise."""
        if self.window is not None:
            said = [str(p.path.absolute()) for p in self.window.pages[:_MOST]]
            self._remembered.keep(_WORD, "\n".join(said))

    def _add(self) -> None:
        if self.window is not None:
            self.read(self._files.dialogs.plans(self.window))

    def read(self, paths: list[Path]) -> None:
        """Have plans read, one after the other; one that cannot be is said in a line."""

        def work(tick: Tick) -> "Pages":
            from umber_compass.document.story import read_pages

            return read_pages([path.absolute() for path in paths], tick)

        def answer(pages: "Pages") -> None:
            if self.window is not None:
                self.window.take(pages.found)
                self.window.say_refused(pages.refused)

        if paths:
            says = self.tr("Reading the pages")
            self._desk.orders.ask("story", lambda: work, answer, says=says)

    def _forget(self) -> None:
        if self.window is not None:
            self.window.deleteLater()
            self.window = None

    def _close(self) -> None:
        if self.window is not None:
            self.window.reject()
