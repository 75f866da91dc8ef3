"""Things on the stage: the one pointed at and the chosen one outlined, foot lines and gaps as
handles, the horizon a line across."""

from typing import NamedTuple

import numpy as np
from PySide6.QtCore import QLineF, QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QImage, QPainter, QPen, QPolygonF

from umber_compass.picture.cards import mask_of
from umber_compass.picture.pieces import Pieces
from umber_compass.steps.light.standing import Standing, Stands
from umber_compass.window.widgets.bitmap import overlay
from umber_compass.window.widgets.theme import font

_GRIP = 11.0  # px round a handle that take it
_FOOT_PX, _OUT_PX = 26.0, 14.0  # half of a foot's bar at least; how far handles stand out
FOOT, GAP, HORIZON = "foot", "gap", "horizon"


class Handle(NamedTuple):
    """A handle that is held: what it moves, and of which thing."""

    what: str
    thing: str
    name: str


class ThingHandles:
    """What stands where, as it is marked while it can be changed."""

    def __init__(self) -> None:
        self.standing: Standing | None = None
        self.chosen = ""
        self.takes_pieces = False  # a click takes a piece in or out
        self._pieces: Pieces | None = None
        self._pointed = ""
        self._outlines: dict[tuple[int, ...], QImage] = {}
        self.held: Handle | None = None

    @property
    def is_open(self) -> bool:
        """Whether things are marked."""
        return self.standing is not None

    def show(self, pieces: Pieces | None, standing: Standing | None, chosen: str) -> bool:
        """Other things, or none. Gives whether anything changed."""
        if pieces is not self._pieces:
            self._outlines.clear()
        now = (pieces, standing, chosen)
        changed = any(
            a is not b and a != b if isinstance(a, str) else a is not b
            for a, b in zip(now, (self._pieces, self.standing, self.chosen), strict=True)
        )
        self._pieces, self.standing, self.chosen = now
        if standing is None:
            self.takes_pieces, self._pointed, self.held = False, "", None
        return changed

    def thing_at(self, x: float, y: float) -> Stands | None:
        """The thing at a place, shares of width and height."""
        if self.standing is None or self._pieces is None or not (0 <= x < 1 and 0 <= y < 1):
            return None
        piece = self._pieces.at(x, y)
        return next((t for t in self.standing.things if piece in t.members), None)

    def point_at(self, place: QPointF, frame: QRectF) -> bool:
        """Outline what is pointed at; gives whether that is another thing."""
        found = self.thing_at(*_shares(place, frame)) if self.is_open else None
        name = "" if found is None else found.id
        changed = name != self._pointed
        self._pointed = name
        return changed

    def hit(self, place: QPointF, frame: QRectF) -> Handle | None:
        """The handle under a place of the widget."""
        if self.standing is None:
            return None
        own = self._chosen()
        if own is not None and self._pieces is not None:
            for what, at in self._handles(own, frame).items():
                if QLineF(at, place).length() <= _GRIP:
                    return Handle(what, own.id, own.name)
        y = frame.y() + self.standing.stage.horizon * frame.height()
        if abs(place.x() - frame.right() + 18) < 24 and abs(place.y() - y) < _GRIP:
            return Handle(HORIZON, "", "")
        return None

    def press(self, place: QPointF, frame: QRectF) -> bool:
        """Take a handle in hand, if there is one."""
        self.held = self.hit(place, frame)
        return self.held is not None

    def value_at(self, place: QPointF, frame: QRectF) -> float:
        """What the held handle stands for at a place: a share of the height, or of the width."""
        y = _shares(place, frame)[1]
        own = self._chosen()
        if self.held is not None and self.held.what == GAP and own is not None:
            box = self._box(own, frame)
            return min(max((place.x() - box.right() - _OUT_PX) / frame.width(), 0.0), 1.0)
        if self.held is not None and self.held.what == FOOT:
            y -= _OUT_PX / frame.height()
        return min(max(y, 0.0), 1.0)

    def _chosen(self) -> Stands | None:
        if self.standing is None:
            return None
        return next((t for t in self.standing.things if t.id == self.chosen), None)

    def _box(self, thing: Stands, frame: QRectF) -> QRectF:
        """Where a thing lies on the widget."""
        assert self._pieces is not None
        found = mask_of(self._pieces, thing.members)
        if found is None:
            return QRectF(frame.center(), frame.center())
        height, width = self._pieces.number.shape
        (left, top, right, bottom), _ = found
        return QRectF(
            frame.x() + left / width * frame.width(),
            frame.y() + top / height * frame.height(),
            (right - left) / width * frame.width(),
            (bottom - top) / height * frame.height(),
        )

    def _handles(self, thing: Stands, frame: QRectF) -> dict[str, QPointF]:
        """The handles of a thing: below its foot, beside it where it hangs."""
        box = self._box(thing, frame)
        if thing.placed.on == "floor":
            y = frame.y() + thing.placed.foot * frame.height()
            return {FOOT: QPointF(box.center().x(), y + _OUT_PX)}
        if thing.placed.on == "wall":
            x = box.right() + thing.placed.gap * frame.width() + _OUT_PX
            return {GAP: QPointF(x, box.center().y())}
        return {}

    def paint(self, painter: QPainter, frame: QRectF) -> None:
        """Outlines, handles and the horizon."""
        if self.standing is None or self._pieces is None:
            return
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        for thing in self.standing.things:
            if thing.id in (self.chosen, self._pointed):
                image = self._outline(thing)
                if image is not None:
                    painter.drawImage(frame, image)
        own = self._chosen()
        if own is not None:
            self._paint_handles(painter, own, frame)
        self._paint_horizon(painter, frame)

    def _outline(self, thing: Stands) -> QImage | None:
        assert self._pieces is not None
        known = self._outlines.get(thing.members)
        if known is None:
            chosen = np.zeros(len(self._pieces.area), bool)
            chosen[[m for m in thing.members if m < len(chosen)]] = True
            known = overlay(chosen[self._pieces.number], 1, 1, None)
            self._outlines[thing.members] = known
        return known

    def _paint_handles(self, painter: QPainter, thing: Stands, frame: QRectF) -> None:
        box = self._box(thing, frame)
        for what, at in self._handles(thing, frame).items():
            if what == FOOT:
                half = max(box.width() / 2, _FOOT_PX)
                y = at.y() - _OUT_PX
                line = QLineF(at.x() - half, y, at.x() + half, y)
                said = "stands here"
            else:
                line = QLineF(box.right(), at.y(), at.x() - _OUT_PX, at.y())
                said = "before the wall"
            _line(painter, line)
            _knob(painter, at)
            _words(painter, QPointF(at.x() + 13, at.y() + 4), said)

    def _paint_horizon(self, painter: QPainter, frame: QRectF) -> None:
        assert self.standing is not None
        y = frame.y() + self.standing.stage.horizon * frame.height()
        for colour, width in (("#141414", 3.0), ("white", 1.2)):
            painter.setPen(QPen(QColor(colour), width, Qt.PenStyle.DashLine))
            painter.drawLine(QPointF(frame.left(), y), QPointF(frame.right(), y))
        _knob(painter, QPointF(frame.right() - 18, y))
        _words(painter, QPointF(frame.right() - 92, y - 6), "floor ends")


def _shares(place: QPointF, frame: QRectF) -> tuple[float, float]:
    return (
        (place.x() - frame.x()) / max(frame.width(), 1.0),
        (place.y() - frame.y()) / max(frame.height(), 1.0),
    )


def _line(painter: QPainter, line: QLineF) -> None:
    for colour, width in (("#141414", 4.0), ("white", 2.0)):
        painter.setPen(QPen(QColor(colour), width))
        painter.drawLine(line)


def _knob(painter: QPainter, at: QPointF) -> None:
    around = [QPointF(0, -8), QPointF(8, 0), QPointF(0, 8), QPointF(-8, 0)]
    painter.setPen(QPen(QColor("#141414"), 2))
    painter.setBrush(QColor("white"))
    painter.drawPolygon(QPolygonF([at + p for p in around]))


def _words(painter: QPainter, at: QPointF, text: str) -> None:
    painter.setFont(font(11, True))
    for away in ((-1, 0), (1, 0), (0, -1), (0, 1)):
        painter.setPen(QColor("#141414"))
        painter.drawText(at + QPointF(*away), text)
    painter.setPen(QColor("white"))
    painter.drawText(at, text)
