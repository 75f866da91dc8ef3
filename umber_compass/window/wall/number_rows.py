"""Numbers of studies side by side: what is measured in the middle, or on the left where there are
more than two; the better figure in bold."""

from typing import TYPE_CHECKING, NamedTuple

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QSizePolicy, QWidget

from umber_compass.window.widgets.theme import THEME, font

if TYPE_CHECKING:
    from umber_compass.steps.studies.numbers import Numbers

ROW = 24  # px


class NumberRow(NamedTuple):
    """One measure of several studies."""

    title: str
    texts: tuple[str, ...]
    best: int | None  # which of them is better; None where none is


def rows_of(found: "list[Numbers | None]") -> list[NumberRow]:
    """The rows of some studies' numbers; dots stand for what is not known yet."""
    known = next((n for n in found if n is not None), None)
    if known is None:
        return []
    rows = []
    for i, figure in enumerate(known.figures):
        texts = tuple("…" if n is None else n.figures[i].text for n in found)
        rows.append(NumberRow(figure.title, texts, _best(found, i)))
    return rows


def _best(found: "list[Numbers | None]", at: int) -> int | None:
    figures = [None if n is None else n.figures[at] for n in found]
    numbers = [f.number * f.better for f in figures if f is not None and f.number is not None]
    if len(numbers) < len(found) or len(found) < 2 or not figures[0] or not figures[0].better:
        return None
    order = sorted(numbers, reverse=True)
    # What is read as the same is no better.
    texts = {f.text for f in figures if f is not None}
    return numbers.index(order[0]) if order[0] > order[1] and len(texts) > 1 else None


def paint_rows(painter: QPainter, box: QRectF, rows: list[NumberRow], titles: list[str]) -> None:
    """The rows in a box."""
    count = len(titles)
    middle = Qt.AlignmentFlag.AlignCenter
    for i, row in enumerate(rows):
        line = QRectF(box.x(), box.y() + i * ROW, box.width(), ROW)
        painter.setPen(QPen(THEME.colour("well"), 1))
        painter.drawLine(QPointF(line.x(), line.bottom()), QPointF(line.right(), line.bottom()))
        for k, (cell, align) in enumerate(_cells(line, count)):
            painter.setPen(THEME.colour("ink"))
            painter.setFont(font(13, row.best == k))
            painter.drawText(cell, align | Qt.AlignmentFlag.AlignVCenter, row.texts[k])
        painter.setPen(THEME.colour("quiet"))
        painter.setFont(font(12))
        if count == 2:
            painter.drawText(line, middle, row.title)
        else:
            painter.drawText(line, Qt.AlignmentFlag.AlignVCenter, row.title)


def _cells(line: QRectF, count: int) -> list[tuple[QRectF, Qt.AlignmentFlag]]:
    """Where each study's figure stands in a row, and on which side."""
    if count == 2:
        third = line.width() / 3
        left = QRectF(line.x(), line.y(), third, line.height())
        right = QRectF(line.right() - third, line.y(), third, line.height())
        return [(left, Qt.AlignmentFlag.AlignLeft), (right, Qt.AlignmentFlag.AlignRight)]
    begin = line.width() * 0.34
    each = (line.width() - begin) / max(count, 1)
    return [
        (
            QRectF(line.x() + begin + k * each, line.y(), each, line.height()),
            Qt.AlignmentFlag.AlignRight,
        )
        for k in range(count)
    ]


class NumberTable(QWidget):
    """The same as a widget, with the studies' titles over it."""

    def __init__(self) -> None:
        super().__init__()
        self._rows: list[NumberRow] = []
        self._titles: list[str] = []
        self.setSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Fixed)

    def sizeHint(self) -> QSize:
        return QSize(300, ROW * (len(self._rows) + 1) + 2)

    def show_rows(self, rows: list[NumberRow], titles: list[str]) -> None:
        """Rows, and a title for each study."""
        if (rows, titles) == (self._rows, self._titles):
            return
        taller = len(rows) != len(self._rows)
        self._rows, self._titles = rows, titles
        said = "; ".join(f"{r.title}: {', '.join(r.texts)}" for r in rows)
        self.setAccessibleName(said)
        if taller:
            self.updateGeometry()
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        if not self._rows:
            return
        painter = QPainter(self)
        painter.setFont(font(12, True))
        painter.setPen(THEME.colour("ink"))
        head = QRectF(0, 0, self.width(), ROW)
        for title, (cell, align) in zip(self._titles, _cells(head, len(self._titles)), strict=True):
            cut = painter.fontMetrics().elidedText(
                title, Qt.TextElideMode.ElideRight, int(cell.width() - 6)
            )
            painter.drawText(cell, align | Qt.AlignmentFlag.AlignVCenter, cut)
        body = QRectF(0, ROW, self.width(), self.height() - ROW)
        paint_rows(painter, body, self._rows, self._titles)
