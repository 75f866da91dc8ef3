"""How the stage plan is painted."""

from collections.abc import Sequence

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPen

from umber_compass.window.benches.sketch.plan_layout import (
    HEAD,
    SWATCH,
    Chip,
    Row,
    before_at,
    box_of,
    row_at,
)
from umber_compass.window.widgets.outlines import SIDE, Outlines
from umber_compass.window.widgets.theme import THEME, font

_BAR = 8  # px, of a region's colour
_LEFT = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter


def paint_row(
    painter: QPainter, row: Row, selected: tuple[str, ...], seen: QRectF, outlines: Outlines | None
) -> None:
    """A role, its share of the picture, and its regions."""
    painter.fillRect(row.box, THEME.colour("card"))
    painter.setFont(font(13, True))
    painter.setPen(THEME.colour("ink"))
    painter.drawText(QRectF(8, row.box.top() + 3, HEAD - 10, 19), _LEFT, row.role)
    painter.setFont(font(12))
    painter.setPen(THEME.colour("quiet"))
    share = f"{row.share:.1%}" if 0 < row.share < 0.01 else f"{row.share:.0%}"
    painter.drawText(QRectF(8, row.box.top() + 20, HEAD - 10, 16), _LEFT, share)
    for chip in row.chips:
        if chip.box.intersects(seen):
            paint_chip(painter, chip, chip.region.id in selected, outlines)


def paint_chip(painter: QPainter, chip: Chip, chosen: bool, outlines: Outlines | None) -> None:
    """A region's small picture and name; a name that is a first guess is quieter."""
    box, one = chip.box, chip.region
    painter.fillRect(box, THEME.colour("ground"))
    if outlines is not None:
        top = box.y() + (box.height() - SIDE) / 2
        bar = QRectF(box.x() + 4, top, _BAR, SIDE / len(one.hexes))
        for colour in one.hexes:  # of a small region the outline hardly shows it
            painter.fillRect(bar, QColor(colour))
            bar.translate(0, bar.height())
        place = QRectF(box.x() + _BAR + 7, top, SIDE, SIDE)
        outlines.paint(painter, place, one.label, one.hexes)
    painter.setFont(font(13, chosen))
    painter.setPen(THEME.colour("ink" if one.named or chosen else "quiet"))
    room = box.adjusted(SWATCH + 10, 0, -4, 0)
    text = painter.fontMetrics().elidedText(
        one.name, Qt.TextElideMode.ElideRight, int(room.width())
    )
    painter.drawText(room, _LEFT, text)
    if chosen:
        painter.setPen(QPen(THEME.colour("ink"), 2))
        painter.drawRect(box.adjusted(1, 1, -1, -1))


def paint_carried(
    painter: QPainter,
    rows: Sequence[Row],
    at: QPointF,
    held: Chip,
    many: int,
    outlines: Outlines | None,
) -> None:
    """What is dragged under the hand, and where it would go."""
    row = row_at(rows, at.y())
    if row is None:
        return
    painter.setPen(QPen(THEME.colour("ink"), 1.5, Qt.PenStyle.DashLine))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.drawRect(row.box.adjusted(1, 1, -1, -1))
    before = before_at(row, at.x(), at.y())
    box = row.chips[-1].box if row.chips and not before else box_of(rows, before)
    if not box.isNull():
        x = box.left() - 3 if before else box.right() + 3
        painter.setPen(QPen(THEME.colour("ink"), 3))
        painter.drawLine(QPointF(x, box.top()), QPointF(x, box.bottom()))
    painter.setOpacity(0.85)
    carried = held._replace(box=QRectF(at + QPointF(8, 4), held.box.size()))
    paint_chip(painter, carried, True, outlines)
    painter.setOpacity(1)
    if many > 1:
        painter.setFont(font(12, True))
        painter.setPen(THEME.colour("ink"))
        painter.drawText(carried.box.topRight() + QPointF(6, 18), f"× {many}")
