"""Small pictures of the plan as it would be otherwise, for a page that is seen: worked out on the
worker while the hand rests, and anew when the plan is another."""

from collections.abc import Callable, Mapping
from typing import TypeAlias

from PySide6.QtCore import QObject
from PySide6.QtWidgets import QWidget

from umber_compass.colour.packed import Packed
from umber_compass.steps.pipeline import Derived
from umber_compass.window.desk.desk import Desk
from umber_compass.window.widgets.picture_button import PictureButton
from umber_compass.window.widgets.timers import single_shot
from umber_compass.work import Tick

AFTER = 200  # ms of rest
PICTURE_PX = 200  # across

Make: TypeAlias = Callable[[Derived, Tick], dict[str, Packed]]


class WhatIf(QObject):
    """Keeps the pictures of some buttons up with the plan while their page is seen."""

    def __init__(
        self, desk: Desk, page: QWidget, buttons: Mapping[str, PictureButton], kind: str, make: Make
    ) -> None:
        super().__init__(page)
        self._desk, self._page, self._buttons = desk, page, buttons
        self._kind, self._make = kind, make
        self._shown: Derived | None = None
        self.timer = single_shot(self, AFTER, self._ask)
        desk.closed.connect(self.timer.stop)

    def follow(self) -> None:
        """Show the plan that is on, soon; until then the pictures of the one before are dimmed."""
        if self._desk.derived is self._shown or not self._page.isVisible():
            return
        for button in self._buttons.values():
            button.wait()
        self.timer.start()

    def again(self) -> None:
        """Something else is wished of the same plan."""
        self._shown = None
        self.follow()

    def _ask(self) -> None:
        derived = self._desk.derived
        if derived is None or not self._page.isVisible():
            return
        if self._desk.session.dragging:
            self.timer.start()
            return

        def answer(found: dict[str, Packed]) -> None:
            self._shown = derived
            for name, packed in found.items():
                self._buttons[name].show_packed(packed)

        self._desk.worker.ask(self._kind, lambda tick: self._make(derived, tick), answer)
