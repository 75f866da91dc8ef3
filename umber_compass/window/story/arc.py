"""The arc of a story: mood, value, temperature and chroma from page to page, under the pages."""

from collections.abc import Sequence

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QColor, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QSizePolicy, QWidget

from umber_compass.document.story import StoryPage
from umber_compass.steps.studies.story import MEASURES, Measure, OfAnotherMood, OutOfLine, Page
from umber_compass.window.widgets.bitmap import Bitmap
from umber_compass.window.widgets.theme import THEME, font
from umber_compass.window.widgets.whole_px import draw_image, fitted

WIDE, _PICTURE, _LEFT, _LINE, _GAP, _PALETTE = 210, 150, 96, 60, 24, 18  # px
_MOOD = 26


class Arc(QWidget):
    """Pages side by side; below each its palette, below all a line for each measure."""

    def __init__(self) -> None:
        super().__init__()
        self.setAccessibleName(self.tr("The pages in a row, and their arc"))
        self.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Fixed)
        self._pages: tuple[StoryPage, ...] = ()
        self._bitmaps: list[Bitmap] = []
        self._off: set[tuple[int, str]] = set()
        self._moods: set[int] = set()
        self.chosen = -1

    def sizeHint(self) -> QSize:
        height = 24 + _PICTURE + _PALETTE + _MOOD + _GAP + len(MEASURES) * (_LINE + _GAP) + 8
        return QSize(_LEFT + max(len(self._pages), 1) * WIDE, height)

    def show_pages(
        self,
        pages: Sequence[StoryPage],
        off: Sequence[OutOfLine],
        moods: Sequence[OfAnotherMood],
        chosen: int,
    ) -> None:
        """Show pages in their order, those marked that are out of line."""
        self._pages, self.chosen = tuple(pages), chosen
        self._bitmaps = [Bitmap(p.picture) for p in pages]
        self._off = {(o.page, o.measure.name) for o in off}
        self._moods = {o.page for o in moods}
        self.setFixedSize(self.sizeHint())
        self.update()

    def page_at(self, x: float) -> int:
        """Which page lies at a place; -1 for none."""
        i = int((x - _LEFT) // WIDE)
        return i if x >= _LEFT and i < len(self._pages) else -1

    def _box(self, i: int, top: float, height: float) -> QRectF:
        return QRectF(_LEFT + i * WIDE + 6, top, WIDE - 12, height)

    def paintEvent(self, event: QPaintEvent) -> None:
        if not self._pages:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setFont(font(12))
        for i, page in enumerate(self._pages):
            self._paint_page(painter, i, page.page)
        top = 24.0 + _PICTURE + _PALETTE
        self._paint_moods(painter, top)
        top += _MOOD + _GAP
        for measure in MEASURES:
            self._paint_measure(painter, measure, top)
            top += _LINE + _GAP

    def _paint_page(self, painter: QPainter, i: int, page: Page) -> None:
        place = self._box(i, 0, 20)
        painter.setPen(THEME.colour("ink"))
        said = f"{i + 1}  {page.title}"
        elided = painter.fontMetrics().elidedText(
            said, Qt.TextElideMode.ElideRight, int(place.width())
        )
        painter.drawText(place, Qt.AlignmentFlag.AlignVCenter, elided)
        image = self._bitmaps[i].image
        room = fitted(self._box(i, 24, _PICTURE), image)
        draw_image(painter, room, image, False)
        if i == self.chosen:
            painter.setPen(QPen(THEME.colour("ink"), 2))
            painter.drawRect(room.adjusted(-2, -2, 2, 2))
        box = self._box(i, 24 + _PICTURE + 4, _PALETTE - 4)
        whole, x = max(sum(s for _, s in page.palette), 1e-9), box.left()
        for hex_, share in page.palette:
            width = box.width() * share / whole
            painter.fillRect(QRectF(x, box.top(), width + 0.5, box.height()), QColor(hex_))
            x += width

    def _paint_moods(self, painter: QPainter, top: float) -> None:
        """The mood that each page reads as, and the one it is held to where that is another."""
        painter.setPen(THEME.colour("ink"))
        left = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter
        painter.drawText(QRectF(0, top, _LEFT - 12, _MOOD), left, self.tr("reads as"))
        for i, story in enumerate(self._pages):
            page, place = story.page, self._box(i, top, _MOOD)
            said = page.reads_as.lower() or self.tr("no mood")
            if not page.faults:
                said = self.tr("no colours yet")
            if page.mood and page.mood != page.reads_as:
                said = self.tr("{now}, to be {mood}").format(now=said, mood=page.mood.lower())
            if i in self._moods:
                painter.setBrush(Qt.BrushStyle.NoBrush)
                painter.setPen(QPen(THEME.colour("ink"), 2))
                painter.drawEllipse(QPointF(place.left() + 7, place.center().y()), 6, 6)
                place.setLeft(place.left() + 20)
            painter.drawText(place, left, said)

    def _paint_measure(self, painter: QPainter, measure: Measure, top: float) -> None:
        def up(number: float) -> float:
            share = (number - measure.low) / (measure.high - measure.low)
            return top + _LINE * (1 - min(max(share, 0), 1))

        painter.setPen(THEME.colour("ink"))
        title = f"{measure.title} {measure.unit}".strip()
        painter.drawText(QRectF(0, top, _LEFT - 12, 18), Qt.AlignmentFlag.AlignLeft, title)
        painter.setPen(QPen(THEME.colour("line"), 1))
        right = _LEFT + len(self._pages) * WIDE - 6
        painter.drawLine(QPointF(_LEFT, top + _LINE), QPointF(right, top + _LINE))
        points = []
        for i, story in enumerate(self._pages):
            box, page = self._box(i, top, _LINE), story.page
            middle = box.center().x()
            if measure.name == "middle":  # how far its darks and lights reach
                painter.setPen(QPen(THEME.colour("well"), 10))
                painter.drawLine(QPointF(middle, up(page.darks)), QPointF(middle, up(page.lights)))
            points.append(QPointF(middle, up(getattr(page, measure.name))))
        painter.setPen(QPen(THEME.colour("ink"), 2))
        painter.drawPolyline(points)
        for i, (point, story) in enumerate(zip(points, self._pages, strict=True)):
            is_off = (i, measure.name) in self._off
            painter.setBrush(THEME.colour("ink") if not is_off else THEME.colour("ground"))
            painter.drawEllipse(point, 7 if is_off else 4, 7 if is_off else 4)
            place = QRectF(point.x() - 35, point.y() - 27, 70, 18)
            painter.drawText(
                place,
                Qt.AlignmentFlag.AlignCenter,
                _number(measure, getattr(story.page, measure.name)),
            )
        painter.setBrush(Qt.BrushStyle.NoBrush)


def _number(measure: Measure, number: float) -> str:
    if measure.name == "middle":
        return f"{number:.0f}"
    if measure.name == "warm":
        return f"{number:+.0%}".replace("-", "−")
    return f"{number:.2f}"
