"""How the steps of the chosen region, or of every one, are made: the recipe, how many steps, where
they lie closer, how strong their colours are."""

from PySide6.QtCore import QSignalBlocker, Signal
from PySide6.QtWidgets import QButtonGroup, QCheckBox, QPushButton, QWidget

from umber_compass.colour.measured import listed_hexes, measure_hex
from umber_compass.plan.model import Ramp
from umber_compass.plan.ramp_edits import MOST_PICKED
from umber_compass.steps.pipeline import Derived
from umber_compass.steps.ramps.ramps import ramp_of
from umber_compass.steps.ramps.recipes import RECIPES, RecipeSpec
from umber_compass.window.bench.bench import quiet
from umber_compass.window.bench.choice_row import ChoiceRow
from umber_compass.window.widgets.fields import Of, TextField
from umber_compass.window.widgets.flow import Flow
from umber_compass.window.widgets.rows import in_column, in_row
from umber_compass.window.widgets.setting_field import SettingField
from umber_compass.words import Refusal

_SPREADS = {
    "even": ("even", "every step looks as far from the next"),
    "shade": ("closer in shade", "smaller steps below the base, wider ones above"),
    "light": ("closer in light", "smaller steps above the base, wider ones below"),
}
_ON_VALUES = ("straight", "hsb-sum", "rig")  # whose steps follow numbers of value alone
_HEX_PX, _LIST_PX = 70, 250
# The numbers of a ramp, by name: what stands beside the field, and how many of it show one.
_COUNTS = {"darker": ("darker", 1), "lighter": ("lighter", 1), "degrees": ("turn", 1)}
_DARKEST = {"darkest": ("darkest", 1)}
_AMOUNTS = {
    "dark_chroma": ("chroma in darks", 100),
    "light_chroma": ("in lights", 100),
    "grey_tint": ("tint of greys", 1),
}


class RecipePart(QWidget):
    """Says what is to change of the ramp, by the names of its parts, as `{"darker": 3}`."""

    changed = Signal(object)

    def __init__(self) -> None:
        super().__init__()
        self._derived: Derived | None = None
        self._selected = ""
        group = QButtonGroup(self)
        self.recipes: dict[str, QPushButton] = {}
        for name, spec in RECIPES.items():
            button = QPushButton(spec.title)
            button.setCheckable(True)
            button.setToolTip(spec.says)
            button.clicked.connect(lambda _=False, n=name: self.changed.emit({"recipe": n}))
            group.addButton(button)
            self.recipes[name] = button
        self.every = QCheckBox()
        self.fields: dict[str, SettingField] = {}
        self.tint = self._text(self.tr("Colour that the steps lean or go to, hex"), _HEX_PX)
        self.tint.setPlaceholderText("#…")
        self.tint.setToolTip(
            self.tr("What shades lean to, are tinted with, or go to; empty for the recipe’s own")
        )
        self.tint.typed.connect(self._take_tint)
        self.picked = self._text(self.tr("Colours whose steps are borrowed, hexes"), _LIST_PX)
        self.picked.setPlaceholderText("#…, #…, #…")
        self.picked.setToolTip(
            self.tr("Colours of another picture from dark to light: type them, or pick them on a"
                    " picture in the Reference drawer")
        )  # fmt: skip
        self.picked.typed.connect(self._take_picked)
        self.toward, self.borrowed = quiet(self.tr("toward")), quiet(self.tr("from"))
        self.spread = ChoiceRow(self.tr("steps"), _SPREADS)
        self.spread.chosen.connect(lambda name: self.changed.emit({"spread": name}))
        self.grey = QCheckBox(self.tr("same in grey"))
        self.grey.setToolTip(
            self.tr("Give every step the value that a straight one has: in grey none is told apart")
        )
        self.grey.toggled.connect(lambda on: self.changed.emit({"same_in_grey": on}))
        self._darkest = self._labelled(_DARKEST)[0]
        counts = [
            *self._labelled(_COUNTS),
            self._darkest,
            self.toward,
            self.tint,
            self.borrowed,
            self.picked,
        ]
        self.amounts = _flow(self._labelled(_AMOUNTS))
        in_column(
            _flow([*self.recipes.values(), self.every], 4),
            _flow(counts),
            self.amounts,
            in_row(self.spread, self.grey, 1, gap=8),
            gap=6,
            on=self,
        )

    def _text(self, name: str, width: int) -> TextField:
        field = TextField(name, rests=False)
        field.setFixedWidth(width)
        return field

    def _labelled(self, numbers: dict[str, tuple[str, int]]) -> list[QWidget]:
        """A word and a field for each number of the ramp."""
        made: list[QWidget] = []
        for name, (text, times) in numbers.items():
            field = SettingField("region.REGION." + name.replace("_", "-"))
            whole = name in ("darker", "lighter")
            field.wanted.connect(
                lambda n, name=name, times=times, whole=whole: self.changed.emit(
                    {name: int(n) if whole else float(n) / times}
                )
            )
            self.fields[name] = field
            pair = QWidget()
            in_row(quiet(self.tr(text)), field, gap=4, on=pair)
            made.append(pair)
        return made

    def show_ramp(self, derived: Derived, selected: str) -> None:
        """The recipe of a region, and how many regions there are."""
        self._derived, self._selected = derived, selected
        ramp = ramp_of(derived.recipes, selected)
        spec = RECIPES[ramp.recipe]
        names = {r.id: r.name for r in derived.regions}
        self.every.setText(self.tr("for all {count} regions").format(count=len(names)))
        line = self.tr(
            "Ticked, a recipe or a number is given to every region; else to {name} alone"
        )
        self.every.setToolTip(line.format(name=names[selected]))
        self.recipes[ramp.recipe].setChecked(True)
        self._show_numbers(derived, ramp, spec)
        self.spread.show_choice(ramp.spread)
        self.spread.setEnabled(ramp.recipe not in _ON_VALUES and not ramp.same_in_grey)
        with QSignalBlocker(self.grey):
            self.grey.setChecked(ramp.same_in_grey)
        self.grey.setEnabled(spec.turns)
        for widget in (self.toward, self.tint):
            widget.setVisible(spec.tints)
        for widget in (self.borrowed, self.picked):
            widget.setVisible(spec.picks)
        self._show_texts()

    def _show_numbers(self, derived: Derived, ramp: Ramp, spec: RecipeSpec) -> None:
        of = Of(derived.study.id, self._selected)
        own = derived.rules["ramp.degrees"] if spec.turns else 0.0
        shown = {"degrees": own if ramp.degrees is None else ramp.degrees}
        for name, (_, times) in {**_COUNTS, **_DARKEST, **_AMOUNTS}.items():
            number = shown.get(name, getattr(ramp, name))
            self.fields[name].show_number(number * times, of)
        self.fields["degrees"].setEnabled(spec.turns)
        self.amounts.setVisible(spec.amounts)
        self._darkest.setVisible(spec.amounts)

    def _show_texts(self) -> None:
        if self._derived is None:
            return
        ramp = ramp_of(self._derived.recipes, self._selected)
        of = Of(self._derived.study.id, self._selected)
        for field, text in ((self.tint, ramp.tint or ""), (self.picked, ", ".join(ramp.picked))):
            field.fill(of, text)
            if field.text() != text:
                field.setText(text)

    def _take_tint(self, of: Of, text: str) -> None:
        """A hex was typed; what is none is put back."""
        try:
            self.changed.emit({"tint": measure_hex(text).hex if text.strip() else None})
        except Refusal:
            self._show_texts()

    def _take_picked(self, of: Of, text: str) -> None:
        """Hexes were typed; where one is none, all are put back."""
        try:
            picked = listed_hexes(text)
        except Refusal:
            self._show_texts()
            return
        self.changed.emit({"picked": tuple(picked[:MOST_PICKED])})


def _flow(parts: list[QWidget], gap: int = 10) -> QWidget:
    holder = QWidget()
    holder.setLayout(Flow(parts, gap=gap))
    return holder
