"""The layers of the starter file: how the light is handed over, which layers are seen, and what
they look like together."""

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QCheckBox, QVBoxLayout, QWidget

from umber_compass.colour.packed import Packed
from umber_compass.plan.edits import Edit
from umber_compass.plan.model import Plan
from umber_compass.plan.settings import change_setting
from umber_compass.window.bench.bench import quiet
from umber_compass.window.bench.choice_row import ChoiceRow
from umber_compass.window.widgets.picture_box import PictureBox
from umber_compass.window.widgets.rows import in_column, in_row
from umber_compass.window.widgets.scrolled import scrolled
from umber_compass.window.widgets.setting_field import SettingField

_LIGHT = {
    "pictures": (
        "as pictures",
        "Each lamp is a picture over the colours: nearest to the lit picture, for any colours",
    ),
    "repaintable": (
        "repaintable",
        "Each lamp is one colour for each material, with a mask: it can be painted anew, and is"
        " a little further off",
    ),
}
_LIST_PX, _PICTURE_PX = 190, 96


class LayersPage(QWidget):
    """Says which edit is wanted, and which layers shall not be seen."""

    edit_wanted = Signal(object)
    hidden_changed = Signal(object)  # names

    def __init__(self) -> None:
        super().__init__()
        self.light = ChoiceRow(self.tr("light"), _LIGHT)
        self.light.chosen.connect(lambda name: self._set("layers.light", name))
        self.clipped = QCheckBox(self.tr("clipped to each material"))
        self.clipped.setToolTip(
            self.tr("The light stands in each material’s group; else once, above all of them")
        )
        self.clipped.toggled.connect(lambda on: self._set("layers.clipped", on))
        self.things = QCheckBox(self.tr("gathered by thing"))
        self.things.setToolTip(
            self.tr("Materials of one thing lie in a group of it, as far as their order allows")
        )
        self.things.toggled.connect(lambda on: self._set("layers.things", on))
        self.grown = SettingField("layers.grown")
        self.grown.asked.connect(self.edit_wanted)
        self.eyes: dict[str, QCheckBox] = {}
        self._list = QVBoxLayout()
        self._list.setSpacing(2)
        inner = QWidget()
        in_column(self._list, margins=(0, 0, 6, 0), on=inner)
        area = scrolled(inner)
        area.setFixedWidth(_LIST_PX)
        area.setMinimumHeight(_PICTURE_PX)
        self.picture = PictureBox(self.tr("The layers laid on each other"), _PICTURE_PX)
        self.says = quiet("")
        self.says.setWordWrap(True)
        self._plan: Plan | None = None
        self._rows: list[tuple[str, str, bool]] = []
        in_column(
            in_row(self.light, 1),
            in_row(self.clipped, self.things, quiet(self.tr("grown by")), self.grown, 1, gap=8),
            (in_row(area, (self.picture, 1), gap=10), 1),
            self.says,
            gap=6,
            on=self,
        )

    def show_plan(self, plan: Plan) -> None:
        """What is chosen for the file."""
        self._plan = None
        self.light.show_choice(plan.layers.light)
        self.clipped.setChecked(plan.layers.clipped)
        self.things.setChecked(plan.layers.things)
        self.grown.show_setting(plan.layers.grown)
        self._plan = plan

    def wait(self) -> None:
        """The layers are being worked out."""
        self.picture.wait(self.tr("The layers are being laid …"))

    def show_layers(self, rows: list[tuple[str, str, bool]], says: str) -> None:
        """(key, title, whether it is seen at first) of every layer, the topmost first, and a
        head over some, which has no key; and how near the layers come."""
        self.says.setText(says)
        if rows == self._rows:
            return
        self._rows = rows
        while (item := self._list.takeAt(0)) is not None:
            widget = item.widget()
            if widget is not None:
                widget.deleteLater()
        self.eyes = {}
        for key, title, seen in rows:
            if not key:
                self._list.addWidget(quiet(title))
                continue
            box = QCheckBox(title)
            box.setChecked(seen)
            box.toggled.connect(self._say_hidden)
            self.eyes[key] = box
            self._list.addWidget(box)
        self._list.addStretch(1)
        self._say_hidden()

    def show_laid(self, packed: Packed) -> None:
        """The layers laid on each other."""
        self.picture.show_packed(packed)

    def _say_hidden(self) -> None:
        self.hidden_changed.emit([k for k, box in self.eyes.items() if not box.isChecked()])

    def _set(self, key: str, value: object) -> None:
        if self._plan is not None:
            edit: Edit = change_setting(key, value)
            self.edit_wanted.emit(edit)
