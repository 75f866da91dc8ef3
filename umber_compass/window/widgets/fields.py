"""Fields that are typed into. Each belongs to what it was filled from: what is typed goes there and
nowhere else, and is taken before anything that could lose it (`Session.taking`)."""

from typing import NamedTuple

from PySide6.QtCore import QSignalBlocker, Qt, Signal
from PySide6.QtGui import QFocusEvent
from PySide6.QtWidgets import (
    QAbstractSpinBox,
    QDoubleSpinBox,
    QLineEdit,
    QPlainTextEdit,
    QSizePolicy,
    QWidget,
)

from umber_compass.window.widgets.timers import single_shot


class Of(NamedTuple):
    """What a field shows something of: a study and a region, lamp or the like, by id; of the plan
    itself where both are empty."""

    study: str = ""
    thing: str = ""


class Typed:
    """A field that may hold what nobody has taken yet; beside the widget it is."""

    of: Of | None = None  # None: filled from nothing, so that nothing is taken

    def take(self) -> None:
        """Say what was typed, if anything was."""
        raise NotImplementedError

    def drop(self) -> None:
        """Forget what was typed: the plan it was typed for is gone."""
        raise NotImplementedError


_RESTS = 800  # ms without a key, after which what was typed is taken: a crash loses less than that


class TextField(QLineEdit, Typed):
    """A line of text. `typed` is said once the artist is done with it, or rests."""

    typed = Signal(object, str)  # Of, text

    def __init__(
        self, name: str = "", needed: bool = False, confirms: bool = False, rests: bool = True
    ) -> None:
        super().__init__()
        self._shown = ""
        self._resting = single_shot(self, _RESTS, self._take_some)
        if rests:  # what must be whole before it means anything, as a hex, is not taken by halves
            self.textEdited.connect(self._resting.start)
        # Whether it may not be empty, and whether typing the same again is said too.
        self._needed, self._confirms = needed, confirms
        self.setAccessibleName(name)
        self.editingFinished.connect(self.take)

    def fill(self, of: Of | None, text: str) -> None:
        """Show a text of something, unless its own is being typed."""
        if of == self.of and self.hasFocus() and self.isModified():
            return
        self.of, self._shown = of, text
        if self.text().strip() != text:
            self.setText(text)
        self.setModified(False)

    def _take_some(self) -> None:
        if self.text().strip():
            self.take()

    def take(self) -> None:
        self._resting.stop()
        if self.of is None or not self.isModified():
            return
        text = self.text().strip()
        self.setModified(False)
        if self._needed and not text:
            self.setText(self._shown)
        elif text != self._shown or self._confirms:
            self._shown = text
            self.typed.emit(self.of, text)

    def drop(self) -> None:
        self._resting.stop()
        self.of = None
        self.setModified(False)


class NotesField(QPlainTextEdit, Typed):
    """Several lines of text; Tab leaves it."""

    typed = Signal(object, str)  # Of, text

    def __init__(self, name: str) -> None:
        super().__init__()
        self._shown = ""
        self._resting = single_shot(self, _RESTS, self.take)
        self.textChanged.connect(self._rest)
        self.setTabChangesFocus(True)
        self.setAccessibleName(name)

    def fill(self, of: Of | None, text: str) -> None:
        """Show a text of something, unless its own is being typed."""
        if of == self.of and self.hasFocus() and self.document().isModified():
            return
        self.of, self._shown = of, text
        if self.toPlainText() != text:
            self.setPlainText(text)
        self.document().setModified(False)

    def _rest(self) -> None:
        if self.document().isModified():
            self._resting.start()

    def take(self) -> None:
        self._resting.stop()
        if self.of is None or not self.document().isModified():
            return
        self.document().setModified(False)
        if self.toPlainText() != self._shown:
            self._shown = self.toPlainText()
            self.typed.emit(self.of, self._shown)

    def drop(self) -> None:
        self._resting.stop()
        self.of = None
        self.document().setModified(False)

    def focusOutEvent(self, event: QFocusEvent) -> None:
        super().focusOutEvent(event)
        self.take()


class NumberField(QDoubleSpinBox, Typed):
    """A number with its unit, and a sentence on what it means: typed, or stepped with the arrow
    keys. `wanted` is said when the artist changes it, never when it is shown."""

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

    @property
    def _is_typed(self) -> bool:
        return self.hasFocus() and self.lineEdit().isModified()

    def show_number(self, number: float, of: Of = Of()) -> None:  # noqa: B008 - it is frozen
        """Show a number of something without asking for it, unless its own is being typed."""
        if self._is_typed and of == self.of:
            return
        self.of = of
        with QSignalBlocker(self):
            self.setValue(number)
        self.lineEdit().setModified(False)

    def take(self) -> None:
        if self.of is not None and self.lineEdit().isModified():
            self.lineEdit().setModified(False)
            self.interpretText()

    def drop(self) -> None:
        self.of = None
        with QSignalBlocker(self):
            self.setValue(self.value())
        self.lineEdit().setModified(False)


def take_typed(window: QWidget) -> None:
    """Take what is being typed in a window: only where the caret is can anything be that was not
    taken yet."""
    field = window.focusWidget()
    if isinstance(field, Typed):
        field.take()


def signed(number: float) -> str:
    """A whole number with its sign, and no sign at nought."""
    return f"{round(number):+d}".replace("-", "−") if round(number) else "0"
