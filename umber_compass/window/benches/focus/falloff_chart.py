"""The fall-off from the focus under a hand: the band's corners are dragged or stepped."""

from PySide6.QtCore import QPointF, Signal

from umber_compass.plan.wishes import Falloff
from umber_compass.steps.focus.falloff import MOST, UNITS
from umber_compass.window.benches.focus.falloff_view import CORNERS, FalloffView
from umber_compass.window.widgets.instrument import Hand


class FalloffChart(FalloffView):
    """Drag a corner of the band; Page Up and Page Down choose one, Up and Down move it."""

    shaped = Signal(object)  # Falloff
    chosen = Signal(str)

    def says(self, place: QPointF) -> str:
        spot = self._spot_at(place)
        if spot is None:
            return self.tr("Drag a corner of the band: what should lie between, near and far.")
        return self.tr("{name}: {level:.3g} {unit}, {far:.0%} of the way out").format(
            name=self._names.get(spot.region, ""),
            level=spot.level[self._of],
            unit=UNITS[self._of],
            far=spot.far,
        )

    def stands(self, held: tuple[str, int]) -> QPointF:
        return self.corners()[held]

    def pressed(self, hand: Hand) -> None:
        spot = self._spot_at(hand.place)
        if self._held is not None:
            self._current = CORNERS.index(self._held)
        elif spot is not None:
            self.chosen.emit(spot.region)

    def dragged(self, held: tuple[str, int], hand: Hand) -> None:
        room = self.room()
        share = (room.bottom() - hand.place.y()) / max(room.height(), 1.0)
        self._shape(held, min(max(share, 0.0), 1.0) * MOST[self._of])

    def _shape(self, corner: tuple[str, int], level: float) -> None:
        end, i = corner
        span = list(getattr(self._wish, end))
        span[i] = min(level, span[1]) if i == 0 else max(level, span[0])
        both = {"near": self._wish.near, "far": self._wish.far, end: (span[0], span[1])}
        self.shaped.emit(Falloff(**both))

    def stepped(self, right: int, up: int, hand: Hand) -> bool:
        if up:
            end, i = CORNERS[self._current]
            level = getattr(self._wish, end)[i] + up * MOST[self._of] / 50
            self._shape((end, i), min(max(level, 0.0), MOST[self._of]))
        return bool(up)

    def turned_page(self, by: int) -> bool:
        self._current = (self._current - by) % len(CORNERS)
        self.update()
        return True
