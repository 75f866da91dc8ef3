"""What the artist does with the chosen region."""

from PySide6.QtCore import QObject
from PySide6.QtGui import QGuiApplication

from umber_compass.colour.measured import measure_hex
from umber_compass.plan.edits import find_region, region
from umber_compass.plan.model import Region
from umber_compass.plan.ramp_edits import MOST_PICKED, borrow_ramp
from umber_compass.plan.wish_edits import lock
from umber_compass.steps.harmony.edits import give_colour, make_gradient, toggle_pin
from umber_compass.steps.ramps.ramps import ramp_of
from umber_compass.window.desk.desk import Desk
from umber_compass.words import Refusal


class Regions(QObject):
    """Copy, pin, step through, give a colour."""

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk)
        self.desk = desk

    @property
    def is_chosen(self) -> bool:
        """Whether there is a region to do anything with."""
        return self.desk.derived is not None and bool(self.desk.session.selection)

    @property
    def named(self) -> Region | None:
        """The region that is chosen, if any."""
        derived = self.desk.derived
        return None if derived is None else find_region(derived.plan, self.desk.session.selection)

    def copy(self, colour: str) -> None:
        """Put a hex on the clipboard."""
        QGuiApplication.clipboard().setText(colour)
        self.desk.told.emit(self.tr("Copied {colour}").format(colour=colour), False)

    def copy_chosen(self) -> None:
        """Put the chosen colour's hex on the clipboard."""
        if self.desk.derived is not None and self.is_chosen:
            self.copy(self.desk.derived.colours[self.desk.session.selection].first.hex)

    def pin_chosen(self) -> None:
        """Let the chosen colour stay as the scheme turns, or follow it again."""
        if self.desk.derived is not None and self.is_chosen:
            plan, chosen = self.desk.derived.plan, self.desk.session.selection
            self.desk.do(toggle_pin(plan, chosen, region(plan, chosen).name))

    def pin_words(self) -> str:
        """What pinning would do now."""
        derived = self.desk.derived
        colour = derived.colours.get(self.desk.session.selection) if derived is not None else None
        if colour is not None and colour.first.slot == "given":
            return self.tr("Let its colour follow the scheme")
        return self.tr("Pin its colour")

    def _is_locked(self) -> bool:
        derived = self.desk.derived
        return derived is not None and self.desk.session.selection in derived.locked

    def lock_chosen(self) -> None:
        """Keep the chosen colour as it is by all that the program does by itself, or no longer."""
        named = self.named
        if named is not None:
            self.desk.do(lock(named.id, not self._is_locked(), named.name))

    def lock_words(self) -> str:
        """What locking would do now."""
        return self.tr("Unlock its colour") if self._is_locked() else self.tr("Lock its colour")

    def gradient_chosen(self) -> None:
        """Make the chosen colour a gradient, or one colour again."""
        if self.desk.derived is not None and self.is_chosen:
            plan, chosen = self.desk.derived.plan, self.desk.session.selection
            self.desk.do(make_gradient(plan, chosen, region(plan, chosen).name))

    def step_region(self, step: int) -> None:
        """Choose the next region, or the one before."""
        if self.desk.derived is None:
            return
        ids, chosen = self.desk.derived.families, self.desk.session.selection
        at = ids.index(chosen) if chosen in ids else -step
        self.desk.session.select(ids[(at + step) % len(ids)])

    def take_picked(self, colour: str, into_ramp: bool = False) -> None:
        """A colour picked from a picture: given to the chosen region or added to what its ramp
        borrows; copied where none is chosen."""
        derived = self.desk.derived
        if self.is_chosen and into_ramp and derived is not None:
            chosen = self.desk.session.selection
            picked = ramp_of(derived.recipes, chosen).picked
            more = (*(p for p in picked if p != colour), colour)[-MOST_PICKED:]
            self.desk.do(borrow_ramp(chosen, more, region(derived.plan, chosen).name))
        elif self.is_chosen:
            self.give(colour, self.desk.session.selection)
        else:
            self.copy(colour)

    def give(self, colour: str, target: str) -> None:
        """Give a region a colour that was dropped on it, from here or from another window."""
        derived = self.desk.derived
        if derived is None or not target:
            return
        try:
            found = measure_hex(colour).hex
        except Refusal as refusal:
            self.desk.told.emit(str(refusal), True)
            return
        if found != derived.colours[target].first.hex:
            self.desk.do(give_colour(target, found, region(derived.plan, target).name))
