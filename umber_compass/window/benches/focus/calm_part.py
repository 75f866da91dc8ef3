"""Everything but the focus calmed at one press."""

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QLabel, QPushButton, QWidget

from umber_compass.plan.edits import Edit
from umber_compass.steps.focus.calm import calm, why_not_calm
from umber_compass.steps.mending.room import is_movable
from umber_compass.steps.pipeline import Derived
from umber_compass.window.widgets.fields import NumberField
from umber_compass.window.widgets.rows import in_row


class CalmPart(QWidget):
    """Says which edit is wanted."""

    edit_wanted = Signal(object)
    taken = Signal()  # what is looked at is over

    def __init__(self) -> None:
        super().__init__()
        self._derived: Derived | None = None
        head = QLabel(self.tr("Calm all but the focus"))
        head.setObjectName("heading")
        self.strength = NumberField(
            self.tr("How calm"),
            5,
            100,
            " %",
            5,
            0,
            self.tr("Values are drawn together and chroma is lowered, the more the farther off."),
        )
        self.strength.show_number(50)
        self.apply = QPushButton(self.tr("Calm"))
        self.apply.setObjectName("fix")
        self.apply.setToolTip(
            self.tr("Values keep their order, fixed and locked colours stay; hover to preview")
        )
        self.apply.clicked.connect(self._apply)
        in_row(head, 1, self.strength, self.apply, gap=6, on=self)

    def edit(self) -> Edit | None:
        """The edit that calms; None where there is none."""
        derived = self._derived
        if derived is None or why_not_calm(derived.spots, _free(derived)) is not None:
            return None
        return calm(derived.spots, self.strength.value() / 100, _free(derived))

    def _apply(self) -> None:
        self.taken.emit()
        edit = self.edit()
        if edit is not None:
            self.edit_wanted.emit(edit)

    def show_calm(self, derived: Derived) -> None:
        """Whether there is anything to calm."""
        self._derived = derived
        why = why_not_calm(derived.spots, _free(derived))
        self.apply.setEnabled(why is None)
        self.apply.setToolTip(
            str(why)
            if why is not None
            else self.tr("Values keep their order, fixed and locked colours stay; hover to preview")
        )


def _free(derived: Derived) -> frozenset[str]:
    return frozenset(r.id for r in derived.regions if is_movable(derived, r.id))
