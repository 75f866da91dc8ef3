"""The hue rose: a ring of hues, the picture's colours as petals, the scheme's needles to turn."""

from PySide6.QtCore import QPointF, Qt, Signal
from PySide6.QtGui import (
    QPainter,
)

from umber_compass.steps.harmony.rose import RoseParts
from umber_compass.window.benches.harmony.dial import Grip, hit, petal_at
from umber_compass.window.benches.harmony.rose_painting import Ring, paint
from umber_compass.window.widgets.dial import RING, Dial
from umber_compass.window.widgets.instrument import Hand, Instrument
from umber_compass.window.widgets.under import Under


class Rose(Instrument):
    """Drag A and the whole scheme turns; drag another letter for the spread; drag a petal and its
    family turns. Arrow keys turn and spread by a degree, with Shift by ten."""

    turned = Signal(float)  # A's angle, wheel degrees
    spread = Signal(float)  # wheel degrees
    moved = Signal(str, float)  # a slot of a free scheme, wheel degrees from the lead
    family = Signal(str, float, float)  # slot, from angle, to angle
    pointed = Signal(str)  # a region's id

    smooth = framed = True
    grabs = Qt.CursorShape.OpenHandCursor

    def __init__(self) -> None:
        super().__init__(self.tr("Hue rose"), (340, 330))
        self.setMinimumSize(240, 150)
        self._parts: RoseParts | None = None
        self._selected = ""
        self._ring = Ring()

    def show_parts(self, parts: RoseParts, selected: str) -> None:
        """The rose of a plan, and which region is chosen."""
        if (parts, selected) != (self._parts, self._selected):
            self._parts, self._selected = parts, selected
            self.update()

    @property
    def dial(self) -> Dial:
        """Where everything stands on the widget as it is."""
        return Dial(self.width(), self.height())

    def paint(self, painter: QPainter) -> None:
        if self._parts is not None:
            self._ring.paint(painter, self, self._parts)
            paint(painter, self._parts, self._selected, self.dial)

    def grip(self, place: QPointF) -> Grip | None:
        return None if self._parts is None else hit(self._parts, self.dial, place)

    def stands(self, held: Grip) -> QPointF | None:
        """A knob stands at its needle; a press on the ring brings the lead there."""
        if self._parts is None or held.kind == "petal" or not held.knob:
            return None
        return self.dial.at(self._parts.needles[held.slot], self.dial.radius - RING / 2)

    def under(self, place: QPointF) -> Under:
        """The petal at a place."""
        petal = petal_at(self._parts, self.dial, place) if self._parts is not None else None
        return Under() if petal is None else Under(petal.region, petal.hex)

    def hovered(self, place: QPointF) -> None:
        petal = petal_at(self._parts, self.dial, place) if self._parts is not None else None
        self.pointed.emit(petal.region if petal else "")

    def dragged(self, held: Grip, hand: Hand) -> None:
        if self._parts is None:
            return
        angle, lead = self.dial.angle_of(hand.place), self._parts.needles["A"]
        if held.kind == "petal":
            self.family.emit(held.slot, held.angle, angle)
        elif self._parts.free and held.slot != "A":
            self.moved.emit(held.slot, (angle - lead) % 360)
        elif held.slot in self._parts.spreads:
            base, way = self._parts.spreads[held.slot]
            stands = lead + base + way * self._parts.spread_deg
            # From where it stands, the short way round: past its base it does not jump.
            by = (angle - stands + 180) % 360 - 180
            self.spread.emit(max(self._parts.spread_deg + by / way, 0.0))
        else:
            offset = self._parts.needles[held.slot] - lead
            self.turned.emit((angle - offset) % 360)

    def stepped(self, right: int, up: int, hand: Hand) -> bool:
        if self._parts is None or (up and not self._parts.spreads):
            return False
        step = 10 if hand.shift else 1
        if up:
            self.spread.emit(self._parts.spread_deg + up * step)
        else:
            self.turned.emit(self._parts.needles["A"] + right * step)
        return True
