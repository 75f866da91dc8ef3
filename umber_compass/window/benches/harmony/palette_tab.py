"""The palette: the plan's own in rows, and the library of others."""

from umber_compass.steps.pipeline import Derived
from umber_compass.window.benches.harmony.library_page import LibraryPage
from umber_compass.window.benches.harmony.page import Page
from umber_compass.window.benches.harmony.palette_page import PalettePage
from umber_compass.window.widgets.tabs import Pages


class PaletteTab(Page):
    """Two pages under one tab."""

    def __init__(self) -> None:
        super().__init__()
        self.rows, self.library = PalettePage(), LibraryPage()
        self._inner: tuple[Page, ...] = (self.rows, self.library)
        titles = (self.tr("In this plan"), self.tr("Library"))
        self.pages = Pages(dict(zip(titles, self._inner, strict=True)), small=True)
        self.column.addWidget(self.pages.tabs)
        self.column.addWidget(self.pages, 1)

    @property
    def page(self) -> Page:
        """The page that is open."""
        return self._inner[self.pages.currentIndex()]

    def holds(self, page: Page) -> bool:
        """Whether a page is one of the two."""
        return page in self._inner

    def open_page(self, page: Page) -> None:
        """Open one of the two."""
        self.pages.open(self._inner.index(page))

    def needs(self) -> tuple[str, ...]:
        return self.page.needs()

    def show_page(self, derived: Derived, selected: str) -> None:
        self.page.show_page(derived, selected)
