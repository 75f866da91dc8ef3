"""What each slot may be: share, chroma, arc, in numbers."""

from functools import partial

from PySide6.QtWidgets import QGridLayout, QHBoxLayout, QLabel, QMenu, QToolButton

from umber_compass.plan.settings import change_setting
from umber_compass.plan.terms import Slot
from umber_compass.steps.harmony.scheme_edits import pull_into
from umber_compass.steps.pipeline import Derived
from umber_compass.window.bench.bench import quiet
from umber_compass.window.benches.harmony.page import Page
from umber_compass.window.benches.harmony.shares import Shares
from umber_compass.window.widgets.dots import Swatches
from umber_compass.window.widgets.nudge import Nudge
from umber_compass.window.widgets.rows import in_row
from umber_compass.window.widgets.setting_field import SettingField

_SLOTS: tuple[Slot, ...] = ("A", "B", "C", "D", "grey")


class SharesPage(Page):
    """One row a slot."""

    def __init__(self) -> None:
        super().__init__()
        self.bars = Shares()
        self.bars.wished.connect(lambda s, x: self.want(change_setting("share.SLOT", x, s)))
        self.bars.began.connect(self.began)
        self.bars.ended.connect(self.ended)
        self.column.addWidget(self.bars)
        self.head(
            self.tr("Shares in numbers"),
            self.tr(
                "How much of the picture each hue should hold, how strong its colours are beside "
                "what each is planned with, and how far they may stray from it."
            ),
        )
        grid = QGridLayout()
        grid.setHorizontalSpacing(10)
        grid.setVerticalSpacing(6)
        heads = (
            "",
            self.tr("slot"),
            self.tr("holds"),
            self.tr("goal"),
            self.tr("chroma"),
            self.tr("arc"),
        )
        for i, text in enumerate(heads):
            grid.addWidget(quiet(text), 0, i)
        self.rows = {slot: _Row(self, grid, i + 1, slot) for i, slot in enumerate(_SLOTS)}
        grid.setColumnStretch(1, 1)
        self.column.addLayout(grid)
        self._derived: Derived | None = None
        self._slot: Slot | None = None
        self.head(
            self.tr("Move hues toward the scheme"),
            self.tr("Colours turned toward their slot’s hue, as far as you drag; values stay."),
        )
        self.column.addLayout(self._build_pull())
        self.column.addStretch(1)

    def _build_pull(self) -> QHBoxLayout:
        self.whose = QToolButton()
        self.whose.setObjectName("quiet")
        self.whose.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        self.whose.setMenu(QMenu(self.whose))
        self.whose.setToolTip(self.tr("Whose hues are moved"))
        self.pull = Nudge(
            self.tr("Move hues toward the scheme: colours turned toward their hue"),
            100.0,
            " %",
            10.0,
            0.0,
        )
        self.pull.by.connect(lambda by: self.want(pull_into(by / 100, self._slot)))
        self.pull.stepped_by.connect(
            lambda by: self.want(pull_into(by / 100, self._slot)._replace(merge=None))
        )
        self.join_bar(self.pull)
        return in_row(self.whose, (self.pull, 1), gap=8)

    def show_page(self, derived: Derived, selected: str) -> None:
        self.bars.show_rows(derived.slot_shares)
        found = {row.slot: row for row in derived.slot_shares}
        for slot, row in self.rows.items():
            mine = found.get(slot)
            row.set_visible(mine is not None)
            if mine is None:
                continue
            row.colour.show_colours(mine.hex)
            row.name.setText(
                f"{slot}  {mine.name}, {mine.part}" if slot != "grey" else self.tr("greys")
            )
            row.now.setText(f"{mine.now:.0%}")
            row.wished.show_setting(mine.wished)
            scheme = derived.scheme
            row.chroma.show_setting(scheme.chroma.get(slot, 1.0))
            arc = scheme.arcs.get(slot, derived.rules["hue-off-scheme.arc"])
            row.arc.show_setting(arc)
        self._derived = derived
        self._show_pull(derived)

    def _show_pull(self, derived: Derived) -> None:
        slots = [row for row in derived.slot_shares if row.slot != "grey" and row.now > 0]
        if self._slot not in [row.slot for row in slots]:
            self._slot = None
        menu = self.whose.menu()
        rows: list[tuple[Slot | None, str]] = [(None, self.tr("all colours"))]
        rows += [(r.slot, f"{r.slot}, {r.name}") for r in slots]
        if [a.text() for a in menu.actions()] != [text for _, text in rows]:
            menu.clear()
            for slot, text in rows:
                menu.addAction(text).triggered.connect(partial(self._pull_whose, slot))
        whose = next((text for slot, text in rows if slot == self._slot), "")
        self.whose.setText(self.tr("{whose} ▾").format(whose=whose))

    def _pull_whose(self, slot: Slot | None, _: bool = False) -> None:
        self._slot = slot
        if self._derived is not None:
            self._show_pull(self._derived)


class _Row:
    """The parts of one slot's row."""

    def __init__(self, page: SharesPage, grid: QGridLayout, at: int, slot: Slot) -> None:
        self.colour = Swatches(22, 22)
        self.name, self.now = QLabel(), QLabel()
        self.wished = SettingField("share.SLOT", slot)
        self.chroma = SettingField("slot.SLOT.chroma", slot)
        self.arc = SettingField("slot.SLOT.arc", slot)
        parts = (self.colour, self.name, self.now, self.wished, self.chroma, self.arc)
        for i, part in enumerate(parts):
            grid.addWidget(part, at, i)
        self.wished.asked.connect(page.edit_wanted)
        self.chroma.asked.connect(page.edit_wanted)
        self.arc.asked.connect(page.edit_wanted)
        if slot == "grey":
            self.arc.setEnabled(False)

    def set_visible(self, on: bool) -> None:
        """Show the row, or hide it."""
        parts = (self.colour, self.name, self.now, self.wished, self.chroma, self.arc)
        for part in parts:
            part.setVisible(on)
