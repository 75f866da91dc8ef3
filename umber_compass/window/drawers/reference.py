"""The reference drawer: pictures beside the plan, read for palette, values and harmony, compared
with the plan number by number; a colour is picked from one onto a region."""

from collections.abc import Sequence
from pathlib import Path

from PySide6.QtCore import QMimeData, Qt, Signal
from PySide6.QtGui import (
    QColor,
    QDragEnterEvent,
    QDropEvent,
    QIcon,
    QKeyEvent,
    QKeySequence,
    QPixmap,
)
from PySide6.QtWidgets import (
    QComboBox,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QWidget,
)

from umber_compass.plan.brief_edits import remove_reference
from umber_compass.plan.model import Plan, Reference
from umber_compass.steps.pipeline import Derived
from umber_compass.window.bench.bench import Bench, quiet
from umber_compass.window.desk.references import Read, Seen, reference_of
from umber_compass.window.drawers.picking import Picking
from umber_compass.window.widgets.clearing import clear
from umber_compass.window.widgets.clipboard import copied, picture_of
from umber_compass.window.widgets.picture_box import PictureBox
from umber_compass.window.widgets.rows import in_row
from umber_compass.window.widgets.scrolled import scrolled
from umber_compass.window.widgets.seen_as import seen_as_choice


class ReferenceDrawer(Bench):
    """One picture at a time; the others in a list."""

    adding = Signal()
    added_path = Signal(object)  # Path
    added_data = Signal(bytes, str)
    wanted = Signal(object, str)  # Reference and view
    picked = Signal(str, bool)  # a hex; whether it is a step of the chosen region's ramp

    def __init__(self) -> None:
        super().__init__("Reference")
        self.setAcceptDrops(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self._shown: Seen | None = None
        self._asked: tuple[object, ...] = ()
        self._references: Sequence[Reference] = ()
        self._plan: Plan | None = None
        self.which = QComboBox()
        self.which.setAccessibleName(self.tr("Picture beside the plan"))
        self.which.activated.connect(lambda _: self._ask())
        self.view = seen_as_choice()
        self.view.activated.connect(lambda _: self._ask())
        self.add = QPushButton(self.tr("Add …"))
        self.add.clicked.connect(self.adding)
        self.remove = QPushButton(self.tr("Remove"))
        self.remove.clicked.connect(self._remove)
        self.beside = QPushButton(self.tr("Beside the work"))
        self.beside.setToolTip(
            self.tr("The pictures in a window of their own, which stays on top (Ctrl+F10)")
        )
        self.column.addLayout(in_row((self.which, 1), self.view, gap=8))
        self.column.addLayout(in_row(self.add, self.remove, 1, self.beside, gap=8))
        self.picking = Picking()
        self.picking.picked.connect(self.picked)
        self.forward(self.picking)
        self.column.addWidget(self.picking)
        self.picture = PictureBox(self.tr("The picture"), 200)
        self.picture.setToolTip(self.tr("A click picks the colour there"))
        self.picture.setCursor(Qt.CursorShape.CrossCursor)
        self.picture.pressed.connect(self._on_pressed)
        self.column.addWidget(self.picture, 3)
        self.palette_row = QHBoxLayout()
        self.palette_row.setSpacing(3)
        self.column.addLayout(self.palette_row)
        self.how = quiet("")
        self.how.setWordWrap(True)
        self.column.addWidget(self.how)
        table = QWidget()
        self._grid = QGridLayout(table)
        self._grid.setContentsMargins(0, 0, 8, 0)
        self._grid.setHorizontalSpacing(16)
        self._grid.setVerticalSpacing(3)
        self._grid.setColumnStretch(0, 1)
        self.column.addWidget(scrolled(table), 2)

    def help_at(self, step: str) -> tuple[str, str]:
        return "sketch", "Reference"

    def show_derived(self, derived: Derived, selected: str) -> None:
        plan = derived.plan
        if plan.references is not self._references:
            now = self.which.currentData()
            if len(plan.references) > len(self._references):
                now = plan.references[-1].id
            self._references = plan.references
            self.which.clear()
            for one in plan.references:
                self.which.addItem(one.title, one.id)
            at = self.which.findData(now)
            if at >= 0:
                self.which.setCurrentIndex(at)
        some = bool(plan.references)
        for part in (self.which, self.view, self.remove, self.beside, self.picking):
            part.setEnabled(some)
        self.says.setText(
            self.tr("a click picks a colour for the chosen region")
            if some
            else self.tr("drop or paste pictures here, or add them: they stay with the plan")
        )
        self._plan = plan
        if not some:
            self._show_nothing()
        elif self.isVisible():
            self._ask()

    def _ask(self) -> None:
        if self._plan is None:
            return
        one = reference_of(self._plan, str(self.which.currentData() or ""))
        asked = (one, self.view.currentData(), self._plan)
        if one is not None and (asked != self._asked or self._shown is None):
            self._asked = asked
            self.wanted.emit(one, str(self.view.currentData() or ""))

    def _show_nothing(self) -> None:
        self._shown, self._asked = None, ()
        self.picture.show_packed(None)
        self.how.setText("")
        self._clear()

    def _clear(self) -> None:
        clear(self.palette_row)
        clear(self._grid)

    def show_seen(self, seen: Seen) -> None:
        """Show a picture; what is read from it comes later."""
        if seen.reference not in self._references:
            return
        if self._shown is None or self._shown.reference != seen.reference:
            self.picking.begin()
            self._clear()
            self.how.setText(self.tr("Reading its colours …"))
        self._shown = seen
        self.picture.show_packed(seen.shown)

    def show_read(self, read: Read) -> None:
        """Show what was read from the picture that is shown."""
        if self._shown is None or self._shown.reference != read.reference:
            return
        self._clear()
        for colour, _ in read.palette.colours[:16]:
            button = QPushButton()
            image = QPixmap(18, 18)
            image.fill(QColor(colour))
            button.setIcon(QIcon(image))
            button.setFixedSize(28, 26)
            button.setToolTip(
                self.tr("{hex}: a click gives it to the chosen region").format(hex=colour)
            )
            button.setAccessibleName(colour)
            button.clicked.connect(lambda _=False, c=colour: self.picking.take(c))
            self.palette_row.addWidget(button)
        self.palette_row.addStretch(1)
        line = self.tr("{count} colours: {source}")
        self.how.setText(line.format(count=len(read.palette.colours), source=read.palette.source))
        for column, text in ((1, self.tr("plan")), (2, self.tr("picture"))):
            self._grid.addWidget(_right(quiet(text)), 0, column)
        for i, row in enumerate(read.rows):
            self._grid.addWidget(quiet(row.what), i + 1, 0)
            self._grid.addWidget(_right(QLabel(row.plan)), i + 1, 1)
            self._grid.addWidget(_right(QLabel(row.other)), i + 1, 2)

    def _on_pressed(self, x: float, y: float) -> None:
        """Pick the colour there: of the picture as it is, whatever view is on."""
        if self._shown is not None:
            self.picking.take(self._shown.hex_at(x, y))

    def _remove(self) -> None:
        if self._plan is None:
            return
        one = reference_of(self._plan, str(self.which.currentData() or ""))
        if one is not None:
            self.edit_wanted.emit(remove_reference(one.id, one.title))

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        if event.mimeData().hasUrls() or event.mimeData().hasImage():
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent) -> None:
        self._take(event.mimeData())
        event.acceptProposedAction()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.matches(QKeySequence.StandardKey.Paste):
            self.paste()
        else:
            super().keyPressEvent(event)

    def paste(self) -> None:
        """Keep the picture that was copied."""
        self._take(copied())

    def _take(self, mime: QMimeData) -> None:
        paths = [Path(u.toLocalFile()) for u in mime.urls() if u.isLocalFile()]
        for path in paths:
            self.added_path.emit(path)
        if not paths and mime.hasImage():
            self.added_data.emit(picture_of(mime), self.tr("pasted picture"))


def _right(label: QLabel) -> QLabel:
    label.setAlignment(Qt.AlignmentFlag.AlignRight)
    return label
