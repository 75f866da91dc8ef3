"""The chosen region's colour as numbers: each can be typed or stepped."""

from PySide6.QtCore import Signal
from PySide6.QtGui import QColor, QPainter, QPaintEvent
from PySide6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QWidget

from umber_compass.plan.edits import find_region, part, study
from umber_compass.plan.model import Pinned
from umber_compass.plan.wish_edits import lock
from umber_compass.steps.harmony.edits import set_chroma, set_hue_offset, set_value
from umber_compass.steps.pipeline import Derived
from umber_compass.window.bench.bench import quiet
from umber_compass.window.widgets.fields import NumberField, Of
from umber_compass.words import words


class _Dot(QWidget):
    def __init__(self) -> None:
        super().__init__()
        self.hex = "#808080"
        self.setFixedSize(22, 22)

    def paintEvent(self, event: QPaintEvent) -> None:
        QPainter(self).fillRect(self.rect(), QColor(self.hex))


class RegionBar(QWidget):
    """Value, chroma and turn of the chosen region's colour, or of its gradient's near end."""

    edit_wanted = Signal(object)

    def __init__(self) -> None:
        super().__init__()
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(6)
        self._dot, self._name, self._hex = _Dot(), QLabel(), quiet("")
        self._name.setObjectName("strong")
        self._region, self._title = "", ""
        self.value = NumberField(
            self.tr("Value"),
            0,
            100,
            " L*",
            1,
            1,
            self.tr("How light it is planned: 0 L* is black, 100 white, 50 half way to the eye."),
        )
        self.chroma = NumberField(
            self.tr("Chroma, OKLCh"),
            0,
            0.4,
            " c",
            0.005,
            3,
            self.tr(
                "How strong it is: 0 is grey, 0.05 quiet, 0.15 strong; screens end at 0.1-0.3."
            ),
        )
        self.turn = NumberField(
            self.tr("Turn from its slot, OKLCh degrees"),
            -180,
            180,
            "°",
            1,
            1,
            self.tr("How far its hue stands from the hue of the scheme it belongs to."),
        )
        self.value.wanted.connect(self._set_value)
        self.chroma.wanted.connect(
            lambda c: self.edit_wanted.emit(set_chroma(self._region, 0, c, self._title))
        )
        self.turn.wanted.connect(self._set_turn)
        for widget in (self._dot, self._name, self._hex):
            row.addWidget(widget)
        self.lock = QPushButton(self.tr("lock"))
        self.lock.setObjectName("small")
        self.lock.setCheckable(True)
        self.lock.setToolTip(
            self.tr("Keep this colour: balance, fixes and groups leave it, and its chip stays put")
        )
        self.lock.clicked.connect(
            lambda on: self.edit_wanted.emit(lock(self._region, on, self._title))
        )
        row.addWidget(self.lock)
        row.addStretch(1)
        for text, field in (
            (self.tr("value"), self.value),
            (self.tr("chroma"), self.chroma),
            (self.tr("turn"), self.turn),
        ):
            row.addWidget(quiet(text))
            row.addWidget(field)
        # Its place is kept: the ladder above must not move under the hand that chooses a chip.
        policy = self.sizePolicy()
        policy.setRetainSizeWhenHidden(True)
        self.setSizePolicy(policy)
        self.setVisible(False)

    def _set_value(self, value: float) -> None:
        self.edit_wanted.emit(set_value(self._region, 0, value, self._title))

    def _set_turn(self, turn: float) -> None:
        text = words("turn {name} to {turn:+.0f}° from its slot", name=self._title, turn=turn)
        self.edit_wanted.emit(set_hue_offset(self._region, 0, turn, text))

    def show_region(self, derived: Derived, region_id: str) -> None:
        """The chosen region's numbers; nothing is shown where none is chosen."""
        region = find_region(derived.plan, region_id)
        self.setVisible(region is not None)
        if region is None:
            return
        self._region, self._title = region.id, region.name
        shown = derived.colours[region.id].first
        solid = part(study(derived.plan).colours[region.id], 0)
        self._dot.hex = shown.hex
        self._dot.update()
        self._name.setText(region.name)
        self.lock.setChecked(region.id in derived.locked)
        for field in (self.value, self.chroma):
            field.setEnabled(region.id not in derived.locked)
        self._hex.setText(shown.hex)
        given = isinstance(solid, Pinned)
        of = Of(study(derived.plan).id, region.id)
        self.value.show_number(shown.value if isinstance(solid, Pinned) else solid.value, of)
        self.chroma.show_number(shown.chroma if isinstance(solid, Pinned) else solid.chroma, of)
        self.turn.setEnabled(not given and region.id not in derived.locked)
        self.turn.show_number(0 if isinstance(solid, Pinned) else solid.hue_offset_deg, of)
