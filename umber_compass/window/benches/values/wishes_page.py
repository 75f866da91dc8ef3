"""Every wish of values as a line: held to or not, its number, its lock, and why."""

from PySide6.QtCore import QSignalBlocker, Qt, Signal
from PySide6.QtWidgets import QCheckBox, QGridLayout, QPushButton, QVBoxLayout, QWidget

from umber_compass.plan.wish_edits import drop_wishes, forget_wish, lock_wish, set_wish, switch_wish
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
        says = quiet(
            self.tr(
                "What is ticked is held to. A habit of the practice only notes; tick mine, or "
                "change its number, and it is your wish: then it may warn."
            )
        )
        says.setWordWrap(True)
        column.addWidget(says)
        self._grid = QGridLayout()
        self._grid.setHorizontalSpacing(10)
        self._grid.setVerticalSpacing(4)
        self._grid.setColumnStretch(2, 1)
        column.addLayout(self._grid)
        self.switches: dict[str, QCheckBox] = {}
        self.locks: dict[str, QCheckBox] = {}
        self.mine: dict[str, QCheckBox] = {}
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
            short, says = spec.unit.split()[0], f"{spec.says} ({spec.unit})"
            field = NumberField(spec.title, spec.low, spec.high, f" {short}", step, places, says)
            field.wanted.connect(
                lambda number: self.edit_wanted.emit(set_wish(spec.name, number, spec.title))
            )
            self.fields[spec.name] = field
            self._grid.addWidget(field, row, 1)
        self._grid.addWidget(self._build_mine(spec), row, 3)
        self._grid.addWidget(lock, row, 4)
        self._grid.addWidget(WhyButton(spec.title, spec.says, spec.name), row, 5)

    def _build_mine(self, spec: WishSpec) -> QCheckBox:
        mine = QCheckBox(self.tr("mine"))
        mine.setAccessibleName(self.tr("My own wish: {wish}").format(wish=spec.title))
        mine.setToolTip(self.tr("Ticked, it may warn; else it is a habit of the practice"))
        mine.toggled.connect(
            lambda on: self.edit_wanted.emit(
                switch_wish(spec.name, True, spec.title)
                if on
                else forget_wish(spec.name, spec.title)
            )
        )
        self.mine[spec.name] = mine
        return mine

    def show_wishes(self, derived: Derived) -> None:
        """What the plan comes to wish."""
        for name, held in derived.wishes.of.items():
            own = derived.wishes.is_said(name)
            for box, on in (
                (self.switches[name], held.on),
                (self.locks[name], held.locked),
                (self.mine[name], own),
            ):
                with QSignalBlocker(box):
                    box.setChecked(on)
            if name in self.fields:
                self.fields[name].show_number(held.number)
                self.fields[name].setEnabled(held.on)
