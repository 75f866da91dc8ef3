"""The hand-off bench: which files are written, and what stands in the palette."""

from PySide6.QtCore import Signal
from PySide6.QtWidgets import (
    QCheckBox,
    QLineEdit,
    QPushButton,
    QScrollArea,
    QWidget,
)

from umber_compass.steps.handoff.palette import KINDS, MORE, SAYS, palette_rows, stem
from umber_compass.steps.pipeline import Derived
from umber_compass.window.bench.bench import Bench, quiet
from umber_compass.window.bench.window_parts import WindowParts
from umber_compass.window.benches.handoff.sheet import PaletteSheet
from umber_compass.window.widgets.flow import Flow
from umber_compass.window.widgets.rows import in_row


class HandoffBench(Bench):
    """Choose the files and a folder, and write them."""

    wanted = Signal(list)  # kinds of files
    folder_typed = Signal(str)
    browsed = Signal()

    def __init__(self) -> None:
        super().__init__("Hand-off")
        self.kinds: dict[str, QCheckBox] = {}
        for kind in KINDS:
            box = QCheckBox()
            box.setChecked(kind not in MORE)
            box.toggled.connect(self._allow)
            self.kinds[kind] = box
            if kind in MORE:
                box.setToolTip(self.tr(SAYS[kind]))
                continue
            self.column.addWidget(box)
            says = quiet(SAYS[kind])
            says.setContentsMargins(24, 0, 0, 4)
            self.column.addWidget(says)
        self.column.addWidget(quiet(self.tr("The palette in other formats as well")))
        more = QWidget()
        more.setLayout(Flow([self.kinds[kind] for kind in MORE], gap=12))
        self.column.addWidget(more)
        self.column.addSpacing(6)
        self.folder = QLineEdit()
        self.folder.setAccessibleName(self.tr("Folder"))
        self.folder.textChanged.connect(self._allow)
        self.folder.textEdited.connect(self.folder_typed)
        browse = QPushButton(self.tr("Folder …"))
        browse.clicked.connect(self.browsed)
        self.write = QPushButton(self.tr("Write files"))
        self.write.setObjectName("fix")
        self.write.clicked.connect(self._write)
        self.column.addLayout(in_row((self.folder, 1), browse, self.write))
        self.column.addSpacing(8)
        self._sheet_title = quiet("")
        self.column.addWidget(self._sheet_title)
        self.sheet = PaletteSheet()
        scroll = QScrollArea()
        scroll.setWidgetResizable(True)
        scroll.setWidget(self.sheet)
        self.column.addWidget(scroll, 1)

    def needs(self) -> tuple[str, ...]:
        return ("ramps",)

    def show_derived(self, derived: Derived, selected: str) -> None:
        name = stem(derived.plan.title)
        for kind, box in self.kinds.items():
            full = KINDS[kind].format(stem=name)
            box.setText(full.removeprefix(name).lstrip("-") if kind in MORE else full)
            box.setAccessibleName(full)
        if derived.ramps is not None:
            rows = palette_rows(derived)
            self.sheet.show_rows(rows)
            line = self.tr("In the palette: {count} colours, each named by region and step")
            self._sheet_title.setText(line.format(count=len(rows)))
        width, height = derived.plan.sketch.size
        self.says.setText(self.tr("picture {w} x {h} px").format(w=width, h=height))

    def show_folder(self, folder: str) -> None:
        """Where the files will go."""
        if self.folder.text() != folder:
            self.folder.setText(folder)

    def _allow(self) -> None:
        chosen = any(b.isChecked() for b in self.kinds.values())
        self.write.setEnabled(chosen and bool(self.folder.text().strip()))

    def _write(self) -> None:
        kinds = [k for k, b in self.kinds.items() if b.isChecked()]
        self.wanted.emit(kinds)


def join(bench: Bench, parts: WindowParts) -> None:
    """The files' own hand writes, and knows the folder."""
    assert isinstance(bench, HandoffBench)
    files = parts.files.handing_off
    bench.wanted.connect(files.hand_off)
    bench.browsed.connect(files.browse)
    bench.folder_typed.connect(files.choose_folder)
    files.folder_changed.connect(bench.show_folder)
    bench.show_folder(files.folder)
