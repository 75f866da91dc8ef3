"""The value ladder under a hand: chips and limits are dragged, what is gathered opens."""

from PySide6.QtCore import QPointF, Signal
from PySide6.QtGui import QColor, QIcon, QPixmap
from PySide6.QtWidgets import QMenu

from umber_compass.window.benches.values.chips import CHIPS, Chip, Gathered
from umber_compass.window.benches.values.ladder_view import LadderView
from umber_compass.window.widgets.instrument import Hand
from umber_compass.window.widgets.under import Under


class Ladder(LadderView):
    """Drag a chip to set a value, a dashed line to move a limit. Up and Down step the chosen chip
    by a point of L*, with Shift by five; Page Up and Page Down choose the next chip. Dragged with
    Shift, a chip takes its whole family with it. Locked chips stay."""

    moved = Signal(str, int, float)  # region, end, L*
    family_moved = Signal(str, float)  # slot, L* from where the drag began
    limit = Signal(str, float)  # dark or light, L*
    chosen = Signal(str)

    _family, _begun = "", 0.0  # the family that is dragged, and the value L* its chip began at

    def under(self, place: QPointF) -> Under:
        """The chip at a place."""
        chip, _ = self._hit(place)
        return Under() if chip is None else Under(chip.region, chip.hex)

    def menu_of(self, group: Gathered) -> QMenu:
        """The chips that are gathered, each with its colour and value; one that is chosen comes
        out."""
        menu = QMenu(self)
        for chip in group.chips:
            swatch = QPixmap(14, 14)
            swatch.fill(QColor(chip.hex))
            action = menu.addAction(QIcon(swatch), f"{chip.name}  {chip.value:.0f} L*")
            action.triggered.connect(lambda _=False, c=chip: self._choose(c))
        return menu

    def _choose(self, chip: Chip) -> None:
        self._current = (chip.region, chip.end)
        self.chosen.emit(chip.region)
        self.update()

    def says(self, place: QPointF) -> str:
        group = self.group_at(place)
        if group is not None:
            names = ", ".join(c.name for c in group.chips)
            return self.tr("{count} more of this value: {names}. Click to choose one.").format(
                count=len(group.chips), names=names
            )
        chip, kind = self._hit(place)
        if chip is not None:
            what = self.tr(
                "{name} is planned at {value:.0f} L* and holds {share:.1%} of the picture."
            )
            how = self.tr("Drag it up to lighten, down to darken; with Shift its family comes too.")
            if chip.locked:
                how = self.tr("It is locked.")
            said = what.format(name=chip.name, value=chip.value, share=chip.share)
            return f"{said} {how}"
        if kind:
            return self.tr("The limit for extremes: drag it, or set it under Practice.")
        if place.x() < CHIPS:
            return self.tr("How much of the picture lies at each value, L* 0 black to 100 white.")
        return ""

    def grip(self, place: QPointF) -> tuple[str, int] | None:
        """A chip by region and end, or a limit by its kind and -1."""
        chip, kind = self._hit(place) if self.group_at(place) is None else (None, "")
        if chip is not None:
            return None if chip.locked else (chip.region, chip.end)
        return (kind, -1) if kind else None

    def stands(self, held: tuple[str, int]) -> QPointF:
        if held[1] < 0:
            return QPointF(0, self.scale.y_of(self._limits[held[0]]))
        value = next(c.value for c in self._chips if (c.region, c.end) == held)
        return QPointF(0, self.scale.y_of(value))

    def pressed(self, hand: Hand) -> None:
        group = self.group_at(hand.place)
        if group is not None:
            self.menu_of(group).popup(self.mapToGlobal(hand.place).toPoint())
            return
        chip, _ = self._hit(hand.place)
        if chip is not None:
            self._family, self._begun = (chip.family if hand.shift else ""), chip.value
            self._choose(chip)

    def dragged(self, held: tuple[str, int], hand: Hand) -> None:
        value = self.scale.value_at(hand.place.y())
        if held[1] < 0:
            self.limit.emit(held[0], round(value))
        elif self._family:
            self.family_moved.emit(self._family, value - self._begun)
        else:
            self.moved.emit(*held, value)

    def _ordered(self) -> tuple[list[Chip], int | None]:
        """Chips from dark to light, and which of them is chosen."""
        ordered = sorted(self._chips, key=lambda c: c.value)
        own = (i for i, c in enumerate(ordered) if (c.region, c.end) == self._current)
        return ordered, next(own, None)

    def stepped(self, right: int, up: int, hand: Hand) -> bool:
        ordered, at = self._ordered()
        if not up or at is None:
            return False
        chip = ordered[at]
        if not chip.locked:
            by = up * (5 if hand.shift else 1)
            self.moved.emit(chip.region, chip.end, min(max(chip.value + by, 0), 100))
        return True

    def turned_page(self, by: int) -> bool:
        ordered, at = self._ordered()
        if not ordered:
            return False
        to = 0 if at is None else min(max(at + by, 0), len(ordered) - 1)
        self._current = (ordered[to].region, ordered[to].end)
        self.chosen.emit(ordered[to].region)
        return True
