"""Where cards stand: as many side by side as let each be largest while all are seen."""

from typing import NamedTuple

from PySide6.QtCore import QPointF, QRectF

from umber_compass.window.wall.card import BELOW

_GAP_X, _GAP_Y, _EDGE = 16, 20, 8  # px
_LEAST_PX = 140  # of a card’s width
_MOST_COLUMNS = 8


class CardLayout(NamedTuple):
    """So many cards on a widget of a width, px; pictures of a width / height; `room` is how high a
    view of them is, px."""

    cards: int
    aspect: float
    width: int
    room: int

    @property
    def columns(self) -> int:
        """Cards side by side; where they would be too small for all to be seen, as many as the
        width takes."""
        tried = range(1, min(_MOST_COLUMNS, max(self.cards, 1)) + 1)
        best = max(tried, key=self._width)
        if self._width(best) >= _LEAST_PX:
            return best
        return max((n for n in tried if self._across(n) >= _LEAST_PX), default=1)

    def _across(self, columns: int) -> float:
        """How wide cards are that fill the width."""
        return (self.width - 2 * _EDGE - _GAP_X * (columns - 1)) / columns

    def _width(self, columns: int) -> float:
        """How wide cards are that fill the width, or all of whose rows are seen; of the least width
        where they would be narrower."""
        rows = self._rows(columns)
        high = (self.room - 2 * _EDGE - _GAP_Y * (rows - 1)) / rows - BELOW
        across = self._across(columns)
        return max(min(across, high * self.aspect), min(across, _LEAST_PX - 0.5))

    def _rows(self, columns: int) -> int:
        return -(-max(self.cards, 1) // columns)

    @property
    def card_px(self) -> int:
        """How wide a card's picture is."""
        return max(round(self._width(self.columns)), 40)

    def _height(self, columns: int) -> float:
        return self._width(columns) / self.aspect + BELOW

    @property
    def needed(self) -> int:
        """How high all cards together are, px."""
        rows = self._rows(self.columns)
        return round(self._height(self.columns) * rows + _GAP_Y * (rows - 1) + 2 * _EDGE)

    def boxes(self) -> list[QRectF]:
        """Where each card stands."""
        columns = self.columns
        width, height = self._width(columns), self._height(columns)
        return [
            QRectF(
                _EDGE + (i % columns) * (width + _GAP_X),
                _EDGE + (i // columns) * (height + _GAP_Y),
                width,
                height,
            )
            for i in range(self.cards)
        ]

    def hit(self, place: QPointF) -> int | None:
        """The card at a place."""
        return next((i for i, box in enumerate(self.boxes()) if box.contains(place)), None)
