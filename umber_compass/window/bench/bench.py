"""What every bench is: shows results, says which edit is wanted."""

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QLabel, QPushButton, QVBoxLayout, QWidget

from umber_compass.steps.checks import Result
from umber_compass.steps.pipeline import Derived
from umber_compass.window.widgets.rows import in_row
from umber_compass.window.widgets.tabs import Pages


class Bench(QWidget):
    """The instrument of one step."""

    edit_wanted = Signal(object)
    drag_began = Signal()
    drag_ended = Signal()
    chosen = Signal(str)  # a region
    pointed = Signal(str)  # a region, or empty
    copied = Signal(str)  # a hex
    paged = Signal()  # another page of the bench is shown
    pages: Pages

    def __init__(self, title: str) -> None:
        super().__init__()
        self.setAccessibleName(title)
        self.column = QVBoxLayout(self)
        self.column.setContentsMargins(0, 0, 0, 0)
        self.column.setSpacing(8)
        name = QLabel(title)
        name.setObjectName("title")
        self.says = QLabel()
        self.says.setObjectName("quiet")
        self.offer = QPushButton(self.tr("Propose colours"))
        self.offer.setObjectName("chief")
        self.offer.setToolTip(
            self.tr("All is grey: six proposals for this drawing, to choose from")
        )
        self.offer.setVisible(False)
        self.column.addLayout(in_row(name, (self.says, 1), self.offer, gap=12))

    def forward(self, *parts: QWidget) -> None:
        """Say what parts of the bench say, as far as each says it."""
        own = {
            "edit_wanted": self.edit_wanted,
            "chosen": self.chosen,
            "pointed": self.pointed,
            "copied": self.copied,
            "began": self.drag_began,
            "ended": self.drag_ended,
        }
        for part in parts:
            for name, signal in own.items():
                said = getattr(part, name, None)
                if said is not None:
                    said.connect(signal)

    def add_pages(self) -> None:
        """Put the pages at the foot of the bench; their tabs were put where they belong before, so
        that the Tab key comes to those first."""
        self.pages.opened.connect(lambda _: self.paged.emit())
        self.column.addWidget(self.pages, 1)

    def open_tab(self, index: int) -> None:
        """Open a page."""
        self.pages.open(index)

    def show_derived(self, derived: Derived, selected: str) -> None:
        """Show a plan's results; what is not there yet stays as it was."""
        raise NotImplementedError

    def show_results(self, results: list[Result]) -> None:
        """Show what the checks found, where the bench says anything of it."""

    def show_offer(self, on: bool) -> None:
        """Whether first colours are offered: nothing has a colour yet."""
        if self.offer.isVisibleTo(self) != on:
            self.offer.setVisible(on)

    def needs(self) -> tuple[str, ...]:
        """Slow stages that are shown now: they are worked out, and the bench is shown again."""
        return ()

    def help_at(self, step: str) -> tuple[str, str]:
        """The page of help on what is open, and a heading on it; empty for its top."""
        pages = getattr(self, "pages", None)
        return step, "" if pages is None else pages.tabs.title

    def first_focus(self) -> QWidget | None:
        """What keys go to when the bench is opened; the stage where it is None."""
        return None

    def reveal(self, region_id: str) -> None:
        """Bring a chosen region into sight."""

    def edit_name(self, region_id: str) -> bool:
        """Let a region's name be typed here; whether that can be done."""
        return False


def quiet(text: str) -> QLabel:
    """Secondary words."""
    label = QLabel(text)
    label.setObjectName("quiet")
    return label
