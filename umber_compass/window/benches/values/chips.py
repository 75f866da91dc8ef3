"""Where values and chips stand on the ladder."""

from collections.abc import Callable
from typing import NamedTuple

from PySide6.QtCore import QRectF
from PySide6.QtGui import QFontMetricsF

from umber_compass.window.widgets.theme import font

TOP, LEFT, SCALE, HISTOGRAM = 10, 28, 22, 56  # px
CHIPS = LEFT + SCALE + HISTOGRAM + 16
CHIP = 14
_ROW = CHIP + 2
_GATHERED, _GROUP_ROW = 44, 20  # width of what is gathered, height of what it is gathered from


class Chip(NamedTuple):
    """One region, or one end of a gradient, on the ladder."""

    region: str
    end: int
    name: str
    value: float
    share: float
    hex: str
    family: str = ""  # the slot whose hue it follows
    locked: bool = False  # nothing but the artist's own hand moves it


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


class Gathered(NamedTuple):
    """Chips there is no room for, as one that opens."""

    box: QRectF
    chips: tuple[Chip, ...]  # the lightest first


class Laid(NamedTuple):
    """Where chips stand, the largest first, and those that are gathered."""

    chips: list[tuple[QRectF, Chip]]
    gathered: list[Gathered]
    right: float  # px, the edge of what is not gathered


class ChipPlaces:
    """Puts chips at their values, moved right past those they would cover; those that would run
    over the right edge are gathered. A chip keeps its column while it is dragged, so that others do
    not jump, and the chosen one is never gathered."""

    def __init__(self) -> None:
        self._columns: dict[tuple[str, int], float] = {}
        self._lengths: dict[str, float] = {}  # of names, px

    def place(
        self,
        chips: list[Chip],
        chosen: tuple[str, int],
        held: tuple[str, int] | None,
        scale: Scale,
        kept_clear: Callable[[float], list[QRectF]],
    ) -> Laid:
        """Where each chip lies; nothing stands where something is kept clear, left of an edge, px
        (the limits' words)."""
        # The largest first; of those much alike in size, families stand together.
        order = sorted(
            chips, key=lambda c: ((c.region, c.end) != chosen, -round(c.share, 2), c.family, c.name)
        )
        right = scale.width
        found, left_out = self._placed(order, chosen, held, scale, kept_clear(right), right)
        if not left_out:
            return Laid(found, [], right)
        right -= _GATHERED + 8
        found, left_out = self._placed(order, chosen, held, scale, kept_clear(right), right)
        return Laid(found, _gathered(left_out, scale, right + 4), right)

    def _placed(
        self,
        order: list[Chip],
        chosen: tuple[str, int],
        held: tuple[str, int] | None,
        scale: Scale,
        kept_clear: list[QRectF],
        right: float,
    ) -> tuple[list[tuple[QRectF, Chip]], list[Chip]]:
        placed: list[tuple[QRectF, Chip]] = []
        left_out: list[Chip] = []
        taken: dict[int, list[QRectF]] = {}  # by height; a chip can only meet its neighbours
        for box in kept_clear:
            for row in range(int(box.top() // _ROW), int(box.bottom() // _ROW) + 1):
                taken.setdefault(row, []).append(box)
        for chip in order:
            width = 9 + 60 * chip.share**0.5
            y, own = scale.y_of(chip.value), (chip.region, chip.end)
            whole = width + 6 + self._length(chip.name) + 10
            box, row = QRectF(CHIPS, y - CHIP / 2 - 1, whole, _ROW), int(y // _ROW)
            near = [t for i in (row - 1, row, row + 1) for t in taken.get(i, ())]
            near.sort(key=lambda t: t.left())
            # The chosen one stands at its place whatever is written there.
            for other in near if own != chosen else ():
                if box.intersects(other):
                    box.moveLeft(other.right() + 2)
            if own == held and own in self._columns:
                box.moveLeft(self._columns[own])
            elif placed and box.right() > right:
                left_out.append(chip)
                continue
            elif box.right() > right:  # the first one is never gathered, whatever is written there
                box.moveLeft(CHIPS)
            taken.setdefault(row, []).append(box)
            self._columns[own] = box.left()
            placed.append((QRectF(box.left(), y - CHIP / 2, width, CHIP), chip))
        return placed, left_out

    def _length(self, name: str) -> float:
        if name not in self._lengths:
            self._lengths[name] = QFontMetricsF(font(12)).horizontalAdvance(name)
        return self._lengths[name]


def _gathered(chips: list[Chip], scale: Scale, left: float) -> list[Gathered]:
    """Chips of about one value together, along the right edge."""
    rows: dict[int, list[Chip]] = {}
    for chip in chips:
        rows.setdefault(int(scale.y_of(chip.value) // _GROUP_ROW), []).append(chip)
    return [
        Gathered(
            QRectF(left, row * _GROUP_ROW + (_GROUP_ROW - _ROW) / 2, _GATHERED, _ROW),
            tuple(sorted(group, key=lambda c: -c.value)),
        )
        for row, group in sorted(rows.items())
    ]
