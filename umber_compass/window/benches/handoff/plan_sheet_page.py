"""The plan sheet: which paper, which parts, for whom; how it will print; and the button that writes
it."""

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QCheckBox, QPushButton, QWidget

from umber_compass.document.plan_sheet import CHOICES, PAPERS, Wish
from umber_compass.window.bench.choice_row import ChoiceRow
from umber_compass.window.widgets.flow import Flow
from umber_compass.window.widgets.picture_box import PictureBox
from umber_compass.window.widgets.rows import in_column, in_row

_PAPERS = {
    "A4": ("A4", "210 x 297 mm"),
    "Letter": ("Letter", "8.5 x 11 inches, 216 x 279 mm"),
}
_LEAST_PX = 120


class PlanSheetPage(QWidget):
    """Says that the sheet is wished otherwise, and that it is to be written."""

    changed = Signal(object)  # Wish
    write_wanted = Signal()

    def __init__(self) -> None:
        super().__init__()
        self._paper = next(iter(PAPERS))
        self.paper = ChoiceRow(self.tr("paper"), _PAPERS)
        self.paper.chosen.connect(self._take_paper)
        self.paper.show_choice(self._paper)
        self.upright = QCheckBox(self.tr("upright"))
        self.client = QCheckBox(self.tr("for a client"))
        self.client.setToolTip(self.tr("Without numbers and checks"))
        self.write = QPushButton(self.tr("Write sheet …"))
        self.write.setToolTip(self.tr("As PDF, SVG or PNG, by the ending of its name"))
        self.write.clicked.connect(self.write_wanted)
        self.parts: dict[str, QCheckBox] = {}
        for name, title in CHOICES.items():
            box = QCheckBox(self.tr(title))
            box.setChecked(name not in Wish().without)
            self.parts[name] = box
        for box in (self.upright, self.client, *self.parts.values()):
            box.toggled.connect(lambda _: self.changed.emit(self.wish))
        shown = QWidget()
        shown.setLayout(Flow(list(self.parts.values()), gap=12))
        self.picture = PictureBox(self.tr("The sheet as it will print"), _LEAST_PX)
        in_column(
            in_row(self.paper, self.upright, self.client, 1, self.write, gap=10),
            shown,
            (self.picture, 1),
            gap=6,
            on=self,
        )

    @property
    def wish(self) -> Wish:
        """The sheet as it is wished now."""
        without = frozenset(name for name, box in self.parts.items() if not box.isChecked())
        upright, client = self.upright.isChecked(), self.client.isChecked()
        return Wish(self._paper, upright, without, client)

    def _take_paper(self, name: str) -> None:
        self._paper = next(p for p in PAPERS if p == name)
        self.changed.emit(self.wish)
