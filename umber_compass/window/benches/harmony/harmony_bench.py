"""The harmony bench: the rose and what goes with it, a page each."""

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QWidget

from umber_compass.steps.harmony.schemes import spec_of
from umber_compass.steps.pipeline import Derived
from umber_compass.window.bench.bench import Bench
from umber_compass.window.benches.harmony.context_page import ContextPage
from umber_compass.window.benches.harmony.fixed_page import FixedPage
from umber_compass.window.benches.harmony.mood_page import MoodPage
from umber_compass.window.benches.harmony.page import Page
from umber_compass.window.benches.harmony.palette_tab import PaletteTab
from umber_compass.window.benches.harmony.rose import Rose
from umber_compass.window.benches.harmony.shares_page import SharesPage
from umber_compass.window.benches.harmony.unify_page import UnifyPage
from umber_compass.window.benches.harmony.wheel_page import WheelPage
from umber_compass.window.widgets.scrolled import scrolled
from umber_compass.window.widgets.tabs import Pages


class HarmonyBench(Bench):
    """One hue leads; drag it and the picture turns."""

    peeked = Signal(object)  # an edit to be looked at, or None
    shown = Signal()  # a plan is shown

    def __init__(self) -> None:
        super().__init__("Harmony")
        self.wheel_page, self.shares, self.fixed = WheelPage(), SharesPage(), FixedPage()
        self.unify, self.mood, self.context = UnifyPage(), MoodPage(), ContextPage()
        self.palette_tab = PaletteTab()
        self.palette_page, self.library = self.palette_tab.rows, self.palette_tab.library
        self.by_title: dict[str, Page] = {
            self.tr("Wheel"): self.wheel_page,
            self.tr("Shares"): self.shares,
            self.tr("Fixed colours"): self.fixed,
            self.tr("Unify"): self.unify,
            self.tr("Mood"): self.mood,
            self.tr("In context"): self.context,
            self.tr("Palette"): self.palette_tab,
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
        own = (*self.by_title.values(), self.palette_page, self.library)
        self.forward(*own)
        self.palette_tab.pages.opened.connect(lambda _: self.paged.emit())
        for page in own:
            page.peeked.connect(self.peeked)

    def _own_height(self) -> tuple[Page, ...]:
        """Pages that fit themselves into any height; the others scroll where there is none."""
        return self.wheel_page, self.palette_tab

    @property
    def rose(self) -> Rose:
        """The rose."""
        return self.wheel_page.rose

    @property
    def tab(self) -> Page:
        """What is open under the tabs."""
        return list(self.by_title.values())[self.pages.currentIndex()]

    @property
    def page(self) -> Page:
        """The page that is open."""
        return self.palette_tab.page if self.tab is self.palette_tab else self.tab

    def open_page(self, page: Page) -> None:
        """Open a page by itself."""
        inner = self.palette_tab.holds(page)
        tab = self.palette_tab if inner else page
        self.open_tab(list(self.by_title.values()).index(tab))
        if inner:
            self.palette_tab.open_page(page)

    def help_at(self, step: str) -> tuple[str, str]:
        if self.tab is self.palette_tab:
            return "palette", self.palette_tab.pages.tabs.title
        return super().help_at(step)

    def first_focus(self) -> QWidget | None:
        return self.wheel_page.rose if self.page is self.wheel_page else self.pages.tabs.buttons[0]

    def needs(self) -> tuple[str, ...]:
        return self.page.needs()

    def show_derived(self, derived: Derived, selected: str) -> None:
        scheme = derived.scheme
        line = self.tr("{scheme}, lead at {lead:.0f}°")
        if derived.uncoloured:
            line = self.tr("no colour yet")
        self.says.setText(line.format(scheme=spec_of(scheme).title, lead=scheme.lead_deg))
        self.page.show_page(derived, selected)
        self.shown.emit()
