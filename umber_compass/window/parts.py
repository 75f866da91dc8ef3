"""The window's parts and where they stand."""

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QHBoxLayout,
    QLabel,
    QPushButton,
    QSizePolicy,
    QStackedWidget,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from umber_compass.window.benches.bench import Bench
from umber_compass.window.benches.handoff import HandoffBench
from umber_compass.window.benches.harmony import HarmonyBench
from umber_compass.window.benches.light import LightBench
from umber_compass.window.benches.practice import PracticeDrawer
from umber_compass.window.benches.ramps import RampsBench
from umber_compass.window.benches.sketch import SketchBench
from umber_compass.window.benches.values import ValuesBench
from umber_compass.window.frame.checks import Checks
from umber_compass.window.frame.route import Route
from umber_compass.window.frame.stage import Stage
from umber_compass.window.frame.tray import Tray
from umber_compass.window.frame.view_strip import ViewStrip

STEPS = (
    ("sketch", "Sketch"),
    ("harmony", "Harmony"),
    ("values", "Values"),
    ("light", "Light"),
    ("ramps", "Ramps"),
    ("handoff", "Hand-off"),
)


class Parts(QWidget):
    """Route on the left, picture, tray and views in the middle, bench and checks on the right."""

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("desk")
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 16, 8)
        row.setSpacing(16)
        self.route = Route(list(STEPS))
        self.practice_button = QToolButton()
        self.practice_button.setObjectName("quiet")
        self.practice_button.setText(self.tr("Practice"))
        self.practice_button.setCheckable(True)
        self.route.add_below(self.practice_button)
        row.addWidget(self.route)
        row.addLayout(self._build_middle(), 100)
        row.addWidget(self._build_right(), 90)
        self.stage.setFocusPolicy(Qt.FocusPolicy.StrongFocus)

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
        self.head = QWidget()
        head = QHBoxLayout(self.head)
        head.setContentsMargins(0, 0, 0, 0)
        head.setSpacing(12)
        self.plan_title, self.plan_says = QLabel(), QLabel()
        self.plan_title.setObjectName("title")
        self.plan_says.setObjectName("quiet")
        self.plan_says.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)
        self.hint = QLabel(self.tr("Drag the leading hue"))
        self.hint.setObjectName("hint")
        self.hint.setVisible(False)
        head.addWidget(self.plan_title)
        head.addWidget(self.plan_says, 1)
        head.addWidget(self.hint)
        middle.addWidget(self.head)
        self.stage, self.tray, self.strip = Stage(), Tray(), ViewStrip()
        middle.addWidget(self.stage, 100)
        middle.addWidget(self.tray)
        middle.addWidget(self.strip)
        self.strip.setFixedHeight(136)
        below = QHBoxLayout()
        self.notice = QLabel()
        self.notice.setObjectName("quiet")
        self.notice.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)
        self.notice.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
        self.notice.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.stop = QPushButton(self.tr("Stop"))
        self.stop.setVisible(False)
        below.addWidget(self.notice, 1)
        below.addWidget(self.stop)
        middle.addLayout(below)
        return middle

    def _build_right(self) -> QWidget:
        right = QWidget()
        right.setMinimumWidth(440)
        right.setMaximumWidth(488)
        column = QVBoxLayout(right)
        column.setContentsMargins(0, 6, 0, 4)
        column.setSpacing(12)
        self.sketch_bench, self.harmony_bench = SketchBench(), HarmonyBench()
        self.values_bench, self.ramps_bench = ValuesBench(), RampsBench()
        self.handoff_bench, self.practice_drawer = HandoffBench(), PracticeDrawer()
        self.light_bench = LightBench()
        self.benches: dict[str, Bench] = {
            "sketch": self.sketch_bench,
            "harmony": self.harmony_bench,
            "values": self.values_bench,
            "light": self.light_bench,
            "ramps": self.ramps_bench,
            "handoff": self.handoff_bench,
            "practice": self.practice_drawer,
        }
        self.stack = QStackedWidget()
        for bench in self.benches.values():
            self.stack.addWidget(bench)
        self.checks = Checks()
        column.addWidget(self.stack, 1)
        column.addWidget(self.checks)
        self.right = right
        return right
