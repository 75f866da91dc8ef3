"""Where values and chips stand on the ladder."""

from typing import NamedTuple

from PySide6.QtCore import QRectF
from PySide6.QtGui import QFontMetricsF

from umber_compass.window.widgets.theme import font

TOP, LEFT, SCALE, HISTOGRAM = 10, 28, 22, 56  # px
CHIPS = LEFT + SCALE + HISTOGRAM + 16
CHIP = 14


class Chip(NamedTuple):
    """One region, or one end of a gradient, on the ladder."""

    region: str
    end: int
    name: str
    value: float
    share: float
    hex: str


class Scale(NamedTuple):
    """The upright scale of L* on a widget of this size, px."""

    width: float
    height: float

    def y_of(self, value: float) -> float:
        """Where a value L* stands."""
        return TOP + (100 - value) / 100 * (self.height - 2 * TOP)

    def value_at(self, y: float) -> float:
        """The value L* that stands at a height."""
        return min(max(100 - (y - TOP) / (self.height - 2 * TOP) * 100, 0.0), 100.0)


class ChipPlaces:
    """Puts chips at their values, moved right past those they would cover. A chip keeps its column
    while it is dragged, so that others do not jump."""

    def __init__(self) -> None:
        self._columns: dict[tuple[str, int], float] = {}

    def place(
        self, chips: list[Chip], held: tuple[str, int] | None, scale: Scale
    ) -> list[tuple[QRectF, Chip]]:
        """Where each chip lies, the largest share first."""
        metrics = QFontMetricsF(font(12))
        placed: list[tuple[QRectF, Chip]] = []
        taken: dict[int, list[QRectF]] = {}  # by height; a chip can only meet its neighbours
        for chip in sorted(chips, key=lambda c: (-c.share, c.name)):
            width = 9 + 60 * chip.share**0.5
            whole = width + 6 + metrics.horizontalAdvance(chip.name) + 10
            y = scale.y_of(chip.value)
            box = QRectF(CHIPS, y - CHIP / 2 - 1, whole, CHIP + 2)
            row = int(y // (CHIP + 2))
            near = [t for i in (row - 1, row, row + 1) for t in taken.get(i, [])]
            near.sort(key=lambda t: t.left())
            for other in near:
                if box.intersects(other):
                    box.moveLeft(other.right() + 2)
            column = self._columns.get((chip.region, chip.end))
            if held == (chip.region, chip.end) and column is not None:
                box.moveLeft(column)
            taken.setdefault(row, []).append(box)
            self._columns[chip.region, chip.end] = box.left()
            placed.append((QRectF(box.left(), y - CHIP / 2, width, CHIP), chip))
        return placed
