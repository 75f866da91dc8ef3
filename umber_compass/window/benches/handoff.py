"""The hand-off bench: which files are written, and what stands in the palette."""

from PySide6.QtCore import QRectF, QSize, Qt, Signal
from PySide6.QtGui import QColor, QPainter, QPaintEvent
from PySide6.QtWidgets import (
    QCheckBox,
    QHBoxLayout,
    QLineEdit,
    QPushButton,
    QScrollArea,
    QSizePolicy,
    QWidget,
)

from umber_compass.steps.handoff import KINDS, SAYS, palette_rows, stem
from umber_compass.steps.pipeline import Derived
from umber_compass.window.benches.bench import Bench, quiet
from umber_compass.window.theme import THEME, font

_ROW, _NAME = 20, 130  # px


class PaletteSheet(QWidget):
    """The palette as the painting program will list it: a line for each region, dark to light."""

    def __init__(self) -> None:
        super().__init__()
        self.setAccessibleName(self.tr("Palette that is written"))
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self._lines: list[tuple[str, list[str]]] = []

    def show_rows(self, rows: list[tuple[str, str]]) -> None:
        """(hex, name) rows, grouped by region."""
        lines: dict[str, list[str]] = {}
        for colour, name in rows:
            lines.setdefault(name.rsplit(" ", 1)[0], []).append(colour)
        self._lines = list(lines.items())
        self.setFixedHeight(max(len(self._lines), 1) * _ROW)
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(400, max(len(self._lines), 1) * _ROW)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setFont(font(12))
        most = max((len(c) for _, c in self._lines), default=1)
        width = (self.width() - _NAME - 12) / most
        for i, (name, colours) in enumerate(self._lines):
            painter.setPen(THEME.colour("ink"))
            place = QRectF(0, i * _ROW, _NAME - 6, _ROW - 2)
            painter.drawText(place, Qt.AlignmentFlag.AlignVCenter, name)
            for j, colour in enumerate(colours):
                box = QRectF(_NAME + j * width, i * _ROW, width - 1, _ROW - 2)
                painter.fillRect(box, QColor(colour))


class HandoffBench(Bench):
    """Choose the files and a folder, and write them."""

    wanted = Signal(str, list)  # folder, kinds
    browsed = Signal()

    def __init__(self) -> None:
        super().__init__("Hand-off")
        self.kinds: dict[str, QCheckBox] = {}
        for kind in KINDS:
            box = QCheckBox()
            box.setChecked(True)
            box.toggled.connect(self._allow)
            self.kinds[kind] = box
            self.column.addWidget(box)
            says = quiet(SAYS[kind])
            says.setContentsMargins(24, 0, 0, 4)
            self.column.addWidget(says)
        line = QHBoxLayout()
        self.folder = QLineEdit()
        self.folder.setAccessibleName(self.tr("Folder"))
        self.folder.textChanged.connect(self._allow)
        browse = QPushButton(self.tr("Folder …"))
        browse.clicked.connect(self.browsed)
        self.write = QPushButton(self.tr("Write files"))
        self.write.setObjectName("fix")
        self.write.clicked.connect(self._write)
        line.addWidget(self.folder, 1)
        line.addWidget(browse)
        line.addWidget(self.write)
        self.column.addLayout(line)
        self.column.addSpacing(8)
        self._sheet_title = quiet("")
        self.column.addWidget(self._sheet_title)
        self.sheet = PaletteSheet()
        scroll = QScrollArea()
        scroll.setWidgetResizable(True)
        scroll.setWidget(self.sheet)
        self.column.addWidget(scroll, 1)

    def show_derived(self, derived: Derived, selected: str) -> None:
        name = stem(derived.plan.title)
        for kind, box in self.kinds.items():
            box.setText(KINDS[kind].format(stem=name))
        rows = palette_rows(derived)
        self.sheet.show_rows(rows)
        self._sheet_title.setText(
            self.tr("In the palette: {count} colours, each named by region and step").format(
                count=len(rows)
            )
        )
        width, height = derived.plan.sketch.size
        self.says.setText(self.tr("picture {w} x {h} px").format(w=width, h=height))

    def show_folder(self, folder: str) -> None:
        """Where the files will go."""
        self.folder.setText(folder)

    def _allow(self) -> None:
        chosen = any(b.isChecked() for b in self.kinds.values())
        self.write.setEnabled(chosen and bool(self.folder.text().strip()))

    def _write(self) -> None:
        kinds = [k for k, b in self.kinds.items() if b.isChecked()]
        self.wanted.emit(self.folder.text().strip(), kinds)
