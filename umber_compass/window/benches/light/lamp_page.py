"""The lamps of the light bench: rows, the chosen one's numbers, volumes in their light, what the
exposure holds to, the chosen region's form."""

from typing import Any

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QButtonGroup, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from umber_compass.plan.edits import region
from umber_compass.plan.light_edits import (
    set_lamp,
)
from umber_compass.plan.rig import Anchor, Direction, Rig
from umber_compass.plan.settings import change_setting
from umber_compass.steps.light.lamps import in_words
from umber_compass.steps.pipeline import Derived
from umber_compass.window.bench.bench import quiet
from umber_compass.window.benches.light.form_bar import FormBar
from umber_compass.window.benches.light.lamp_bar import LampBar
from umber_compass.window.benches.light.lamp_rows import LampLine, LampRow
from umber_compass.window.benches.light.volumes import Volumes
from umber_compass.window.widgets.fields import signed, take_typed
from umber_compass.words import words

_ANCHORS: dict[Anchor, str] = {"lit": "lit side", "halftone": "halftone", "mean": "mean"}

_FIXED = ("ambient", "terminator", "crevice")  # rows that every rig has, under its lamps


class LampPage(QWidget):
    """Says which edit of the rig is wanted."""

    edit_wanted = Signal(object)
    began = Signal()
    ended = Signal()

    def __init__(self) -> None:
        super().__init__()
        self._rig: Rig | None = None
        self._derived: Derived | None = None
        self.lamp = ""  # whose numbers are shown; the key's to begin with
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(2)
        self._list = QVBoxLayout()
        self._list.setSpacing(2)
        column.addLayout(self._list)
        self.rows: dict[str, LampRow] = {}
        self.lamp_bar, self.volumes, self.form_bar = LampBar(), Volumes(), FormBar()
        column.addSpacing(4)
        column.addWidget(self.lamp_bar)
        column.addSpacing(6)
        column.addWidget(self.volumes, 100)
        column.addSpacing(6)
        column.addLayout(self._build_anchors())
        column.addSpacing(4)
        column.addWidget(self.form_bar)
        column.addStretch(1)
        self.lamp_bar.coloured.connect(self._set_colour)
        self.lamp_bar.stood.connect(lambda at: self.move_lamp(self.lamp, at))
        self.lamp_bar.softened.connect(self.edit_wanted)
        self.form_bar.edit_wanted.connect(self.edit_wanted)
        self._show_rows(Rig())

    def _build_anchors(self) -> QHBoxLayout:
        line = QHBoxLayout()
        line.setContentsMargins(6, 0, 0, 0)
        line.setSpacing(4)
        head = quiet(self.tr("keep the planned value on"))
        head.setToolTip(
            self.tr("What part of each material keeps the value it was planned at, once it is lit.")
        )
        line.addWidget(head)
        group = QButtonGroup(self)
        self.anchors: dict[Anchor, QPushButton] = {}
        for name, title in _ANCHORS.items():
            button = QPushButton(title)
            button.setCheckable(True)
            button.clicked.connect(
                lambda _=False, n=name: self.edit_wanted.emit(change_setting("light.anchor", n))
            )
            group.addButton(button)
            line.addWidget(button)
            self.anchors[name] = button
        line.addStretch(1)
        self.rest = quiet("")
        self.rest.setToolTip(
            self.tr(
                "One exposure serves the whole picture. This material comes out furthest from the "
                "value that was planned for it."
            )
        )
        line.addWidget(self.rest)
        return line

    def show_derived(self, derived: Derived, selected: str, dragging: bool) -> None:
        """The rig of a plan, and the form of the chosen region."""
        self._derived, rig = derived, derived.rig
        self._show_rows(rig)
        self.lamp_bar.show_lamp(rig, self.lamp)
        self.volumes.show_lights(derived.lights, dragging)
        self.anchors[rig.anchor].setChecked(True)
        self.rest.setText(self._worst_rest(derived))
        self.form_bar.show_region(derived, selected)

    def _show_rows(self, rig: Rig) -> None:
        self._rig = rig
        lines = _lines(self, rig)
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

    def _worst_rest(self, derived: Derived) -> str:
        """What the one exposure could not hold, at its worst."""
        if derived.lit is None:
            return ""
        held = {r: x for r, x in derived.lit.rest.items() if derived.shares[r] > 0}
        worst = max(held, key=lambda r: abs(held[r]))
        text = self.tr("largest change: {name} {rest} L*")
        return text.format(name=region(derived.plan, worst).name, rest=signed(held[worst]))

    def _choose(self, name: str) -> None:
        take_typed(self.window())  # it is of the lamp that was chosen until now
        self.lamp = name
        if self._rig is not None:
            self._show_rows(self._rig)
            self.lamp_bar.show_lamp(self._rig, name)

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
        if self._rig is None or name in ("terminator", "crevice"):
            return
        on = not (self._rig.ambient.on if name == "ambient" else self._rig.lamp(name).on)
        self._change("on", name, on)

    def move_lamp(self, name: str, direction: Direction) -> None:
        """A lamp stands elsewhere."""
        text = words("move the {lamp}: {where}", lamp=name, where=str(in_words(direction)))
        self.edit_wanted.emit(set_lamp(name, text, f"direction {name}", direction=direction))


def _lines(page: LampPage, rig: Rig) -> list[LampLine]:
    """The lamps by rank, then what every rig has."""
    ambient, tint = rig.ambient, rig.terminator
    lamps = [
        LampLine(
            lamp.name,
            lamp.name[:1].upper() + lamp.name[1:],
            str(in_words(lamp.direction)),
            lamp.hex,
            lamp.strength,
            200,
            lamp.on,
        )
        for lamp in sorted(rig.lamps, key=lambda one: one.rank)
    ]
    return [
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
