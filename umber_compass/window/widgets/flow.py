"""Groups side by side that go on in the next line where there is no room."""

from PySide6.QtCore import QPoint, QRect, QSize, Qt
from PySide6.QtWidgets import QLayout, QLayoutItem, QWidget

_LINE_PX = 5  # between lines


class Flow(QLayout):
    """Lays widgets out as words of a text; the last stands at the right where the line is its
    own."""

    def __init__(self, parts: list[QWidget], gap: int = 14) -> None:
        super().__init__()
        self._items: list[QLayoutItem] = []
        self._gap = gap
        self.setContentsMargins(0, 0, 0, 0)
        for part in parts:
            self.addWidget(part)

    def addItem(self, item: QLayoutItem) -> None:
        self._items.append(item)

    def count(self) -> int:
        return len(self._items)

    def itemAt(self, index: int) -> QLayoutItem | None:
        return self._items[index] if 0 <= index < len(self._items) else None

    def takeAt(self, index: int) -> QLayoutItem | None:
        return self._items.pop(index) if 0 <= index < len(self._items) else None

    def expandingDirections(self) -> Qt.Orientation:
        return Qt.Orientation(0)

    def hasHeightForWidth(self) -> bool:
        return True

    def heightForWidth(self, width: int) -> int:
        return self._place(QRect(0, 0, width, 0), False)

    def setGeometry(self, room: QRect) -> None:
        super().setGeometry(room)
        self._place(room, True)

    def sizeHint(self) -> QSize:
        return self.minimumSize()

    def minimumSize(self) -> QSize:
        found = QSize(0, 0)
        for item in self._items:
            if not item.isEmpty():
                found = found.expandedTo(item.minimumSize())
        return found

    def _place(self, room: QRect, really: bool) -> int:
        """How high everything is in a room; put in its place where that is asked for."""
        x, y, high = room.x(), room.y(), 0
        line: list[tuple[QLayoutItem, QPoint]] = []
        for item in (i for i in self._items if not i.isEmpty()):
            size = item.sizeHint()
            if x + size.width() > room.right() + 1 and high:
                self._set(line, high, really)
                x, y, high, line = room.x(), y + high + _LINE_PX, 0, []
            line.append((item, QPoint(x, y)))
            x += size.width() + self._gap
            high = max(high, size.height())
        self._set(line, high, really)
        return y + high - room.y()

    def _set(self, line: list[tuple[QLayoutItem, QPoint]], high: int, really: bool) -> None:
        """Put a line in its place, each in the middle of its height."""
        for item, at in line if really else ():
            size = item.sizeHint()
            down = (high - size.height()) // 2
            item.setGeometry(QRect(at + QPoint(0, down), size))
