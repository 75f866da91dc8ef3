"""The middle of the window: head, stage, tray, views, and the line that says what happened. The
views stand where the picture leaves room: below one like a screen, beside a portrait, two by two
below a very wide one."""

from PySide6.QtCore import Qt
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import QGridLayout, QLabel, QSizePolicy, QVBoxLayout, QWidget

from umber_compass.window.frame.tray import Tray
from umber_compass.window.stage.arriving import Arriving
from umber_compass.window.stage.stage import Stage
from umber_compass.window.strip.view_strip import CAPTION, GAP, ViewStrip
from umber_compass.window.wall.wall import StudyWall
from umber_compass.window.widgets.notice import Notice
from umber_compass.window.widgets.rows import in_row

_UPRIGHT, _WIDE = 1.0, 2.2  # width / height of a picture, under and over which views move
_STRIP = 0.18  # of the height for views in a row; never less than
_STRIP_PX, _HEAD_PX = 136, 26
_COLUMN = 0.17, 0.3  # of the width for views in a column, least and most


class Middle(QWidget):
    """The picture and what goes with it."""

    def __init__(self) -> None:
        super().__init__()
        self.column = QVBoxLayout(self)
        self.column.setContentsMargins(0, 6, 0, 0)
        self.column.setSpacing(5)
        self.column.addWidget(self._build_head())
        self.stage, self.tray, self.strip = Stage(), Tray(), ViewStrip()
        self.arriving = Arriving(self.stage)
        self.stage.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self._grid = QGridLayout()
        self._grid.setSpacing(8)
        self._grid.setVerticalSpacing(5)
        self._grid.setRowStretch(0, 1)
        self._grid.setColumnStretch(0, 1)
        self._grid.addWidget(self.stage, 0, 0)
        self._grid.addWidget(self.tray, 1, 0, 1, 2)
        self.column.addLayout(self._grid, 1)
        self.wall = StudyWall()
        self.wall.setVisible(False)
        self.column.addWidget(self.wall, 1)
        self._walled = self._alone = False
        self.notice = Notice()
        self.column.addWidget(self.notice)
        self.aspect = 4 / 3  # of the picture, width / height
        self._across = 0  # views side by side; none are placed yet
        self._arrange()

    def _build_head(self) -> QWidget:
        self.head = QWidget()
        self.head.setFixedHeight(_HEAD_PX)  # whatever it says, or the picture would move with it
        self.title, self.purpose = QLabel(), QLabel()
        self.title.setObjectName("title")
        self.purpose.setObjectName("quiet")
        self.purpose.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)
        self.hint = QLabel(self.tr("Drag the leading hue"))
        self.hint.setObjectName("hint")
        self.hint.setVisible(False)
        in_row(self.title, (self.purpose, 1), self.hint, gap=12, on=self.head)
        return self.head

    def suit(self, aspect: float) -> None:
        """Stand as suits a picture of this width / height."""
        if aspect != self.aspect:
            self.aspect = aspect
            self._arrange()

    def set_alone(self, alone: bool) -> None:
        """Hide all but the stage, or show all again."""
        self._alone = alone
        self.stage.set_alone(alone)
        for part in (self.head, self.notice):
            part.setVisible(not alone)
        self._show_parts()
        self.column.setContentsMargins(0, 0 if alone else 6, 0, 0)

    def show_wall(self, on: bool) -> None:
        """Have the study wall in the stage's place, or the stage again."""
        self._walled = on
        self._show_parts()

    def _show_parts(self) -> None:
        wall = self._walled and not self._alone
        self.wall.setVisible(wall)
        self.stage.setVisible(not wall)
        for part in (self.tray, self.strip):
            part.setVisible(not wall and not self._alone)
        self.column.setStretch(1, 0 if wall else 1)

    def resizeEvent(self, event: QResizeEvent) -> None:
        self._size_strip()

    def _arrange(self) -> None:
        across = 1 if self.aspect < _UPRIGHT else 2 if self.aspect > _WIDE else 4
        if across != self._across:
            self._across = across
            self._grid.removeWidget(self.strip)
            self._grid.setHorizontalSpacing(12 if across == 1 else 0)
            if across == 1:
                self._grid.addWidget(self.strip, 0, 1)
            else:
                self._grid.addWidget(self.strip, 2, 0, 1, 2)
            self.strip.stand(across)
        self._size_strip()

    def _size_strip(self) -> None:
        """As much room for the views as leaves the picture its own."""
        strip, most = self.strip, 16_777_215  # Qt's own
        strip.setMinimumSize(0, 0)
        strip.setMaximumSize(most, most)
        if self._across == 1:
            # Four of them as high as the stage.
            tile = (self.stage.height() - 3 * GAP) / 4 - CAPTION
            wished = tile * self.aspect
            low, high = (int(self.width() * share) for share in _COLUMN)
            strip.setFixedWidth(round(min(max(wished, low), high)))
        elif self._across == 4:
            strip.setFixedHeight(max(_STRIP_PX, round(self.height() * _STRIP)))
        else:
            # Two rows of them, in what a very wide picture does not need.
            tile = (self.width() - GAP) / 2 / self.aspect + CAPTION
            strip.setFixedHeight(round(max(_STRIP_PX, 2 * tile + GAP)))
