"""The light bench: the lamps as a list, volumes in their light, and the paint chart."""

from typing import cast

from PySide6.QtCore import Signal
from PySide6.QtWidgets import (
    QButtonGroup,
    QCheckBox,
    QHBoxLayout,
    QPushButton,
    QScrollArea,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from umber_compass.plan.edits import Edit
from umber_compass.plan.light_edits import (
    rig_of,
    set_ambient,
    set_anchor,
    set_crevice,
    set_key,
    set_terminator,
    switch_rig,
)
from umber_compass.plan.model import Anchor, Rig
from umber_compass.steps.chart import chart, lights_for
from umber_compass.steps.lamps import in_words
from umber_compass.steps.pipeline import Derived
from umber_compass.window.benches.bench import Bench, quiet
from umber_compass.window.benches.chart import Chart
from umber_compass.window.benches.form_bar import FormBar
from umber_compass.window.benches.lamp_bar import LampBar
from umber_compass.window.benches.lamp_rows import LampLine, LampRow
from umber_compass.window.benches.volumes import Volumes
from umber_compass.window.fields import signed
from umber_compass.words import Words, words

_ROWS = ("key", "ambient", "terminator", "crevice")
_ANCHORS: dict[str, str] = {"lit": "lit side", "halftone": "halftone", "mean": "mean"}


class LightBench(Bench):
    """Two tabs: the lamps, and the chart of what they make of every material."""

    again = Signal()  # build the forms that were stopped

    def __init__(self) -> None:
        super().__init__("Light")
        self._derived: Derived | None = None
        self.lamp = "key"
        self.dragging = False
        self._build_tabs()
        self.pages = QStackedWidget()
        self.pages.addWidget(self._build_lamps())
        self.pages.addWidget(self._build_chart())
        self.column.addWidget(self.pages, 1)
        self._connect()

    def _build_tabs(self) -> None:
        line = QHBoxLayout()
        line.setSpacing(4)
        group = QButtonGroup(self)
        self.tabs = {
            "lamps": QPushButton(self.tr("Lamps")),
            "chart": QPushButton(self.tr("Paint chart")),
        }
        for i, button in enumerate(self.tabs.values()):
            button.setCheckable(True)
            button.clicked.connect(lambda _=False, n=i: self.open_tab(n))
            group.addButton(button)
            line.addWidget(button)
        self.tabs["lamps"].setChecked(True)
        line.addStretch(1)
        self.switch = QCheckBox(self.tr("light on"))
        self.switch.setToolTip(self.tr("Off, the picture is flat"))
        line.addWidget(self.switch)
        self.column.addLayout(line)

    def _build_lamps(self) -> QWidget:
        page = QWidget()
        column = QVBoxLayout(page)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(2)
        self.rows = {name: LampRow() for name in _ROWS}
        for row in self.rows.values():
            column.addWidget(row)
        self.lamp_bar = LampBar()
        column.addSpacing(4)
        column.addWidget(self.lamp_bar)
        column.addSpacing(6)
        self.volumes = Volumes()
        column.addWidget(self.volumes, 100)
        column.addSpacing(6)
        column.addLayout(self._build_anchors())
        column.addSpacing(4)
        self.form_bar = FormBar()
        column.addWidget(self.form_bar)
        column.addStretch(1)
        return page

    def _build_anchors(self) -> QHBoxLayout:
        line = QHBoxLayout()
        line.setContentsMargins(6, 0, 0, 0)
        line.setSpacing(4)
        line.addWidget(quiet(self.tr("planned value is the")))
        group = QButtonGroup(self)
        self.anchors: dict[str, QPushButton] = {}
        for name, title in _ANCHORS.items():
            button = QPushButton(title)
            button.setCheckable(True)
            button.clicked.connect(
                lambda _=False, n=name: self.edit_wanted.emit(set_anchor(cast(Anchor, n)))
            )
            group.addButton(button)
            line.addWidget(button)
            self.anchors[name] = button
        line.addStretch(1)
        self.rest = quiet("")
        line.addWidget(self.rest)
        return line

    def _build_chart(self) -> QWidget:
        self.chart = Chart()
        scroll = QScrollArea()
        scroll.setWidgetResizable(True)
        scroll.setWidget(self.chart)
        return scroll

    def _connect(self) -> None:
        self.switch.toggled.connect(self._take_switch)
        for row in self.rows.values():
            row.chosen.connect(self._choose)
            row.wanted.connect(self._set_strength)
            row.switched.connect(self._switch_lamp)
            row.began.connect(self.drag_began)
            row.ended.connect(self.drag_ended)
        self.lamp_bar.coloured.connect(self._set_colour)
        self.lamp_bar.stood.connect(self.move_key)
        self.lamp_bar.softened.connect(self._soften)
        self.form_bar.edit_wanted.connect(self.edit_wanted)
        self.chart.chosen.connect(self.chosen)
        self.chart.copied.connect(self.copied)

    def open_tab(self, index: int) -> None:
        """Show the lamps (0) or the chart (1)."""
        self.pages.setCurrentIndex(index)
        list(self.tabs.values())[index].setChecked(True)
        if self._derived is not None:
            self._show_page(self._derived, self._selected)

    def show_derived(self, derived: Derived, selected: str) -> None:
        self._derived, self._selected = derived, selected
        rig = rig_of(derived.plan)
        if self.switch.isChecked() != rig.on:
            self.switch.blockSignals(True)
            self.switch.setChecked(rig.on)
            self.switch.blockSignals(False)
        self.says.setText(
            self.tr("key {where}").format(where=in_words(rig.lamps[0].direction))
            if rig.on
            else self.tr("off: the picture is flat")
        )
        self._show_page(derived, selected)

    def _show_page(self, derived: Derived, selected: str) -> None:
        if self.pages.currentIndex():
            self.chart.show_rows(chart(derived), selected)
            return
        rig = rig_of(derived.plan)
        for line in _lines(self, rig):
            self.rows[line.name].show_line(line, line.name == self.lamp)
        self.lamp_bar.show_lamp(derived, self.lamp)
        self.volumes.show_lights(lights_for(derived), self.dragging)
        self.anchors[rig.anchor].setChecked(True)
        self.rest.setText(self._worst_rest(derived))
        self.form_bar.show_region(derived, selected)

    def _worst_rest(self, derived: Derived) -> str:
        """What the one exposure could not hold, at its worst."""
        if derived.lit is None:
            return ""
        held = {r: x for r, x in derived.lit.rest.items() if derived.shares[r] > 0}
        worst = max(held, key=lambda r: abs(held[r]))
        name = next(r.name for r in derived.plan.regions if r.id == worst)
        text = self.tr("furthest off: {name} {rest} L*")
        return text.format(name=name, rest=signed(held[worst]))

    def _choose(self, name: str) -> None:
        self.lamp = name
        if self._derived is not None:
            self._show_page(self._derived, self._selected)

    def _take_switch(self, on: bool) -> None:
        self.edit_wanted.emit(switch_rig(on))
        if on:
            self.again.emit()

    def _set_strength(self, name: str, strength: float) -> None:
        most = 1000.0 if name in ("key", "ambient") else 100.0
        kept = min(max(strength, 0.0), most)
        if name == "crevice":
            self.edit_wanted.emit(set_crevice(kept))
            return
        text = words("set {lamp} to {n:.0f} %", lamp=name, n=kept)
        self.edit_wanted.emit(_changed(name, text, f"strength {name}", strength=kept))

    def _set_colour(self, colour: str) -> None:
        text = words("colour {lamp} {hex}", lamp=self.lamp, hex=colour)
        self.edit_wanted.emit(_changed(self.lamp, text, f"colour {self.lamp}", hex=colour))

    def _switch_lamp(self, name: str) -> None:
        if self._derived is None or name not in ("key", "ambient"):
            return
        rig = rig_of(self._derived.plan)
        on = not (rig.lamps[0].on if name == "key" else rig.ambient.on)
        text = words("switch {lamp} on" if on else "switch {lamp} off", lamp=name)
        self.edit_wanted.emit(_changed(name, text, None, on=on))

    def move_key(self, direction: object) -> None:
        """The key stands elsewhere."""
        x, y, z = cast("tuple[float, float, float]", direction)
        where = in_words((x, y, z))
        text = words("move the key {where}", where=str(where))
        kept = tuple(min(max(a, -1.0), 1.0) for a in (x, y, z))
        self.edit_wanted.emit(set_key(text, "direction", direction=kept))

    def _soften(self, softness: float) -> None:
        text = words("soften the key to {n:.0%}", n=softness)
        self.edit_wanted.emit(set_key(text, "softness", softness=softness))


def _changed(name: str, text: Words, merge: str | None, **changes: object) -> Edit:
    """An edit of the lamp with this name."""
    makers = {"key": set_key, "ambient": set_ambient, "terminator": set_terminator}
    return makers[name](text, merge, **changes)


def _lines(bench: LightBench, rig: Rig) -> list[LampLine]:
    key, ambient, tint = rig.lamps[0], rig.ambient, rig.terminator
    return [
        LampLine(
            "key", bench.tr("Key"), str(in_words(key.direction)), key.hex, key.strength, 200, key.on
        ),
        LampLine(
            "ambient",
            bench.tr("Ambient"),
            bench.tr("from everywhere"),
            ambient.hex,
            ambient.strength,
            200,
            ambient.on,
        ),
        LampLine(
            "terminator",
            bench.tr("Terminator"),
            bench.tr("a tint where light turns"),
            tint.hex,
            tint.strength,
            100,
            True,
        ),
        LampLine(
            "crevice",
            bench.tr("Crevices"),
            bench.tr("dark where things meet"),
            "",
            rig.crevice,
            100,
            True,
        ),
    ]
