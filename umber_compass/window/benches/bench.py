"""What every bench is: shows results, says which edit is wanted."""

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QHBoxLayout, QLabel, QVBoxLayout, QWidget

from umber_compass.steps.pipeline import Derived


class Bench(QWidget):
    """The instrument of one step."""

    edit_wanted = Signal(object)
    drag_began = Signal()
    drag_ended = Signal()
    chosen = Signal(str)  # a region
    copied = Signal(str)  # a hex

    def __init__(self, title: str) -> None:
        super().__init__()
        self.setAccessibleName(title)
        self.column = QVBoxLayout(self)
        self.column.setContentsMargins(0, 0, 0, 0)
        self.column.setSpacing(8)
        head = QHBoxLayout()
        head.setSpacing(12)
        name = QLabel(title)
        name.setObjectName("title")
        self.says = QLabel()
        self.says.setObjectName("quiet")
        head.addWidget(name)
        head.addWidget(self.says, 1)
        self.column.addLayout(head)

    def show_derived(self, derived: Derived, selected: str) -> None:
        """Show a plan's results."""
        raise NotImplementedError


def quiet(text: str) -> QLabel:
    """Secondary words."""
    label = QLabel(text)
    label.setObjectName("quiet")
    return label
