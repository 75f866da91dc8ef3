"""The lamps of the light bench: rows, the chosen one's numbers, other lamps, volumes in their
light."""

from collections.abc import Callable
from typing import Any

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from umber_compass.plan.edits import Edit, find_region
from umber_compass.plan.light_edits import (
    add_lamp,
    place_spot,
    remove_lamp,
    set_lamp,
    swap_lamps,
    swap_warm_and_cool,
)
from umber_compass.plan.model import Region
from umber_compass.plan.rig import Direction, Rig
from umber_compass.plan.rigs import KINDS
from umber_compass.plan.settings import change_setting
from umber_compass.steps.light.lamps import in_words
from umber_compass.steps.pipeline import Derived
from umber_compass.window.benches.light.lamp_bar import LampBar
from umber_compass.window.benches.light.lamp_more import LampMore
from umber_compass.window.benches.light.lamp_rows import LampLine, LampRow
from umber_compass.window.benches.light.volumes import Volumes
from umber_compass.window.widgets.fields import take_typed
from umber_compass.window.widgets.flow import Flow
from umber_compass.window.widgets.rows import in_row
from umber_compass.words import words

_SAYS = {
    "second": "a weaker lamp from elsewhere",
    "rim": "a lamp from behind that draws a bright border",
    "fill": "a weak light from where you look, into the shade",
    "spot": "a pool of light on a part of the picture; drag it and its rim there",
}
_SWAPS: dict[str, tuple[str, str, Callable[[], Edit]]] = {
    "ambient": ("Swap warm and cool", "Key and ambient exchange colours", swap_warm_and_cool),
    "colours": ("Swap colours", "Key and second exchange colours", lambda: swap_lamps("hex")),
    "ranks": ("Swap ranks", "The second lamp leads, the key follows", lambda: swap_lamps("rank")),
}
_FIXED = ("ambient", "terminator", "crevice", "glow")  # rows that every rig has, under its lamps


class LampPage(QWidget):
    """Says which edit of the rig is wanted."""

    edit_wanted = Signal(object)
    began = Signal()
    ended = Signal()

    def __init__(self) -> None:
        super().__init__()
        self._rig: Rig | None = None
        self._derived: Derived | None = None
        self._region: Region | None = None
        self._glow_hex = ""  # of the first region that glows; empty where none does
        self.lamp = ""  # whose numbers are shown; the key's to begin with
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(2)
        self._list = QVBoxLayout()
        self._list.setSpacing(2)
        column.addLayout(self._list)
        self.rows: dict[str, LampRow] = {}
        self.lamp_bar, self.more_bar, self.volumes = LampBar(), LampMore(), Volumes()
        column.addSpacing(4)
        column.addWidget(self.lamp_bar)
        column.addSpacing(4)
        column.addWidget(self.more_bar)
        column.addSpacing(6)
        column.addLayout(self._build_more())
        column.addSpacing(6)
        column.addWidget(self.volumes, 100)
        column.addStretch(1)
        self.lamp_bar.coloured.connect(self._set_colour)
        self.lamp_bar.stood.connect(lambda at: self.move_lamp(self.lamp, at))
        self.lamp_bar.softened.connect(self.edit_wanted)
        self.more_bar.edit_wanted.connect(self.edit_wanted)
        self.more_bar.coloured.connect(self._set_colour)
        self._show_rows(Rig())

    def _build_more(self) -> QHBoxLayout:
        """Other lamps, and swaps that are tried in a second."""
        self.more: dict[str, QPushButton] = {}
        for name in KINDS:
            button = QPushButton(self.tr("+ {name}").format(name=name))
            button.setToolTip(_SAYS[name])
            button.clicked.connect(lambda _=False, n=name: self._add(n))
            self.more[name] = button
        self.remove = QPushButton(self.tr("Take away"))
        self.remove.setToolTip(self.tr("Take the chosen lamp out of the rig"))
        self.remove.clicked.connect(lambda: self.edit_wanted.emit(remove_lamp(self.lamp)))
        self.swaps: dict[str, QPushButton] = {}
        for name, (title, says, edit) in _SWAPS.items():
            button = QPushButton(self.tr(title))
            button.setToolTip(self.tr(says))
            button.clicked.connect(lambda _=False, e=edit: self.edit_wanted.emit(e()))
            self.swaps[name] = button
        swaps = Flow([*self.more.values(), self.remove, *self.swaps.values()], gap=4)
        holder = QWidget()
        holder.setLayout(swaps)
        return in_row((holder, 1), margins=(6, 0, 0, 0))

    def _add(self, name: str) -> None:
        self.lamp = name
        self.edit_wanted.emit(add_lamp(name))

    def show_derived(self, derived: Derived, selected: str, dragging: bool) -> None:
        """The rig of a plan, and the form of the chosen region."""
        self._derived, rig = derived, derived.rig
        glowing = [r.id for r in derived.regions if r.material == "glow"]
        self._glow_hex = derived.colours[glowing[0]].ends[0].hex if glowing else ""
        self._show_rows(rig)
        self._region = find_region(derived.plan, selected)
        self._show_lamp(rig)
        self.volumes.show_lights(derived.lights, dragging)
        lamps = {lamp.name for lamp in rig.lamps}
        for name, button in self.more.items():
            button.setVisible(name not in lamps)
        self.remove.setVisible(self.lamp in lamps and len(lamps) > 1)
        for name, button in self.swaps.items():
            button.setVisible(name == "ambient" or sum(x.pool is None for x in rig.lamps) > 1)

    def _show_rows(self, rig: Rig) -> None:
        self._rig = rig
        lines = _lines(self, rig, self._glow_hex)
        if [line.name for line in lines] != list(self.rows):
            self._rebuild([line.name for line in lines])
        if self.lamp not in self.rows:
            self.lamp = rig.key.name
        for line in lines:
            self.rows[line.name].show_line(line, line.name == self.lamp)

    def _rebuild(self, names: list[str]) -> None:
        for row in self.rows.values():
            row.hide()
            row.deleteLater()
        self.rows = {name: LampRow() for name in names}
        for row in self.rows.values():
            row.chosen.connect(self._choose)
            row.wanted.connect(self._set_strength)
            row.switched.connect(self._switch)
            row.began.connect(self.began)
            row.ended.connect(self.ended)
            self._list.addWidget(row)

    def _choose(self, name: str) -> None:
        take_typed(self.window())  # it is of the lamp that was chosen until now
        self.lamp = name
        if self._rig is not None:
            self._show_rows(self._rig)
            self._show_lamp(self._rig)

    def _show_lamp(self, rig: Rig) -> None:
        self.lamp_bar.show_lamp(rig, self.lamp)
        self.more_bar.show_lamp(rig, self.lamp, self._region)

    def _change(self, what: str, name: str, value: Any) -> None:
        """A setting of what the row of this name stands for."""
        part = name if name in _FIXED else ""
        key = f"{part or 'lamp.LAMP'}.{what}" if what else part
        self.edit_wanted.emit(change_setting(key, value, "" if part else name))

    def _set_strength(self, name: str, strength: float) -> None:
        self._change("" if name == "crevice" else "strength", name, strength)

    def _set_colour(self, colour: str) -> None:
        self._change("colour", self.lamp, colour)

    def _switch(self, name: str) -> None:
        if self._rig is None or name in ("terminator", "crevice", "glow"):
            return
        on = not (self._rig.ambient.on if name == "ambient" else self._rig.lamp(name).on)
        self._change("on", name, on)

    def move_lamp(self, name: str, direction: Direction) -> None:
        """A lamp stands elsewhere."""
        text = words("move the {lamp}: {where}", lamp=name, where=str(in_words(direction)))
        self.edit_wanted.emit(set_lamp(name, text, f"direction {name}", direction=direction))

    def move_spot(self, name: str, to: tuple[float, float] | float) -> None:
        """The light of a spot falls elsewhere, or reaches so far."""
        if isinstance(to, tuple):
            self.edit_wanted.emit(place_spot(name, *to))
        else:
            self.edit_wanted.emit(change_setting("lamp.LAMP.radius", to, name))


def _lines(page: LampPage, rig: Rig, glow_hex: str) -> list[LampLine]:
    """The lamps by rank, then what every rig has."""
    ambient, tint = rig.ambient, rig.terminator
    lamps = [
        LampLine(
            lamp.name,
            lamp.name[:1].upper() + lamp.name[1:],
            str(in_words(lamp.direction, lamp.pool)),
            lamp.hex,
            lamp.strength,
            200,
            lamp.on,
        )
        for lamp in rig.ranked
    ]
    found = [
        *lamps,
        LampLine(
            "ambient",
            page.tr("Ambient"),
            page.tr("from everywhere"),
            ambient.hex,
            ambient.strength,
            200,
            ambient.on,
        ),
        LampLine(
            "terminator",
            page.tr("Terminator"),
            page.tr("a tint where light turns"),
            tint.hex,
            tint.strength,
            100,
            True,
        ),
        LampLine(
            "crevice",
            page.tr("Crevices"),
            page.tr("dark where things meet"),
            "",
            rig.crevice,
            100,
            True,
        ),
    ]
    if glow_hex:
        title, says = page.tr("Glow"), page.tr("what glows lights what is near")
        found.append(LampLine("glow", title, says, glow_hex, rig.glow.strength, 200, True))
    return found
