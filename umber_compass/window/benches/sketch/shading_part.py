"""What becomes of the artist's own shading: whether it is kept, how strong, and which hues shade
and light take."""

from PySide6.QtCore import QSignalBlocker, Qt, Signal
from PySide6.QtWidgets import QCheckBox, QComboBox, QGridLayout, QPushButton, QWidget

from umber_compass.colour.measured import listed_hexes, measure_hex
from umber_compass.plan.model import Region, Shading, ShadingHue
from umber_compass.plan.ramp_edits import set_gradient, set_region_gradient
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
_MOST_NAME_PX = 110
_POLES = {"shade": "shade_hex", "light": "light_hex"}


class ShadingPart(QWidget):
    """Says which edit is wanted."""

    edit_wanted = Signal(object)
    gradient_wanted = Signal(object)  # from a file, for a Region, or None for all of them

    def __init__(self) -> None:
        super().__init__()
        self._shading = Shading()
        self._region: Region | None = None
        self._over: tuple[str, ...] = ()
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
        grid.addWidget(self._build_own(), 4, 0, 1, 4)
        grid.addWidget(quiet(self.tr("where the light is on")), 5, 0)
        grid.addWidget(self.beside, 5, 1, 1, 2)
        grid.setColumnStretch(3, 1)
        says = quiet(
            self.tr("The views “Colour layer”, “Multiply” and “Overlay” show the usual layers.")
        )
        says.setWordWrap(True)
        grid.addWidget(says, 6, 0, 1, 4)

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
        self.open.clicked.connect(lambda: self.gradient_wanted.emit(None))
        self._gradient_row = QWidget()
        in_row((self.stops, 1), self.open, gap=8, on=self._gradient_row)
        return self._gradient_row

    def _build_own(self) -> QWidget:
        """A gradient that the chosen region has alone."""
        self.own_of = quiet("")
        self.own = TextField(self.tr("Gradient of this region alone, hexes"), rests=False)
        self.own.setPlaceholderText(self.tr("none: as all of them"))
        self.own.typed.connect(self._take_own)
        self.open_own = QPushButton(self.tr("Open …"))
        self.open_own.setToolTip(self.open.toolTip())
        self.open_own.clicked.connect(lambda: self.gradient_wanted.emit(self._region))
        self._own_row = QWidget()
        in_row(self.own_of, (self.own, 1), self.open_own, gap=8, on=self._own_row)
        return self._own_row

    def show_region(self, region: Region | None, over: tuple[str, ...]) -> None:
        """The chosen region, and the gradient it has alone."""
        self._region, self._over = region, over
        self._own_row.setVisible(region is not None and self._shading.on)
        if region is not None:
            cut = self.own_of.fontMetrics().elidedText(
                region.name, Qt.TextElideMode.ElideRight, _MOST_NAME_PX
            )
            self.own_of.setText(self.tr("{name} alone").format(name=cut))
        self._show_texts()

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
        region = "" if self._region is None else self._region.id
        texts += [(self.stops, ", ".join(self._shading.stops)), (self.own, ", ".join(self._over))]
        for field, text in texts:
            field.fill(Of(thing=region) if field is self.own else Of(), text)
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

    def _listed(self, text: str) -> list[str] | None:
        """The hexes that were typed; where one is none, all are put back."""
        try:
            return listed_hexes(text)
        except Refusal:
            self._show_texts()
            return None

    def _take_stops(self, of: Of, text: str) -> None:
        found = self._listed(text)
        if found is not None:
            self.edit_wanted.emit(set_gradient(found))

    def _take_own(self, of: Of, text: str) -> None:
        found = self._listed(text)
        if found is None:
            return
        # Another region may have been chosen before the text was taken.
        same = self._region is not None and self._region.id == of.thing
        name = self._region.name if self._region is not None and same else self.tr("a region")
        self.edit_wanted.emit(set_region_gradient(of.thing, found, name))
