"""The page of how the sketch is read: its kind and what that is told, looked at before it is taken;
its gaps; and the artist's own shading."""

from functools import partial

from PySide6.QtCore import QRectF, QSignalBlocker, Signal
from PySide6.QtGui import QPainter
from PySide6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QGridLayout,
    QLabel,
    QPushButton,
    QWidget,
)

from umber_compass.steps.pipeline import Derived
from umber_compass.steps.ramps.ramps import ramp_of
from umber_compass.steps.sketch.kinds import KINDS, NONE
from umber_compass.steps.sketch.kinds.kind import Setting
from umber_compass.window.bench.bench import quiet
from umber_compass.window.benches.sketch.shading_part import ShadingPart
from umber_compass.window.desk.gaps import NeckMark
from umber_compass.window.desk.splitting import Preview
from umber_compass.window.stage import neck_marks
from umber_compass.window.widgets.clearing import clear
from umber_compass.window.widgets.fields import NumberField
from umber_compass.window.widgets.picture_box import PictureBox
from umber_compass.window.widgets.rows import in_column, in_row


class ReadingPage(QWidget):
    """Says which way of splitting is looked at, and which is taken."""

    edit_wanted = Signal(object)
    looked = Signal(str, object)  # a kind and its settings
    taken = Signal(str, object)

    def __init__(self) -> None:
        super().__init__()
        self._sketch: object = None
        self._fields: dict[str, NumberField] = {}
        self._told: dict[str, float] = {}
        self.kind = QComboBox()
        for kind in KINDS.values():
            self.kind.addItem(kind.title, kind.name)
        self.kind.setAccessibleName(self.tr("Kind of sketch"))
        self.kind.activated.connect(self._on_kind)
        self.kind_says = quiet("")
        self._grid = QGridLayout()
        self._grid.setHorizontalSpacing(8)
        self._grid.setColumnStretch(3, 1)
        self.count = QLabel()
        self.count.setObjectName("strong")
        self.count.setWordWrap(True)
        self.take = QPushButton(self.tr("Take it"))
        self.take.setToolTip(self.tr("Regions that are found again keep all that was decided"))
        self.take.clicked.connect(lambda: self.taken.emit(self._kind(), dict(self._told)))
        self.shading = ShadingPart()
        self.shading.edit_wanted.connect(self.edit_wanted)
        self.preview = PictureBox(self.tr("What would be found"), 150)
        in_column(
            in_row(quiet(self.tr("read as")), self.kind, (self.kind_says, 1), gap=8),
            self._grid,
            in_row((self.count, 1), self.take),
            (self.preview, 1),
            self.shading,
            gap=8,
            on=self,
        )

    def _kind(self) -> str:
        return str(self.kind.currentData())

    def show_derived(self, derived: Derived, selected: str) -> None:
        """Show how a plan's sketch was read, and its shading."""
        sketch = derived.plan.sketch
        if sketch is not self._sketch:
            self._sketch = sketch
            self._told = dict(sketch.settings)
            kind = sketch.kind if sketch.kind in KINDS else "flats"
            with QSignalBlocker(self.kind):
                self.kind.setCurrentIndex(self.kind.findData(kind))
            self._show_settings()
            if sketch.kind == NONE:
                self.kind_says.setText(self.tr("a composition of ours"))
            if self.isVisible():
                self.look()
        self.shading.setVisible(derived.drawing.shades is not None)
        self.shading.show_shading(derived.shading)
        region = next((r for r in derived.regions if r.id == selected), None)
        self.shading.show_region(region, ramp_of(derived.recipes, selected).over)

    def look(self) -> None:
        """Have what is told now previewed."""
        self.count.setText(self.tr("…"))
        self.preview.wait(self.tr("Reading the sketch …"))
        self.looked.emit(self._kind(), dict(self._told))

    def _on_kind(self) -> None:
        self._told = {}
        self._show_settings()
        self.look()

    def _show_settings(self) -> None:
        kind = KINDS[self._kind()]
        self.kind_says.setText(self.tr(kind.says))
        clear(self._grid)
        self._fields = {}
        for i, setting in enumerate(kind.settings):
            if setting.is_switch:
                box = self._switch(setting)
                self._grid.addWidget(box, i // 2, 2 * (i % 2), 1, 2)
                continue
            field = self._field(setting)
            self._fields[setting.key] = field
            self._grid.addWidget(quiet(self.tr(setting.title)), i // 2, 2 * (i % 2))
            self._grid.addWidget(field, i // 2, 2 * (i % 2) + 1)

    def _switch(self, setting: Setting) -> QCheckBox:
        box = QCheckBox(self.tr(setting.title))
        box.setChecked(bool(self._told.get(setting.key, setting.usual)))
        box.clicked.connect(lambda on: self._on_setting(setting, float(on)))
        return box

    def _field(self, setting: Setting) -> NumberField:
        low = setting.low - 1 if setting.usual is None else setting.low
        field = NumberField(setting.title, low, setting.high, f" {setting.unit}")
        field.setKeyboardTracking(True)
        if setting.usual is None:
            field.setSpecialValueText(self.tr("as found"))
        now = self._told.get(setting.key, setting.usual)
        field.show_number(low if now is None else now)
        field.wanted.connect(partial(self._on_setting, setting))
        return field

    def _on_setting(self, setting: Setting, number: float) -> None:
        if setting.usual is None and number < setting.low:
            self._told.pop(setting.key, None)
        else:
            self._told[setting.key] = number
        self.look()

    def show_preview(self, preview: Preview) -> None:
        """What was looked at."""
        if preview.kind != self._kind():
            return
        self.take.setEnabled(not preview.line)
        if preview.line:
            self.count.setText(f"▲  {preview.line}")
            self.preview.show_packed(None)
            return
        self.preview.over = partial(_paint_gaps, preview.gaps())
        self.preview.show_packed(preview.shown)
        closed = sum(n.closed for n in preview.necks)
        if preview.kind == "lines":
            text = self.tr("{count:,} regions; {closed} gaps closed, {open} may leak")
            line = text.format(
                count=preview.regions, closed=closed, open=len(preview.necks) - closed
            )
        else:
            line = self.tr("{count:,} regions").format(count=preview.regions)
        self.count.setText(line)


def _paint_gaps(gaps: tuple[NeckMark, ...], painter: QPainter, box: QRectF) -> None:
    neck_marks.paint(painter, gaps, box)
