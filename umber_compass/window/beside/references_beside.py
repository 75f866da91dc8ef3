"""Keeps the window of reference pictures: makes it when it is first wished, and shows it those of
the plan that is on the desk."""

from typing import TYPE_CHECKING

from PySide6.QtCore import QObject
from PySide6.QtWidgets import QWidget

from umber_compass.colour.measured import levels_of
from umber_compass.colour.spaces import decode, value
from umber_compass.plan.model import Reference
from umber_compass.window.commands.regions import Regions
from umber_compass.window.desk.desk import Desk
from umber_compass.window.desk.references import References, Seen, reference_of

if TYPE_CHECKING:
    from umber_compass.window.beside.reference_window import ReferenceWindow


class ReferencesBeside(QObject):
    """The window and what it knows; without a window it does nothing."""

    def __init__(
        self, parent: QWidget, desk: Desk, references: References, regions: Regions
    ) -> None:
        super().__init__(desk)
        self._parent, self._desk = parent, desk
        self._references, self._regions = references, regions
        self.window: ReferenceWindow | None = None
        self._known: tuple[Reference, ...] | None = None
        self._seen: Seen | None = None  # the one that is shown
        desk.changed.connect(self._follow)
        desk.closed.connect(self.close)

    def toggle(self) -> None:
        """Open the window, or close it."""
        if self.window is not None:
            self.close()
            return
        from umber_compass.window.beside.reference_window import ReferenceWindow

        self.window = window = ReferenceWindow(self._parent)
        window.wanted.connect(self._show)
        window.hovered.connect(self._point)
        window.pressed.connect(self._take)
        window.closed.connect(self._forget)
        self._known = None
        self._follow()
        window.show()

    def dress(self) -> None:
        """Look as the room that is on."""
        if self.window is not None:
            self.window.dress()

    def close(self) -> None:
        """Close the window."""
        if self.window is not None:
            self.window.close()

    def _forget(self) -> None:
        if self.window is not None:
            self.window.deleteLater()
            self.window = None

    def _follow(self) -> None:
        history = self._desk.history
        if self.window is None or history is None or history.now.references == self._known:
            return
        self._known, self._seen = history.now.references, None
        self.window.show_references(self._known)

    def _show(self, reference_id: str, view: str) -> None:
        """Have a picture shown in a view."""
        history = self._desk.history
        one = None if history is None else reference_of(history.now, reference_id)

        def answer(found: Seen) -> None:
            if self.window is not None:
                self._seen = found
                self.window.show_picture(found.shown)

        if one is not None:
            self._references.see(one, view, answer, "beside")

    def _point(self, x: float, y: float) -> None:
        if self.window is None or self._seen is None:
            return
        hex_ = self._seen.hex_at(x, y)
        line = self.tr("{hex}, {value:.0f} L*. A click gives it to the chosen region.")
        if not self._regions.is_chosen:
            line = self.tr("{hex}, {value:.0f} L*. A click copies it.")
        grey = float(value(decode(levels_of(hex_) / 255)))
        self.window.say(hex_, line.format(hex=hex_, value=grey))

    def _take(self, x: float, y: float) -> None:
        if self._seen is not None:
            self._regions.take_picked(self._seen.hex_at(x, y))
