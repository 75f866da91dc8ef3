"""Rigs to begin from, each seen on a head: those that ship, and the artist's own."""

from pathlib import Path

from PySide6.QtCore import QSize, Signal
from PySide6.QtGui import QShowEvent
from PySide6.QtWidgets import QGridLayout, QLabel, QPushButton, QWidget

from umber_compass.colour.packed import pack
from umber_compass.document.rig_library import RigLibrary
from umber_compass.picture.light import lights_of
from umber_compass.plan.light_edits import use_rig
from umber_compass.plan.rig import Rig
from umber_compass.plan.rigs import RIGS, RigSpec
from umber_compass.steps.light.figures import draw, view
from umber_compass.window.bench.bench import quiet
from umber_compass.window.widgets.fields import TextField
from umber_compass.window.widgets.picture_button import PictureButton
from umber_compass.window.widgets.rows import in_column, in_row
from umber_compass.words import Refusal

_ACROSS = 4  # rigs in a row
_LEAST_WIDE = 90  # px of a rig's button in a narrow window
_PICTURE = (104, 84)  # px of a rig's small head
_SHOWN = 1.35  # exposure of those
_FLOOR = (0.36, 0.31, 0.25)


class RigsPart(QWidget):
    """Says which rig's lights are wanted; keeps the plan's own lights under a name."""

    edit_wanted = Signal(object)
    told = Signal(str)  # what went wrong

    def __init__(self) -> None:
        super().__init__()
        self.library: RigLibrary | None = None
        self._rig = Rig()
        self.rigs: dict[str, PictureButton] = {}
        self._own: dict[str, Path] = {}
        self._specs: dict[str, RigSpec] = {}
        head = QLabel(self.tr("Rigs"))
        head.setObjectName("heading")
        self.name = TextField(self.tr("Name for these lights"), rests=False)
        self.name.setPlaceholderText(self.tr("a name for these lights"))
        self.name.setMaxLength(60)
        self.keep = QPushButton(self.tr("Keep"))
        self.keep.setToolTip(self.tr("Keep these lights as a rig of your own, for every plan"))
        self.keep.clicked.connect(self._keep)
        self.forget = QPushButton(self.tr("Forget"))
        self.forget.setToolTip(self.tr("Take the own rig that is in use out of the list"))
        self.forget.clicked.connect(self._forget)
        self._grid = QGridLayout()
        self._grid.setSpacing(6)
        in_column(
            in_row(
                head, quiet(self.tr("the lights of a scene; how they are drawn stays")), 1, gap=8
            ),
            self._grid,
            in_row((self.name, 1), self.keep, self.forget, gap=6),
            1,
            gap=6,
            on=self,
        )

    def use(self, library: RigLibrary) -> None:
        """The folder of the artist's own rigs."""
        self.library = library
        if self.isVisible():
            self._fill()

    def showEvent(self, event: QShowEvent) -> None:
        """Own rigs may have come since; the pictures are drawn when they are first seen."""
        self._fill()
        super().showEvent(event)

    def _fill(self) -> None:
        own = {} if self.library is None else self.library.rigs()
        if self.library is not None and self.library.faults:
            self.told.emit(self.library.faults[0])
        specs = {**RIGS, **{spec.name: spec for spec in own.values()}}
        self._own = {spec.name: path for path, spec in own.items()}
        if specs == self._specs:
            return
        for name in [n for n, spec in self._specs.items() if specs.get(n) != spec]:
            button = self.rigs.pop(name)
            button.hide()
            button.deleteLater()
        self._specs = specs
        for i, (name, spec) in enumerate(specs.items()):
            if name not in self.rigs:
                self.rigs[name] = self._button(spec)
            self._grid.addWidget(self.rigs[name], i // _ACROSS, i % _ACROSS)
        self.show_rig(self._rig)

    def _button(self, spec: RigSpec) -> PictureButton:
        button = PictureButton(spec.title, spec.says, QSize(*_PICTURE))
        button.setMinimumWidth(_LEAST_WIDE)
        button.clicked.connect(lambda _=False, s=spec: self.edit_wanted.emit(use_rig(s)))
        rig = Rig(ambient=spec.ambient, lamps=spec.lamps, terminator=spec.terminator)
        lights = lights_of(rig, _FLOOR)
        exposure = _SHOWN / max(float(lights.key.light.max() + lights.ambient.max()), 0.2)
        seen = view("head", *_PICTURE, 0.4)
        button.show_packed(pack(draw(seen, lights._replace(exposure=exposure))))
        return button

    def show_rig(self, rig: Rig) -> None:
        """Which of the rigs has the lights of a plan."""
        self._rig, used = rig, ""
        for name, spec in self._specs.items():
            same = (spec.ambient, spec.lamps) == (rig.ambient, rig.lamps)
            self.rigs[name].setChecked(same)
            used = name if same else used
        self.forget.setEnabled(used in self._own)

    def _keep(self) -> None:
        if self.library is None:
            return
        try:
            self.library.keep(self.name.text(), self._rig)
        except Refusal as refusal:
            self.told.emit(str(refusal))
            return
        self.name.clear()
        self._fill()

    def _forget(self) -> None:
        used = next((n for n in self._own if self.rigs[n].isChecked()), None)
        if self.library is None or used is None:
            return
        try:
            self.library.remove(self._own[used])
        except Refusal as refusal:
            self.told.emit(str(refusal))
        self._fill()
