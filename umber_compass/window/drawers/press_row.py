"""Which press the view “Print” shows: the shipped one, or that of the artist's own printer."""

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QSizePolicy, QWidget

from umber_compass.colour.press import shipped
from umber_compass.document.own_press import own_press
from umber_compass.window.bench.bench import quiet


class PressRow(QWidget):
    """The press by name, a button for another, and one for the shipped one."""

    wanted = Signal()  # a profile is to be chosen
    left = Signal()  # the shipped one again

    def __init__(self) -> None:
        super().__init__()
        self.title = quiet("")
        self.title.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)
        self.choose = QPushButton(self.tr("Profile …"))
        self.choose.setToolTip(
            self.tr("The ICC profile your printer or print shop gave you, kept for all plans here")
        )
        self.choose.clicked.connect(self.wanted)
        self.shipped = QPushButton(self.tr("Default"))
        self.shipped.setToolTip(self.tr("Show “Print” as offset on coated paper again"))
        self.shipped.clicked.connect(self.left)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.addWidget(self.title, 1)
        row.addWidget(self.choose)
        row.addWidget(self.shipped)

    def show_press(self) -> None:
        """Say which press is shown now."""
        own = own_press()
        title = (own or shipped()).title
        self.title.setText(title)
        self.title.setToolTip(title)
        self.title.setAccessibleName(self.tr("Print is shown as: {title}").format(title=title))
        self.shipped.setVisible(own is not None)
