"""The chosen lamp in numbers: its colour, and where it stands."""

import numpy as np
from PySide6.QtCore import Signal
from PySide6.QtWidgets import QGridLayout, QHBoxLayout, QWidget

from umber_compass.colour.gamut import fit
from umber_compass.colour.measured import measure_hex
from umber_compass.colour.spaces import encode, to_hex
from umber_compass.plan.rig import Rig
from umber_compass.steps.light.lamps import MOST_DEG, Angles, angles_of, direction_of
from umber_compass.window.bench.bench import quiet
from umber_compass.window.widgets.fields import NumberField, Of, TextField
from umber_compass.window.widgets.setting_field import SettingField
from umber_compass.words import Refusal


class LampBar(QWidget):
    """Hex, value, chroma and hue of a lamp's colour; round, off the front and softness
    of where it stands."""

    coloured = Signal(str)  # the lamp's new hex
    stood = Signal(object)  # the lamp's new direction
    softened = Signal(object)  # the edit

    def __init__(self) -> None:
        super().__init__()
        grid = QGridLayout(self)
        grid.setContentsMargins(6, 0, 0, 0)
        grid.setHorizontalSpacing(6)
        grid.setVerticalSpacing(4)
        self._hex = ""
        self._angles = Angles(0, 0)
        self.hex = TextField(self.tr("Lamp’s colour, hex"), needed=True, rests=False)
        self.hex.setMaximumWidth(84)
        self.hex.typed.connect(self._take_hex)
        self.value = NumberField(
            self.tr("Lamp’s value"),
            1,
            100,
            " L*",
            says=self.tr("How light the lamp’s own colour is; how strong it shines is its bar."),
        )
        self.chroma = NumberField(
            self.tr("Lamp’s chroma, OKLCh"),
            0,
            0.4,
            " c",
            0.005,
            3,
            self.tr("How coloured the lamp is: 0 is white light, 0.1 a low sun."),
        )
        self.hue = NumberField(
            self.tr("Lamp’s hue, OKLCh degrees"),
            -1,
            360,
            "°",
            says=self.tr("The lamp’s hue: about 60 is orange, 110 yellow, 230 sky blue."),
        )
        self.round = NumberField(
            self.tr("Side it shines from, degrees from above"),
            -1,
            360,
            "°",
            says=self.tr("From which side it shines: 0 from above, 90 right, 180 below, 270 left."),
        )
        self.off = NumberField(
            self.tr("Degrees off the front"),
            0,
            MOST_DEG,
            "°",
            says=self.tr("0 shines from the viewer, 90 along the picture, more from behind it."),
        )
        self.soft = SettingField("lamp.LAMP.softness")
        for field in (self.value, self.chroma, self.hue):
            field.wanted.connect(self._take_colour)
        for field in (self.round, self.off):
            field.wanted.connect(self._take_stand)
        self.soft.asked.connect(self.softened)
        self._colour = self._line(
            (self.tr("colour"), self.hex),
            (self.tr("value"), self.value),
            (self.tr("chroma"), self.chroma),
            (self.tr("hue"), self.hue),
        )
        self._place = self._line(
            (self.tr("side"), self.round),
            (self.tr("off the front"), self.off),
            (self.tr("softness"), self.soft),
        )
        grid.addWidget(self._colour, 0, 0)
        grid.addWidget(self._place, 1, 0)

    def _line(self, *fields: tuple[str, QWidget]) -> QWidget:
        holder = QWidget()
        row = QHBoxLayout(holder)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(6)
        for text, field in fields:
            row.addWidget(quiet(text))
            row.addWidget(field)
        row.addStretch(1)
        return holder

    def show_lamp(self, rig: Rig, name: str) -> None:
        """The chosen lamp's numbers; crevices have none."""
        lamp = next((one for one in rig.lamps if one.name == name), None)
        hexes = {"ambient": rig.ambient.hex, "terminator": rig.terminator.hex}
        if lamp is not None:
            hexes[name] = lamp.hex
        self._colour.setEnabled(name in hexes)
        self._place.setEnabled(lamp is not None)
        standing = lamp or rig.key
        self._angles = angles_of(standing.direction)
        of = Of(thing=name)
        self.round.show_number(self._angles.round_deg, of)
        self.off.show_number(self._angles.off_deg, of)
        self.soft.show_setting(standing.softness, of)
        if name not in hexes:
            return
        self._hex = hexes[name]
        shown = measure_hex(self._hex)
        self.hex.fill(of, self._hex)
        self.value.show_number(shown.value, of)
        self.chroma.show_number(shown.chroma, of)
        self.hue.show_number(shown.hue or 0, of)

    def _take_hex(self, of: Of, text: str) -> None:
        """A hex was typed; what is none is put back."""
        try:
            typed = measure_hex(text).hex
        except Refusal:
            typed = self._hex
        self.hex.setText(typed)
        if typed != self._hex:
            self.coloured.emit(typed)

    def _take_colour(self) -> None:
        colour = fit(np.array(self.value.value()), self.chroma.value(), self.hue.value() % 360)
        self.coloured.emit(to_hex(encode(colour)))

    def _take_stand(self) -> None:
        self.stood.emit(direction_of(Angles(self.round.value() % 360, self.off.value())))
