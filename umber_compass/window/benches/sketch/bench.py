"""The sketch bench: the regions, their names and the part each plays."""

from PySide6.QtCore import QSignalBlocker, QStringListModel, Qt, QTimer, Signal
from PySide6.QtGui import QColor, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import (
    QComboBox,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QPushButton,
    QScrollArea,
    QWidget,
)

from umber_compass.plan.model import ROLES, Region, Role
from umber_compass.plan.sketch_edits import rename, set_role, set_title
from umber_compass.steps.harmony.edits import toggle_pin
from umber_compass.steps.pipeline import Derived
from umber_compass.window.benches.bench import Bench, quiet
from umber_compass.window.widgets.theme import THEME

_ROWS_AT_ONCE = 48


class _Swatch(QWidget):
    """A region's colour; a click chooses the region."""

    pressed = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.setFixedSize(36, 24)
        self._hexes: tuple[str, ...] = ()
        self._chosen = False

    def show_colour(self, hexes: tuple[str, ...], chosen: bool) -> None:
        self._hexes, self._chosen = hexes, chosen
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        width = self.width() / max(len(self._hexes), 1)
        for i, colour in enumerate(self._hexes):
            painter.fillRect(int(i * width), 0, int(width) + 1, 24, QColor(colour))
        if self._chosen:
            painter.setPen(QPen(THEME.colour("ink"), 3))
            painter.drawRect(1, 1, self.width() - 3, 21)

    def mousePressEvent(self, event: object) -> None:
        self.pressed.emit()


class _Row:
    """The widgets of one region."""

    def __init__(self, bench: "SketchBench", region: Region) -> None:
        self.region = region
        self.swatch = _Swatch()
        self.name = QLineEdit()
        self.name.setMaxLength(200)
        self.role = QComboBox()
        self.role.setModel(bench.roles)
        self.share, self.value = quiet(""), quiet("")
        self.pin = QPushButton()
        self.pin.setCheckable(True)
        self.pin.setToolTip(bench.tr("A pinned colour stays as the scheme turns"))
        self.swatch.pressed.connect(lambda: bench.chosen.emit(region.id))
        self.name.editingFinished.connect(lambda: bench.take_name(self))
        self.role.textActivated.connect(lambda role: bench.take_role(self, role))
        self.pin.clicked.connect(lambda: bench.take_pin(self))
        for label in (self.share, self.value):
            label.setAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)

    def widgets(self) -> tuple[QWidget, ...]:
        """Left to right."""
        return self.swatch, self.name, self.role, self.share, self.value, self.pin


class SketchBench(Bench):
    """A row for each region, largest first."""

    def __init__(self) -> None:
        super().__init__("Sketch")
        self._derived: Derived | None = None
        self.rows: dict[str, _Row] = {}
        self.roles = QStringListModel(list(ROLES), self)
        self._waiting: list[Region] = []
        self._building = QTimer(self)
        self._building.setSingleShot(True)
        self._building.timeout.connect(self._build_more)
        self._selected = ""
        top = QHBoxLayout()
        top.addWidget(quiet(self.tr("Title")))
        self.title = QLineEdit()
        self.title.setAccessibleName(self.tr("Title of the plan"))
        self.title.editingFinished.connect(self._take_title)
        top.addWidget(self.title, 1)
        self.column.addLayout(top)
        self._grid_holder = QWidget()
        self._grid = QGridLayout(self._grid_holder)
        self._grid.setContentsMargins(0, 0, 10, 0)
        self._grid.setHorizontalSpacing(8)
        self._grid.setVerticalSpacing(4)
        self._grid.setColumnStretch(1, 1)
        scroll = QScrollArea()
        scroll.setWidgetResizable(True)
        scroll.setWidget(self._grid_holder)
        scroll.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self._scroll = scroll
        self.column.addWidget(scroll, 1)

    def show_derived(self, derived: Derived, selected: str) -> None:
        self._derived = derived
        plan = derived.plan
        self._selected = selected
        if [*self.rows, *(r.id for r in self._waiting)] != [r.id for r in plan.regions]:
            self._rebuild(plan.regions)
        if not (self.title.hasFocus() and self.title.isModified()):
            self.title.setText(plan.title)
        for region in plan.regions:
            if region.id in self.rows:
                self._show_row(self.rows[region.id], region, derived, selected)
        self.says.setText(
            self.tr("{count} regions in {file}, {w} x {h} px").format(
                count=len(plan.regions),
                file=plan.sketch.file_name,
                w=plan.sketch.size[0],
                h=plan.sketch.size[1],
            )
        )

    def reveal(self, region_id: str) -> None:
        if region_id in self.rows:
            self._scroll.ensureWidgetVisible(self.rows[region_id].name)

    def edit_name(self, region_id: str) -> bool:
        if region_id not in self.rows:
            return False
        self.reveal(region_id)
        self.rows[region_id].name.setFocus()
        self.rows[region_id].name.selectAll()
        return True

    def _show_row(self, row: _Row, region: Region, derived: Derived, selected: str) -> None:
        row.region = region
        colour = derived.colours[region.id]
        row.swatch.show_colour(tuple(e.hex for e in colour.ends), region.id == selected)
        if not (row.name.hasFocus() and row.name.isModified()):
            row.name.setText(region.name)
        row.name.setAccessibleName(self.tr("Name of {name}").format(name=region.name))
        row.role.setAccessibleName(self.tr("Role of {name}").format(name=region.name))
        with QSignalBlocker(row.role):
            row.role.setCurrentText(region.role)
        row.share.setText(f"{derived.shares[region.id]:.1%}")
        row.value.setText(f"{colour.mean_value:.0f} L*")
        pinned = colour.first.slot == "given"
        row.pin.setChecked(pinned)
        row.pin.setText(self.tr("pinned") if pinned else self.tr("pin"))
        row.pin.setAccessibleName(self.tr("Pin {name}").format(name=region.name))

    def _rebuild(self, regions: tuple[Region, ...]) -> None:
        for row in self.rows.values():
            for widget in row.widgets():
                widget.hide()
                widget.deleteLater()
        self.rows, self._waiting = {}, list(regions)
        heads = (
            self.tr("colour"),
            self.tr("name"),
            self.tr("role"),
            self.tr("share"),
            self.tr("value"),
        )
        if self._grid.itemAtPosition(0, 0) is None:
            for i, text in enumerate(heads):
                self._grid.addWidget(_head(text, right=i in (3, 4)), 0, i)
        self._build_more()

    def _build_more(self) -> None:
        """The next rows. A sketch of hundreds of regions must not hold the window up."""
        now, self._waiting = self._waiting[:_ROWS_AT_ONCE], self._waiting[_ROWS_AT_ONCE:]
        self._grid_holder.hide()  # laid out once at the end, not for every widget
        for region in now:
            row = self.rows[region.id] = _Row(self, region)
            for column, widget in enumerate(row.widgets()):
                self._grid.addWidget(widget, len(self.rows), column)
            if self._derived is not None:
                self._show_row(row, region, self._derived, self._selected)
        self._grid_holder.show()
        if self._waiting:
            self._building.start(0)

    def take_name(self, row: _Row) -> None:
        """A name was typed."""
        if row.name.text().strip() and row.name.text() != row.region.name:
            self.edit_wanted.emit(rename(row.region.id, row.name.text()))
        else:
            row.name.setText(row.region.name)

    def take_role(self, row: _Row, role: Role) -> None:
        """A role was chosen."""
        self.edit_wanted.emit(set_role(row.region.id, role, row.region.name))

    def take_pin(self, row: _Row) -> None:
        """A pin was set or taken away."""
        if self._derived is not None:
            self.edit_wanted.emit(toggle_pin(self._derived.plan, row.region.id, row.region.name))

    def _take_title(self) -> None:
        if self._derived is None:
            return
        if self.title.text().strip() and self.title.text() != self._derived.plan.title:
            self.edit_wanted.emit(set_title(self.title.text()))
        else:
            self.title.setText(self._derived.plan.title)


def _head(text: str, right: bool) -> QLabel:
    label = quiet(text)
    if right:
        label.setAlignment(Qt.AlignmentFlag.AlignRight)
    return label
