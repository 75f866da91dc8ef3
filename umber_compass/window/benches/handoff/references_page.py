"""Reference pictures: which, how wide, as what; written to the hand-off folder."""

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QCheckBox, QPushButton, QWidget

from umber_compass.document.references_out import LEAST_PX, MOST_PX, REFERENCES, Wish
from umber_compass.window.bench.bench import quiet
from umber_compass.window.bench.choice_row import ChoiceRow
from umber_compass.window.widgets.fields import NumberField
from umber_compass.window.widgets.rows import in_column, in_row

_KINDS = {
    "png": ("PNG", "Without loss; for picking colours"),
    "jpeg": ("JPEG", "Smaller; for sending and for a phone beside the easel"),
}
_SAYS = {
    "flat": "to pick local colours from",
    "lit": "to pick light and shade from",
    "grey": "to check values against",
    "plaster": "to see the light alone",
    "palette": "to pin up: every region’s steps at its right",
}


class ReferencesPage(QWidget):
    """Says that pictures are to be written."""

    wanted = Signal(object)  # Wish

    def __init__(self) -> None:
        super().__init__()
        self._kind = "png"
        self.boxes: dict[str, QCheckBox] = {}
        rows = []
        for name, title in REFERENCES.items():
            self.boxes[name] = box = QCheckBox(self.tr(title))
            box.setChecked(name in ("lit", "grey"))
            box.toggled.connect(self._allow)
            rows.append(in_row(box, (quiet(self.tr(_SAYS[name])), 1), gap=10))
        self.width_px = NumberField(self.tr("Width"), LEAST_PX, MOST_PX, " px", 100)
        self.width_px.setMinimumWidth(88)
        self.width_px.show_number(1600)
        self.width_px.setEnabled(False)
        self.own = QCheckBox(self.tr("as wide as the sketch"))
        self.own.setChecked(True)
        self.own.toggled.connect(lambda on: self.width_px.setEnabled(not on))
        self.kind = ChoiceRow(self.tr("as"), _KINDS)
        self.kind.show_choice(self._kind)
        self.kind.chosen.connect(self._take_kind)
        self.write = QPushButton(self.tr("Write references"))
        self.write.setObjectName("fix")
        self.write.setToolTip(self.tr("To the folder of the page Files; all are tagged sRGB"))
        self.write.clicked.connect(lambda: self.wanted.emit(self.wish))
        self.says = quiet("")
        in_column(
            *rows,
            in_row(self.own, self.width_px, self.kind, 1, gap=10),
            in_row((self.says, 1), self.write, gap=10),
            1,
            gap=8,
            on=self,
        )

    @property
    def wish(self) -> Wish:
        """What is wished now."""
        kinds = tuple(name for name, box in self.boxes.items() if box.isChecked())
        width = None if self.own.isChecked() else int(self.width_px.value())
        return Wish(kinds, width, self._kind == "jpeg")

    def show_folder(self, folder: str) -> None:
        """Where they will go."""
        self.says.setText(self.tr("to {folder}").format(folder=folder))
        self.says.setToolTip(folder)

    def _take_kind(self, kind: str) -> None:
        self._kind = kind

    def _allow(self) -> None:
        self.write.setEnabled(any(box.isChecked() for box in self.boxes.values()))
