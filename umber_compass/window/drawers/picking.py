"""What a click on a reference is for: a colour for the chosen region, a step of its ramp, or places
in light and shade that tell the picture's two lights."""

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QCheckBox, QComboBox, QWidget

from umber_compass.window.bench.bench import quiet
from umber_compass.window.widgets.rows import in_column, in_row
from umber_compass.words import Refusal

COLOUR, STEP, LIGHT = "colour", "step", "light"
_SAYS = {
    COLOUR: "",
    STEP: "each click adds a colour whose way from dark to light the region’s steps borrow",
    LIGHT: "click a place in the light",
}


class Picking(QWidget):
    """Takes colours one after the other and says what they are for."""

    picked = Signal(str, bool)  # a hex; whether it is a step of the chosen region's ramp
    edit_wanted = Signal(object)

    def __init__(self) -> None:
        super().__init__()
        self.what = QComboBox()
        self.what.setAccessibleName(self.tr("What a click is for"))
        self.what.addItem(self.tr("the chosen region’s colour"), COLOUR)
        self.what.addItem(self.tr("a step of its ramp"), STEP)
        self.what.addItem(self.tr("this picture’s light, for yours"), LIGHT)
        self.what.activated.connect(lambda _: self.begin())
        self.grey = QCheckBox(self.tr("the material is white or grey"))
        self.grey.setToolTip(
            self.tr("Then both lights’ colours are as they are seen; else they are parted evenly")
        )
        self.says = quiet("")
        self.says.setWordWrap(True)
        self._lit: str | None = None
        self._pairs: list[tuple[str, str]] = []
        row = in_row(quiet(self.tr("a click picks")), self.what, self.grey, 1, gap=8)
        in_column(row, self.says, gap=2, on=self)
        self.begin()

    def begin(self) -> None:
        """Nothing is picked yet."""
        self._lit, self._pairs = None, []
        mode = str(self.what.currentData())
        self.grey.setVisible(mode == LIGHT)
        self._say(self.tr(_SAYS[mode]))

    def _say(self, text: str) -> None:
        self.says.setText(text)
        self.says.setVisible(bool(text))

    def take(self, colour: str) -> None:
        """A colour was picked."""
        mode = self.what.currentData()
        if mode != LIGHT:
            self.picked.emit(colour, mode == STEP)
        elif self._lit is None:
            self._lit = colour
            self._say(self.tr("now the same material in shade, not on its underside"))
        else:
            self._read((self._lit, colour))
            self._lit = None

    def _read(self, pair: tuple[str, str]) -> None:
        from umber_compass.steps.light.rig_of_picture import lay_read, read_rig  # for few pictures

        pairs = [*self._pairs, pair]
        try:
            found = read_rig([a for a, _ in pairs], [b for _, b in pairs], self.grey.isChecked())
        except Refusal as refusal:
            self._say(str(refusal))
            return
        self._pairs = pairs
        self.edit_wanted.emit(lay_read(found))
        one = self.tr("read from one pair, taking for granted: {assumes}; more pairs make it surer")
        many = self.tr("read from {n} pairs, taking for granted: {assumes}")
        line = one if len(pairs) == 1 else many
        self._say(line.format(n=len(pairs), assumes=str(found.assumes)))
