"""The checks of a step: what was measured, what was wished, and a button that mends it."""

from PySide6.QtCore import QEvent, QObject, QPointF, QSize, QTimer, Signal
from PySide6.QtGui import QPainter, QPaintEvent, QPen, QPolygonF
from PySide6.QtWidgets import (
    QFrame,
    QHBoxLayout,
    QLabel,
    QMenu,
    QPushButton,
    QSizePolicy,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from umber_compass.steps.checks import Fix, Result
from umber_compass.window.widgets.theme import THEME

SHOWN = 3
PREVIEW_AFTER = 150  # ms of rest on a button


class Mark(QWidget):
    """A filled triangle for a warning, a hollow one for a note, a tick for fine."""

    def __init__(self, level: str) -> None:
        super().__init__()
        self._level = level
        self.setFixedSize(QSize(26, 24))
        self.setAccessibleName(level)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        ink = THEME.colour("ink")
        painter.setPen(QPen(ink, 1.8))
        if self._level == "fine":
            tick = [QPointF(5, 12), QPointF(10, 17), QPointF(20, 6)]
            painter.drawPolyline(QPolygonF(tick))
            return
        if self._level == "warning":
            painter.setBrush(ink)
        painter.drawPolygon(QPolygonF([QPointF(12, 4), QPointF(20, 19), QPointF(4, 19)]))


class Row(QFrame):
    """One result."""

    taken = Signal(object)  # Fix
    peeked = Signal(object)  # Fix, or None when the look ends

    def __init__(self, result: Result) -> None:
        super().__init__()
        self.setObjectName("check")
        self.result = result
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.setInterval(PREVIEW_AFTER)
        self._timer.timeout.connect(self._peek)
        self._looked_at: Fix | None = None
        layout = QHBoxLayout(self)
        layout.setContentsMargins(8, 7, 10, 7)
        layout.setSpacing(8)
        layout.addWidget(Mark(result.level))
        layout.addLayout(self._build_words(result), 1)
        if result.fixes:
            self._build_buttons(layout, result.fixes)

    def _build_words(self, result: Result) -> QVBoxLayout:
        lines = QVBoxLayout()
        lines.setSpacing(0)
        title, text = QLabel(str(result.title)), QLabel(str(result.text))
        title.setObjectName("strong")
        text.setObjectName("quiet")
        for label in (title, text):
            label.setWordWrap(True)
            label.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)
            lines.addWidget(label)
        return lines

    def _build_buttons(self, layout: QHBoxLayout, fixes: tuple[Fix, ...]) -> None:
        best = fixes[0]
        button = QPushButton(str(best.text))
        button.setObjectName("fix")
        button.clicked.connect(lambda: self.taken.emit(best))
        button.installEventFilter(self)
        layout.addWidget(button)
        self.button = button
        if len(fixes) > 1:
            more = QToolButton()
            more.setText("…")
            more.setAccessibleName(self.tr("Other ways"))
            more.setToolTip(self.tr("Other ways"))
            more.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
            more.setMenu(self._menu(fixes))
            layout.addWidget(more)

    def _menu(self, fixes: tuple[Fix, ...]) -> QMenu:
        menu = QMenu(self)
        for fix in fixes:
            action = menu.addAction(str(fix.text))
            action.triggered.connect(lambda _=False, f=fix: self.taken.emit(f))
            action.hovered.connect(lambda f=fix: self._wait(f))
        menu.aboutToHide.connect(self._leave)
        return menu

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        if event.type() in (QEvent.Type.Enter, QEvent.Type.FocusIn):
            self._wait(self.result.fixes[0])
        elif event.type() in (QEvent.Type.Leave, QEvent.Type.FocusOut):
            self._leave()
        return super().eventFilter(watched, event)

    def _wait(self, fix: Fix) -> None:
        self._looked_at = fix
        self._timer.start()

    def _peek(self) -> None:
        self.peeked.emit(self._looked_at)

    def _leave(self) -> None:
        self._timer.stop()
        self.peeked.emit(None)


class Checks(QWidget):
    """The results of one step, worst first; three shown, the rest folded."""

    taken = Signal(object)
    peeked = Signal(object)

    def __init__(self) -> None:
        super().__init__()
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(5)
        head = QHBoxLayout()
        heading = QLabel(self.tr("Checks"))
        heading.setObjectName("heading")
        self._rest = QToolButton()
        self._rest.setObjectName("quiet")
        self._rest.clicked.connect(self._unfold)
        head.addWidget(heading)
        head.addStretch(1)
        head.addWidget(self._rest)
        layout.addLayout(head)
        self._layout = layout
        self.rows: list[Row] = []
        self._results: list[Result] = []
        self._folded = True

    def show_results(self, results: list[Result]) -> None:
        """The step's results. Rows are made anew only where something else is said."""
        if results == self._results and self.rows:
            return
        self._results = results
        self._rebuild()

    def _unfold(self) -> None:
        self._folded = not self._folded
        self._rebuild()

    def _rebuild(self) -> None:
        focused = next((i for i, r in enumerate(self.rows) if _has_focus(r)), None)
        for row in self.rows:
            row.hide()
            row.deleteLater()
        count = SHOWN if self._folded else len(self._results)
        self.rows = [Row(r) for r in self._results[:count]]
        for row in self.rows:
            row.taken.connect(self.taken)
            row.peeked.connect(self.peeked)
            self._layout.addWidget(row)
        rest = len(self._results) - SHOWN
        self._rest.setVisible(rest > 0)
        more = self.tr("{count} more").format(count=rest)
        self._rest.setText(more if self._folded else self.tr("fold"))
        if focused is not None and focused < len(self.rows) and self.rows[focused].result.fixes:
            self.rows[focused].button.setFocus()


def _has_focus(row: Row) -> bool:
    return bool(row.result.fixes) and row.button.hasFocus()
