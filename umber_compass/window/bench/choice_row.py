"""A choice as buttons side by side, of which one is down."""

from collections.abc import Mapping

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QButtonGroup, QPushButton, QWidget

from umber_compass.window.bench.bench import quiet
from umber_compass.window.widgets.rows import in_row


class ChoiceRow(QWidget):
    """Says which was chosen; `titles` are words and a sentence by what each stands for."""

    chosen = Signal(str)

    def __init__(self, head: str, titles: Mapping[str, tuple[str, str]]) -> None:
        super().__init__()
        group = QButtonGroup(self)
        self.buttons: dict[str, QPushButton] = {}
        for name, (title, says) in titles.items():
            button = QPushButton(self.tr(title))
            button.setCheckable(True)
            button.setToolTip(self.tr(says))
            button.clicked.connect(lambda _=False, n=name: self.chosen.emit(n))
            group.addButton(button)
            self.buttons[name] = button
        in_row(quiet(head), *self.buttons.values(), 1, gap=4, on=self)

    def show_choice(self, name: str) -> None:
        """Which one is chosen."""
        self.buttons[name].setChecked(True)
