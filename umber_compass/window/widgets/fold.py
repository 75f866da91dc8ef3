"""A part that is folded away under a line until it is wanted."""

from PySide6.QtWidgets import QToolButton, QVBoxLayout, QWidget


class Fold(QWidget):
    """A line that opens and closes what lies below it."""

    def __init__(self, title: str, inner: QWidget) -> None:
        super().__init__()
        self._title = title
        self.button = QToolButton()
        self.button.setObjectName("fold")
        self.button.setCheckable(True)
        self.button.setAccessibleName(title)
        self.inner = inner
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(6)
        column.addWidget(self.button)
        column.addWidget(inner)
        self.button.toggled.connect(self._turn)
        self._turn(False)

    def _turn(self, on: bool) -> None:
        self.inner.setVisible(on)
        self.button.setText(f"{'▾' if on else '▸'} {self._title}")
