"""The chosen region as floor, wall or sky; where the floor ends; and the form of the region."""

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QLabel, QVBoxLayout, QWidget

from umber_compass.plan.edits import find_region
from umber_compass.plan.scene_edits import set_ground, set_horizon
from umber_compass.plan.terms import Ground
from umber_compass.steps.pipeline import Derived
from umber_compass.window.bench.bench import quiet
from umber_compass.window.bench.choice_row import ChoiceRow
from umber_compass.window.benches.light.form_bar import FormBar
from umber_compass.window.widgets.fields import NumberField, Of
from umber_compass.window.widgets.rows import in_column, in_row
from umber_compass.window.widgets.setting_field import SettingField

_GROUNDS: tuple[Ground, ...] = ("floor", "wall", "sky")
_KINDS = {
    "auto": ("as guessed", "floor, wall or sky by its place and name"),
    "floor": ("floor", "shadows lie on it; it throws light back"),
    "wall": ("wall", "upright; shadows fall on it"),
    "sky": ("sky", "far away: no shadow falls on it"),
}


class GroundPart(QWidget):
    """Says which edit is wanted."""

    edit_wanted = Signal(object)

    def __init__(self) -> None:
        super().__init__()
        self._derived: Derived | None = None
        self._selected = ""
        in_column(self._build_grounds(), self._build_form(), gap=8, on=self)

    def _build_grounds(self) -> QVBoxLayout:
        self.ground_of = QLabel()
        self.ground_of.setObjectName("strong")
        self.ground = ChoiceRow(self.tr("is"), _KINDS)
        self.ground.chosen.connect(self._take_ground)
        self.horizon = NumberField(
            self.tr("Horizon, % of the height"), 0, 100, " %", 0.5, 1,
            self.tr("Where the floor ends and a wall begins; drag the line on the picture."),
        )  # fmt: skip
        self.horizon.wanted.connect(lambda n: self.edit_wanted.emit(set_horizon(n / 100)))
        return in_column(
            in_row(self.ground_of, 1, quiet(self.tr("floor ends at")), self.horizon, gap=6),
            self.ground,
            gap=4,
        )

    def _build_form(self) -> QVBoxLayout:
        self.form_bar = FormBar()
        self.form_bar.edit_wanted.connect(self.edit_wanted)
        self.edge = SettingField("region.REGION.edge")
        self.edge.asked.connect(self.edit_wanted)
        says = quiet(self.tr("light turns to shade over"))
        return in_column(
            self.form_bar, in_row(says, self.edge, 1, gap=6, margins=(6, 0, 0, 0)), gap=6
        )

    def show_derived(self, derived: Derived, selected: str) -> None:
        """Where the floor ends, and what the chosen region is."""
        self._derived, self._selected = derived, selected
        standing = derived.standing
        if standing is not None:
            self.horizon.show_number(standing.stage.horizon * 100, Of())
        self._show_region(derived, selected)

    def _show_region(self, derived: Derived, selected: str) -> None:
        region = find_region(derived.plan, selected)
        grounds = derived.standing.grounds if derived.standing is not None else {}
        self.ground.setEnabled(region is not None)
        self.edge.setEnabled(region is not None)
        self.form_bar.show_region(derived, selected)
        if region is None:
            self.ground_of.setText(self.tr("No region chosen"))
            self.ground.show_choice("auto")
            return
        now = grounds.get(region.id)
        said = self.tr("{name}: {kind}").format(name=region.name, kind=now or self.tr("a thing"))
        self.ground_of.setText(said)
        self.ground.show_choice(derived.scene.grounds.get(region.id, "auto"))
        self.edge.show_setting(region.edge or 0.0, Of(thing=region.id), region.name)

    def _take_ground(self, kind: str) -> None:
        if self._derived is None:
            return
        region = find_region(self._derived.plan, self._selected)
        if region is not None:
            ground = next((g for g in _GROUNDS if g == kind), None)
            self.edit_wanted.emit(set_ground(region.id, ground, region.name))
