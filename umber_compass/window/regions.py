"""What the artist does with the chosen region."""

from PySide6.QtCore import QObject
from PySide6.QtGui import QGuiApplication

from umber_compass.steps.colouring import give_colour, make_gradient, toggle_pin
from umber_compass.steps.handoff import by_family
from umber_compass.window.desk import Desk


class Regions(QObject):
    """Copy, pin, step through, give a colour."""

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk)
        self.desk = desk

    def copy(self, colour: str) -> None:
        """Put a hex on the clipboard."""
        QGuiApplication.clipboard().setText(colour)
        self.desk.told.emit(self.tr("Copied {colour}").format(colour=colour), False)

    def copy_chosen(self) -> None:
        if self.desk.derived is not None and self.desk.selection:
            self.copy(self.desk.derived.colours[self.desk.selection].first.hex)

    def _name_of(self, region_id: str) -> str:
        if self.desk.derived is None:
            return ""
        return next((r.name for r in self.desk.derived.plan.regions if r.id == region_id), "")

    def pin_chosen(self) -> None:
        chosen = self.desk.selection
        if chosen and self.desk.derived is not None:
            self.desk.do(toggle_pin(self.desk.derived.plan, chosen, self._name_of(chosen)))

    def gradient_chosen(self) -> None:
        chosen = self.desk.selection
        if chosen and self.desk.derived is not None:
            self.desk.do(make_gradient(self.desk.derived.plan, chosen, self._name_of(chosen)))

    def step_region(self, step: int) -> None:
        if self.desk.derived is None:
            return
        ids = by_family(self.desk.derived)
        at = ids.index(self.desk.selection) if self.desk.selection in ids else -step
        self.desk.select(ids[(at + step) % len(ids)])

    def give(self, source: str, target: str) -> None:
        if target and target != source and self.desk.derived is not None:
            colour = self.desk.derived.colours[source].first.hex
            self.desk.do(give_colour(target, colour, self._name_of(target)))
