"""The chosen lamp alone, its colour temperature, whether it lights the chosen region, and of a spot
how far its light reaches."""

from PySide6.QtCore import QSignalBlocker, Signal
from PySide6.QtGui import QHideEvent
from PySide6.QtWidgets import QCheckBox, QPushButton, QWidget

from umber_compass.colour.temperature import LEAST, MOST, hex_of_kelvin, kelvin_of
from umber_compass.plan.light_edits import spare
from umber_compass.plan.model import Region
from umber_compass.plan.rig import Lamp, Rig
from umber_compass.steps.light_views import LAMP
from umber_compass.window.bench.bench import quiet
from umber_compass.window.widgets.fields import NumberField, Of
from umber_compass.window.widgets.rows import in_column, in_row
from umber_compass.window.widgets.setting_field import SettingField

_AMBIENT, _AMBIENT_ALONE = "ambient", "ambient-only"


class LampMore(QWidget):
    """Says which edit of the rig, or which part of its light on the stage, is wanted."""

    edit_wanted = Signal(object)
    coloured = Signal(str)  # the lamp's new hex
    alone_wanted = Signal(str)  # a view of a part of the light; empty for the whole

    def __init__(self) -> None:
        super().__init__()
        self._lamp, self._region = "", ""
        self._name = ""
        self.alone = QPushButton(self.tr("Alone"))
        self.alone.setCheckable(True)
        self.alone.setToolTip(self.tr("Show the picture in this light alone, until pressed again"))
        self.alone.toggled.connect(lambda on: self.alone_wanted.emit(self.view() if on else ""))
        says = self.tr(
            "The lamp as a glowing body: 2000 is a candle, 2800 a light bulb, 5000 noon, 9000 a"
            " blue sky. 0 where its colour is of no such body."
        )
        self.kelvin = NumberField(self.tr("Colour temperature"), 0, MOST, " K", 100, 0, says)
        self.kelvin.wanted.connect(self._take_kelvin)
        self.lights = QCheckBox("")
        self.lights.toggled.connect(self._take_lights)
        self.radius = SettingField("lamp.LAMP.radius")
        self.fall = SettingField("lamp.LAMP.fall-off")
        for field in (self.radius, self.fall):
            field.asked.connect(self.edit_wanted)
        self.spot = QWidget()
        in_row(
            quiet(self.tr("radius")),
            self.radius,
            quiet(self.tr("fall-off")),
            self.fall,
            1,
            gap=6,
            on=self.spot,
        )
        self.of_any = QWidget()
        in_row(
            quiet(self.tr("temperature")),
            self.kelvin,
            self.alone,
            self.lights,
            1,
            gap=6,
            on=self.of_any,
        )
        in_column(self.spot, self.of_any, gap=4, margins=(6, 0, 0, 0), on=self)

    def hideEvent(self, event: QHideEvent) -> None:
        self.alone.setChecked(False)
        super().hideEvent(event)

    def view(self) -> str:
        """The view of the chosen light alone; empty where it has none."""
        if not self.alone.isEnabled():
            return ""
        return _AMBIENT_ALONE if self._lamp == _AMBIENT else LAMP + self._lamp

    def show_held(self, held: str) -> None:
        """What part of its light the stage shows."""
        with QSignalBlocker(self.alone):
            self.alone.setChecked(bool(held) and held == self.view())

    def show_lamp(self, rig: Rig, name: str, region: Region | None) -> None:
        """The chosen lamp, or what else is chosen, and the chosen region."""
        lamp = next((one for one in rig.lamps if one.name == name), None)
        was = self.alone.isChecked() and name != self._lamp
        self._lamp = name
        self.alone.setEnabled(lamp is not None or name == _AMBIENT)
        if was:
            self.alone_wanted.emit(self.view())
        hex_ = lamp.hex if lamp is not None else rig.ambient.hex
        self.kelvin.setEnabled(self.alone.isEnabled())
        self.kelvin.show_number(kelvin_of(hex_) or 0, Of(thing=name))
        self._show_region(lamp, region)
        self.spot.setVisible(lamp is not None and lamp.pool is not None)
        if lamp is not None and lamp.pool is not None:
            self.radius.show_setting(lamp.pool.radius, Of(thing=name))
            self.fall.show_setting(lamp.pool.fall, Of(thing=name))

    def _show_region(self, lamp: Lamp | None, region: Region | None) -> None:
        known = lamp is not None and region is not None
        self.lights.setEnabled(known)
        self._region, self._name = ("", "") if region is None else (region.id, region.name)
        text = self.tr("lights {name}").format(name=self._name or self.tr("the chosen region"))
        self.lights.setText(text)
        self.lights.setToolTip(self.tr("Off, this lamp leaves the chosen region out"))
        with QSignalBlocker(self.lights):
            spared = lamp is not None and self._region in lamp.spares
            self.lights.setChecked(not spared)

    def _take_lights(self, _: bool) -> None:
        if self._region:
            self.edit_wanted.emit(spare(self._lamp, self._region, self._name))

    def _take_kelvin(self, kelvin: float) -> None:
        if kelvin >= LEAST:
            self.coloured.emit(hex_of_kelvin(kelvin))
