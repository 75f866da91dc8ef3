"""How light is drawn: the way of lighting, contrast, shadows, what the exposure holds; and rigs to
begin from."""

from PySide6.QtCore import QSignalBlocker, Signal
from PySide6.QtWidgets import QCheckBox, QVBoxLayout, QWidget

from umber_compass.picture.ways import WAYS
from umber_compass.plan.edits import region
from umber_compass.plan.light_edits import fix_exposure
from umber_compass.plan.settings import change_setting
from umber_compass.steps.light.contrast import AT, LEAST, MOST, contrast_of, set_contrast
from umber_compass.steps.pipeline import Derived
from umber_compass.window.bench.bench import quiet
from umber_compass.window.bench.choice_row import ChoiceRow
from umber_compass.window.benches.light.rigs_part import RigsPart
from umber_compass.window.widgets.fields import NumberField, signed
from umber_compass.window.widgets.rows import in_column, in_row
from umber_compass.window.widgets.scrolled import scrolled
from umber_compass.window.widgets.setting_field import SettingField

_SWITCHES = {
    "shadows": ("cast shadows", "Things keep the key from what lies behind them"),
    "light.highlights": ("highlights", "On what is satin, wet, metal, skin or leather"),
    "light.far": (
        "lamps reach sky and sea",
        "Off, what lies far away keeps its planned colour",
    ),
}
_VOLUMES = {
    "medium": ("medium", "forms as the drawing has them"),
    "big": ("big", "small forms drawn together into big volumes"),
}
_EXPOSED = {
    "planned": ("all planned values", "figures and the focus count most"),
    "region": ("the chosen region", "the value planned for the region that is chosen"),
    "off": (
        "nothing",
        "the exposure stays as it is now: lamps make the picture darker or lighter",
    ),
}
_ANCHORS = {
    "lit": ("lit side", "what the key lights fully keeps its planned value"),
    "halftone": ("halftone", "what turns half from the key keeps it"),
    "mean": ("mean", "each region keeps it on the whole"),
}


class LookPage(QWidget):
    """Says which edit of the rig is wanted."""

    edit_wanted = Signal(object)

    def __init__(self) -> None:
        super().__init__()
        self._derived: Derived | None = None
        self._selected = ""
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 2, 0, 0)
        column.setSpacing(8)
        self.way = ChoiceRow(
            self.tr("drawn in"), {w.name: (w.title, w.says) for w in WAYS.values()}
        )
        self.way.chosen.connect(lambda name: self._set("light.way", name))
        column.addWidget(self.way)
        column.addLayout(self._build_numbers())
        column.addLayout(self._build_switches())
        column.addWidget(self._build_exposure())
        column.addWidget(self._build_anchors())
        self.rigs = RigsPart()
        self.rigs.edit_wanted.connect(self.edit_wanted)
        column.addWidget(scrolled(self.rigs), 1)

    def _build_numbers(self) -> QVBoxLayout:
        says = self.tr("By how much value drops from light to shade, on a colour of L* {n:.0f}.")
        name = self.tr("Contrast, L* from light to shade")
        self.contrast = NumberField(name, LEAST, MOST, " L*", 1, 0, says.format(n=AT))
        self.contrast.wanted.connect(lambda n: self.edit_wanted.emit(set_contrast(n)))
        self.bounce = SettingField("bounce")
        self.bounce.asked.connect(self.edit_wanted)
        self.volume = ChoiceRow(self.tr("forms"), _VOLUMES)
        self.volume.chosen.connect(lambda name: self._set("light.volume", name))
        return in_column(
            in_row(
                quiet(self.tr("light to shade")),
                self.contrast,
                quiet(self.tr("bounce")),
                self.bounce,
                self.volume,
                1,
                gap=6,
            )
        )

    def _build_switches(self) -> QVBoxLayout:
        self.switches: dict[str, QCheckBox] = {}
        for key, (title, why) in _SWITCHES.items():
            box = QCheckBox(self.tr(title))
            box.setToolTip(self.tr(why))
            box.toggled.connect(lambda on, k=key: self._set(k, on))
            self.switches[key] = box
        return in_column(in_row(*self.switches.values(), 1, gap=14))

    def _build_exposure(self) -> QWidget:
        self.exposed = ChoiceRow(self.tr("exposure holds"), _EXPOSED)
        self.exposed.chosen.connect(self._hold)
        return self.exposed

    def _build_anchors(self) -> QWidget:
        self.anchor = ChoiceRow(self.tr("planned value on"), _ANCHORS)
        self.anchor.chosen.connect(lambda name: self._set("light.anchor", name))
        self.did = quiet("")
        self.did.setToolTip(
            self.tr(
                "One exposure serves the whole picture. This material comes out furthest from the "
                "value that was planned for it."
            )
        )
        holder = QWidget()
        in_column(self.anchor, self.did, gap=4, on=holder)
        return holder

    def show_derived(self, derived: Derived, selected: str) -> None:
        """How a plan's light is drawn."""
        self._derived, self._selected = derived, selected
        rig = derived.rig
        self.way.show_choice(rig.way)
        self.volume.show_choice(rig.volume)
        self.exposed.show_choice(rig.exposed)
        self.anchor.show_choice(rig.anchor)
        self.contrast.show_number(contrast_of(rig))
        self.bounce.show_setting(rig.ambient.bounce)
        now = {
            "shadows": rig.shadows,
            "light.highlights": rig.highlights,
            "light.far": rig.reaches_far,
        }
        for key, box in self.switches.items():
            with QSignalBlocker(box):
                box.setChecked(now[key])
        self.exposed.buttons["region"].setEnabled(bool(selected) or rig.exposed == "region")
        self.rigs.show_rig(rig)
        self.did.setText(_what_it_did(self, derived))

    def _set(self, key: str, value: object) -> None:
        self.edit_wanted.emit(change_setting(key, value))

    def _hold(self, name: str) -> None:
        derived = self._derived
        if derived is None:
            return
        if name == "off":
            now = derived.lit.lights.exposure if derived.lit is not None else derived.rig.fixed
            self.edit_wanted.emit(fix_exposure(now))
        elif name == "region" and self._selected:
            self.edit_wanted.emit(change_setting("light.held", self._selected))
        else:
            self._set("light.exposed", name)


def _what_it_did(page: LookPage, derived: Derived) -> str:
    """What the exposure did, and what it could not hold, at its worst."""
    if derived.lit is None:
        return ""
    held = {r: x for r, x in derived.lit.rest.items() if derived.shares[r] > 0}
    worst = max(held, key=lambda r: abs(held[r]))
    said = {
        "planned": page.tr("exposed × {n:.2f} to hold the planned values"),
        "region": page.tr("exposed × {n:.2f} to hold one region’s value"),
        "off": page.tr("exposed × {n:.2f}, whatever the lamps do"),
    }[derived.rig.exposed]
    text = page.tr("{said}; largest change: {name} {rest} L*")
    return text.format(
        said=said.format(n=derived.lit.lights.exposure),
        name=region(derived.plan, worst).name,
        rest=signed(held[worst]),
    )
