"""A fresh look: the picture mirrored and upside down, and three questions with answers kept."""

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QDialog, QDialogButtonBox, QLabel, QLineEdit, QWidget

from umber_compass.colour.packed import Packed, pack, unpack
from umber_compass.formats.log_text import QUESTIONS
from umber_compass.views import PLAIN, VIEWS
from umber_compass.window.bench.bench import quiet
from umber_compass.window.widgets import theme
from umber_compass.window.widgets.picture_box import PictureBox
from umber_compass.window.widgets.rows import in_column, in_row

_PICTURE_PX = 260
_SEEN = ("mirrored", "upside-down")


class FreshLook(QDialog):
    """Says what was answered."""

    answered = Signal(object)  # three texts

    def __init__(self, packed: Packed, parent: QWidget) -> None:
        super().__init__(parent)
        self.setStyleSheet(theme.sheet())
        self.setWindowTitle(self.tr("Fresh look"))
        self.resize(860, 520)
        columns = []
        levels = unpack(packed)
        for name in _SEEN:
            box = PictureBox(self.tr(VIEWS[name].title), _PICTURE_PX)
            box.show_packed(pack(VIEWS[name].see(levels, PLAIN)))
            columns.append((in_column((box, 1), quiet(self.tr(VIEWS[name].title)), gap=4), 1))
        self.fields = []
        rows = []
        for question in QUESTIONS:
            field = QLineEdit()
            field.setAccessibleName(self.tr(question))
            field.setMaxLength(2000)
            self.fields.append(field)
            rows.append(in_column(QLabel(self.tr(question)), field, gap=2))
        buttons = QDialogButtonBox()
        self.keep = buttons.addButton(
            self.tr("Keep in the log"), QDialogButtonBox.ButtonRole.AcceptRole
        )
        buttons.addButton(self.tr("Close"), QDialogButtonBox.ButtonRole.RejectRole)
        buttons.accepted.connect(self._answer)
        buttons.rejected.connect(self.reject)
        margins = (20, 16, 20, 16)
        in_column((in_row(*columns, gap=16), 1), *rows, buttons, gap=10, margins=margins, on=self)
        self.fields[0].setFocus()

    def _answer(self) -> None:
        answers = tuple(f.text().strip() for f in self.fields)
        if any(answers):
            self.answered.emit(answers)
        self.accept()
