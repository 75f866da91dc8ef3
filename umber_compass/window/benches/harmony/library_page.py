"""Palettes from outside: the library, a file, what was copied; laid over the regions, and the lines
by which they were."""

from PySide6.QtCore import QSize, Signal
from PySide6.QtGui import QColor, QIcon, QPainter, QPixmap
from PySide6.QtWidgets import (
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QPushButton,
)

from umber_compass.document.library import Entry
from umber_compass.plan.edits import Edit
from umber_compass.plan.palettes import GivenPalette
from umber_compass.steps.harmony.mapping import move_swatch
from umber_compass.steps.pipeline import Derived
from umber_compass.window.bench.bench import quiet
from umber_compass.window.benches.harmony.mapping import MappedRegion, Mapping
from umber_compass.window.benches.harmony.page import Page
from umber_compass.window.widgets.peek_button import PeekButton
from umber_compass.window.widgets.rows import in_row
from umber_compass.window.widgets.scrolled import at_top, scrolled

_ICON = QSize(120, 18)


class LibraryPage(Page):
    """Says which palette is wanted; others read files and map it."""

    opened = Signal()  # a file is to be chosen
    pasted = Signal()
    searched = Signal(str)
    laid = Signal(object)  # GivenPalette
    looked = Signal(object)  # GivenPalette, or None
    kept = Signal()  # the plan's own palette is to be kept in the library
    removed = Signal(object)  # Entry

    def __init__(self) -> None:
        super().__init__()
        self._derived: Derived | None = None
        self._entries: list[Entry] = []
        top = QHBoxLayout()
        top.setSpacing(6)
        self.search = QLineEdit()
        self.search.setPlaceholderText(self.tr("Search titles, sources, tags, colours"))
        self.search.setAccessibleName(self.tr("Search the library"))
        self.search.textChanged.connect(self.searched)
        top.addWidget(self.search, 1)
        for text, says, run in (
            (self.tr("File …"), self.tr("A .gpl or .hex file, or any picture"), self.opened),
            (self.tr("Paste"), self.tr("Copied hexes, or a copied picture"), self.pasted),
        ):
            button = QPushButton(text)
            button.setToolTip(says)
            button.clicked.connect(run)
            top.addWidget(button)
        self.column.addLayout(top)
        self.list = QListWidget()
        self.list.setIconSize(_ICON)
        self.list.setAccessibleName(self.tr("Palettes"))
        self.list.setMinimumHeight(110)
        self.list.currentRowChanged.connect(lambda _: self._show_choice())
        self.list.itemDoubleClicked.connect(lambda _: self._lay())
        self.column.addWidget(self.list, 2)
        self._build_buttons()
        self.source = quiet("")
        self.source.setWordWrap(True)
        self.column.addWidget(self.source)
        self.heading = QLabel()
        self.heading.setObjectName("heading")
        self.column.addWidget(self.heading)
        self.mapping = Mapping()
        self.mapping.chosen.connect(self.chosen)
        self.mapping.moved.connect(self._move)
        self.scroll_area = scrolled(at_top(self.mapping))
        self.column.addWidget(self.scroll_area, 3)

    def _build_buttons(self) -> None:
        self.lay = PeekButton(self.tr("Lay over the regions"))
        self.lay.setObjectName("fix")
        self.lay.clicked.connect(self._lay)
        self.lay.peeked.connect(lambda on: self.looked.emit(self.picked if on else None))
        self.keep = QPushButton(self.tr("Keep the plan’s palette"))
        self.keep.setToolTip(self.tr("Write this study’s colours into the library"))
        self.keep.clicked.connect(self.kept)
        self.remove = QPushButton(self.tr("Remove"))
        self.remove.clicked.connect(self._remove)
        self.column.addLayout(in_row(self.lay, self.keep, self.remove, 1, gap=6))

    @property
    def entries(self) -> list[Entry]:
        """The palettes that are listed."""
        return self._entries

    @property
    def entry(self) -> Entry | None:
        """The palette of the library that is chosen."""
        at = self.list.currentRow()
        return self._entries[at] if 0 <= at < len(self._entries) else None

    @property
    def picked(self) -> GivenPalette | None:
        """It as a plan keeps it."""
        return None if self.entry is None else self.entry.kept()

    def show_entries(self, entries: list[Entry]) -> None:
        """The palettes that were found."""
        self._entries = entries
        self.list.blockSignals(True)
        self.list.clear()
        for entry in entries:
            palette = entry.palette
            item = QListWidgetItem(_icon([c for c, _ in palette.colours]), palette.title)
            item.setToolTip(f"{palette.source}\n{', '.join(palette.tags)}".strip())
            self.list.addItem(item)
        if entries:
            self.list.setCurrentRow(0)
        self.list.blockSignals(False)
        self._show_choice()

    def _show_choice(self) -> None:
        entry = self.entry
        self.lay.setEnabled(entry is not None)
        self.remove.setEnabled(entry is not None and entry.own)
        if entry is None:
            self.source.setText(self.tr("No palette holds these words."))
            return
        tags = ", ".join(entry.palette.tags)
        count = self.tr("{count} colours").format(count=len(entry.palette.colours))
        parts = [count, entry.palette.source, tags]
        self.source.setText("; ".join(p for p in parts if p))

    def _lay(self) -> None:
        if self.picked is not None:
            self.laid.emit(self.picked)

    def _remove(self) -> None:
        if self.entry is not None:
            self.removed.emit(self.entry)

    def _move(self, region: str, at: int) -> None:
        if self._derived is not None:
            name = next(r.name for r in self._derived.regions if r.id == region)
            edit: Edit = move_swatch(self._derived.plan, region, at, name)
            self.want(edit)

    def show_page(self, derived: Derived, selected: str) -> None:
        self._derived = derived
        palette = derived.study.palette
        self.heading.setText(
            self.tr("No palette from outside is laid over the regions")
            if palette is None
            else self.tr("“{title}” on the regions: drag a line to another colour").format(
                title=palette.title
            )
        )
        self.scroll_area.setVisible(palette is not None)
        if palette is None:
            return
        colours = [(s.hex, s.name or s.hex) for s in palette.colours]
        rows = [
            MappedRegion(r.id, r.name, derived.colours[r.id].first.hex, palette.of.get(r.id))
            for r in derived.regions
        ]
        rows.sort(key=lambda r: (99 if r.at is None else r.at, -derived.shares[r.region]))
        self.mapping.show_mapping(colours, rows, selected)


def _icon(hexes: list[str]) -> QIcon:
    image = QPixmap(_ICON)
    painter = QPainter(image)
    shown = hexes[:24]
    width = _ICON.width() / len(shown)
    for i, colour in enumerate(shown):
        painter.fillRect(int(i * width), 0, int(width) + 1, _ICON.height(), QColor(colour))
    painter.end()
    icon = QIcon(image)
    icon.addPixmap(image, QIcon.Mode.Selected)  # or Qt would tint it
    return icon
