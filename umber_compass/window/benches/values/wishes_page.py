"""Every wish of values as a line: held to or not, its number, its lock, and why."""

from PySide6.QtCore import QSignalBlocker, Qt, Signal
from PySide6.QtWidgets import QCheckBox, QGridLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from umber_compass.plan.wish_edits import drop_wishes, lock_wish, set_wish, switch_wish
from umber_compass.steps.pipeline import Derived
from umber_compass.steps.values.wishes import SPECS, WishSpec
from umber_compass.window.bench.bench import quiet
from umber_compass.window.widgets.fields import NumberField
from umber_compass.window.widgets.why import WhyButton


class WishesPage(QWidget):
    """Shows a plan's wishes; says which edit is wanted."""

    edit_wanted = Signal(object)

    def __init__(self) -> None:
        super().__init__()
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        self._grid = QGridLayout()
        self._grid.setHorizontalSpacing(10)
        self._grid.setVerticalSpacing(4)
        self._grid.setColumnStretch(2, 1)
        column.addLayout(self._grid)
        self.switches: dict[str, QCheckBox] = {}
        self.locks: dict[str, QCheckBox] = {}
        self.fields: dict[str, NumberField] = {}
        for row, spec in enumerate(SPECS.values()):
            self._build_row(row, spec)
        self.restore = QPushButton(self.tr("Restore the practice’s wishes"))
        self.restore.clicked.connect(lambda: self.edit_wanted.emit(drop_wishes()))
        column.addSpacing(8)
        column.addWidget(self.restore, 0, Qt.AlignmentFlag.AlignLeft)
        column.addStretch(1)

    def _build_row(self, row: int, spec: WishSpec) -> None:
        switch, lock = QCheckBox(spec.title), QCheckBox(self.tr("lock"))
        switch.setToolTip(spec.says)
        lock.setToolTip(
            self.tr(
                "Balancing never drops a locked wish, and choosing a value key does not change it."
            )
        )
        lock.setAccessibleName(self.tr("Lock: {wish}").format(wish=spec.title))
        switch.toggled.connect(
            lambda on: self.edit_wanted.emit(switch_wish(spec.name, on, spec.title))
        )
        lock.toggled.connect(
            lambda on: self.edit_wanted.emit(
                lock_wish(spec.name, on, spec.title, self.switches[spec.name].isChecked())
            )
        )
        self.switches[spec.name], self.locks[spec.name] = switch, lock
        self._grid.addWidget(switch, row, 0)
        if spec.rule or spec.unit:
            step, places = (0.05, 2) if spec.name == "lead" else (1, 0)
            field = NumberField(spec.title, spec.low, spec.high, "", step, places, spec.says)
            field.wanted.connect(
                lambda number: self.edit_wanted.emit(set_wish(spec.name, number, spec.title))
            )
            self.fields[spec.name] = field
            unit: QLabel = quiet(spec.unit)
            self._grid.addWidget(field, row, 1)
            self._grid.addWidget(unit, row, 2)
        self._grid.addWidget(lock, row, 3)
        self._grid.addWidget(WhyButton(spec.title, spec.says, spec.name), row, 4)

    def show_wishes(self, derived: Derived) -> None:
        """What the plan comes to wish."""
        for name, held in derived.wishes.of.items():
            for box, on in ((self.switches[name], held.on), (self.locks[name], held.locked)):
                with QSignalBlocker(box):
                    box.setChecked(on)
            if name in self.fields:
                self.fields[name].show_number(held.number)
                self.fields[name].setEnabled(held.on)
