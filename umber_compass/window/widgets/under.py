"""What lies under the hand: a region, a colour, or both."""

from typing import NamedTuple, Protocol, runtime_checkable

from PySide6.QtCore import QPointF


class Under(NamedTuple):
    """A region's id and a colour's hex; empty where there is none."""

    region: str = ""
    hex: str = ""


@runtime_checkable
class Showing(Protocol):
    """A part that shows regions or colours."""

    def under(self, place: QPointF) -> Under:
        """What lies at a place of it."""
