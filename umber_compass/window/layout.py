"""The parts of the window and where they stand; what they do is joined in main_window.py."""

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QHBoxLayout,
    QLabel,
    QSizePolicy,
    QStackedWidget,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from umber_compass.window.benches import BENCHES
from umber_compass.window.benches.bench import Bench
from umber_compass.window.benches.practice.bench import PracticeDrawer
from umber_compass.window.frame.checks import Checks
from umber_compass.window.frame.notice import Notice
from umber_compass.window.frame.route import Route
from umber_compass.window.frame.tray import Tray
from umber_compass.window.stage.stage import Stage
from umber_compass.window.strip.view_strip import ViewStrip

_STRIP_PX = 136
_BENCH_PX = (440, 488)  # least and most width


class Layout(QWidget):
    """Route on the left, picture, tray and views in the middle, bench and checks on the right."""

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("desk")
        self.setAutoFillBackground(True)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 16, 8)
        row.setSpacing(16)
        self.route = Route([(r.step, r.title) for r in BENCHES.values()])
        self.practice_button = QToolButton()
        self.practice_button.setObjectName("quiet")
        self.practice_button.setText(self.tr("Practice"))
        self.practice_button.setCheckable(True)
        self.route.add_below(self.practice_button)
        row.addWidget(self.route)
        row.addLayout(self._build_middle(), 100)
        row.addWidget(self._build_right(), 90)
        self.stage.setFocusPolicy(Qt.FocusPolicy.StrongFocus)

    def parts(self) -> list[QWidget]:
        """What is styled apart, as it is seen."""
        return [
            self.route,
            self.head,
            self.stage,
            self.tray,
            self.strip,
            self.notice,
            *self.benches.values(),
            self.practice,
            self.checks,
        ]

    def set_alone(self, alone: bool) -> None:
        """Hide all but the stage, or show all again."""
        self.stage.alone = alone
        for part in (self.route, self.right, self.tray, self.strip, self.head, self.notice):
            part.setVisible(not alone)
        row, middle = self.layout(), self.middle
        assert row is not None
        row.setContentsMargins(*((0, 0, 0, 0) if alone else (0, 0, 16, 8)))
        middle.setContentsMargins(0, 0 if alone else 6, 0, 0)

    def _build_middle(self) -> QVBoxLayout:
        middle = self.middle = QVBoxLayout()
        middle.setContentsMargins(0, 6, 0, 0)
        middle.setSpacing(5)
        middle.addWidget(self._build_head())
        self.stage, self.tray, self.strip = Stage(), Tray(), ViewStrip()
        middle.addWidget(self.stage, 100)
        middle.addWidget(self.tray)
        middle.addWidget(self.strip)
        self.strip.setFixedHeight(_STRIP_PX)
        self.notice = Notice()
        middle.addWidget(self.notice)
        return middle

    def _build_head(self) -> QWidget:
        self.head = QWidget()
        head = QHBoxLayout(self.head)
        head.setContentsMargins(0, 0, 0, 0)
        head.setSpacing(12)
        self.title, self.purpose = QLabel(), QLabel()
        self.title.setObjectName("title")
        self.purpose.setObjectName("quiet")
        self.purpose.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)
        self.hint = QLabel(self.tr("Drag the leading hue"))
        self.hint.setObjectName("hint")
        self.hint.setVisible(False)
        head.addWidget(self.title)
        head.addWidget(self.purpose, 1)
        head.addWidget(self.hint)
        return self.head

    def _build_right(self) -> QWidget:
        self.right = QWidget()
        self.right.setMinimumWidth(_BENCH_PX[0])
        self.right.setMaximumWidth(_BENCH_PX[1])
        column = QVBoxLayout(self.right)
        column.setContentsMargins(0, 6, 0, 4)
        column.setSpacing(12)
        self.benches: dict[str, Bench] = {row.step: row.make() for row in BENCHES.values()}
        self.practice = PracticeDrawer()
        self.stack = QStackedWidget()
        for bench in (*self.benches.values(), self.practice):
            self.stack.addWidget(bench)
        self.checks = Checks()
        column.addWidget(self.stack, 1)
        column.addWidget(self.checks)
        return self.right
