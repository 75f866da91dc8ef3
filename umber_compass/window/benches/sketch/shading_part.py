"""What becomes of the artist's own shading: whether it is kept, how strong, and which hues shade
and light take."""

from PySide6.QtCore import QSignalBlocker, Signal
from PySide6.QtWidgets import QCheckBox, QComboBox, QGridLayout, QPushButton, QWidget

from umber_compass.colour.measured import listed_hexes, measure_hex
from umber_compass.plan.model import Shading, ShadingHue
from umber_compass.plan.ramp_edits import set_gradient
from umber_compass.plan.settings import change_setting
from umber_compass.window.bench.bench import quiet
from umber_compass.window.widgets.fields import Of, TextField
from umber_compass.window.widgets.rows import in_row
from umber_compass.window.widgets.setting_field import SettingField
from umber_compass.words import Refusal

_HUES: tuple[tuple[ShadingHue, str], ...] = (
    ("kept", "keeps its hue"),
    ("cool-warm", "cools in shade, warms in light"),
    ("own", "leans to two colours of your own"),
    ("rig", "follows the lamps"),
    ("ramp", "goes through each region’s ramp"),
    ("gradient", "goes through one gradient"),
)
_POLES = {"shade": "shade_hex", "light": "light_hex"}


class ShadingPart(QWidget):
    """Says which edit is wanted."""

    edit_wanted = Signal(object)
    gradient_wanted = Signal()  # from a file

    def __init__(self) -> None:
        super().__init__()
        self._shading = Shading()
        grid = QGridLayout(self)
        grid.setContentsMargins(0, 4, 0, 0)
        grid.setHorizontalSpacing(8)
        grid.setVerticalSpacing(6)
        self.on = QCheckBox(self.tr("Keep your own shading"))
        self.on.clicked.connect(lambda on: self.edit_wanted.emit(change_setting("shading.on", on)))
        self.strength = SettingField("shading.strength")
        self.strength.asked.connect(self.edit_wanted)
        self.hue = QComboBox()
        for key, text in _HUES:
            self.hue.addItem(self.tr(text), key)
        self.hue.setAccessibleName(self.tr("Hue in shade and light"))
        self.hue.activated.connect(
            lambda i: self.edit_wanted.emit(change_setting("shading.hue", self.hue.itemData(i)))
        )
        self.beside = QComboBox()
        self.beside.addItems([self.tr("instead of forms"), self.tr("added to the forms")])
        self.beside.setAccessibleName(self.tr("Shading and forms"))
        self.beside.setToolTip(
            self.tr(
                "Where the light is on: your shading stands for the forms, or goes beside them;"
                " beside them a region’s value is no longer exact"
            )
        )
        self.beside.activated.connect(
            lambda i: self.edit_wanted.emit(change_setting("shading.beside", i == 1))
        )
        grid.addWidget(self.on, 0, 0, 1, 2)
        grid.addWidget(self.strength, 0, 2)
        grid.addWidget(quiet(self.tr("hue in shade and light")), 1, 0)
        grid.addWidget(self.hue, 1, 1, 1, 2)
        grid.addWidget(self._build_poles(), 2, 0, 1, 4)
        grid.addWidget(self._build_gradient(), 3, 0, 1, 4)
        grid.addWidget(quiet(self.tr("where the light is on")), 4, 0)
        grid.addWidget(self.beside, 4, 1, 1, 2)
        grid.setColumnStretch(3, 1)
        says = quiet(
            self.tr("The views “Colour layer”, “Multiply” and “Overlay” show the usual layers.")
        )
        says.setWordWrap(True)
        grid.addWidget(says, 5, 0, 1, 4)

    def _build_poles(self) -> QWidget:
        """The colours that shade and light lean to."""
        self.poles: dict[str, TextField] = {}
        parts: list[QWidget] = []
        for name in _POLES:
            field = TextField(
                self.tr("Colour that {name} leans to, hex").format(name=name), rests=False
            )
            field.setFixedWidth(80)
            field.typed.connect(lambda _, text, name=name: self._take_pole(name, text))
            self.poles[name] = field
            parts += [quiet(self.tr("{name} to").format(name=name)), field]
        self._pole_row = QWidget()
        in_row(*parts, 1, gap=8, on=self._pole_row)
        return self._pole_row

    def _build_gradient(self) -> QWidget:
        """The colours of the one gradient, dark to light, or a file of them."""
        self.stops = TextField(self.tr("Colours of the gradient, hexes"), rests=False)
        self.stops.setPlaceholderText(self.tr("#…, #…, #… dark to light"))
        self.stops.typed.connect(self._take_stops)
        self.open = QPushButton(self.tr("Open gradient …"))
        self.open.setToolTip(self.tr("A gradient (.ggr, .svg), a palette, or a picture’s colours"))
        self.open.clicked.connect(self.gradient_wanted)
        self._gradient_row = QWidget()
        in_row((self.stops, 1), self.open, gap=8, on=self._gradient_row)
        return self._gradient_row

    def show_shading(self, shading: Shading) -> None:
        """What was decided."""
        self._shading = shading
        with QSignalBlocker(self.on), QSignalBlocker(self.hue), QSignalBlocker(self.beside):
            self.on.setChecked(shading.on)
            self.hue.setCurrentIndex(self.hue.findData(shading.hue))
            self.beside.setCurrentIndex(1 if shading.beside else 0)
        self.strength.show_setting(shading.strength)
        for part in (self.strength, self.hue, self.beside):
            part.setEnabled(shading.on)
        self._pole_row.setVisible(shading.on and shading.hue == "own")
        self._gradient_row.setVisible(shading.on and shading.hue == "gradient")
        self._show_texts()

    def _show_texts(self) -> None:
        texts = [(self.poles[n], getattr(self._shading, key)) for n, key in _POLES.items()]
        for field, text in (*texts, (self.stops, ", ".join(self._shading.stops))):
            field.fill(Of(), text)
            if field.text() != text:
                field.setText(text)

    def _take_pole(self, name: str, text: str) -> None:
        """A hex was typed; what is none is put back."""
        try:
            found = measure_hex(text.strip()).hex
        except Refusal:
            self._show_texts()
            return
        self.edit_wanted.emit(change_setting(f"shading.{name}-colour", found))

    def _take_stops(self, of: Of, text: str) -> None:
        """Hexes were typed; where one is none, all are put back."""
        try:
            found = listed_hexes(text)
        except Refusal:
            self._show_texts()
            return
        self.edit_wanted.emit(set_gradient(found))
