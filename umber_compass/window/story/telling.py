"""Opens the story strip, and has the plans read that it asks for."""

from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject
from PySide6.QtWidgets import QWidget

from umber_compass.window.desk.desk import Desk
from umber_compass.window.desk.files import Files
from umber_compass.work import Tick

if TYPE_CHECKING:
    from umber_compass.document.story import StoryPage
    from umber_compass.window.story.story_window import StoryWindow


class StoryTelling(QObject):
    """One story strip at a time."""

    def __init__(self, parent: QWidget, desk: Desk, files: Files) -> None:
        super().__init__(desk)
        self._parent, self._desk, self._files = parent, desk, files
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
        self.window.finished.connect(self._forget)
        self.window.show()
        if self._desk.path is not None:
            self.read([self._desk.path])

    def _add(self) -> None:
        if self.window is not None:
            self.read(self._files.dialogs.plans(self.window))

    def read(self, paths: list[Path]) -> None:
        """Have plans read, one after the other; one that cannot be is said in a line."""

        def work(tick: Tick) -> "list[StoryPage]":
            from umber_compass.document.story import read_page

            return [read_page(path, tick) for path in paths]

        def answer(found: "list[StoryPage]") -> None:
            if self.window is not None:
                self.window.take(found)

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
