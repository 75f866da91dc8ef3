"""The study wall: cards, or two or three of them compared, and how they are seen."""

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import (
    QHBoxLayout,
    QLabel,
    QMenu,
    QPushButton,
    QScrollArea,
    QStackedWidget,
    QToolButton,
    QWidget,
)

from umber_compass.window.wall.card_grid import CardGrid
from umber_compass.window.wall.compare import Compare
from umber_compass.window.widgets.rows import in_column, in_row
from umber_compass.window.widgets.tabs import Tabs

# Ways to see every picture of the wall: title, and the view; none for the picture as it is.
LOOKS = (
    ("colour", ""),
    ("grey", "grey"),
    ("small", "small"),
    ("mirrored", "mirrored"),
    ("squint", "squint"),
)
_MODES = (("side", "Side by side"), ("split", "Split"), ("fade", "Slow fade"))


class StudyWall(QWidget):
    """Shows what it is told; says what is wanted."""

    looked = Signal(str)  # a view
    compared = Signal(str)  # a mode; empty: back to the wall

    def __init__(self) -> None:
        super().__init__()
        self.looks = Tabs([self.tr(title) for title, _ in LOOKS])
        self.looks.opened.connect(lambda i: self.looked.emit(LOOKS[i][1]))
        self.says = QLabel(self.tr("Drag across a chosen card to turn its hues"))
        self.says.setObjectName("quiet")
        self.grid, self.compare = CardGrid(), Compare()
        self.area = QScrollArea()
        self.area.setWidgetResizable(True)
        self.area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.area.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.area.setWidget(self.grid)
        self.pages = QStackedWidget()
        self.pages.addWidget(self.area)
        self.pages.addWidget(self.compare)
        self.column = in_column(
            in_row(self.looks, 1, self.says),
            (self.pages, 1),
            self._build_foot(),
            gap=8,
            on=self,
        )

    def put_above(self, strip: QWidget) -> None:
        """Put a strip above the cards."""
        self.column.insertWidget(0, strip)

    def _build_foot(self) -> QHBoxLayout:
        line = QHBoxLayout()
        line.setSpacing(6)
        self.back = QPushButton(self.tr("Back to the wall"))
        self.back.clicked.connect(lambda: self.compared.emit(""))
        line.addWidget(self.back)
        self.modes: dict[str, QPushButton] = {}
        for mode, title in _MODES:
            button = QPushButton(self.tr(title))
            button.setCheckable(True)
            button.clicked.connect(lambda _=False, m=mode: self.compared.emit(m))
            self.modes[mode] = button
            line.addWidget(button)
        line.addStretch(1)
        self.sheet = QToolButton()
        self.sheet.setText(self.tr("Client set ▾"))
        self.sheet.setToolTip(
            self.tr("A sheet of variants as one picture, to be sent to whoever decides")
        )
        self.sheet.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        self.sheet.setMenu(QMenu(self.sheet))
        line.addWidget(self.sheet)
        return line

    def resizeEvent(self, event: QResizeEvent) -> None:
        self._show_hint()

    def _show_hint(self) -> None:
        """The hint only over cards, and where there is room for all of it."""
        wanted = self.looks.sizeHint().width() + self.says.sizeHint().width() + 24
        on_cards = self.pages.currentIndex() == 0
        self.says.setVisible(on_cards and self.width() >= wanted)

    @property
    def room(self) -> int:
        """How high a view of the cards is, px."""
        return self.area.viewport().height()

    def reveal(self, at: int) -> None:
        """Bring a card into sight."""
        boxes = self.grid.placing.boxes()
        if 0 <= at < len(boxes):
            box = boxes[at]
            self.area.ensureVisible(round(box.x()), round(box.bottom()), 0, round(box.height() / 2))

    def show_mode(self, mode: str, chosen: int) -> None:
        """The wall, or chosen studies compared; only two or three can be."""
        self.pages.setCurrentIndex(1 if mode else 0)
        self._show_hint()
        self.back.setVisible(bool(mode))
        for name, button in self.modes.items():
            button.setChecked(name == mode)
            button.setEnabled(chosen == 2 or (name == "side" and chosen == 3))
            tip = self.tr("Choose two studies first: Ctrl and a click, or Space")
            button.setToolTip("" if button.isEnabled() else tip)
        if self.compare.mode != mode and mode:
            self.compare.set_mode(mode)
        if not mode:
            self.compare.clock.stop()
