"""The values bench: the ladder with all that belongs to it; and every wish."""

from PySide6.QtWidgets import QHBoxLayout, QWidget

from umber_compass.plan.wish_edits import start_from
from umber_compass.steps.pipeline import Derived
from umber_compass.steps.values.bands import Key
from umber_compass.window.bench.bench import Bench, quiet
from umber_compass.window.bench.window_parts import WindowParts
from umber_compass.window.benches.values.balancing import Balancing
from umber_compass.window.benches.values.keys import Keys
from umber_compass.window.benches.values.ladder_page import LadderPage
from umber_compass.window.benches.values.push_page import PushPage
from umber_compass.window.benches.values.wishes_page import WishesPage
from umber_compass.window.stage.step_marks import Marks
from umber_compass.window.widgets import value_words
from umber_compass.window.widgets.rows import in_row
from umber_compass.window.widgets.tabs import Pages

_NAMED_FROM = 0.012  # share of the picture


class ValuesBench(Bench):
    """Values of every region, upright, and what is wished of them."""

    def __init__(self) -> None:
        super().__init__("Values")
        self.keys, self.page, self.wishes = Keys(), LadderPage(), WishesPage()
        self.push = PushPage()
        self.ladder = self.page.ladder
        self.pages = Pages(
            {
                self.tr("Ladder"): self.page,
                self.tr("Push"): self.push,
                self.tr("Wishes"): self.wishes,
            }
        )
        self.column.addLayout(self._build_top())
        self.add_pages()
        self.keys.picked.connect(self._start_from)
        self.forward(self.page, self.push, self.wishes)

    def _build_top(self) -> QHBoxLayout:
        return in_row(self.pages.tabs, 1, quiet(self.tr("value key")), self.keys, gap=4)

    def first_focus(self) -> QWidget | None:
        return self.ladder

    def _start_from(self, key: Key) -> None:
        self.edit_wanted.emit(start_from(key.bands, key.figure, key.title))

    def show_derived(self, derived: Derived, selected: str) -> None:
        if self.pages.currentWidget() is self.wishes:
            self.wishes.show_wishes(derived)
        elif self.pages.currentWidget() is self.page:
            self.page.show_derived(derived, selected)
        shown = [e.value for c in derived.colours.values() for e in c.ends]
        self.says.setText(
            self.tr("darkest {low}, lightest {high}{unit}").format(
                low=value_words.value_text(min(shown)),
                high=value_words.value_text(max(shown)),
                unit=value_words.notation().unit,
            )
        )


def join(bench: Bench, parts: WindowParts) -> None:
    """Balance is looked at on the stage; views are put there."""
    assert isinstance(bench, ValuesBench)
    Balancing(parts, bench.page.balance, bench.ladder)
    bench.page.staged.connect(parts.desk.session.show_view)
    bench.page.read_anew.connect(parts.desk.changed)


def marks(derived: Derived, selected: str) -> Marks:
    """The names and values of all regions but the smallest, and of the chosen one."""
    return Marks(
        {
            r.id: f"{r.name} {value_words.value_text(derived.colours[r.id].mean_value)}"
            for r in derived.regions
            if derived.shares[r.id] > _NAMED_FROM or r.id == selected
        }
    )
