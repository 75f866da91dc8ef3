"""The page of candidates: several sketches for one piece, small and side by side; one is chosen,
the rest stay."""

from PySide6.QtCore import QRectF, QSize, Qt, Signal
from PySide6.QtGui import QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import (
    QAbstractButton,
    QGridLayout,
    QPushButton,
    QSizePolicy,
    QVBoxLayout,
    QWidget,
)

from umber_compass.plan.candidate_edits import remove_candidate
from umber_compass.plan.model import Plan
from umber_compass.window.bench.bench import quiet
from umber_compass.window.desk.candidates import CHOSEN, Shown
from umber_compass.window.widgets.bitmap import Bitmap
from umber_compass.window.widgets.clearing import clear
from umber_compass.window.widgets.rows import in_column, in_row
from umber_compass.window.widgets.scrolled import scrolled
from umber_compass.window.widgets.tabs import Tabs
from umber_compass.window.widgets.theme import THEME, font
from umber_compass.window.widgets.whole_px import draw_image, fitted

_WAYS = ("colour", "grey", "mirrored")
_WORDS = 38


class CandidateCard(QAbstractButton):
    """One sketch as it is planned; the chosen one is framed."""

    def __init__(self, shown: Shown, chosen: bool) -> None:
        super().__init__()
        self.shown, self._chosen = shown, chosen
        self._bitmap = Bitmap(shown.packed)
        self.setText(shown.name)
        self.setAccessibleName(shown.name)
        self.setAccessibleDescription(shown.says)
        self.setToolTip(f"{shown.name}\n{shown.says}")
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    def sizeHint(self) -> QSize:
        return QSize(220, 165 + _WORDS)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        image, room = self._bitmap.image, QRectF(0, 0, self.width(), self.height() - _WORDS)
        box = fitted(room, image)
        box.moveBottom(room.bottom())
        draw_image(painter, box, image)
        if self._chosen or self.hasFocus() or self.underMouse():
            painter.setPen(QPen(THEME.colour("ink"), 3 if self._chosen or self.hasFocus() else 1.5))
            painter.drawRect(box.adjusted(1, 1, -1, -1))
        for text, px, strong, ink, top in (
            (self.text(), 13, self._chosen, "ink", 3),
            (self.shown.says, 12, False, "quiet", 19),
        ):
            painter.setFont(font(px, strong))
            painter.setPen(THEME.colour(ink))
            cut = painter.fontMetrics().elidedText(
                text, Qt.TextElideMode.ElideRight, int(room.width())
            )
            at = QRectF(0, room.bottom() + top, room.width(), 17)
            painter.drawText(at, Qt.AlignmentFlag.AlignLeft, cut)


class CandidatesPage(QWidget):
    """Says which sketch is chosen, and which is added."""

    edit_wanted = Signal(object)
    adding = Signal()
    choosing = Signal(str)
    wanted = Signal(str)  # pictures in a way: colour, grey, mirrored

    def __init__(self) -> None:
        super().__init__()
        self._plan: Plan | None = None
        self._focus = ""
        self.ways = Tabs([self.tr("in colour"), self.tr("grey"), self.tr("mirrored")], True)
        self.ways.opened.connect(lambda i: self._show_way(_WAYS[i]))
        self.add = QPushButton(self.tr("Add a sketch …"))
        self.add.clicked.connect(self.adding)
        inner = QWidget()
        self._grid = QGridLayout(inner)
        self._grid.setContentsMargins(0, 0, 8, 0)
        self._grid.setSpacing(12)
        self.says = quiet(
            self.tr(
                "A click chooses a sketch for the piece; the others stay here with all that was "
                "decided for them."
            )
        )
        self.says.setWordWrap(True)
        in_column(in_row((self.ways, 1), self.add), (scrolled(inner), 1), self.says, gap=8, on=self)
        self.way = _WAYS[0]
        self.cards: list[CandidateCard] = []

    def _show_way(self, way: str) -> None:
        self.way = way
        self.wanted.emit(way)

    def show_plan(self, plan: Plan) -> None:
        """Show a plan's sketches; pictures follow."""
        before = self._plan
        self._plan = plan
        same = before is not None and before.candidates is plan.candidates
        if self.isVisible() and not (same and before is not None and before.sketch is plan.sketch):
            if not self.cards:
                clear(self._grid)
                self._grid.addWidget(quiet(self.tr("Reading the sketches …")), 0, 0)
            self.wanted.emit(self.way)

    def show_pictures(self, found: list[Shown]) -> None:
        """The sketches as they are planned, the chosen one first."""
        clear(self._grid)
        self.cards = []
        for i, one in enumerate(found):
            card = CandidateCard(one, one.id == CHOSEN)
            card.clicked.connect(lambda _=False, c=one.id: self._on_clicked(c))
            self.cards.append(card)
            cell = QWidget()
            lines = QVBoxLayout(cell)
            lines.setContentsMargins(0, 0, 0, 0)
            lines.setSpacing(2)
            lines.addWidget(card)
            if one.id != CHOSEN:
                remove = QPushButton(self.tr("remove"))
                remove.setObjectName("small")
                remove.clicked.connect(lambda _=False, s=one: self._remove(s))
                lines.addWidget(remove, 0, Qt.AlignmentFlag.AlignLeft)
            self._grid.addWidget(cell, i // 2, i % 2, Qt.AlignmentFlag.AlignTop)
        self._grid.setRowStretch(len(found) // 2 + 1, 1)
        for i in (0, 1):
            self._grid.setColumnStretch(i, 1)

    def _on_clicked(self, candidate: str) -> None:
        if candidate != CHOSEN:
            self.choosing.emit(candidate)

    def _remove(self, one: Shown) -> None:
        self.edit_wanted.emit(remove_candidate(one.id, one.name))
