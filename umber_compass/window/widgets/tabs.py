"""The pages of a bench, as buttons of which one is down."""

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QButtonGroup, QHBoxLayout, QPushButton, QStackedWidget, QWidget


class Tabs(QWidget):
    """Says which page is wanted."""

    opened = Signal(int)

    def __init__(self, titles: list[str], small: bool = False) -> None:
        super().__init__()
        line = QHBoxLayout(self)
        line.setContentsMargins(0, 0, 0, 0)
        line.setSpacing(4)
        group = QButtonGroup(self)
        self.buttons = [QPushButton(title) for title in titles]
        for i, button in enumerate(self.buttons):
            button.setCheckable(True)
            if small:
                button.setObjectName("small")
            button.clicked.connect(lambda _=False, n=i: self.opened.emit(n))
            group.addButton(button)
            line.addWidget(button)
        line.addStretch(1)
        self.buttons[0].setChecked(True)

    @property
    def title(self) -> str:
        """The title of the page that is open."""
        return next((b.text() for b in self.buttons if b.isChecked()), "")


class Pages(QStackedWidget):
    """Pages under their tabs, which are a widget of their own: `tabs`."""

    opened = Signal(int)

    def __init__(self, pages: dict[str, QWidget], small: bool = False) -> None:
        super().__init__()
        self.tabs = Tabs(list(pages), small)
        self.tabs.opened.connect(self.open)
        for page in pages.values():
            self.addWidget(page)

    def open(self, index: int) -> None:
        """Show a page."""
        self.setCurrentIndex(index)
        self.tabs.buttons[index].setChecked(True)
        self.opened.emit(index)
