"""A part that scrolls down where it is higher than its room."""

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QFrame, QScrollArea, QWidget

from umber_compass.window.widgets.rows import in_column


def scrolled(part: QWidget) -> QScrollArea:
    """A part in an area that scrolls; never sideways, and no stop for the Tab key."""
    area = QScrollArea()
    area.setWidgetResizable(True)
    area.setFrameShape(QFrame.Shape.NoFrame)
    area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
    area.setFocusPolicy(Qt.FocusPolicy.NoFocus)
    area.setWidget(part)
    return area


def at_top(part: QWidget) -> QWidget:
    """A part at the top of its room, at its own height."""
    body = QWidget()
    in_column(part, 1, margins=(0, 0, 8, 0), on=body)
    return body
