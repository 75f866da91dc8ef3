"""Whether a region's colour is a step of another's ramp, and which."""

from PySide6.QtCore import QSignalBlocker, Signal
from PySide6.QtWidgets import QComboBox, QWidget

from umber_compass.plan.edits import region
from umber_compass.plan.ramp_edits import tie_shade
from umber_compass.steps.pipeline import Derived
from umber_compass.window.bench.bench import quiet
from umber_compass.window.widgets.fields import NumberField, Of
from umber_compass.window.widgets.rows import in_row

_WIDTH = 150  # px


class TieRow(QWidget):
    """Says which edit is wanted."""

    edit_wanted = Signal(object)

    def __init__(self) -> None:
        super().__init__()
        self._name = self._selected = ""
        self._others: list[tuple[str, str]] = []
        self.of = QComboBox()
        self.of.setAccessibleName(self.tr("Whose ramp the region’s colour is a step of"))
        self.of.setFixedWidth(_WIDTH)
        self.of.setToolTip(
            self.tr("A region that is the shade of another takes a step of its ramp and follows it")
        )
        self.of.activated.connect(lambda _: self._tie())
        says = self.tr("Which step of that ramp: −1 is the first darker one, 1 the first lighter")
        self.step = NumberField(self.tr("Step"), -9, 9, "", 1, 0, says)
        self.step.wanted.connect(lambda _: self._tie())
        self._word = quiet(self.tr("step"))
        in_row(quiet(self.tr("colour")), self.of, self._word, self.step, 1, gap=6, on=self)

    def show_tie(self, derived: Derived, selected: str) -> None:
        """Which region the chosen one is tied to, and which there are."""
        shades = derived.study.shades
        self._selected, self._name = selected, region(derived.plan, selected).name
        others = [
            (r.name, r.id) for r in derived.regions if r.id != selected and r.id not in shades
        ]
        with QSignalBlocker(self.of):
            if others != self._others:
                self._others = others
                self.of.clear()
                self.of.addItem(self.tr("its own"), "")
                for name, id_ in others:
                    self.of.addItem(self.tr("shade of {name}").format(name=name), id_)
            tie = shades.get(selected)
            at = 0 if tie is None else self.of.findData(tie.of)
            self.of.setCurrentIndex(max(at, 0))
        for part in (self._word, self.step):
            part.setVisible(tie is not None)
        self.step.show_number(-1 if tie is None else tie.step, Of(derived.study.id, selected))

    def _tie(self) -> None:
        of = str(self.of.currentData() or "") or None
        self.edit_wanted.emit(tie_shade(self._selected, of, int(self.step.value()), self._name))
