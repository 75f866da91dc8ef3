"""What is said in the first minute with a picture of one's own: five steps, each in a card over the
bench."""

from typing import NamedTuple

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QLabel, QPushButton, QWidget

from umber_compass.window.bench.bench import quiet
from umber_compass.window.widgets.rows import in_column, in_row


class GuideStep(NamedTuple):
    """What is said, and at which step of the route."""

    step: str
    says: str


STEPS = (
    GuideStep(
        "sketch",
        "These are the shapes that were found. Point at one to see it on the picture; say which is"
        " the focus: everything after that is judged by it.",
    ),
    GuideStep("harmony", "Drag the leading hue on the wheel: all planned colours turn with it."),
    GuideStep(
        "values",
        "See how much is dark, middle and light. A check at the foot has a button that mends it.",
    ),
    GuideStep("light", "Switch the light on, and drag its mark on the picture."),
    GuideStep(
        "handoff", "Write palettes, layers and a sheet, and watch your painting beside them."
    ),
)


class GuideCard(QWidget):
    """One step; says that the next is wanted, or none."""

    next_wanted = Signal()
    skipped = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("card")
        self.says, self.count = QLabel(), quiet("")
        self.says.setWordWrap(True)
        self.next = QPushButton(self.tr("Next"))
        self.next.clicked.connect(self.next_wanted)
        self.skip = QPushButton(self.tr("Skip (Esc)"))
        self.skip.clicked.connect(self.skipped)
        row = in_row(self.count, 1, self.skip, self.next, gap=8)
        in_column(self.says, row, gap=6, margins=(10, 8, 10, 8), on=self)
        self.setAutoFillBackground(True)
        self.hide()

    def show_step(self, at: int) -> None:
        """Show a step, counted from 0."""
        self.says.setText(self.tr(STEPS[at].says))
        line = self.tr("First minute, {n} of {all}")
        self.count.setText(line.format(n=at + 1, all=len(STEPS)))
        self.next.setText(self.tr("Next") if at + 1 < len(STEPS) else self.tr("Done"))
        self.show()
