"""How the value ladder is painted."""

from PySide6.QtCore import QCoreApplication, QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QFontMetricsF, QLinearGradient, QPainter, QPen, QPolygonF

from umber_compass.window.benches.values.chips import (
    CHIPS,
    HISTOGRAM,
    LEFT,
    SCALE,
    Chip,
    Gathered,
    Scale,
)
from umber_compass.window.widgets import value_words
from umber_compass.window.widgets.theme import THEME, font


def _tr(text: str) -> str:
    return QCoreApplication.translate("Ladder", text)


def paint_scale(painter: QPainter, scale: Scale, greys: tuple[str, ...]) -> None:
    """The numbers, as values are read now, and the grey scale."""
    painter.setFont(font(11))
    painter.setPen(THEME.colour("quiet"))
    for mark in range(0, 101, 10):
        box = QRectF(0, scale.y_of(mark) - 8, LEFT - 6, 16)
        right = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter
        painter.drawText(box, right, value_words.value_text(mark))
    fill = QLinearGradient(0, scale.y_of(100), 0, scale.y_of(0))
    for mark in range(0, 101, 5):
        fill.setColorAt(1 - mark / 100, QColor(greys[mark // 5]))
    height = scale.y_of(0) - scale.y_of(100)
    painter.fillRect(QRectF(LEFT, scale.y_of(100), SCALE, height), fill)


def paint_histogram(painter: QPainter, scale: Scale, histogram: list[float]) -> None:
    """How much of the picture lies at each value."""
    if not histogram:
        return
    x0, times = LEFT + SCALE + 6, HISTOGRAM / max(max(histogram), 1e-6) ** 0.5
    y, step = scale.y_of(0), scale.y_of(1) - scale.y_of(0)
    outline = [QPointF(x0, y)]
    for share in histogram:
        x = x0 + share**0.5 * times
        outline += [QPointF(x, y), QPointF(x, y + step)]
        y += step
    outline.append(QPointF(x0, y))
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(THEME.colour("line"))
    painter.drawPolygon(QPolygonF(outline))


def paint_planned(painter: QPainter, scale: Scale, histogram: list[float]) -> None:
    """How much of the picture is planned at each value, before light: an outline."""
    if not histogram:
        return
    x0 = LEFT + SCALE + 6
    # Flat colours are needles; a little wider they are seen as what they hold.
    wide = [0.0, 0.0, *histogram, 0.0, 0.0]
    histogram = [
        wide[i] + 2 * wide[i + 1] + 3 * wide[i + 2] + 2 * wide[i + 3] + wide[i + 4]
        for i in range(len(histogram))
    ]
    most = max(max(histogram), 1e-6)
    line = [
        QPointF(x0 + (s / most) ** 0.5 * HISTOGRAM, scale.y_of(i + 0.5))
        for i, s in enumerate(histogram)
    ]
    painter.setPen(QPen(THEME.colour("ink"), 1))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.drawPolyline(QPolygonF(line))


def paint_ghosts(
    painter: QPainter, scale: Scale, boxes: list[tuple[QRectF, Chip]], ghosts: dict[str, float]
) -> None:
    """Where chips would go, as hollow chips with a line from where they are."""
    pen = QPen(THEME.colour("ink"), 1.4, Qt.PenStyle.DotLine)
    painter.setBrush(Qt.BrushStyle.NoBrush)
    for box, chip in boxes:
        by = ghosts.get(chip.region)
        if by is None:
            continue
        there = box.translated(0, scale.y_of(chip.value + by) - scale.y_of(chip.value))
        painter.setPen(pen)
        painter.drawLine(box.center(), there.center())
        painter.setPen(QPen(THEME.colour("ink"), 1.4))
        painter.drawRect(there)


def _paint_lock(painter: QPainter, at: QPointF) -> None:
    """A small padlock."""
    ink = THEME.colour("ink")
    painter.fillRect(QRectF(at.x(), at.y() - 1, 7, 5.5), ink)
    painter.setPen(QPen(ink, 1.2))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.drawArc(QRectF(at.x() + 1.2, at.y() - 5, 4.6, 8), 0, 180 * 16)


def limit_words(
    scale: Scale, right: float, limits: dict[str, float], shares: dict[str, float]
) -> list[tuple[QRectF, str]]:
    """What is said of each limit, and where: left of an edge, light ones above their line."""
    metrics, found = QFontMetricsF(font(12)), []
    for kind, value in limits.items():
        words = _tr("extreme darks {share:.0f} %, under {limit:.0f}")
        if kind == "light":
            words = _tr("extreme lights {share:.0f} %, over {limit:.0f}")
        text = words.format(share=shares[kind] * 100, limit=value)
        y, width = scale.y_of(value), metrics.horizontalAdvance(text) + 2
        top = y + 2 if kind == "dark" else y - 19
        found.append((QRectF(right - 4 - width, top, width, 17), text))
    return found


def paint_limits(
    painter: QPainter,
    scale: Scale,
    right: float,
    limits: dict[str, float],
    shares: dict[str, float],
    chips: list[tuple[QRectF, Chip]],
) -> None:
    """The limits for extremes, and what lies beyond them; cut short where the chosen chip, which
    stands at its place, reaches into the words."""
    painter.setFont(font(12))
    painter.setPen(QPen(THEME.colour("ink"), 1, Qt.PenStyle.DashLine))
    for value in limits.values():
        y = scale.y_of(value)
        painter.drawLine(QPointF(LEFT, y), QPointF(scale.width, y))
    painter.setPen(THEME.colour("quiet"))
    metrics = QFontMetricsF(font(12))
    for box, text in limit_words(scale, right, limits, shares):
        for chip, named in chips:
            if chip.bottom() <= box.top() or chip.top() >= box.bottom():
                continue
            end = chip.right() + 12 + metrics.horizontalAdvance(named.name)
            if chip.adjusted(0, 0, end - chip.right(), 0).intersects(box):
                box.setLeft(min(end, box.right()))
        text = metrics.elidedText(text, Qt.TextElideMode.ElideLeft, box.width())
        painter.drawText(box, Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter, text)


def paint_gathered(painter: QPainter, group: Gathered) -> None:
    """Chips that are gathered: their colours as a strip, and how many they are."""
    box = group.box
    painter.fillRect(box, THEME.colour("card"))
    some = group.chips[:4]
    for i, chip in enumerate(some):
        painter.fillRect(QRectF(box.x(), box.y() + i * 4, 8, 4), QColor(chip.hex))
    painter.setPen(THEME.colour("ink"))
    painter.setFont(font(12))
    painter.drawText(
        box.adjusted(12, 0, 0, 0), Qt.AlignmentFlag.AlignVCenter, f"+{len(group.chips)}"
    )


def paint_chips(painter: QPainter, boxes: list[tuple[QRectF, Chip]], chosen: str) -> None:
    """The chips with their names; pens and fonts are set once, for there may be hundreds."""
    ink, ground = THEME.colour("ink"), THEME.colour("ground")
    thin, thick = QPen(ink, 0.8), QPen(ink, 2.4)
    metrics = QFontMetricsF(font(12)), QFontMetricsF(font(12, True))
    painter.setFont(font(12))
    for box, chip in boxes:
        is_chosen = chip.region == chosen
        painter.setBrush(QColor(chip.hex))
        painter.setPen(thick if is_chosen else thin)
        painter.drawRect(box)
        width = metrics[is_chosen].horizontalAdvance(chip.name)
        painter.fillRect(QRectF(box.right() + 4, box.center().y() - 7, width + 4, 14), ground)
        if is_chosen:
            painter.setFont(font(12, True))
        painter.drawText(QPointF(box.right() + 6, box.center().y() + 4), chip.name)
        if is_chosen:
            painter.setFont(font(12))
        if chip.locked:
            _paint_lock(painter, QPointF(box.right() + 9 + width, box.center().y()))


def paint_lit(painter: QPainter, scale: Scale, lit: tuple[float, float]) -> None:
    """How far light and shade take the chosen region, as a bracket beside the histogram."""
    low, high = (scale.y_of(v) for v in lit)
    x = CHIPS - 7.0
    painter.setPen(QPen(THEME.colour("ink"), 2))
    painter.drawLine(QPointF(x, high), QPointF(x, low))
    for y in (low, high):
        painter.drawLine(QPointF(x, y), QPointF(x + 4, y))
