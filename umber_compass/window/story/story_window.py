"""The story strip in a window of its own: plans are added, put in order, and seen as one arc."""

from collections.abc import Sequence
from pathlib import Path

from PySide6.QtCore import Signal
from PySide6.QtGui import QMouseEvent
from PySide6.QtWidgets import QDialog, QLabel, QPushButton, QWidget

from umber_compass.document.story import StoryPage
from umber_compass.steps.studies.story import (
    of_another_mood,
    out_of_line,
    shared_colours,
    told,
)
from umber_compass.window.bench.bench import quiet
from umber_compass.window.story.arc import Arc
from umber_compass.window.widgets import theme
from umber_compass.window.widgets.rows import in_column, in_row
from umber_compass.window.widgets.scrolled import scrolled
from umber_compass.words import Refusal

_LINES = 4  # that are said


class _Choosing(Arc):
    chosen_at = Signal(int)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.chosen_at.emit(self.page_at(event.position().x()))


class StoryWindow(QDialog):
    """Says which plans are to be read, and that one is to be opened."""

    add_wanted = Signal()
    open_wanted = Signal(object)  # Path
    pages_changed = Signal()  # they are others, or stand otherwise

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.setStyleSheet(theme.sheet())
        self.setWindowTitle(self.tr("Story strip"))
        self.resize(1000, 700)
        self.pages: list[StoryPage] = []
        self._chosen = -1
        self.add = QPushButton(self.tr("Add plans …"))
        self.add.clicked.connect(self.add_wanted)
        self.left, self.right = QPushButton(self.tr("◀ Earlier")), QPushButton(self.tr("Later ▶"))
        self.left.clicked.connect(lambda: self._move(-1))
        self.right.clicked.connect(lambda: self._move(1))
        self.drop = QPushButton(self.tr("Take out"))
        self.drop.clicked.connect(self._drop)
        self.empty = QPushButton(self.tr("Begin anew"))
        self.empty.setToolTip(self.tr("Take all pages out; the plans stay where they are"))
        self.empty.clicked.connect(self._empty)
        self.open_plan = QPushButton(self.tr("Open plan"))
        self.open_plan.clicked.connect(self._open)
        self.arc = _Choosing()
        self.arc.chosen_at.connect(self._choose)
        self.says, self.shared = QLabel(), quiet("")
        self.says.setWordWrap(True)
        self.shared.setWordWrap(True)
        row = in_row(
            self.add, self.empty, 1, self.left, self.right, self.drop, self.open_plan, gap=8
        )
        margins = (16, 12, 16, 12)
        in_column(
            row, (scrolled(self.arc), 1), self.says, self.shared, gap=10, margins=margins, on=self
        )
        self._show()

    def take(self, pages: Sequence[StoryPage]) -> None:
        """More pages, behind the others; one that is there already is renewed."""
        for page in pages:
            at = [p.path for p in self.pages].index(page.path) if self._has(page.path) else None
            if at is None:
                self.pages.append(page)
            else:
                self.pages[at] = page
        self._show()
        self.pages_changed.emit()

    def say_refused(self, refused: Sequence[Refusal]) -> None:
        """Which plans could not be read, and why; a line each."""
        if refused:
            lines = [str(r) for r in refused[:_LINES]]
            self.says.setText("\n".join([*lines, self.says.text()]))

    def _has(self, path: Path) -> bool:
        return any(p.path == path for p in self.pages)

    def _choose(self, i: int) -> None:
        self._chosen = i
        self._show()

    def _move(self, by: int) -> None:
        """Put the chosen page earlier or later."""
        i, to = self._chosen, self._chosen + by
        if 0 <= i < len(self.pages) and 0 <= to < len(self.pages):
            self.pages[i], self.pages[to] = self.pages[to], self.pages[i]
            self._chosen = to
            self._show()
            self.pages_changed.emit()

    def _drop(self) -> None:
        if 0 <= self._chosen < len(self.pages):
            del self.pages[self._chosen]
            self._chosen = min(self._chosen, len(self.pages) - 1)
            self._show()
            self.pages_changed.emit()

    def _empty(self) -> None:
        self.pages, self._chosen = [], -1
        self._show()
        self.pages_changed.emit()

    def _open(self) -> None:
        if 0 <= self._chosen < len(self.pages):
            self.open_wanted.emit(self.pages[self._chosen].path)

    def _show(self) -> None:
        pages = [p.page for p in self.pages]
        off, moods = out_of_line(pages), of_another_mood(pages)
        self.arc.show_pages(self.pages, off, moods, self._chosen)
        is_chosen = 0 <= self._chosen < len(pages)
        self.left.setEnabled(is_chosen and self._chosen > 0)
        self.right.setEnabled(is_chosen and self._chosen < len(pages) - 1)
        self.drop.setEnabled(is_chosen)
        self.open_plan.setEnabled(is_chosen)
        self.empty.setEnabled(bool(pages))
        line = self.tr("Page {n}, {title}: {what}. A turn of the story, or out of line?")
        lines = [
            line.format(n=i + 1, title=pages[i].title, what=str(what))
            for i, what in told(pages)[:_LINES]
        ]
        if not pages:
            lines = [self.tr("Add the plans of a book or comic, in the order of its pages.")]
        elif len(pages) < 3:
            lines = [self.tr("From three pages on it is told which of them leaves the line.")]
        elif not lines:
            lines = [self.tr("No page leaves the line of those beside it.")]
        self.says.setText("\n".join(lines))
        found = shared_colours(pages)
        said = ", ".join(f"{s.hex} ({', '.join(str(i + 1) for i in s.pages)})" for s in found[:12])
        line = self.tr("Shared by pages: {said}").format(said=said) if found else ""
        if len(pages) > 1 and not found:
            line = self.tr("The pages share no colour.")
        self.shared.setText(line)
