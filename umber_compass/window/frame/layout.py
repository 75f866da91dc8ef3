"""The parts of the window and where they stand; what they do is joined in main_window.py."""

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QContextMenuEvent
from PySide6.QtWidgets import (
    QSplitter,
    QStackedWidget,
    QToolButton,
    QWidget,
)

from umber_compass.window.bench.bench import Bench
from umber_compass.window.bench.benches import Benches
from umber_compass.window.benches import BENCHES
from umber_compass.window.drawers import DRAWERS
from umber_compass.window.frame.checks import Checks
from umber_compass.window.frame.guide import GuideCard
from umber_compass.window.frame.middle import Middle
from umber_compass.window.frame.route import Route
from umber_compass.window.widgets.rows import in_column, in_row

_BENCH_PX = 440  # least width
_SHARES = (640, 488)  # of middle and bench, in a window of the usual size


class Layout(QWidget):
    """Route on the left, picture, tray and views in the middle, bench and checks on the right; the
    last two share the width as they are told to."""

    menu_wanted = Signal(object)  # a context menu event that no part took

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("desk")
        self.setAutoFillBackground(True)
        self.route = Route([(r.step, r.title) for r in BENCHES.values()])
        self.drawer_buttons: dict[str, QToolButton] = {}
        for name, drawer in DRAWERS.items():
            button = QToolButton()
            button.setObjectName("quiet")
            button.setText(self.tr(drawer.title))
            button.setCheckable(True)
            self.drawer_buttons[name] = button
            self.route.add_below(button)
        self.middle = Middle()
        self.stage, self.tray, self.strip = self.middle.stage, self.middle.tray, self.middle.strip
        self.wall = self.middle.wall
        self.notice, self.head = self.middle.notice, self.middle.head
        self.title, self.purpose, self.hint = (
            self.middle.title,
            self.middle.purpose,
            self.middle.hint,
        )
        self.splitter = QSplitter(Qt.Orientation.Horizontal)
        self.splitter.setHandleWidth(16)
        self.splitter.setChildrenCollapsible(False)
        self.splitter.addWidget(self.middle)
        self.splitter.addWidget(self._build_right())
        for i, share in enumerate(_SHARES):
            self.splitter.setStretchFactor(i, share)
        self.splitter.setSizes(list(_SHARES))
        in_row(self.route, (self.splitter, 1), gap=16, margins=(0, 0, 16, 8), on=self)

    def parts(self) -> list[QWidget]:
        """What is styled apart, as it is seen."""
        return [
            self.route,
            self.head,
            self.stage,
            self.tray,
            self.strip,
            self.wall,
            self.notice,
            self.checks,
        ]

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        """Events that no part takes come here."""
        event.ignore()
        self.menu_wanted.emit(event)

    def set_alone(self, alone: bool) -> None:
        """Hide all but the stage, or show all again."""
        self.middle.set_alone(alone)
        for part in (self.route, self.right):
            part.setVisible(not alone)
        row = self.layout()
        assert row is not None
        row.setContentsMargins(*((0, 0, 0, 0) if alone else (0, 0, 16, 8)))

    def _build_right(self) -> QWidget:
        self.right = QWidget()
        self.right.setMinimumWidth(_BENCH_PX)
        self.benches = Benches({row.step: row.make for row in BENCHES.values()})
        self.drawers = Benches({row.name: row.make for row in DRAWERS.values()})
        self.stack = QStackedWidget()
        for benches in (self.benches, self.drawers):
            benches.each(self._on_made)
        self.checks = Checks()
        self.guide = GuideCard()
        in_column(
            self.guide, (self.stack, 1), self.checks, gap=12, margins=(0, 6, 0, 4), on=self.right
        )
        return self.right

    def _on_made(self, _: str, bench: Bench) -> None:
        self.stack.addWidget(bench)
