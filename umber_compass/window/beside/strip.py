"""The strip beside the painting: the lit picture small, the colours of what is pointed at, the next
step of the card, a pipette. It stays on top of other windows and does nothing while nothing
happens."""

from collections.abc import Sequence

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QCheckBox, QLabel, QPushButton, QWidget

from umber_compass.colour.packed import Packed
from umber_compass.steps.handoff.card import CardStep, Paint
from umber_compass.window.bench.bench import quiet
from umber_compass.window.benches.handoff.card_page import Paints
from umber_compass.window.beside.on_top import OnTop
from umber_compass.window.beside.pointed import Chip, Pointed
from umber_compass.window.widgets.rows import in_column, in_row

_PICTURE_PX, _WIDTH, _HEIGHT = 150, 320, 430
PER_ROW = 9  # colours


class BesideStrip(OnTop):
    """Says where the hand points, which colour is copied, which step is done, that a colour is to
    be picked on the screen."""

    hovered = Signal(float, float)  # shares of the picture's width and height
    pressed = Signal(float, float)
    copied = Signal(str)
    ticked = Signal(str, bool)
    pick_wanted = Signal()

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent, self.tr("Beside the painting"), _WIDTH, _HEIGHT)
        self.picture = Pointed(self.tr("The plan’s picture, small"), _PICTURE_PX)
        self.picture.hovered.connect(self.hovered)
        self.picture.pressed.connect(self.pressed)
        self.chip, self.name = Chip(), QLabel()
        self.name.setWordWrap(True)
        self._rows: list[Paints] = []
        self._key = ""  # of the step that is shown
        self._paints = in_column(gap=3)
        self.step = QCheckBox()
        self.step.clicked.connect(lambda on: self.ticked.emit(self._key, on))
        self.step_says = quiet("")
        self.step_says.setWordWrap(True)
        self.pick = QPushButton(self.tr("Pick from the screen"))
        self.pick.setToolTip(
            self.tr("Point at your painting: the nearest colour of the plan is named")
        )
        self.pick.clicked.connect(self.pick_wanted)
        in_column(
            (self.picture, 1),
            in_row(self.chip, (self.name, 1), gap=8),
            self._paints,
            self.step,
            self.step_says,
            in_row(1, self.pick),
            gap=8,
            margins=(10, 10, 10, 10),
            on=self,
        )
        self.say("", self.tr("Point at the picture: its colours are named. A click copies one."))
        self.show_step(None, 0, 0)

    def show_picture(self, packed: Packed) -> None:
        """The plan's picture."""
        self.picture.show_packed(packed)

    def say(self, hex_: str, line: str) -> None:
        """What a colour is, or what to do."""
        self.chip.setVisible(bool(hex_))
        self.chip.show_hex(hex_)
        self.name.setText(line)

    def show_paints(self, paints: Sequence[Paint]) -> None:
        """The colours of what was pointed at."""
        for row in self._rows:
            row.deleteLater()
        self._rows = []
        for begin in range(0, len(paints), PER_ROW):
            row = Paints(paints[begin : begin + PER_ROW])
            row.copied.connect(self.copied)
            self._rows.append(row)
            self._paints.addWidget(row)

    def show_step(self, step: CardStep | None, number: int, count: int) -> None:
        """The next step of the card; None where all are done, or none is known."""
        self.step.setVisible(step is not None)
        self._key = "" if step is None else step.key
        self.step.setChecked(False)
        if step is None:
            self.step_says.setText(self.tr("Every step of the card is done.") if count else "")
            return
        self.step.setText(f"{number}/{count}  {step.title}")
        line = self.tr("{says}. Layer {layer}, {mode}, {opacity} %.")
        self.step_says.setText(
            line.format(says=step.says, layer=step.layer, mode=step.mode, opacity=step.opacity)
        )
