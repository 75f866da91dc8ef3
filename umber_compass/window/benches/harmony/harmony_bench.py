"""The harmony bench: the rose and what goes with it, a page each."""

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QWidget

from umber_compass.steps.harmony.schemes import spec_of
from umber_compass.steps.pipeline import Derived
from umber_compass.window.bench.bench import Bench
from umber_compass.window.benches.harmony.given_page import GivenPage
from umber_compass.window.benches.harmony.library_page import LibraryPage
from umber_compass.window.benches.harmony.mood_page import MoodPage
from umber_compass.window.benches.harmony.page import Page
from umber_compass.window.benches.harmony.palette_page import PalettePage
from umber_compass.window.benches.harmony.rose import Rose
from umber_compass.window.benches.harmony.rose_page import RosePage
from umber_compass.window.benches.harmony.seen_page import SeenPage
from umber_compass.window.benches.harmony.slots_page import SlotsPage
from umber_compass.window.benches.harmony.ties_page import TiesPage
from umber_compass.window.widgets.scrolled import scrolled
from umber_compass.window.widgets.tabs import Pages


class HarmonyBench(Bench):
    """One hue leads; drag it and the picture turns."""

    peeked = Signal(object)  # an edit to be looked at, or None

    def __init__(self) -> None:
        super().__init__("Harmony")
        self.wheel_page, self.slots, self.given = RosePage(), SlotsPage(), GivenPage()
        self.ties, self.mood, self.seen = TiesPage(), MoodPage(), SeenPage()
        self.palette_page, self.library = PalettePage(), LibraryPage()
        self.by_title: dict[str, Page] = {
            self.tr("Rose"): self.wheel_page,
            self.tr("Slots"): self.slots,
            self.tr("Given"): self.given,
            self.tr("Ties"): self.ties,
            self.tr("Mood"): self.mood,
            self.tr("Seen"): self.seen,
            self.tr("Palette"): self.palette_page,
            self.tr("Library"): self.library,
        }
        self.pages = Pages(
            {
                title: page if page in self._own_height() else scrolled(page)
                for title, page in self.by_title.items()
            },
            small=True,
        )
        self.column.addWidget(self.pages.tabs)
        self.add_pages()
        self.forward(*self.by_title.values())
        for page in self.by_title.values():
            page.peeked.connect(self.peeked)

    def _own_height(self) -> tuple[Page, ...]:
        """Pages that fit themselves into any height; the others scroll where there is none."""
        return self.wheel_page, self.palette_page, self.library

    @property
    def rose(self) -> Rose:
        """The rose."""
        return self.wheel_page.rose

    @property
    def page(self) -> Page:
        """The page that is open."""
        return list(self.by_title.values())[self.pages.currentIndex()]

    def open_page(self, page: Page) -> None:
        """Open a page by itself."""
        self.open_tab(list(self.by_title.values()).index(page))

    def first_focus(self) -> QWidget | None:
        return self.wheel_page.rose if self.page is self.wheel_page else self.pages.tabs.buttons[0]

    def needs(self) -> tuple[str, ...]:
        return self.page.needs()

    def show_derived(self, derived: Derived, selected: str) -> None:
        scheme = derived.scheme
        line = self.tr("{scheme}, lead at {lead:.0f}°")
        self.says.setText(line.format(scheme=spec_of(scheme).title, lead=scheme.lead_deg))
        self.page.show_page(derived, selected)
