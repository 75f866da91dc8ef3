"""The decisions of the journal as a table, the newest first; why is typed in its last column."""

from collections.abc import Mapping
from typing import Any

from PySide6.QtCore import QAbstractTableModel, QModelIndex, QPersistentModelIndex, Qt, Signal

from umber_compass.formats.log_text import said_day, said_hour
from umber_compass.plan.journal import Entry, Journal, with_why

_At = QModelIndex | QPersistentModelIndex
_ROOT = QModelIndex()
WHEN, STEP, WHAT, WHY = range(4)


class LogTable(QAbstractTableModel):
    """What a table view shows of a journal; says which decision a reason was typed for."""

    why_typed = Signal(int, str)  # place in the journal, text

    def __init__(self, steps: Mapping[str, str]) -> None:
        super().__init__()
        self._steps, self._found = steps, ""
        self._journal = Journal()
        self._rows: list[int] = []

    def show_journal(self, journal: Journal) -> None:
        """Show a journal."""
        self.beginResetModel()
        self._journal = journal
        self._rows = [
            i for i in reversed(range(len(journal.entries))) if self._is_found(journal.entries[i])
        ]
        self.endResetModel()

    def find(self, text: str) -> None:
        """Show only what has all of these words in it."""
        self._found = text
        self.show_journal(self._journal)

    def _is_found(self, entry: Entry) -> bool:
        step = self._steps.get(entry.step, entry.step)
        whole = f"{said_day(entry.at)} {step} {entry.text} {entry.study} {entry.why}".casefold()
        return all(word in whole for word in self._found.casefold().split())

    def rowCount(self, parent: _At = _ROOT) -> int:
        return 0 if parent.isValid() else len(self._rows)

    def columnCount(self, parent: _At = _ROOT) -> int:
        return 4

    def headerData(self, section: int, way: Qt.Orientation, role: int = 0) -> Any:
        if role == Qt.ItemDataRole.DisplayRole and way == Qt.Orientation.Horizontal:
            titles = (self.tr("when"), self.tr("step"), self.tr("what"), self.tr("why"))
            return titles[section]
        return None

    def data(self, index: _At, role: int = 0) -> Any:
        entry = self._journal.entries[self._rows[index.row()]]
        shown = (Qt.ItemDataRole.DisplayRole, Qt.ItemDataRole.EditRole)
        if role in shown:
            when = f"{said_day(entry.at)[5:]} {said_hour(entry.at)}"
            step = self._steps.get(entry.step, entry.step)
            return (when, step, entry.text, entry.why)[index.column()]
        if role == Qt.ItemDataRole.ToolTipRole:
            study = self.tr("study {title}").format(title=entry.study)
            return f"{entry.text}\n{study}" + (f"\n{entry.why}" if entry.why else "")
        return None

    def flags(self, index: _At) -> Qt.ItemFlag:
        found = super().flags(index)
        return found | Qt.ItemFlag.ItemIsEditable if index.column() == WHY else found

    def setData(self, index: _At, value: Any, role: int = 0) -> bool:
        if index.column() != WHY or role != Qt.ItemDataRole.EditRole:
            return False
        place, why = self._rows[index.row()], str(value).strip()
        self._journal = with_why(self._journal, place, why)
        self.dataChanged.emit(index, index)
        self.why_typed.emit(place, why)
        return True
