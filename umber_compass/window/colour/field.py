"""A colour to be given: by plane and wheel, by number, from the palette, mixed."""

from collections.abc import Mapping
from typing import NamedTuple

from PySide6.QtCore import QPoint, QRect, Qt, Signal
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QCheckBox, QFrame, QHBoxLayout, QLabel, QPushButton, QWidget

from umber_compass.colour.measured import Measured, measure_hex
from umber_compass.colour.wheels import angle_of, hue_at
from umber_compass.steps.harmony.picking import (
    colour_at,
    mixed,
    saturation_of,
    with_saturation,
)
from umber_compass.window.bench.bench import quiet
from umber_compass.window.colour.plane import Plane
from umber_compass.window.colour.wheel import Wheel
from umber_compass.window.widgets.fields import NumberField, Of, TextField, take_typed
from umber_compass.window.widgets.rows import in_column, in_row
from umber_compass.window.widgets.swatch_chip import SwatchChip
from umber_compass.words import Refusal

_SWATCHES = 14  # of a row


class FieldFacts(NamedTuple):
    """What the field is about."""

    name: str  # of the region, or how many there are
    colour: str  # hex
    wheel: str
    ring: tuple[str, ...]
    needles: Mapping[str, float]
    palette: tuple[str, ...]
    recent: tuple[str, ...]
    varied: float  # 0-2


class ColourField(QFrame):
    """Shows a colour; says which is wanted instead."""

    wanted = Signal(str, bool)  # a hex, whether only its hue and chroma
    refused = Signal(str)
    vary_wanted = Signal(float)
    patches_wanted = Signal()
    began = Signal()
    ended = Signal()

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent, Qt.WindowType.Popup)
        self.setObjectName("check")
        self.setAccessibleName(self.tr("Colour field"))
        self._facts: FieldFacts | None = None
        self._hue = 0.0  # OKLCh degrees; kept where a grey has none
        self.name = QLabel()
        self.name.setObjectName("heading")
        self.plane, self.ring = Plane(), Wheel()
        self.plane.wanted.connect(lambda v, c: self._want(colour_at(v, c, self._hue)))
        self.ring.wanted.connect(self._turn)
        for part in (self.plane, self.ring):
            part.began.connect(self.began)
            part.ended.connect(self.ended)
        self._build_numbers()
        self.only_hue = QCheckBox(self.tr("Hue only, keep my value"))
        self.lately = quiet(self.tr("lately"))
        self.palette_row, self.recent_row = self._row(), self._row()
        numbers = in_column(*self._number_rows(), 1, gap=4)
        in_column(
            self.name,
            in_row(self.plane, self.ring, numbers, gap=12),
            self.only_hue,
            in_row(quiet(self.tr("palette")), self.palette_row, 1, gap=6),
            in_row(self.lately, self.recent_row, 1, gap=6),
            in_row(
                quiet(self.tr("a swatch is taken by")),
                self.share,
                1,
                quiet(self.tr("varied by")),
                self.varied,
                self.patches,
                gap=6,
            ),
            gap=8,
            margins=(14, 10, 14, 12),
            on=self,
        )

    def _build_numbers(self) -> None:
        self.hex = TextField(self.tr("Hex"), needed=True, confirms=True, rests=False)
        self.hex.setFixedWidth(84)
        self.hex.typed.connect(lambda _, text: self._type(text))
        self.value = NumberField(self.tr("Value"), 0, 100, " L*", 1, 0)
        self.chroma = NumberField(
            self.tr("Chroma"), 0, 0.4, "", 0.005, 3, self.tr("OKLCh chroma: 0 is grey")
        )
        self.saturation = NumberField(
            self.tr("Saturation"),
            0,
            100,
            " %",
            1,
            0,
            self.tr("As painting programs count it, HSB; the value stays"),
        )
        self.value.wanted.connect(lambda v: self._want(colour_at(v, self._now.chroma, self._hue)))
        self.chroma.wanted.connect(lambda c: self._want(colour_at(self._now.value, c, self._hue)))
        self.saturation.wanted.connect(lambda s: self._want(with_saturation(self._now.hex, s)))
        self.share = NumberField(
            self.tr("How much of a swatch is mixed in"),
            5,
            100,
            " %",
            5,
            0,
            self.tr("100 % takes a swatch as it is; less mixes it with the colour"),
        )
        self.share.show_number(100)
        self.varied = NumberField(
            self.tr("How much the region varies"),
            0,
            200,
            " %",
            10,
            0,
            self.tr("A second and a third colour near its own, in soft patches; value kept"),
        )
        self.varied.wanted.connect(lambda n: self.vary_wanted.emit(n / 100))
        self.patches = QPushButton(self.tr("Other patches"))
        self.patches.setObjectName("small")
        self.patches.clicked.connect(self.patches_wanted)

    def _number_rows(self) -> list[QHBoxLayout]:
        return [
            in_row(quiet(self.tr(word)), 1, field, gap=6)
            for word, field in (
                ("hex", self.hex),
                ("value", self.value),
                ("chroma", self.chroma),
                ("saturation", self.saturation),
            )
        ]

    def _row(self) -> QWidget:
        made = QWidget()
        line = QHBoxLayout(made)
        line.setContentsMargins(0, 0, 0, 0)
        line.setSpacing(2)
        return made

    @property
    def _now(self) -> Measured:
        return measure_hex(self._facts.colour if self._facts is not None else "#808080")

    def show_facts(self, facts: FieldFacts) -> None:
        """The colour of a region, and what it may take."""
        before, self._facts = self._facts, facts
        now = measure_hex(facts.colour)
        if now.hue is not None and now.chroma >= 0.004:
            self._hue = now.hue
        self.name.setText(facts.name)
        self.plane.show_colour(now.value, now.chroma, self._hue)
        angle = float(angle_of(facts.wheel, self._hue))
        self.ring.show_wheel(facts.ring, facts.needles, angle)
        of = Of(thing=facts.name)
        self.hex.fill(of, facts.colour)
        self.value.show_number(now.value, of)
        self.chroma.show_number(now.chroma, of)
        self.saturation.show_number(saturation_of(facts.colour), of)
        self.varied.show_number(facts.varied * 100, of)
        self.patches.setEnabled(facts.varied > 0)
        if before is None or (before.palette, before.recent) != (facts.palette, facts.recent):
            self._fill(self.palette_row, facts.palette)
            self._fill(self.recent_row, facts.recent)
            self.lately.setVisible(bool(facts.recent))
            self.recent_row.setVisible(bool(facts.recent))
            self.adjustSize()

    def _fill(self, row: QWidget, hexes: tuple[str, ...]) -> None:
        line = row.layout()
        assert line is not None
        while line.count():
            item = line.takeAt(0)
            widget = None if item is None else item.widget()
            if widget is not None:
                widget.deleteLater()
        for colour in hexes[:_SWATCHES]:
            chip = SwatchChip(colour, colour)
            chip.setCheckable(False)
            chip.clicked.connect(lambda _=False, c=colour: self._take(c))
            line.addWidget(chip)

    def _take(self, colour: str) -> None:
        share = self.share.value() / 100
        self._want(colour if share >= 1 else mixed(self._now.hex, colour, share))

    def _turn(self, angle: float) -> None:
        if self._facts is None:
            return
        self._hue = float(hue_at(self._facts.wheel, angle)) % 360
        chroma = max(self._now.chroma, 0.03)  # a grey that is turned takes colour
        self._want(colour_at(self._now.value, chroma, self._hue))

    def _type(self, text: str) -> None:
        try:
            self._want(measure_hex(text).hex)
        except Refusal as refusal:
            self.refused.emit(str(refusal))

    def _want(self, colour: str) -> None:
        self.wanted.emit(colour, self.only_hue.isChecked())

    def open_at(self, place: QPoint, room: QRect) -> None:
        """Open beside a place on the screen, within a room."""
        self.adjustSize()
        x = min(max(place.x() + 16, room.left()), room.right() - self.width())
        y = min(max(place.y() + 16, room.top()), room.bottom() - self.height())
        self.move(x, y)
        self.show()
        self.plane.setFocus()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            take_typed(self)
            self.close()
            return
        super().keyPressEvent(event)
