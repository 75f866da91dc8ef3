"""The log drawer: every decision with its time, step and reason; how long was worked; a fresh look;
a reminder to take a break."""

from PySide6.QtCore import QItemSelectionModel, Qt, Signal
from PySide6.QtWidgets import (
    QAbstractItemView,
    QCheckBox,
    QHeaderView,
    QLineEdit,
    QPushButton,
    QTableView,
)

from umber_compass.formats.log_text import said_burst, said_day
from umber_compass.plan.journal import Journal, bursts
from umber_compass.steps.pipeline import Derived
from umber_compass.window.bench.bench import Bench, quiet
from umber_compass.window.drawers.log_table import WHAT, WHY, LogTable
from umber_compass.window.widgets.rows import in_row

_ROW_PX = 24


class LogDrawer(Bench):
    """Says that a reason was typed, that the log is to be written, that the picture is to be looked
    at anew."""

    why_typed = Signal(int, str)
    write_wanted = Signal()
    fresh_wanted = Signal()
    breaks_wanted = Signal(bool)

    def __init__(self) -> None:
        super().__init__("Log")
        from umber_compass.window.benches import BENCHES

        self.search = QLineEdit()
        self.search.setPlaceholderText(self.tr("search: words, a step, a day"))
        self.search.setAccessibleName(self.tr("Search the log"))
        self.table = LogTable({r.step: r.title for r in BENCHES.values()})
        self.table.why_typed.connect(self.why_typed)
        self.search.textChanged.connect(self.table.find)
        self.list = self._build_list()
        self.write = QPushButton(self.tr("Write log …"))
        self.write.setToolTip(self.tr("As Markdown or CSV, by the ending of its name"))
        self.write.clicked.connect(self.write_wanted)
        self.fresh = QPushButton(self.tr("Fresh look …"))
        self.fresh.setToolTip(
            self.tr("The picture mirrored and upside down, and three questions; best the next day")
        )
        self.fresh.clicked.connect(self.fresh_wanted)
        self.breaks = QCheckBox(self.tr("remind me of a break after 50 minutes"))
        self.breaks.setToolTip(
            self.tr("One quiet line; a habit, not medical advice. Your doctor knows better.")
        )
        self.breaks.clicked.connect(self.breaks_wanted)
        self.worked = quiet("")
        self.worked.setWordWrap(True)
        self.column.addLayout(in_row((self.search, 1), self.fresh, self.write, gap=8))
        self.column.addWidget(self.list, 1)
        self.column.addWidget(self.worked)
        self.column.addWidget(self.breaks)

    def _build_list(self) -> QTableView:
        view = QTableView()
        view.setModel(self.table)
        view.setAccessibleName(self.tr("Decisions"))
        view.verticalHeader().setVisible(False)
        view.verticalHeader().setDefaultSectionSize(_ROW_PX)
        view.setShowGrid(False)
        view.setWordWrap(False)
        view.setSelectionBehavior(QAbstractItemView.SelectionBehavior.SelectRows)
        triggers = QAbstractItemView.EditTrigger
        view.setEditTriggers(
            triggers.DoubleClicked | triggers.EditKeyPressed | triggers.SelectedClicked
        )
        view.setVerticalScrollMode(QAbstractItemView.ScrollMode.ScrollPerPixel)
        head = view.horizontalHeader()
        head.setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
        head.setResizeContentsPrecision(30)  # rows that are looked at for it
        head.setDefaultAlignment(Qt.AlignmentFlag.AlignLeft)
        head.setHighlightSections(False)
        for column in (WHAT, WHY):
            head.setSectionResizeMode(column, QHeaderView.ResizeMode.Stretch)
        view.setTabKeyNavigation(False)
        return view

    def help_at(self, step: str) -> tuple[str, str]:
        return "painting", "Log"

    def show_derived(self, derived: Derived, selected: str) -> None:
        """The log hangs on nothing that is derived; `show_journal` shows it."""

    def show_journal(self, journal: Journal) -> None:
        """Show what the journal holds; a reason that is being typed stays."""
        if self.list.state() == QAbstractItemView.State.EditingState:
            return
        row = self.list.currentIndex().row()
        self.table.show_journal(journal)
        if 0 <= row < self.table.rowCount():
            self.list.selectionModel().setCurrentIndex(
                self.table.index(row, WHY), QItemSelectionModel.SelectionFlag.ClearAndSelect
            )
        found = bursts(journal)
        if not found:
            self.worked.setText(self.tr("Nothing is decided yet."))
            return
        today = [b for b in found if said_day(b.begin) == said_day(found[-1].begin)]
        line = self.tr("That day {minutes:.0f} min in {count} bursts. The last: {last}")
        if len(today) == 1:
            line = self.tr("That day {minutes:.0f} min in one burst: {last}")
        self.worked.setText(
            line.format(
                minutes=sum(max(b.minutes, 1) for b in today),
                count=len(today),
                last=said_burst(found[-1]),
            )
        )
        self.says.setText(self.tr("{n} decisions").format(n=len(journal.entries)))
