"""Numbers that are fields: typed, stepped with the arrow keys, always with their unit."""

from PySide6.QtCore import QSignalBlocker, Qt, Signal
from PySide6.QtWidgets import QAbstractSpinBox, QDoubleSpinBox, QSizePolicy


class NumberField(QDoubleSpinBox):
    """A number with its unit, and a sentence on what it means. `wanted` is said when the artist
    changes it, never when it is shown."""

    wanted = Signal(float)

    def __init__(
        self,
        name: str,
        low: float,
        high: float,
        unit: str,
        step: float = 1.0,
        decimals: int = 0,
        says: str = "",
    ) -> None:
        super().__init__()
        self.setRange(low, high)
        self.setDecimals(decimals)
        self.setSingleStep(step)
        self.setSuffix(unit)
        self.setKeyboardTracking(False)
        self.setButtonSymbols(QAbstractSpinBox.ButtonSymbols.NoButtons)
        self.setAlignment(Qt.AlignmentFlag.AlignRight)
        self.setAccessibleName(name)
        self.setToolTip(says or name)
        self.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Fixed)
        self.setMinimumWidth(64)
        self.valueChanged.connect(self.wanted)

    def show_number(self, number: float) -> None:
        """Show a number without asking for it."""
        with QSignalBlocker(self):
            self.setValue(number)


def signed(number: float) -> str:
    """A whole number with its sign, and no sign at nought."""
    return f"{round(number):+d}".replace("-", "−") if round(number) else "0"
