"""Fall-off from the focus: every region against its distance, and the band wished of it."""

from PySide6.QtCore import QEvent, QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import (
    QColor,
    QHelpEvent,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QPolygonF,
)
from PySide6.QtWidgets import QSizePolicy, QToolTip, QWidget

from umber_compass.plan.wishes import Falloff, FalloffOf
from umber_compass.steps.focus.falloff import MOST, UNITS, Spot, Spots
from umber_compass.window.widgets.holding import Holding
from umber_compass.window.widgets.theme import THEME, font
from umber_compass.window.widgets.under import Under

_FOOT, _HANDLE, _REACH = 18, 5.0, 9.0  # px
_CORNERS = (("near", 1), ("far", 1), ("near", 0), ("far", 0))  # as keys go through them


class FalloffChart(Holding, QWidget):
    """Drag a corner of the band; Page Up and Page Down choose one, Up and Down move it."""

    shaped = Signal(object)  # Falloff
    chosen = Signal(str)
    began = Signal()
    ended = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMouseTracking(True)
        self.setMinimumHeight(96)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Preferred)
        self.setAccessibleName(self.tr("Fall-off from the focus"))
        self._spots: tuple[Spot, ...] = ()
        self._names: dict[str, str] = {}
        self._of: FalloffOf = "chroma"
        self._wish = Falloff(near=(0, 0.3), far=(0, 0.1))
        self._selected = ""
        self._held: tuple[str, int] | None = None
        self._current = 0

    def sizeHint(self) -> QSize:
        return QSize(480, 130)

    def show_spots(
        self, spots: Spots, names: dict[str, str], of: FalloffOf, wish: Falloff, selected: str
    ) -> None:
        """Regions against their distance, in one of the three, and what is wished of it."""
        self._spots, self._names, self._of = spots.spots, names, of
        self._wish, self._selected = wish, selected
        self.update()

    def _room(self) -> QRectF:
        return QRectF(8, 8, self.width() - 16, self.height() - _FOOT - 16)

    def _at(self, far: float, level: float) -> QPointF:
        room = self._room()
        y = min(max(level / MOST[self._of], 0.0), 1.0)
        return QPointF(room.left() + far * room.width(), room.bottom() - y * room.height())

    def corners(self) -> dict[tuple[str, int], QPointF]:
        """Where the band's four corners stand."""
        return {
            (end, i): self._at(0.0 if end == "near" else 1.0, getattr(self._wish, end)[i])
            for end, i in _CORNERS
        }

    def spots(self) -> list[tuple[QPointF, float, Spot]]:
        """Where each region stands, and its radius, the largest first."""
        order = sorted(self._spots, key=lambda s: -s.share)
        return [(self._at(s.far, s.level[self._of]), 3.0 + 9 * s.share**0.5, s) for s in order]

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        ink, room = THEME.colour("ink"), self._room()
        painter.fillRect(QRectF(0, 0, self.width(), self.height() - _FOOT), THEME.colour("well"))
        if not self._spots:
            painter.setPen(ink)
            painter.setFont(font(12))
            text = self.tr("Set a focus to see how things fall off from it")
            painter.drawText(room, Qt.AlignmentFlag.AlignCenter, text)
        else:
            self._paint_band(painter)
            for place, radius, spot in self.spots():
                chosen = spot.region == self._selected
                painter.setPen(QPen(ink, 2.4 if chosen else 0.8))
                painter.setBrush(QColor(spot.hex))
                painter.drawEllipse(place, radius, radius)
        painter.setPen(THEME.colour("quiet"))
        painter.setFont(font(11))
        foot = QRectF(2, self.height() - _FOOT, self.width() - 4, _FOOT)
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
            painter.drawRect(self.rect().adjusted(0, 0, -1, -_FOOT))

    def _paint_band(self, painter: QPainter) -> None:
        at = self.corners()
        shape = [at[c] for c in (("near", 1), ("far", 1), ("far", 0), ("near", 0))]
        painter.setBrush(THEME.colour("card"))
        painter.setPen(QPen(THEME.colour("ink"), 1, Qt.PenStyle.DashLine))
        painter.drawPolygon(QPolygonF(shape))
        painter.setBrush(THEME.colour("ground"))
        for i, corner in enumerate(_CORNERS):
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

    def _corner_at(self, place: QPointF) -> tuple[str, int] | None:
        near = [
            c for c, at in self.corners().items() if (at - place).manhattanLength() <= 2 * _REACH
        ]
        return near[0] if near and self._spots else None

    def event(self, event: QEvent) -> bool:
        if isinstance(event, QHelpEvent):
            spot = self._spot_at(QPointF(event.pos()))
            text = self.tr("Drag a corner of the band: what should lie between, near and far.")
            if spot is not None:
                text = self.tr("{name}: {level:.3g} {unit}, {far:.0%} of the way out").format(
                    name=self._names.get(spot.region, ""),
                    level=spot.level[self._of],
                    unit=UNITS[self._of],
                    far=spot.far,
                )
            QToolTip.showText(event.globalPos(), text, self)
            return True
        return super().event(event)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if event.button() != Qt.MouseButton.LeftButton:
            return
        self._held = self._corner_at(event.position())
        if self._held is not None:
            self._current = _CORNERS.index(self._held)
            self.began.emit()
            return
        spot = self._spot_at(event.position())
        if spot is not None:
            self.chosen.emit(spot.region)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._held is None:
            over = self._corner_at(event.position()) is not None
            self.setCursor(Qt.CursorShape.SizeVerCursor if over else Qt.CursorShape.ArrowCursor)
            return
        room = self._room()
        share = (room.bottom() - event.position().y()) / max(room.height(), 1.0)
        self._shape(self._held, min(max(share, 0.0), 1.0) * MOST[self._of])

    def _shape(self, corner: tuple[str, int], level: float) -> None:
        end, i = corner
        span = list(getattr(self._wish, end))
        span[i] = min(level, span[1]) if i == 0 else max(level, span[0])
        both = {"near": self._wish.near, "far": self._wish.far, end: (span[0], span[1])}
        self.shaped.emit(Falloff(**both))

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        self.let_go()

    def let_go(self) -> None:
        if self._held is not None:
            self._held = None
            self.ended.emit()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        step = {Qt.Key.Key_Up: 1, Qt.Key.Key_Down: -1}.get(Qt.Key(event.key()))
        turn = {Qt.Key.Key_PageUp: -1, Qt.Key.Key_PageDown: 1}.get(Qt.Key(event.key()))
        if step is not None:
            end, i = _CORNERS[self._current]
            level = getattr(self._wish, end)[i] + step * MOST[self._of] / 50
            self._shape((end, i), min(max(level, 0.0), MOST[self._of]))
        elif turn is not None:
            self._current = (self._current + turn) % len(_CORNERS)
            self.update()
        else:
            super().keyPressEvent(event)
