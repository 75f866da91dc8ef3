"""Fall-off from the focus as it is seen: every region against its distance, and the band wished."""

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import (
    QColor,
    QPainter,
    QPen,
    QPolygonF,
)
from PySide6.QtWidgets import QSizePolicy

from umber_compass.plan.wishes import Falloff, FalloffOf
from umber_compass.steps.focus.falloff import MOST, UNITS, Spot, Spots
from umber_compass.window.widgets.instrument import Instrument
from umber_compass.window.widgets.theme import THEME, font
from umber_compass.window.widgets.under import Under
from umber_compass.window.widgets.whole_px import paint_coming

FOOT, _HANDLE, REACH = 18, 5.0, 9.0  # px
CORNERS = (("near", 1), ("far", 1), ("near", 0), ("far", 0))  # as keys go through them


class FalloffView(Instrument):
    """Shows it, and says what lies where."""

    smooth = True

    def __init__(self) -> None:
        super().__init__(self.tr("Fall-off from the focus"), (480, 130))
        self.setMinimumHeight(96)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Preferred)
        self._spots: tuple[Spot, ...] = ()
        self._names: dict[str, str] = {}
        self._of: FalloffOf = "chroma"
        self._wish = Falloff(near=(0, 0.3), far=(0, 0.1))
        self._selected = ""
        self._current = 0
        self.empty = self.tr("Looking for the focus …")  # said where nothing falls off

    def show_spots(
        self, spots: Spots, names: dict[str, str], of: FalloffOf, wish: Falloff, selected: str
    ) -> None:
        """Regions against their distance, in one of the three, and what is wished of it."""
        self._spots, self._names, self._of = spots.spots, names, of
        self._wish, self._selected = wish, selected
        self.empty = self.tr("Set a focus to see how things fall off from it")
        self.update()

    def room(self) -> QRectF:
        """Where levels stand, px."""
        return QRectF(8, 8, self.width() - 16, self.height() - FOOT - 16)

    def _at(self, far: float, level: float) -> QPointF:
        room = self.room()
        y = min(max(level / MOST[self._of], 0.0), 1.0)
        return QPointF(room.left() + far * room.width(), room.bottom() - y * room.height())

    def corners(self) -> dict[tuple[str, int], QPointF]:
        """Where the band's four corners stand."""
        return {
            (end, i): self._at(0.0 if end == "near" else 1.0, getattr(self._wish, end)[i])
            for end, i in CORNERS
        }

    def spots(self) -> list[tuple[QPointF, float, Spot]]:
        """Where each region stands, and its radius, the largest first."""
        order = sorted(self._spots, key=lambda s: -s.share)
        return [(self._at(s.far, s.level[self._of]), 3.0 + 9 * s.share**0.5, s) for s in order]

    def paint(self, painter: QPainter) -> None:
        ink, room = THEME.colour("ink"), self.room()
        painter.fillRect(QRectF(0, 0, self.width(), self.height() - FOOT), THEME.colour("well"))
        if not self._spots:
            paint_coming(painter, room, self.empty, well=False)
        else:
            self._paint_band(painter)
            for place, radius, spot in self.spots():
                chosen = spot.region == self._selected
                painter.setPen(QPen(ink, 2.4 if chosen else 0.8))
                painter.setBrush(QColor(spot.hex))
                painter.drawEllipse(place, radius, radius)
        painter.setPen(THEME.colour("quiet"))
        painter.setFont(font(11))
        foot = QRectF(2, self.height() - FOOT, self.width() - 4, FOOT)
        middle = Qt.AlignmentFlag.AlignVCenter
        painter.drawText(foot, middle | Qt.AlignmentFlag.AlignLeft, self.tr("at the focus"))
        painter.drawText(foot, middle | Qt.AlignmentFlag.AlignRight, self.tr("far"))
        most = self.tr("0 to {most:g} {unit} upward").format(
            most=MOST[self._of], unit=UNITS[self._of]
        )
        painter.drawText(foot, Qt.AlignmentFlag.AlignCenter, most)
        if self.hasFocus():
            painter.setPen(QPen(ink, 1))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(self.rect().adjusted(0, 0, -1, -FOOT))

    def _paint_band(self, painter: QPainter) -> None:
        at = self.corners()
        shape = [at[c] for c in (("near", 1), ("far", 1), ("far", 0), ("near", 0))]
        painter.setBrush(THEME.colour("card"))
        painter.setPen(QPen(THEME.colour("ink"), 1, Qt.PenStyle.DashLine))
        painter.drawPolygon(QPolygonF(shape))
        painter.setBrush(THEME.colour("ground"))
        for i, corner in enumerate(CORNERS):
            chosen = self.hasFocus() and i == self._current
            painter.setPen(QPen(THEME.colour("ink"), 2.5 if chosen else 1.2))
            place = at[corner]
            painter.drawRect(
                QRectF(place.x() - _HANDLE, place.y() - _HANDLE, 2 * _HANDLE, 2 * _HANDLE)
            )

    def under(self, place: QPointF) -> Under:
        """The region at a place."""
        spot = self._spot_at(place)
        return Under() if spot is None else Under(spot.region, spot.hex)

    def _spot_at(self, place: QPointF) -> Spot | None:
        for at, radius, spot in reversed(self.spots()):
            if (at - place).manhattanLength() <= radius + 3:
                return spot
        return None

    def grip(self, place: QPointF) -> tuple[str, int] | None:
        near = [
            c for c, at in self.corners().items() if (at - place).manhattanLength() <= 2 * REACH
        ]
        return near[0] if near and self._spots else None
