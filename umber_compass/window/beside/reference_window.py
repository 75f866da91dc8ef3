"""The plan's reference pictures in a window of their own, which stays on top: beside any bench, or
beside the painting program."""

from collections.abc import Sequence

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QComboBox, QLabel, QWidget

from umber_compass.colour.packed import Packed
from umber_compass.plan.model import Reference
from umber_compass.window.beside.on_top import OnTop
from umber_compass.window.beside.pointed import Chip, Pointed
from umber_compass.window.widgets.rows import in_column, in_row
from umber_compass.window.widgets.seen_as import seen_as_choice

_WIDTH, _HEIGHT, _PICTURE_PX = 380, 360, 160


class ReferenceWindow(OnTop):
    """Says which picture is wished and how it is seen, where the hand points, what is picked."""

    wanted = Signal(str, str)  # a reference's id, and a view; none: as it is
    hovered = Signal(float, float)  # shares of the picture's width and height
    pressed = Signal(float, float)

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent, self.tr("References"), _WIDTH, _HEIGHT)
        self.which = QComboBox()
        self.which.setAccessibleName(self.tr("Reference picture"))
        self.which.activated.connect(lambda _: self.ask())
        self.view = seen_as_choice()
        self.view.activated.connect(lambda _: self.ask())
        self.picture = Pointed(self.tr("The reference picture"), _PICTURE_PX)
        self.picture.hovered.connect(self.hovered)
        self.picture.pressed.connect(self.pressed)
        self.chip, self.says = Chip(), QLabel()
        self.says.setWordWrap(True)
        in_column(
            in_row((self.which, 1), self.view, gap=8),
            (self.picture, 1),
            in_row(self.chip, (self.says, 1), gap=8),
            gap=8,
            margins=(10, 10, 10, 10),
            on=self,
        )

    def show_references(self, references: Sequence[Reference]) -> None:
        """Which pictures there are; the one that was chosen stays so, or one that has come is."""
        now = self.which.currentData()
        if len(references) > self.which.count() > 0:
            now = references[-1].id  # the one that has just come
        self.which.clear()
        for one in references:
            self.which.addItem(one.title, one.id)
        self.which.setCurrentIndex(max(self.which.findData(now), 0) if references else -1)
        for part in (self.which, self.view, self.picture):
            part.setVisible(bool(references))
        if references:
            self.say("", self.tr("Point at the picture: its colours are read. A click takes one."))
            self.ask()
        else:
            self.picture.show_packed(None)
            line = self.tr("This plan has no reference pictures. Reference (Alt+R) adds some.")
            self.say("", line)

    def ask(self) -> None:
        """Ask for the picture that is chosen."""
        if self.which.currentIndex() >= 0:
            self.wanted.emit(self.which.currentData(), self.view.currentData())

    def show_picture(self, packed: Packed) -> None:
        """The picture, as it is seen now."""
        self.picture.show_packed(packed)

    def say(self, hex_: str, line: str) -> None:
        """What a colour is, or what to do."""
        self.chip.setVisible(bool(hex_))
        self.chip.show_hex(hex_)
        self.says.setText(line)
