"""The checks of a step: what was measured, what was wished, and a button that mends it."""

from typing import NamedTuple

from PySide6.QtCore import QEvent, QObject, QPointF, QSize, Qt, QTimer, Signal
from PySide6.QtGui import QFontMetrics, QPainter, QPaintEvent, QPen, QPolygonF, QResizeEvent
from PySide6.QtWidgets import (
    QFrame,
    QHBoxLayout,
    QLabel,
    QMenu,
    QPushButton,
    QScrollArea,
    QSizePolicy,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from umber_compass.steps.checks import CHECKS, Fix, Result
from umber_compass.window.widgets.rows import in_column, in_row
from umber_compass.window.widgets.theme import THEME, font
from umber_compass.words import whole_part, words

SHOWN = 3
_GATHER = 5  # results of a kind from which they are one line
_LEAST_PX, _MOST_SHARE = 180, 0.33  # px, and share of the window's height, that lines may take
_BUTTON_MOST_PX = 212  # beyond which its words are cut
_BUTTON_PX = 140  # to which a button with many words may be drawn in
_ENDS = (": ", " to chroma", " to ", ", ")  # where a button’s words may end
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


class Line(NamedTuple):
    """A result, or the worst of several of a kind that are gathered."""

    result: Result
    of: int = 1  # how many it stands for
    inner: bool = False  # whether it is one of those that were gathered
    is_open: bool = False  # whether those are seen below


def gathered(results: list[Result], opened: str = "") -> list[Line]:
    """Results as lines, those of a kind together where they are many; those of the check that is
    opened one by one below theirs."""
    lines: list[Line] = []
    done: set[str] = set()
    kinds: dict[str, list[Result]] = {}
    for result in results:
        if result.level != "fine":
            kinds.setdefault(result.check, []).append(result)
    for result in results:
        alike = kinds.get(result.check, [])
        if len(alike) < _GATHER or not CHECKS[result.check].many:
            lines.append(Line(result))
        elif result.check not in done:
            done.add(result.check)
            is_open = result.check == opened
            lines.append(Line(alike[0], len(alike), is_open=is_open))
            if is_open:
                lines += [Line(r, inner=True) for r in alike]
    return lines


def warned(results: list[Result]) -> int:
    """How many lines of some results are warnings."""
    return sum(line.result.level == "warning" for line in gathered(results))


class Row(QFrame):
    """One line."""

    taken = Signal(object)  # Fix
    peeked = Signal(object)  # Fix, or None when the look ends
    opened = Signal(str)  # the check whose results are to be seen one by one, or no longer

    def __init__(self, line: Line) -> None:
        super().__init__()
        self.setObjectName("check")
        self.line, result = line, line.result
        self.result = result
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.setInterval(PREVIEW_AFTER)
        self._timer.timeout.connect(self._peek)
        self._looked_at: Fix | None = None
        self.button: QPushButton | None = None
        self.opener: QPushButton | None = None  # where the line stands for many
        layout = QHBoxLayout(self)
        layout.setContentsMargins(28 if line.inner else 8, 7, 10, 7)
        layout.setSpacing(8)
        layout.addWidget(Mark(result.level))
        layout.addLayout(self._build_words(line), 1)
        if result.fixes and not line.is_open:
            self._build_buttons(layout, result.fixes)
        if line.of > 1:
            layout.addWidget(self._build_opener(line))

    def _build_opener(self, line: Line) -> QPushButton:
        text = self.tr("less") if line.is_open else self.tr("all {count}")
        self.opener = QPushButton(text.format(count=line.of))
        self.opener.setToolTip(self.tr("See them one by one"))
        self.opener.clicked.connect(lambda: self.opened.emit(line.result.check))
        return self.opener

    def _build_words(self, line: Line) -> QVBoxLayout:
        result, lines = line.result, QVBoxLayout()
        lines.setSpacing(0)
        said, more = str(result.title), str(result.text)
        if line.of > 1:
            more = self.tr("worst: {title}").format(title=said)
            said = str(words(CHECKS[result.check].many, count=line.of))
        if result.stuck and line.of == 1:
            more = self.tr("{text}; no fix to propose").format(text=more)
        title, text = QLabel(said), QLabel(more)
        for label in (title, text):
            label.setToolTip(CHECKS[result.check].says)
        title.setObjectName("strong")
        text.setObjectName("quiet")
        for label in (title, text):
            label.setWordWrap(True)
            label.setMinimumWidth(1)  # it wraps; its own least would push the buttons out
            label.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)
            lines.addWidget(label)
        return lines

    def _build_buttons(self, layout: QHBoxLayout, fixes: tuple[Fix, ...]) -> None:
        best = fixes[0]
        self.button = button = QPushButton()
        button.setObjectName("fix")
        button.clicked.connect(lambda: self.taken.emit(best))
        button.installEventFilter(self)
        most = _BUTTON_MOST_PX if self.line.of == 1 else _BUTTON_PX + 20
        button.setMinimumWidth(_BUTTON_PX)
        button.setMaximumWidth(most)
        # What it would bring elsewhere makes a long line: the head of it here, all of it on rest.
        fits, room = QFontMetrics(font(13, True)), most - 24
        said = whole_part(_head(best), lambda t: fits.horizontalAdvance(t) <= room, _ENDS)
        button.setText(fits.elidedText(said, Qt.TextElideMode.ElideRight, room))
        button.setToolTip(str(best.text))
        button.setAccessibleName(str(best.text))
        layout.addWidget(button)
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


def _head(fix: Fix) -> str:
    """What a fix does, without what it would bring elsewhere; dots say that there is more."""
    whole = str(fix.text)
    return whole.split(" (but:")[0] + " …" if fix.adds else whole


class Checks(QWidget):
    """The results of one step, worst first; three lines shown, the rest folded; many of a kind are
    one line that opens."""

    taken = Signal(object)
    peeked = Signal(object)

    def __init__(self) -> None:
        super().__init__()
        heading = QLabel(self.tr("Checks"))
        heading.setObjectName("heading")
        self._rest = QToolButton()
        self._rest.setObjectName("quiet")
        self._rest.clicked.connect(self._unfold)
        self._area, self._inner = QScrollArea(), QWidget()
        self._area.setWidgetResizable(True)
        self._area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self._area.setWidget(self._inner)
        self._inner.installEventFilter(self)
        self._lines = QVBoxLayout(self._inner)
        self._lines.setContentsMargins(0, 0, 0, 0)
        self._lines.setSpacing(5)
        in_column(in_row(heading, 1, self._rest), self._area, gap=5, on=self)
        self.rows: list[Row] = []
        self._results: list[Result] = []
        self._folded = True
        self._opened = ""  # the check whose results are seen one by one

    def show_results(self, results: list[Result]) -> None:
        """The step's results. Rows are made anew only where something else is said."""
        if results == self._results and self.rows:
            return
        self._results = results
        self._rebuild()

    def look_at(self, check: str, region_id: str) -> None:
        """Open what a check says of a region, and bring it to sight."""
        mine = (r for r in self._results if r.check == check and region_id in r.regions)
        found = next(mine, None)
        if found is None:
            return
        self._opened, self._folded = found.check, False
        self._rebuild()
        for row in self.rows:
            if row.result is found and row.line.of == 1:
                QTimer.singleShot(0, row, lambda r=row: self._area.ensureWidgetVisible(r))

    def _unfold(self) -> None:
        self._folded, self._opened = not self._folded, ""
        self._rebuild()

    def _open(self, check: str) -> None:
        self._opened = "" if self._opened == check else check
        self._rebuild()

    def _rebuild(self) -> None:
        focused = next((i for i, r in enumerate(self.rows) if _has_focus(r)), None)
        for row in self.rows:
            row.hide()
            row.deleteLater()
        lines = gathered(self._results, self._opened)
        shown = lines if self._opened or not self._folded else lines[:SHOWN]
        self.rows = [Row(line) for line in shown]
        for row in self.rows:
            row.taken.connect(self.taken)
            row.peeked.connect(self.peeked)
            row.opened.connect(self._open)
            self._lines.addWidget(row)
        rest = len(lines) - SHOWN
        self._rest.setVisible(rest > 0 or bool(self._opened))
        more = self.tr("{count} more").format(count=rest)
        folded = self._folded and not self._opened
        self._rest.setText(more if folded else self.tr("fewer"))
        self._size()
        button = self.rows[focused].button if focused is not None and focused < len(shown) else None
        if button is not None:
            button.setFocus()

    def resizeEvent(self, event: QResizeEvent) -> None:
        self._size()

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Lines are as high as their words once these are styled."""
        if event.type() == QEvent.Type.LayoutRequest:
            self._size()
        return super().eventFilter(watched, event)

    def _size(self) -> None:
        """As high as the lines are, up to a share of the window beyond which they scroll."""
        if not self.isVisible():
            return  # its width is not known yet
        width = max(self.width(), 1)
        heights = [r.heightForWidth(width) for r in self.rows]
        whole = sum(heights) + self._lines.spacing() * max(len(heights) - 1, 0)
        most = max(_LEAST_PX, round(self.window().height() * _MOST_SHARE))
        few = len(self.rows) <= SHOWN
        height = whole if few else min(whole, most)
        if height != self._area.height():
            self._area.setFixedHeight(height)
            # At once: what stands above must not move a turn later, under a hand.
            for part in (self, self.parentWidget()):
                layout = part.layout() if part is not None else None
                if layout is not None:
                    layout.activate()


def _has_focus(row: Row) -> bool:
    return row.button is not None and row.button.hasFocus()
