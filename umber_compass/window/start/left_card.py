"""Unsaved work that was found: its picture, when it was done and what it changed, and what can be
done with it."""

from functools import partial

from PySide6.QtCore import QSize
from PySide6.QtGui import QImage
from PySide6.QtWidgets import QGridLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from umber_compass.window.bench.bench import quiet
from umber_compass.window.desk.bringing_back import Left
from umber_compass.window.desk.recent_plans import when_of
from umber_compass.window.start.card import Card
from umber_compass.window.widgets.rows import in_column

_ROOM = QSize(150, 112)
_WORDS_PX = 470


class LeftCard(QWidget):
    """One piece of work. Nothing is lost by either button; one that was put aside has only the
    first."""

    def __init__(self, left: Left, is_aside: bool = False) -> None:
        super().__init__()
        record = left.entry.record
        grid = QGridLayout(self)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setHorizontalSpacing(22)
        image = partial(QImage.fromData, record.thumbnail)
        card = Card(record.title, when_of(record.time_s), image, _ROOM)
        card.setToolTip(self.tr("A click brings it back"))
        grid.addWidget(card, 0, 0)
        words = QVBoxLayout()
        words.setSpacing(6)
        text = self.tr("{count} changes that no file holds")
        if record.count == 1:
            text = self.tr("One change that no file holds")
        elif not record.count:
            text = self.tr("Brought back before, and not saved since")
        title = QLabel(text.format(count=record.count))
        title.setObjectName("strong")
        words.addWidget(title)
        for text in (*([self._changes(left)] if record.count else ()), self._where(left)):
            line = quiet(text)
            line.setWordWrap(True)
            line.setFixedWidth(_WORDS_PX)
            words.addWidget(line)
        words.addStretch(1)
        grid.addLayout(words, 0, 1)
        self.back, self.aside = QPushButton(self.tr("Bring it back")), QPushButton()
        self.aside.setText(self.tr("Put it aside"))
        self.aside.setToolTip(
            self.tr("It is not offered again; File, Earlier versions still has it")
        )
        self.aside.setVisible(not is_aside)
        card.clicked.connect(self.back.click)
        grid.addLayout(in_column(self.back, self.aside, 1, gap=8), 0, 2)
        grid.setColumnStretch(3, 1)

    def _changes(self, left: Left) -> str:
        """What was changed last, the newest first."""
        record = left.entry.record
        said = self.tr("last: {changes}").format(changes="; ".join(reversed(record.changes)))
        more = record.count - len(record.changes)
        if more > 0:
            said = self.tr("{changes}; and {more} more").format(changes=said, more=more)
        return said

    def _where(self, left: Left) -> str:
        path = left.entry.record.path
        if not path:
            return self.tr("It was never saved in a file.")
        if not left.has_file:
            return self.tr("Its file is gone: {path}").format(path=path)
        if left.is_other:
            return self.tr("Its file was saved since by something else: {path}").format(path=path)
        return self.tr("Its file is as it was saved last: {path}").format(path=path)
