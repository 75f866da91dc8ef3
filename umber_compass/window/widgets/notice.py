"""The line under the views: what happened, what was refused, and beside it what goes on."""

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import QLabel, QPushButton, QSizePolicy, QWidget

from umber_compass.window.widgets.rows import in_row
from umber_compass.words import whole_part

# Height of one line, and of two: a refusal, or a clause that is too long, may need them. The button
# is no higher than a line, or the picture above would move each time something takes long.
_PLAIN_PX, _WRAPPED_PX = 20, 34
_LEAST_ROOM = 240  # px


class Notice(QWidget):
    """A refusal begins with the warning sign, is shown whole, and stays until the next act. Other
    words are as many whole sentences, or else clauses, as there is room for; all of them are in
    the tip. Only one clause that is too long is wrapped."""

    stopped = Signal(str)  # the kind of work to stop

    def __init__(self) -> None:
        super().__init__()
        self.line, self.progress = QLabel(), QLabel()
        for label in (self.line, self.progress):
            label.setObjectName("quiet")
            label.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.line.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)
        self.line.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
        self.stop = QPushButton(self.tr("Stop"))
        self.stop.setObjectName("small")
        self.stop.setFixedHeight(_PLAIN_PX)
        self.stop.clicked.connect(self._stop)
        in_row((self.line, 1), self.progress, self.stop, on=self)
        self._kind = ""
        self._said, self._refused = "", False
        self.end()

    def text(self) -> str:
        """What the line says, in full."""
        return self.line.text() if self._refused else self._said

    def tell(self, line: str, refused: bool) -> None:
        """Say something; nothing but another refusal takes a refusal's place before `act`."""
        if self._refused and not refused:
            return
        self._refused = refused
        self._show(line)

    def act(self) -> None:
        """The artist did something else: a refusal is past."""
        if self._refused:
            self._refused = False
            self._show("")

    def _show(self, line: str) -> None:
        self._said = line
        shown, refused = self.line, self._refused
        shown.setObjectName("strong" if refused else "quiet")
        shown.style().polish(shown)
        shown.setToolTip("" if refused else line)
        fits, room = shown.fontMetrics().horizontalAdvance, max(shown.width() - 8, _LEAST_ROOM)
        whole = line if refused else whole_part(line, lambda text: fits(text) <= room)
        wraps = refused or fits(whole) > room
        shown.setWordWrap(wraps)
        shown.setText(f"▲  {line}" if refused else whole)
        shown.setFixedHeight(_WRAPPED_PX if wraps else _PLAIN_PX)

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        if not self._refused:
            self._show(self._said)

    def go_on(self, kind: str, says: str, share: float) -> None:
        """What runs for longer than a moment, how far it is, and a button that stops it."""
        self._kind = kind
        done = f" {share:.0%}" if share > 0 else ""
        self.progress.setText(f"{says} …{done}")
        self.progress.setVisible(True)
        self.stop.setVisible(kind != "save")  # a file is written whole or not at all

    def end(self) -> None:
        """Nothing slow goes on any more."""
        self._kind = ""
        self.progress.setVisible(False)
        self.stop.setVisible(False)

    def _stop(self) -> None:
        self.stopped.emit(self._kind)
