"""What part of a picture is seen, and how large: fit, zoom and pan."""

from PySide6.QtCore import QPointF, QRectF, QSizeF

from umber_compass.window.widgets.whole_px import whole_ratio

MOST_ZOOM, LEAST_ZOOM = 16.0, 0.05
WHEEL_STEP = 1.25


class Zoom:
    """Where a picture lies on a widget. Fitted until it is zoomed; then the zoom is screen px for
    each px of the picture, and a place of the picture stays in the widget's middle."""

    def __init__(self) -> None:
        self.factor: float | None = None
        self.middle = QPointF(0.5, 0.5)  # shares of the picture
        # Kept free round the picture while it is fitted: a share of it, and screen px.
        self.inset, self.margin = 0.0, 0.0
        self.whole = False  # px are shown at whole multiples

    def scale(self, picture: QSizeF, room: QSizeF) -> float:
        """Screen px for each px of the picture."""
        if self.factor is not None:
            return whole_ratio(self.factor) if self.whole else self.factor
        whole = 1 + 2 * self.inset
        across, down = (max(side - 2 * self.margin, 1) for side in room.toTuple())
        found = min(across / (picture.width() * whole), down / (picture.height() * whole))
        return whole_ratio(found) if self.whole else found

    def frame(self, picture: QSizeF, room: QSizeF) -> QRectF:
        """Where the picture lies on the widget. A fitted one stands in the middle."""
        scale = self.scale(picture, room)
        size = picture * scale
        if self.factor is None:
            free = room - size
            return QRectF(QPointF(free.width() / 2, free.height() / 2), size)
        self._keep_in(size, room)
        x = room.width() / 2 - self.middle.x() * size.width()
        y = room.height() / 2 - self.middle.y() * size.height()
        return QRectF(QPointF(x, y), size)

    def _keep_in(self, size: QSizeF, room: QSizeF) -> None:
        """Never pan the picture away: it covers the middle, and the whole widget if it can."""
        for axis in ("x", "y"):
            whole = size.width() if axis == "x" else size.height()
            seen = room.width() if axis == "x" else room.height()
            half = min(seen / (2 * whole), 0.5)
            now = self.middle.x() if axis == "x" else self.middle.y()
            kept = min(max(now, half), 1 - half)
            if axis == "x":
                self.middle.setX(kept)
            else:
                self.middle.setY(kept)

    def fit(self) -> None:
        """The whole picture."""
        self.factor = None
        self.middle = QPointF(0.5, 0.5)

    def zoom_to(self, zoom: float, at: QPointF, picture: QSizeF, room: QSizeF) -> None:
        """Another zoom; what lies at a place of the widget stays there."""
        frame = self.frame(picture, room)
        share = QPointF((at.x() - frame.x()) / frame.width(), (at.y() - frame.y()) / frame.height())
        self.factor = min(max(zoom, LEAST_ZOOM), MOST_ZOOM * (4 if self.whole else 1))
        size = picture * self.scale(picture, room)
        self.middle = QPointF(
            share.x() + (room.width() / 2 - at.x()) / size.width(),
            share.y() + (room.height() / 2 - at.y()) / size.height(),
        )

    def pan(self, by: QPointF, picture: QSizeF, room: QSizeF) -> None:
        """Move the picture by screen px; a fitted one is held at the size it has."""
        if self.factor is None:
            self.zoom_to(
                self.scale(picture, room),
                QPointF(room.width() / 2, room.height() / 2),
                picture,
                room,
            )
        size = picture * self.scale(picture, room)
        self.middle -= QPointF(by.x() / size.width(), by.y() / size.height())
