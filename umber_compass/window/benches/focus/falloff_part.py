"""The fall-off from the focus: which, its band, how far it is applied."""

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QButtonGroup, QHBoxLayout, QLabel, QPushButton, QWidget

from umber_compass.plan.edits import Edit
from umber_compass.plan.focus_edits import set_falloff
from umber_compass.plan.wishes import Falloff, FalloffOf
from umber_compass.steps.focus.falloff import KINDS, apply_falloff, why_nothing_falls, wished
from umber_compass.steps.mending.room import is_movable
from umber_compass.steps.pipeline import Derived
from umber_compass.window.bench.bench import quiet
from umber_compass.window.benches.focus.falloff_chart import FalloffChart
from umber_compass.window.widgets.fields import NumberField
from umber_compass.window.widgets.rows import in_column


class FalloffPart(QWidget):
    """Shows it; says which edit is wanted, and what is only looked at."""

    edit_wanted = Signal(object)
    peeked = Signal(object)  # None: no longer
    chosen = Signal(str)
    began = Signal()
    ended = Signal()
    turned = Signal()  # another kind is to be shown

    def __init__(self) -> None:
        super().__init__()
        self._derived: Derived | None = None
        self._of: FalloffOf = "chroma"
        self.chart = FalloffChart()
        self.why = quiet("")
        in_column(self._build_head(), self.why, self.chart, gap=6, on=self)
        self.apply.clicked.connect(self._apply)
        self.chart.shaped.connect(self._shape)
        self.chart.chosen.connect(self.chosen)
        self.chart.began.connect(self.began)
        self.chart.ended.connect(self.ended)

    def _build_head(self) -> QHBoxLayout:
        line = QHBoxLayout()
        line.setSpacing(4)
        heading = QLabel(self.tr("Fall-off"))
        heading.setObjectName("heading")
        line.addWidget(heading)
        line.addSpacing(8)
        group = QButtonGroup(self)
        self.kinds: dict[FalloffOf, QPushButton] = {}
        for kind in KINDS:
            button = QPushButton(kind)
            button.setObjectName("small")
            button.setCheckable(True)
            button.clicked.connect(lambda _=False, k=kind: self.open(k))
            group.addButton(button)
            self.kinds[kind] = button
            line.addWidget(button)
        self.kinds["chroma"].setChecked(True)
        line.addStretch(1)
        self.strength = NumberField(
            self.tr("How much of the way to the band"),
            5,
            100,
            " %",
            5,
            0,
            self.tr(
                "How much of the way each region goes toward the band; those that lie in it stay."
            ),
        )
        self.strength.show_number(100)
        self.apply = QPushButton(self.tr("Apply"))
        self.apply.setObjectName("fix")
        self.apply.setToolTip(self.tr("Move every free region into the band; hover to preview"))
        line.addWidget(self.strength)
        line.addWidget(self.apply)
        return line

    def open(self, kind: FalloffOf) -> None:
        """Show how chroma, contrast or hue falls off."""
        self._of = kind
        self.kinds[kind].setChecked(True)
        self.turned.emit()

    def _shape(self, wish: Falloff) -> None:
        self.edit_wanted.emit(set_falloff(self._of, wish, f"falloff band {self._of}"))

    def edit(self) -> Edit | None:
        """The edit that applies the fall-off as it is wished; None where there is none."""
        derived = self._derived
        if derived is None or not derived.spots.spots:
            return None
        wish = wished(derived.falloff, derived.rules, self._of)
        strength = self.strength.value() / 100
        return apply_falloff(derived.spots, wish, self._of, strength, _free(derived))._replace(
            merge=None
        )

    def _apply(self) -> None:
        self.peeked.emit(None)
        edit = self.edit()
        if edit is not None:
            self.edit_wanted.emit(edit)

    def show_falloff(self, derived: Derived, selected: str) -> None:
        """How things fall off from the focus, and what is wished of it."""
        self._derived = derived
        names = {r.id: r.name for r in derived.regions}
        wish = wished(derived.falloff, derived.rules, self._of)
        self.chart.show_spots(derived.spots, names, self._of, wish, selected)
        why = why_nothing_falls(derived.spots, wish, self._of, _free(derived))
        self.apply.setEnabled(why is None)
        self.why.setVisible(why is not None and bool(derived.spots.spots))
        self.why.setText(self.tr("Nothing to apply: {why}").format(why=why or ""))


def _free(derived: Derived) -> frozenset[str]:
    return frozenset(r.id for r in derived.regions if is_movable(derived, r.id))
