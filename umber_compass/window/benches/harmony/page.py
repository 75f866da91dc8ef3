"""What every page of the harmony bench is."""

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QLabel, QVBoxLayout, QWidget

from umber_compass.plan.edits import Edit
from umber_compass.steps.pipeline import Derived
from umber_compass.window.bench.bench import quiet
from umber_compass.window.widgets.nudge import Nudge


class Page(QWidget):
    """Shows what follows from a plan; says which edit is wanted."""

    edit_wanted = Signal(object)
    peeked = Signal(object)  # an edit to be looked at only, or None
    chosen = Signal(str)
    pointed = Signal(str)
    copied = Signal(str)
    began = Signal()
    ended = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.column = QVBoxLayout(self)
        self.column.setContentsMargins(0, 2, 8, 0)
        self.column.setSpacing(8)

    def show_page(self, derived: Derived, selected: str) -> None:
        """Show a plan."""
        raise NotImplementedError

    def needs(self) -> tuple[str, ...]:
        """Slow stages that are shown."""
        return ()

    def want(self, edit: Edit) -> None:
        """Ask for an edit."""
        self.edit_wanted.emit(edit)

    def head(self, text: str, says: str = "") -> None:
        """A heading, and what its part is about."""
        heading = QLabel(text)
        heading.setObjectName("heading")
        self.column.addWidget(heading)
        if says:
            line = quiet(says)
            line.setWordWrap(True)
            self.column.addWidget(line)

    def join_bar(self, bar: Nudge) -> None:
        """Let a bar that is dragged begin and end a drag."""
        bar.began.connect(self.began)
        bar.ended.connect(self.ended)
