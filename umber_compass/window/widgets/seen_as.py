"""The choice of a view for a picture that is not the plan's own."""

from PySide6.QtCore import QCoreApplication
from PySide6.QtWidgets import QComboBox

from umber_compass.views import VIEWS


def seen_as_choice() -> QComboBox:
    """A list of the views that need no plan; its data are their names, empty for `as it is`."""
    found = QComboBox()
    found.setAccessibleName(QCoreApplication.translate("seen_as", "Seen as"))
    found.addItem(QCoreApplication.translate("seen_as", "as it is"), "")
    for name, spec in VIEWS.items():
        if not spec.needs_pull:
            found.addItem(spec.title, name)
    return found
