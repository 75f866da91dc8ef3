"""Small choices side by side: words of which one or several are down, areas of the drawing."""

from collections.abc import Iterable, Sequence

from PySide6.QtCore import QRectF, QSize, Qt, Signal
from PySide6.QtGui import QColor, QIcon, QPainter, QPixmap
from PySide6.QtWidgets import QHBoxLayout, QMenu, QPushButton, QSizePolicy, QToolButton, QWidget

from umber_compass.window.widgets.outlines import SIDE, Outlines
from umber_compass.window.widgets.theme import THEME

_AROUND = 18  # px round the words of an area's chip


class Chips(QWidget):
    """Says which one was clicked; which are down is shown by the plan."""

    chosen = Signal(str)

    def __init__(self, rows: Sequence[tuple[str, str, str]]) -> None:
        super().__init__()
        line = QHBoxLayout(self)
        line.setContentsMargins(0, 0, 0, 0)
        line.setSpacing(4)
        self.buttons: dict[str, QPushButton] = {}
        for name, title, says in rows:
            button = QPushButton(title)
            button.setObjectName("small")
            button.setCheckable(True)
            button.setToolTip(says)
            button.clicked.connect(lambda _=False, n=name: self.chosen.emit(n))
            self.buttons[name] = button
            line.addWidget(button)

    def show_down(self, names: Iterable[str]) -> None:
        """Which are down."""
        down = set(names)
        for name, button in self.buttons.items():
            button.setChecked(name in down)


class AreaChip(QToolButton):
    """An area of the drawing by its outline: ticked, or with a menu of what it may be."""

    picked = Signal(str, str)  # a region, what was chosen; empty for a tick that was clicked

    def __init__(self, menu: Sequence[str] = ()) -> None:
        super().__init__()
        self.region = ""
        self.setObjectName("quiet")
        self.setIconSize(QSize(SIDE, SIDE))
        self.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Fixed)
        if menu:
            self._build_menu(menu)
        else:
            self.setCheckable(True)
            self.clicked.connect(lambda: self.picked.emit(self.region, ""))

    def _build_menu(self, names: Sequence[str]) -> None:
        made = QMenu(self)
        for name in names:
            made.addAction(name.replace("-", " ")).triggered.connect(
                lambda _=False, n=name: self.picked.emit(self.region, n)
            )
        self.setMenu(made)
        self.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)

    def show_area(
        self, region: str, name: str, label: int, outlines: Outlines, said: str, ticked: bool
    ) -> None:
        """A region, its name, and what it is said to be."""
        self.region = region
        self.setIcon(QIcon(_icon(outlines, label, self.devicePixelRatioF())))
        self.setAccessibleName(f"{name}: {said}")
        self.setToolTip(f"{name}: {said}")
        if self.menu() is not None:
            self.setText(f"{said} ▾")
            wide = self.fontMetrics().horizontalAdvance(self.text())
            self.setMinimumWidth(SIDE + wide + _AROUND)
        else:
            self.setChecked(ticked)
            self.setText("✓" if ticked else "")
        self.setToolButtonStyle(Qt.ToolButtonStyle.ToolButtonTextBesideIcon)


def _icon(outlines: Outlines, label: int, ratio: float) -> QPixmap:
    made = QPixmap(round(SIDE * ratio), round(SIDE * ratio))
    made.setDevicePixelRatio(ratio)
    made.fill(QColor(0, 0, 0, 0))
    painter = QPainter(made)
    outlines.paint(painter, QRectF(0, 0, SIDE, SIDE), label, (THEME.colour("ink").name(),))
    painter.end()
    return made
