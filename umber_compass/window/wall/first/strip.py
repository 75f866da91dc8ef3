"""The questions above the wall, each of which may be skipped, and what proposes."""

from typing import get_args

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QComboBox, QLabel, QPushButton, QToolButton, QWidget

from umber_compass.plan.first import FirstKey, FirstScheme, FirstValues
from umber_compass.plan.terms import Material
from umber_compass.steps.first.lights import LIGHTS
from umber_compass.window.bench.bench import quiet
from umber_compass.window.wall.first.chips import AreaChip, Chips
from umber_compass.window.wall.first.drawing_pick import DrawingPick
from umber_compass.window.wall.first.facts import Facts, skin_hexes
from umber_compass.window.widgets.bitmap import Bitmap
from umber_compass.window.widgets.fields import NumberField
from umber_compass.window.widgets.flow import Flow
from umber_compass.window.widgets.outlines import Outlines
from umber_compass.window.widgets.rows import in_column, in_row
from umber_compass.window.widgets.swatch_chip import SwatchChip

AREAS, GROUNDS = 2, 5
_NOT_SAID = "not said"
_MATERIALS = (
    _NOT_SAID, "sky", "cloud", "water", "leaf", "grass", "earth", "sand", "stone", "brick",
    "plaster", "slate", "wood", "metal", "brass", "glass", "glow", "cloth", "leather", "paper",
    "skin", "hair", "fur", "fruit-red", "fruit-yellow", "any",
)  # fmt: skip
_KEYS: dict[FirstKey, str] = {
    "free": "any key", "high": "high key", "middle": "middle key", "low": "low key",
    "dark-on-light": "dark on light", "light-on-dark": "light on dark",
}  # fmt: skip
_VALUES: dict[FirstValues, str] = {
    "auto": "values: as suits the drawing", "free": "values: free",
    "kept": "values: as drawn", "order": "values: order as drawn",
}  # fmt: skip
_SCHEMES: dict[FirstScheme, str] = {"free": "scheme: any", "wheel": "scheme: as on the wheel"}
_FOCUS = (("skin", "Skin"), ("fur", "Fur"), ("any", "Neither"))


class FirstStrip(QWidget):
    """Shows facts; says what was answered."""

    focus_picked = Signal(float, float)
    told = Signal(str, object)  # a setting of first colours, its value
    area_told = Signal(str, str)  # a region, its material; empty for not said
    ground_told = Signal(str, bool)
    focus_told = Signal(str)  # skin, fur, any
    light_told = Signal(str)
    budget_told = Signal(int)
    asked = Signal(str)  # an action by name

    def __init__(self) -> None:
        super().__init__()
        self.drawing = DrawingPick()
        self.drawing.picked.connect(self.focus_picked)
        self.heading = QLabel()
        self.heading.setObjectName("heading")
        self.first = quiet("")
        self.is_focus = Chips([(n, self.tr(t), self.tr(t)) for n, t in _FOCUS])
        self.is_focus.chosen.connect(self.focus_told)
        self._build_areas()
        self._build_lights()
        self._build_more()
        self._build_buttons()
        word, skins = quiet(self.tr("Skin tone")), list(self.skins.values())
        groups = (
            (self.first, self.is_focus),
            (word, *skins),
            (quiet(self.tr("Largest areas")), *self.areas),
            (quiet(self.tr("Ground")), *self.grounds),
            (quiet(self.tr("Light")), self.lights),
            (self.more_button,),
        )
        head, questions = QWidget(), QWidget()
        head.setLayout(Flow([self.heading, _group(self.propose, self.rest, self.others)]))
        questions.setLayout(Flow([_group(*g) for g in groups]))
        column = in_column(
            head,
            questions,
            self.more,
            gap=5,
        )
        in_row(self.drawing, (column, 1), gap=12, on=self)

    def _build_areas(self) -> None:
        self.areas = [AreaChip(_MATERIALS) for _ in range(AREAS)]
        for area in self.areas:
            area.picked.connect(lambda r, m: self.area_told.emit(r, "" if m == _NOT_SAID else m))
        self.grounds = [AreaChip() for _ in range(GROUNDS)]
        for ground in self.grounds:
            ground.picked.connect(lambda r, _: self.ground_told.emit(r, self._ticked(r)))
        self.skins = {
            tone: SwatchChip(self.tr("{tone} skin").format(tone=tone), colour)
            for tone, colour in skin_hexes().items()
        }
        for tone, chip in self.skins.items():
            chip.clicked.connect(lambda _=False, t=tone: self.told.emit("first.skin", t))

    def _ticked(self, region: str) -> bool:
        return next(g.isChecked() for g in self.grounds if g.region == region)

    def _build_lights(self) -> None:
        rows = [(n, self.tr(li.title.capitalize()), self.tr(li.says)) for n, li in LIGHTS.items()]
        self.lights = Chips(rows)
        self.lights.chosen.connect(self.light_told)

    def _build_more(self) -> None:
        """What is seldom asked, behind a fold."""
        self.key = self._choice(_KEYS, "first.key", self.tr("Value key"))
        self.values = self._choice(_VALUES, "first.values", self.tr("Values"))
        self.scheme = self._choice(_SCHEMES, "first.scheme", self.tr("Scheme"))
        self.strength = NumberField(
            self.tr("How strong the colours are"),
            30,
            160,
            self.tr(" % strong"),
            10,
            0,
            self.tr("Quiet under 100 %, strong over it."),
        )
        self.strength.wanted.connect(lambda n: self.told.emit("first.strength", n / 100))
        self.warm = NumberField(
            self.tr("How much should be warm"),
            -10,
            100,
            self.tr(" % warm"),
            10,
            0,
            self.tr("Of what has colour. The lowest is any."),
        )
        self.warm.setSpecialValueText(self.tr("warm: any"))
        self.warm.wanted.connect(lambda n: self.told.emit("first.warm", None if n < 0 else n / 100))
        self.budget = NumberField(
            self.tr("Colours at most"),
            0,
            64,
            self.tr(" colours at most"),
            1,
            0,
            self.tr("0 is as many as it takes."),
        )
        self.budget.setSpecialValueText(self.tr("colours: any number"))
        self.budget.wanted.connect(lambda n: self.budget_told.emit(int(n)))
        self.more = QWidget()
        parts: list[QWidget] = [self.key, self.values, self.scheme]
        self.more.setLayout(Flow([*parts, self.strength, self.warm, self.budget], 6))
        self.more_button = QToolButton()
        self.more_button.setObjectName("fold")
        self.more_button.setCheckable(True)
        self.more_button.toggled.connect(self._turn_more)
        self._turn_more(False)

    def _turn_more(self, on: bool) -> None:
        self.more.setVisible(on)
        self.more_button.setText(("▾ " if on else "▸ ") + self.tr("Key, values, strength"))

    def _choice(self, rows: dict[str, str] | dict, setting: str, name: str) -> QComboBox:  # type: ignore[type-arg]
        made = QComboBox()
        made.setAccessibleName(name)
        for value, title in rows.items():
            made.addItem(self.tr(title), value)
        made.activated.connect(lambda i, s=setting: self.told.emit(s, made.itemData(i)))
        return made

    def _build_buttons(self) -> None:
        self.propose = QPushButton(self.tr("Propose six"))
        self.propose.setObjectName("chief")
        self.rest = QPushButton(self.tr("Try the rest"))
        self.others = QPushButton(self.tr("Others"))
        for button, action, says in (
            (self.propose, "first", self.tr("Six proposals from the drawing and these answers")),
            (
                self.rest,
                "first-rest",
                self.tr("What is ticked on the cards stays; all else is proposed anew"),
            ),
            (self.others, "first-others", self.tr("Six that differ from those there are")),
        ):
            button.setToolTip(says)
            button.clicked.connect(lambda _=False, a=action: self.asked.emit(a))

    def show_facts(self, facts: Facts, outlines: Outlines, bitmap: Bitmap | None) -> None:
        """What is told, and what is guessed where nothing is."""
        self.drawing.show_drawing(bitmap, facts.mark, facts.guessed)
        self.heading.setText(
            self.tr("Click what you like") if facts.proposals else self.tr("First colours")
        )
        ringed = self.tr("Seen first (ringed, a guess) is")
        self.first.setText(ringed if facts.guessed else self.tr("Seen first (ringed) is"))
        if facts.mark is None:
            self.first.setText(self.tr("Click what is seen first. It is"))
        self.is_focus.show_down([facts.focus_is])
        for chip, area in zip(self.areas, facts.areas, strict=False):
            said = area.material if area.material not in ("matte",) else self.tr("say what")
            chip.show_area(
                area.region, area.name, area.label, outlines, said.replace("-", " "), False
            )
        for i, chip in enumerate(self.areas):
            chip.setVisible(i < len(facts.areas))
        for i, chip in enumerate(self.grounds):
            chip.setVisible(i < len(facts.grounds))
            if i < len(facts.grounds):
                area = facts.grounds[i]
                said = self.tr("ground") if area.ground else self.tr("no ground")
                chip.show_area(area.region, area.name, area.label, outlines, said, area.ground)
        for tone, swatch in self.skins.items():
            swatch.setChecked(tone == facts.told.skin)
        self.lights.show_down(facts.told.lights)
        for combo, value in (
            (self.key, facts.told.key),
            (self.values, facts.told.values),
            (self.scheme, facts.told.scheme),
        ):
            combo.setCurrentIndex(combo.findData(value))
        self.strength.show_number(facts.told.strength * 100)
        self.warm.show_number(-10 if facts.told.warm is None else facts.told.warm * 100)
        self.budget.show_number(facts.budget or 0)
        self.propose.setText(
            self.tr("Propose again") if facts.proposals else self.tr("Propose six")
        )
        self.rest.setEnabled(bool(facts.told.kept) and facts.proposals > 0)
        self.others.setEnabled(facts.proposals > 0)


def _group(*parts: QWidget) -> QWidget:
    """Parts that stay together in a line."""
    made = QWidget()
    in_row(*parts, gap=6, on=made)
    return made


assert {m for m in _MATERIALS if m != _NOT_SAID} <= set(get_args(Material))
