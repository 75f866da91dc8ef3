"""Groups of depth moved together, and air before them."""

from collections.abc import Callable

from PySide6.QtCore import Signal
from PySide6.QtGui import QColor, QIcon, QPixmap
from PySide6.QtWidgets import (
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QMenu,
    QToolButton,
    QWidget,
)

from umber_compass.plan.edits import Edit
from umber_compass.steps.focus.depth import GROUPS, add_air, move_group, spread_group, tone_group
from umber_compass.steps.mending.room import is_movable
from umber_compass.steps.mending.still import why_no_air, why_still
from umber_compass.steps.pipeline import Derived
from umber_compass.window.bench.bench import quiet
from umber_compass.window.widgets.nudge import Nudge
from umber_compass.window.widgets.rows import in_column, in_row

_MOST_OFFERED, _MOST_NAMED = 12, 8


class DepthPage(QWidget):
    """Each bar is dragged to either side and springs back; what it did stays."""

    edit_wanted = Signal(object)
    began = Signal()
    ended = Signal()

    def __init__(self) -> None:
        super().__init__()
        self._air = "#9fb4c0"
        says = quiet(
            self.tr(
                "Far things have less contrast and chroma, and more air before them. Drag a bar: "
                "the whole group follows; fixed and locked colours stay."
            )
        )
        says.setWordWrap(True)
        in_column(
            says, self._build_groups(), self._build_air(), 1, gap=10, margins=(0, 4, 0, 0), on=self
        )

    def _build_groups(self) -> QGridLayout:
        grid = QGridLayout()
        grid.setHorizontalSpacing(12)
        grid.setVerticalSpacing(8)
        self.counts: dict[str, QLabel] = {}
        self.bars: dict[tuple[str, str], Nudge] = {}
        for i, head in enumerate((self.tr("value"), self.tr("chroma"), self.tr("contrast"))):
            grid.addWidget(quiet(head), 0, i + 1)
        for row, group in enumerate(GROUPS):
            name = QLabel(group)
            name.setObjectName("strong")
            grid.addWidget(name, 2 * row + 1, 0)
            for i, (kind, reach, unit, step) in enumerate(
                (
                    ("value", 30.0, " L*", 2.0),
                    ("chroma", 100.0, " %", 5.0),
                    ("contrast", 100.0, " %", 5.0),
                )
            ):
                bar = Nudge(
                    self.tr("{group}, {kind}").format(group=group, kind=kind), reach, unit, step
                )
                self._join(bar, _edit_of(group, kind))
                self.bars[group, kind] = bar
                grid.addWidget(bar, 2 * row + 1, i + 1)
            self.counts[group] = quiet("")
            self.counts[group].setWordWrap(True)
            grid.addWidget(self.counts[group], 2 * row + 2, 1, 1, 3)
        return grid

    def _build_air(self) -> QHBoxLayout:
        head = QLabel(self.tr("air (haze)"))
        head.setObjectName("strong")
        self.colour = QToolButton()
        self.colour.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        self.colour.setMenu(QMenu(self.colour))
        self.colour.setToolTip(self.tr("The colour of the air: that of a ground"))
        self.air = Nudge(self.tr("Air before the ground"), 80.0, " %", 5.0, 0.0)
        self._join(self.air, lambda by, merge: add_air(self._air, by / 100, merge))
        self.no_air = quiet("")
        return in_row(head, self.colour, (self.air, 1), self.no_air, gap=10)

    def _join(self, bar: Nudge, edit: Callable[[float, bool], Edit]) -> None:
        bar.by.connect(lambda by: self.edit_wanted.emit(edit(by, True)))
        bar.stepped_by.connect(lambda by: self.edit_wanted.emit(edit(by, False)))
        bar.began.connect(self.began)
        bar.ended.connect(self.ended)

    def show_groups(self, derived: Derived) -> None:
        """How many regions each group has, and which colours the air may take."""
        for group, roles in GROUPS.items():
            mine = [r for r in derived.regions if r.role in roles]
            free = sum(is_movable(derived, r.id) for r in mine)
            largest = sorted(mine, key=lambda r: -derived.shares[r.id])
            named = ", ".join(r.name for r in largest[:_MOST_NAMED])
            more = "" if len(mine) <= _MOST_NAMED else " …"
            text = self.tr("{free} of {all} free: {named}{more}").format(
                free=free, all=len(mine), named=named, more=more
            )
            still = {k: why_still(derived, group, k) for k in ("value", "chroma", "contrast")}
            for kind, why in still.items():
                self.bars[group, kind].setEnabled(why is None)
            reasons = list(dict.fromkeys(str(w) for w in still.values() if w is not None))
            self.counts[group].setText("; ".join([text, *reasons] if mine else reasons))
        grounds = sorted(
            (r for r in derived.regions if r.role == "ground"), key=lambda r: -derived.shares[r.id]
        )
        menu = self.colour.menu()
        menu.clear()
        for region in grounds[:_MOST_OFFERED]:
            for end in derived.colours[region.id].ends:
                action = menu.addAction(_dot(end.hex), f"{region.name} {end.hex}")
                action.triggered.connect(lambda _=False, c=end.hex: self._take(c))
        why = why_no_air(derived)
        self.air.setEnabled(why is None)
        self.no_air.setText(str(why or ""))
        self._show_air()

    def _take(self, hex_: str) -> None:
        self._air = hex_
        self._show_air()

    def _show_air(self) -> None:
        self.colour.setIcon(_dot(self._air))
        self.colour.setToolButtonStyle(self.colour.toolButtonStyle().ToolButtonTextBesideIcon)
        self.colour.setText(self._air)


def _edit_of(group: str, kind: str) -> Callable[[float, bool], Edit]:
    """The edit of a bar, by how far it is dragged."""
    if kind == "value":
        return lambda by, merge: move_group(group, by, merge)
    if kind == "chroma":
        return lambda by, merge: tone_group(group, max(1 + by / 100, 0.0), merge)
    return lambda by, merge: spread_group(group, max(1 + by / 100, 0.0), merge)


def _dot(colour: str) -> QIcon:
    image = QPixmap(14, 14)
    image.fill(QColor(colour))
    return QIcon(image)
