"""The paint-along card: steps to be ticked off, each with its layer and its colours."""

from collections.abc import Collection, Sequence

from PySide6.QtCore import QRectF, Signal
from PySide6.QtGui import QColor, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QCheckBox, QVBoxLayout, QWidget

from umber_compass.steps.handoff.card import CardStep, Paint
from umber_compass.window.bench.bench import quiet
from umber_compass.window.widgets.rows import in_column, in_row
from umber_compass.window.widgets.scrolled import scrolled
from umber_compass.window.widgets.theme import THEME

_SWATCH, _GAP = 26, 3  # px


class Paints(QWidget):
    """Colours side by side; a click copies one."""

    copied = Signal(str)

    def __init__(self, paints: Sequence[Paint]) -> None:
        super().__init__()
        self._paints = tuple(paints)
        self.setFixedHeight(_SWATCH)
        self.setMouseTracking(True)
        self.setAccessibleName(", ".join(f"{p.name} {p.hex}" for p in paints))

    def _at(self, x: float) -> Paint | None:
        i = int(x // (_SWATCH + _GAP))
        return self._paints[i] if 0 <= i < len(self._paints) else None

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setPen(QPen(THEME.colour("line"), 1))
        for i, paint in enumerate(self._paints):
            box = QRectF(i * (_SWATCH + _GAP), 0, _SWATCH, _SWATCH - 1)
            painter.fillRect(box, QColor(paint.hex))
            painter.drawRect(box)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        paint = self._at(event.position().x())
        self.setToolTip("" if paint is None else f"{paint.name}, {paint.hex}: copy")

    def mousePressEvent(self, event: QMouseEvent) -> None:
        paint = self._at(event.position().x())
        if paint is not None:
            self.copied.emit(paint.hex)


class CardPage(QWidget):
    """Says that a step is done, or not; that a colour is copied."""

    ticked = Signal(str, bool)
    copied = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        self.boxes: dict[str, QCheckBox] = {}
        self._steps: list[CardStep] = []
        self._rows = QVBoxLayout()
        self._rows.setSpacing(10)
        inner = QWidget()
        in_column(self._rows, 1, margins=(0, 0, 8, 0), on=inner)
        self.says = quiet("")
        in_column(self.says, (scrolled(inner), 1), gap=8, on=self)

    def show_card(self, steps: Sequence[CardStep], done: Collection[str]) -> None:
        """The steps, and which of them are done."""
        if list(steps) != self._steps:
            self._steps = list(steps)
            self._build()
        for key, box in self.boxes.items():
            if box.isChecked() != (key in done):
                box.setChecked(key in done)
        count = sum(s.key in done for s in steps)
        line = self.tr("{done} of {all} steps are done; a click on a colour copies it")
        if not steps:
            line = self.tr("No colours are planned yet: propose some, or give them on Harmony.")
        self.says.setText(line.format(done=count, all=len(steps)))

    def _build(self) -> None:
        while (item := self._rows.takeAt(0)) is not None:
            widget = item.widget()
            if widget is not None:
                widget.deleteLater()
        self.boxes = {}
        for i, step in enumerate(self._steps):
            self._rows.addWidget(self._row(i, step))

    def _row(self, i: int, step: CardStep) -> QWidget:
        box = QCheckBox(f"{i + 1}  {step.title}")
        box.clicked.connect(lambda on, k=step.key: self.ticked.emit(k, on))
        self.boxes[step.key] = box
        line = self.tr("layer {layer}, {mode}, {opacity} %").format(
            layer=step.layer, mode=step.mode, opacity=step.opacity
        )
        says = quiet(f"{step.says}.")
        says.setWordWrap(True)
        head = in_row(box, 1, quiet(line))
        paints = Paints(step.paints)
        paints.copied.connect(self.copied)
        row = QWidget()
        parts = (head, says, paints) if step.paints else (head, says)
        in_column(*parts, gap=3, on=row)
        return row
