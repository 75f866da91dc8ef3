"""The painting beside its plan: which file is watched, how it looks, what drifted and what to do
about it first."""

from collections.abc import Sequence
from pathlib import Path

from PySide6.QtCore import QSignalBlocker, Signal
from PySide6.QtWidgets import QComboBox, QLabel, QPushButton, QVBoxLayout, QWidget

from umber_compass.colour.packed import Packed
from umber_compass.plan.journal import Look
from umber_compass.window.bench.bench import quiet
from umber_compass.window.bench.choice_row import ChoiceRow
from umber_compass.window.benches.handoff.days_chart import DaysChart
from umber_compass.window.benches.handoff.drift_row import DriftRow, DriftSaid
from umber_compass.window.widgets.fields import Of, TextField
from umber_compass.window.widgets.picture_box import PictureBox
from umber_compass.window.widgets.rows import in_column, in_row
from umber_compass.window.widgets.scrolled import scrolled

SEEN = {
    "painting": ("Painting", "The painting as it was last saved, laid on the sketch"),
    "drift": (
        "Drift",
        "Blue where it is darker than planned, orange where lighter; stripes are the planned"
        " colour",
    ),
    "planned": ("As planned", "The painting’s own strokes, with what drifted taken back"),
    "plan": ("Plan", "The plan’s picture, for comparing"),
}
_PICTURE_PX = 150


class PaintingPage(QWidget):
    """Says which file is wanted, and which drift is taken into the plan."""

    browse_wanted = Signal()
    file_chosen = Signal(object)  # Path
    dropped = Signal()  # the file that is looked at is watched no more
    accepted = Signal(list)  # regions
    chosen = Signal(str)  # a region
    seen_changed = Signal(str)
    noted = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        self.browse = QPushButton(self.tr("Watch a painting …"))
        self.browse.setToolTip(
            self.tr("The file that you save while you paint: PNG, JPEG, OpenRaster and others")
        )
        self.browse.clicked.connect(self.browse_wanted)
        self.files = QComboBox()
        self.files.setAccessibleName(self.tr("Paintings that are watched"))
        self.files.activated.connect(lambda i: self.file_chosen.emit(self.files.itemData(i)))
        self.drop = QPushButton(self.tr("Watch no more"))
        self.drop.clicked.connect(self.dropped)
        self.seen = ChoiceRow(self.tr("show"), SEEN)
        self.seen.show_choice("painting")
        self.seen.chosen.connect(self.seen_changed)
        self.picture = PictureBox(self.tr("The painting on its sketch"), _PICTURE_PX)
        self.says = QLabel()
        self.says.setWordWrap(True)
        self.rows: list[DriftRow] = []
        self._list = QVBoxLayout()
        self._list.setSpacing(6)
        self.all = QPushButton()
        self.all.clicked.connect(lambda: self.accepted.emit([]))
        self.checks = quiet("")
        self.checks.setWordWrap(True)
        self.days = DaysChart()
        self.note = TextField(self.tr("Note on this save"))
        self.note.setPlaceholderText(self.tr("note on this save"))
        self.note.typed.connect(lambda _, text: self.noted.emit(text))
        below = QWidget()
        in_column(self._list, in_row(1, self.all), self.checks, 1, gap=8, on=below)
        self._area = scrolled(below)
        in_column(
            in_row(self.browse, (self.files, 1), self.drop, gap=8),
            in_row(self.seen, 1),
            (self.picture, 3),
            self.says,
            (self._area, 2),
            self.days,
            self.note,
            gap=6,
            on=self,
        )
        self.show_files((), None)

    def show_files(self, files: Sequence[Path], current: Path | None) -> None:
        """Which files are watched, and which is looked at."""
        with QSignalBlocker(self.files):
            self.files.clear()
            for path in files:
                self.files.addItem(path.name, path)
                self.files.setItemData(self.files.count() - 1, str(path), 3)  # the tooltip
            if current is not None and current in files:
                self.files.setCurrentIndex(list(files).index(current))
        for part in (self.files, self.drop, self.seen, self._area, self.days, self.note):
            part.setVisible(bool(files))
        if not files:
            self.say(
                self.tr(
                    "While you paint elsewhere, choose the file you save. At every save it is"
                    " laid on the sketch, and what drifted from the plan is told while it is small."
                )
            )
            self.picture.show_packed(None)
        self.show_drifts([], [])

    def say(self, line: str) -> None:
        """What is known of the painting as a whole."""
        self.says.setText(line)

    def show_picture(self, packed: Packed | None) -> None:
        """The picture that is chosen to be seen."""
        self.picture.show_packed(packed)

    def show_drifts(self, worst: Sequence[DriftSaid], checks: Sequence[str], more: int = 0) -> None:
        """The regions to be reworked first, how many others drifted, and what checks say."""
        while (item := self._list.takeAt(0)) is not None:
            widget = item.widget()
            if widget is not None:
                widget.deleteLater()
        self.rows = []
        for said in worst:
            row = DriftRow(said)
            row.chosen.connect(self.chosen)
            row.accepted.connect(lambda r: self.accepted.emit([r]))
            self.rows.append(row)
            self._list.addWidget(row)
        count = len(worst) + more
        self.all.setVisible(count > 1)
        line = self.tr("Accept all {count}")
        if more:
            line = self.tr("Accept all {count}, {more} that are smaller among them")
        self.all.setText(line.format(count=count, more=more))
        self.checks.setText("\n".join(checks))
        self.checks.setVisible(bool(checks))

    def show_looks(self, looks: Sequence[Look]) -> None:
        """What the painting's values did from save to save."""
        self.days.show_looks(looks)
        last = looks[-1] if looks else None
        of = None if last is None else Of("", f"{last.file_name} {last.at}")
        self.note.fill(of, "" if last is None else last.note)
        self.note.setEnabled(last is not None)
