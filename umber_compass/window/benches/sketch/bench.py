"""The sketch bench: the regions, their names and the part each plays."""

from PySide6.QtCore import QPointF, QSignalBlocker, QStringListModel, Qt, Signal
from PySide6.QtGui import (
    QColor,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QResizeEvent,
    QWheelEvent,
)
from PySide6.QtWidgets import (
    QComboBox,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QPushButton,
    QScrollBar,
    QWidget,
)

from umber_compass.plan.model import Region
from umber_compass.plan.sketch_edits import rename, set_role, set_title
from umber_compass.plan.terms import ROLES, Role
from umber_compass.steps.harmony.edits import toggle_pin
from umber_compass.steps.pipeline import Derived
from umber_compass.window.benches.bench import Bench, quiet
from umber_compass.window.widgets.theme import THEME
from umber_compass.window.widgets.under import Under

_ROW_PX = 31  # a row and the room between two
_LEAST_ROWS, _MOST_ROWS = 8, 120


class _Swatch(QWidget):
    """A region's colour; a click chooses the region."""

    pressed = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.setFixedSize(36, 24)
        self._hexes: tuple[str, ...] = ()
        self._chosen = False
        self.region = ""

    def under(self, place: QPointF) -> Under:
        """Its region."""
        return Under(self.region, self._hexes[0] if self._hexes else "")

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

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if event.button() == Qt.MouseButton.LeftButton:
            self.pressed.emit()


class _Row:
    """The widgets of one region at a time: as many rows as there is room for serve them all."""

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
        self.swatch.pressed.connect(lambda: bench.chosen.emit(self.region.id))
        self.name.editingFinished.connect(lambda: bench.take_name(self))
        self.role.textActivated.connect(lambda role: bench.take_role(self, role))
        self.pin.clicked.connect(lambda: bench.take_pin(self))
        for label in (self.share, self.value):
            label.setAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)

    def widgets(self) -> tuple[QWidget, ...]:
        """Left to right."""
        return self.swatch, self.name, self.role, self.share, self.value, self.pin

    def show_region(
        self, bench: "SketchBench", region: Region, derived: Derived, chosen: bool
    ) -> None:
        """Show a region. A name that is being typed stays as long as its region does."""
        typing = self.region.id == region.id and self.name.hasFocus() and self.name.isModified()
        self.region = region
        colour = derived.colours[region.id]
        self.swatch.region = region.id
        self.swatch.show_colour(tuple(e.hex for e in colour.ends), chosen)
        if not typing:
            self.name.setText(region.name)
        self.name.setAccessibleName(bench.tr("Name of {name}").format(name=region.name))
        self.role.setAccessibleName(bench.tr("Role of {name}").format(name=region.name))
        with QSignalBlocker(self.role):
            self.role.setCurrentText(region.role)
        self.share.setText(f"{derived.shares[region.id]:.1%}")
        self.value.setText(f"{colour.mean_value:.0f} L*")
        pinned = colour.first.slot == "given"
        self.pin.setChecked(pinned)
        self.pin.setText(bench.tr("pinned") if pinned else bench.tr("pin"))
        self.pin.setAccessibleName(bench.tr("Pin {name}").format(name=region.name))


class _Room(QWidget):
    """Where the rows stand; says when it has another height, and takes the wheel."""

    resized = Signal()
    wheeled = Signal(int)  # rows, down

    def resizeEvent(self, event: QResizeEvent) -> None:
        self.resized.emit()

    def wheelEvent(self, event: QWheelEvent) -> None:
        self.wheeled.emit(-round(event.angleDelta().y() / 40))


class SketchBench(Bench):
    """A row for each region, largest first: those that there is room for, the rest by scrolling."""

    def __init__(self) -> None:
        super().__init__("Sketch")
        self._derived: Derived | None = None
        self.rows: dict[str, _Row] = {}  # by the region each shows
        self.roles = QStringListModel(list(ROLES), self)
        self._pool: list[_Row] = []
        self._selected = ""
        top = QHBoxLayout()
        top.addWidget(quiet(self.tr("Title")))
        self.title = QLineEdit()
        self.title.setAccessibleName(self.tr("Title of the plan"))
        self.title.editingFinished.connect(self._take_title)
        top.addWidget(self.title, 1)
        self.column.addLayout(top)
        self._room = _Room()
        self._grid = QGridLayout(self._room)
        self._grid.setContentsMargins(0, 0, 10, 0)
        self._grid.setHorizontalSpacing(8)
        self._grid.setVerticalSpacing(4)
        self._grid.setColumnStretch(1, 1)
        self.bar = QScrollBar(Qt.Orientation.Vertical)
        self.bar.setAccessibleName(self.tr("Regions"))
        self.bar.valueChanged.connect(self._fill)
        self._room.resized.connect(self._make_room)
        self._room.wheeled.connect(lambda rows: self.bar.setValue(self.bar.value() + rows))
        line = QHBoxLayout()
        line.setSpacing(0)
        line.addWidget(self._room, 1)
        line.addWidget(self.bar)
        self.column.addLayout(line, 1)

    def show_derived(self, derived: Derived, selected: str) -> None:
        self._derived, self._selected = derived, selected
        plan = derived.plan
        self._make_room()
        if not (self.title.hasFocus() and self.title.isModified()):
            self.title.setText(plan.title)
        self.says.setText(
            self.tr("{count} regions in {file}, {w} x {h} px").format(
                count=len(plan.regions),
                file=plan.sketch.file_name,
                w=plan.sketch.size[0],
                h=plan.sketch.size[1],
            )
        )

    def reveal(self, region_id: str) -> None:
        if self._derived is None or region_id in self.rows:
            return
        at = next((i for i, r in enumerate(self._derived.regions) if r.id == region_id), None)
        if at is not None:
            self.bar.setValue(at - len(self._pool) // 2)

    def edit_name(self, region_id: str) -> bool:
        self.reveal(region_id)
        if region_id not in self.rows:
            return False
        self.rows[region_id].name.setFocus()
        self.rows[region_id].name.selectAll()
        return True

    def _make_room(self) -> None:
        """As many rows as there is room for, and none that no region needs."""
        if self._derived is None:
            return
        regions = self._derived.regions
        wanted = min(len(regions), max(self._room.height() // _ROW_PX - 1, _LEAST_ROWS))
        if not self._pool:
            heads = ("colour", "name", "role", "share", "value")
            for i, text in enumerate(heads):
                self._grid.addWidget(_head(self.tr(text), right=i in (3, 4)), 0, i)
        while len(self._pool) > wanted:
            for widget in self._pool.pop().widgets():
                widget.hide()
                widget.deleteLater()
        if len(self._pool) < wanted:
            self._room.hide()  # laid out once at the end, not for every widget
            while len(self._pool) < wanted:
                row = _Row(self, regions[len(self._pool)])
                self._pool.append(row)
                for column, widget in enumerate(row.widgets()):
                    self._grid.addWidget(widget, len(self._pool), column)
            self._room.show()
        for row_ in range(_MOST_ROWS):
            self._grid.setRowStretch(row_, 1 if row_ == len(self._pool) + 1 else 0)
        self.bar.setRange(0, len(regions) - len(self._pool))
        self.bar.setPageStep(max(len(self._pool), 1))
        self.bar.setVisible(self.bar.maximum() > 0)
        self._fill()

    def _fill(self) -> None:
        """Show the regions that stand where it is scrolled to."""
        if self._derived is None:
            return
        shown = self._derived.regions[self.bar.value() :][: len(self._pool)]
        self.rows = dict(zip((r.id for r in shown), self._pool, strict=False))
        for region in shown:
            row = self.rows[region.id]
            row.show_region(self, region, self._derived, region.id == self._selected)

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
