"""A layout emptied of its widgets."""

from PySide6.QtWidgets import QLayout


def clear(layout: QLayout) -> None:
    """Take every widget out of a layout; each goes at once, and for good."""
    while layout.count():
        item = layout.takeAt(0)
        widget = None if item is None else item.widget()
        if widget is not None:
            widget.hide()
            widget.deleteLater()
