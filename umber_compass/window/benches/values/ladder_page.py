"""The ladder with its bands, the order of materials under it, balance, the chosen region."""

from itertools import pairwise

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QHBoxLayout, QMenu, QPushButton, QToolButton, QWidget

from umber_compass.plan.edits import region
from umber_compass.plan.practice_edits import set_rule
from umber_compass.plan.wish_edits import move_edge, set_band_share, set_bands, set_order, set_wish
from umber_compass.plan.wishes import MOST_BANDS
from umber_compass.steps.harmony.colours import end_names
from umber_compass.steps.harmony.edits import set_value
from umber_compass.steps.harmony.shifts import shift_family
from umber_compass.steps.pipeline import Derived
from umber_compass.steps.values.bands import bands_of_picture
from umber_compass.steps.values.measured import lit_range, mean_value
from umber_compass.window.benches.values.balance_bar import BalanceBar
from umber_compass.window.benches.values.band_column import BandColumn
from umber_compass.window.benches.values.chips import Chip
from umber_compass.window.benches.values.ladder import Ladder
from umber_compass.window.benches.values.order_line import OrderLine
from umber_compass.window.benches.values.region_bar import RegionBar
from umber_compass.window.strip.views import EVERY_VIEW
from umber_compass.window.widgets import value_words
from umber_compass.window.widgets.fields import NumberField
from umber_compass.window.widgets.rows import in_column, in_row
from umber_compass.words import words

_BOUNDS = {"dark": (0, 50), "light": (50, 100)}
_ORDERED = 5  # materials whose order is shown where none is wished
_STAGED = ("", "grey", "groups", "groups-2", "groups-3", "groups-4", "groups-5", "squint")


class LadderPage(QWidget):
    """Shows a plan's values; says which edit is wanted."""

    edit_wanted = Signal(object)
    chosen = Signal(str)
    began = Signal()
    ended = Signal()
    staged = Signal(str)  # a view to put on the stage; empty: the picture
    read_anew = Signal()  # values are read another way

    def __init__(self) -> None:
        super().__init__()
        self._derived: Derived | None = None
        self.ladder, self.bands, self.order = Ladder(), BandColumn(), OrderLine()
        self.balance, self.bar = BalanceBar(), RegionBar()
        self._build()
        self._connect()

    def _build(self) -> None:
        both = QHBoxLayout()
        both.setSpacing(6)
        both.addWidget(self.ladder, 1)
        both.addWidget(self.bands)
        in_column(
            self._build_menus(),
            (both, 1),
            self._build_order(),
            self.balance,
            self.bar,
            gap=6,
            on=self,
        )

    def _build_order(self) -> QHBoxLayout:
        self.apart = NumberField(
            self.tr("Materials in order are apart by"),
            0,
            60,
            " L* apart",
            1,
            0,
            self.tr("How much darker each material should be than the next, in the lit picture."),
        )
        self.wish_order = QPushButton(self.tr("Keep this order"))
        self.wish_order.setObjectName("small")
        self.wish_order.setCheckable(True)
        self.wish_order.setToolTip(
            self.tr(
                "The materials should keep this order of value; released, no order is asked for"
            )
        )
        return in_row((self.order, 1), self.wish_order, self.apart, gap=6)

    def _build_menus(self) -> QHBoxLayout:
        self.band_menu = _menu_button(self.tr("How many bands, or the picture’s own"))
        menu = self.band_menu.menu()
        for count in range(2, MOST_BANDS + 1):
            text = self.tr("{count} bands, as the picture parts").format(count=count)
            menu.addAction(text).triggered.connect(lambda _=False, n=count: self._take_bands(n))
        self.reading = _menu_button(self.tr("How values are read"))
        for known in value_words.NOTATIONS.values():
            text = f"{known.title}: {known.says}"
            self.reading.menu().addAction(text).triggered.connect(
                lambda _=False, n=known.name: self._read(n)
            )
        self.stage_menu = _menu_button(self.tr("What is on the stage"))
        for view in _STAGED:
            title = EVERY_VIEW[view].title if view else self.tr("The picture")
            self.stage_menu.menu().addAction(title).triggered.connect(
                lambda _=False, v=view: self.staged.emit(v)
            )
        self.stage_menu.setText(self.tr("on the stage ▾"))
        return in_row(self.band_menu, self.reading, self.stage_menu, 1, gap=4)

    def _connect(self) -> None:
        self.bar.edit_wanted.connect(self.edit_wanted)
        self.ladder.moved.connect(self._move)
        self.ladder.family_moved.connect(lambda s, by: self.edit_wanted.emit(shift_family(s, by)))
        self.ladder.limit.connect(self._limit)
        self.bands.edge_moved.connect(self._move_edge)
        self.bands.share_wished.connect(self._wish_share)
        self.order.ordered.connect(lambda ids: self.edit_wanted.emit(set_order(ids)))
        self.wish_order.clicked.connect(self._wish_order)
        self.apart.wanted.connect(
            lambda by: self.edit_wanted.emit(set_wish("order", by, self.tr("order of materials")))
        )
        for part in (self.ladder, self.order):
            part.chosen.connect(self.chosen)
        for held in (self.ladder, self.bands):
            held.began.connect(self.began)
            held.ended.connect(self.ended)

    def _move(self, region_id: str, end: int, value: float) -> None:
        if self._derived is not None:
            name = region(self._derived.plan, region_id).name
            self.edit_wanted.emit(set_value(region_id, end, value, name))

    def _limit(self, kind: str, value: float) -> None:
        low, high = _BOUNDS[kind]
        title = self.tr("limit for darks") if kind == "dark" else self.tr("limit for lights")
        self.edit_wanted.emit(set_rule(f"extremes.{kind}", min(max(value, low), high), title))

    def _move_edge(self, index: int, value: float) -> None:
        if self._derived is not None:
            self.edit_wanted.emit(move_edge(self._derived.wishes.bands, index, value))

    def _wish_share(self, index: int, share: float) -> None:
        if self._derived is not None:
            self.edit_wanted.emit(set_band_share(self._derived.wishes.bands, index, share))

    def _take_bands(self, count: int) -> None:
        derived = self._derived
        if derived is not None:
            values = derived.values
            found = bands_of_picture(values.by_code, derived.adjacency, values.histogram, count)
            self.edit_wanted.emit(set_bands(found, words("take {count} bands", count=count)))

    def _wish_order(self, on: bool) -> None:
        if self._derived is not None:
            ids = _order_now(self._derived) if on else ()
            self.edit_wanted.emit(set_order(ids))

    def _read(self, name: str) -> None:
        value_words.choose(name)
        self.read_anew.emit()

    def show_derived(self, derived: Derived, selected: str) -> None:
        """A plan's values, and those of the chosen region."""
        self._derived = derived
        values = derived.values
        planned = derived.planned_histogram.tolist() if derived.lit is not None else None
        limits = {k: derived.rules[f"extremes.{k}"] for k in ("dark", "light")}
        beyond = {"dark": values.darks, "light": values.lights}
        self.ladder.show_chips(
            _chips(derived), values.histogram.tolist(), limits, beyond, selected, planned
        )
        label = region(derived.plan, selected).label if selected else 0
        lit = lit_range(values, derived.adjacency, label) if derived.lit and label else None
        self.ladder.show_lit(lit)
        wishes = derived.wishes
        self.bands.show_bands(wishes.bands, derived.bands, wishes.on("bands"))
        self.band_menu.setText(self.tr("{count} bands ▾").format(count=len(wishes.bands.shares)))
        self.reading.setText(self.tr("values {how} ▾").format(how=value_words.notation().title))
        if not self.ladder.is_held:  # it is for the eye at rest; in a drag the frame comes first
            self._show_order(derived)
        self.bar.show_region(derived, selected)

    def _show_order(self, derived: Derived) -> None:
        wished = len(derived.wishes.order) > 1
        ids = derived.wishes.order if wished else _order_now(derived)
        label = {r.id: r.label for r in derived.regions}
        value = {r: mean_value(derived.by_label[label[r]]) for r in ids}
        by = derived.wishes.number("order")
        broken = {
            r for a, b in pairwise(ids) for r in (a, b) if wished and value[b] - value[a] < by
        }
        self.order.show_order(ids, {r.id: r.name for r in derived.regions}, wished, broken)
        self.wish_order.setChecked(wished)
        self.apart.show_number(by)


def _menu_button(says: str) -> QToolButton:
    button = QToolButton()
    button.setObjectName("quiet")
    button.setToolTip(says)
    button.setAccessibleName(says)
    button.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
    button.setMenu(QMenu(button))
    return button


def _chips(derived: Derived) -> list[Chip]:
    names = {r.id: r.name for r in derived.regions}
    return [
        Chip(
            r,
            i,
            names[r] + end_names(derived.planned[r])[i],
            e.value,
            derived.shares[r],
            e.hex,
            e.slot,
            r in derived.locked,
        )
        for r, c in derived.colours.items()
        for i, e in enumerate(c.ends)
        if derived.shares[r] > 0
    ]


def _order_now(derived: Derived) -> tuple[str, ...]:
    """The largest materials as they stand in the picture, the darkest first."""
    largest = sorted(derived.shares, key=lambda r: -derived.shares[r])[:_ORDERED]
    label = {r.id: r.label for r in derived.regions}
    return tuple(sorted(largest, key=lambda r: mean_value(derived.by_label[label[r]])))
