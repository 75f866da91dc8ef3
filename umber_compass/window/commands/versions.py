"""Earlier versions of the plan as pictures, and work that was not saved: seen, brought back."""

from functools import partial

from PySide6.QtCore import QObject, Qt, QTimer, Signal, SignalInstance
from PySide6.QtGui import QImage
from PySide6.QtWidgets import QDialog, QGridLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from umber_compass.formats.records import Entry
from umber_compass.window.bench.bench import quiet
from umber_compass.window.desk.bringing_back import BringingBack, Left
from umber_compass.window.desk.desk import Desk
from umber_compass.window.desk.files import Files
from umber_compass.window.desk.recent_plans import when_of
from umber_compass.window.start.card import Card
from umber_compass.window.start.left_card import LeftCard
from umber_compass.window.widgets import theme
from umber_compass.window.widgets.scrolled import at_top, scrolled

_IN_A_ROW = 3
_SIZE = (900, 640)


class VersionCommands(QObject):
    """Shows what was kept, and lays it on the desk."""

    def __init__(self, desk: Desk, files: Files, bringing: BringingBack, parent: QWidget) -> None:
        super().__init__(parent)
        self._desk, self._files, self._parent = desk, files, parent
        self.bringing = bringing
        self.left: list[Left] = []
        self._is_said = False  # whether the artist knows that work was left
        self.dialog: VersionsDialog | None = None
        bringing.found.connect(self._on_found)
        bringing.versions.connect(self._show)
        # After what is said of opening.
        desk.opened.connect(lambda: QTimer.singleShot(0, self, self._say_left))

    def _on_found(self, left: list[Left]) -> None:
        self.left = left
        self._say_left()

    def _say_left(self) -> None:
        """Where a plan was opened at once, the start page that offers the work is not seen."""
        if self.left and self._desk.history is not None and not self._is_said:
            self._is_said = True
            line = self.tr("{title} was not saved when the program ended: File, Earlier versions")
            self._desk.told.emit(line.format(title=self.left[0].entry.record.title), False)

    def bring_back(self, left: Left) -> None:
        """Lay unsaved work on the desk, once what is there is settled."""
        files, self._is_said = self._files, True

        def now() -> None:
            files.demo_wanted = False
            self.bringing.bring_back(left, files.settling(left.entry.record.title))

        files.when_settled(now)

    def open(self) -> None:
        """Show the versions of the plan that is open."""
        self._desk.session.taking.emit()
        self.bringing.look_at_versions()

    def _show(self, entries: list[Entry], aside: list[Left]) -> None:
        self.dialog = VersionsDialog(entries, self.left, aside, self._parent)
        self.dialog.wanted.connect(self._take)
        self.dialog.left_wanted.connect(self.bring_back)
        self.dialog.put_aside.connect(self.bringing.put_aside)
        self.dialog.open()

    def _take(self, entry: Entry) -> None:
        self.bringing.take_version(entry, when_of(entry.record.time_s))


class VersionsDialog(QDialog):
    """Unsaved work that was left, the versions of one plan, and what was put aside, as pictures."""

    wanted = Signal(object)  # Entry
    left_wanted = Signal(object)  # Left
    put_aside = Signal(object)  # Left

    def __init__(
        self, entries: list[Entry], left: list[Left], aside: list[Left], parent: QWidget
    ) -> None:
        super().__init__(parent)
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self.setWindowTitle(self.tr("Earlier versions"))
        self.setStyleSheet(theme.sheet())
        self.resize(*_SIZE)
        column = QVBoxLayout(self)
        column.setContentsMargins(24, 18, 24, 18)
        column.setSpacing(12)
        inner = QWidget()
        self._parts = QVBoxLayout(inner)
        self._parts.setContentsMargins(0, 0, 10, 0)
        self._parts.setSpacing(12)
        self.works: list[LeftCard] = []
        self.cards: list[Card] = []
        self._add_works(self.tr("Not saved when the program ended"), left, False)
        self._add_versions(entries)
        self._add_works(self.tr("Put aside"), aside, True)
        column.addWidget(scrolled(at_top(inner)), 1)
        done = QPushButton(self.tr("Close"))
        done.clicked.connect(self.reject)
        column.addWidget(done, 0, Qt.AlignmentFlag.AlignRight)

    def _add_head(self, title: str, says: str = "") -> None:
        head = QLabel(title)
        head.setObjectName("title")
        self._parts.addWidget(head)
        if says:
            self._parts.addWidget(quiet(says))

    def _add_works(self, title: str, works: list[Left], is_aside: bool) -> None:
        if works:
            self._add_head(title)
        for one in works:
            card = LeftCard(one, is_aside)
            card.back.clicked.connect(partial(self._end, self.left_wanted, one))
            card.aside.clicked.connect(partial(self._end, self.put_aside, one))
            self._parts.addWidget(card)
            self.works.append(card)

    def _add_versions(self, entries: list[Entry]) -> None:
        text = self.tr("A click brings a version back as one step, which undo takes back.")
        if not entries:
            text = self.tr("None yet: from now on a version is kept each time the plan is saved.")
        self._add_head(self.tr("This plan as it was saved"), text)
        grid = QGridLayout()
        grid.setHorizontalSpacing(22)
        grid.setVerticalSpacing(14)
        for i, entry in enumerate(entries):
            card = _card(entry)
            card.clicked.connect(partial(self._end, self.wanted, entry))
            grid.addWidget(card, i // _IN_A_ROW, i % _IN_A_ROW)
            self.cards.append(card)
        grid.setColumnStretch(_IN_A_ROW, 1)
        self._parts.addLayout(grid)

    def _end(self, wanted: SignalInstance, what: object, _: bool = False) -> None:
        self.accept()
        wanted.emit(what)


def _card(entry: Entry) -> Card:
    record = entry.record
    says = "; ".join(reversed(record.changes)) or record.title
    return Card(when_of(record.time_s), says, partial(QImage.fromData, record.thumbnail))
