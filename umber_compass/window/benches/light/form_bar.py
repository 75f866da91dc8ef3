"""The chosen region's form: what it is lit as, with which it is one surface, what it covers."""

from typing import get_args

from PySide6.QtCore import QSignalBlocker, Signal
from PySide6.QtWidgets import (
    QComboBox,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QSizePolicy,
    QVBoxLayout,
    QWidget,
)

from umber_compass.picture.forms import front_order
from umber_compass.plan.edits import find_region
from umber_compass.plan.model import Region
from umber_compass.plan.settings import change_setting
from umber_compass.plan.sketch_edits import share_form
from umber_compass.plan.terms import Form
from umber_compass.steps.pipeline import Derived
from umber_compass.window.bench.bench import quiet

_FORMS = get_args(Form)


class FormBar(QWidget):
    """Form, shared surface, and one place forward or back."""

    edit_wanted = Signal(object)

    def __init__(self) -> None:
        super().__init__()
        lines = QVBoxLayout(self)
        lines.setContentsMargins(6, 0, 0, 0)
        lines.setSpacing(4)
        row, below = QHBoxLayout(), QHBoxLayout()
        for line in (row, below):
            line.setSpacing(6)
            lines.addLayout(line)
        self._region: Region | None = None
        self._order: dict[int, int] = {}
        self._names: dict[str, str] = {}
        self.name = QLabel()
        self.name.setObjectName("strong")
        self.form, self.shared = QComboBox(), QComboBox()
        self.form.addItems(list(_FORMS))
        self.form.setAccessibleName(self.tr("Form of the chosen region"))
        self.shared.setAccessibleName(self.tr("One surface with"))
        self.shared.setMinimumContentsLength(9)
        self.shared.setSizeAdjustPolicy(
            QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon
        )
        self.back = QPushButton(self.tr("further back"))
        self.forward = QPushButton(self.tr("further front"))
        self.back.setToolTip(
            self.tr("Let the region behind it come before it: what stands in front covers the rest")
        )
        self.forward.setToolTip(
            self.tr("Let it come before the next region: what stands in front covers the rest")
        )
        self.form.setToolTip(
            self.tr(
                "The form it is lit as: auto (grounds flat, figures round), flat as paper, round "
                "as a loaf, slope as a floor, cylinder as a pot, slab as a board, membrane as a "
                "sail, faceted as a rock"
            )
        )
        self.shared.setToolTip(
            self.tr(
                "Stripes and patches of one thing swell as one: choose what it shares its form with"
            )
        )
        self.form.textActivated.connect(self._take_form)
        self.shared.activated.connect(self._take_shared)
        self.back.clicked.connect(lambda: self._move(-1))
        self.forward.clicked.connect(lambda: self._move(1))
        row.addWidget(self.name, 1)
        row.addWidget(quiet(self.tr("depth order")))
        row.addWidget(self.back)
        row.addWidget(self.forward)
        below.addWidget(quiet(self.tr("lit as")))
        below.addWidget(self.form)
        below.addWidget(quiet(self.tr("one surface with")))
        below.addWidget(self.shared, 1)
        self.name.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)

    def show_region(self, derived: Derived, region_id: str) -> None:
        """The chosen region's form."""
        regions = derived.plan.regions
        self._region = find_region(derived.plan, region_id)
        self.setEnabled(self._region is not None)
        self.name.setText(
            self._region.name if self._region else self.tr("Form: click a thing in the picture")
        )
        self._names = {r.id: r.name for r in regions}
        self._order = front_order(
            derived.form_wishes, derived.indexed.areas(max(r.label for r in regions))
        )
        with QSignalBlocker(self.shared), QSignalBlocker(self.form):
            self.shared.clear()
            self.shared.addItem(self.tr("nothing else"), "")
            for region in regions:
                if region.id != region_id:
                    self.shared.addItem(region.name, region.id)
            if self._region is not None:
                self.form.setCurrentText(self._region.form)
                at = self.shared.findData(self._region.shares_form_with or "")
                self.shared.setCurrentIndex(max(at, 0))

    def _take_form(self, form: Form) -> None:
        if self._region is not None:
            self.edit_wanted.emit(
                change_setting("region.REGION.form", form, self._region.id, self._region.name)
            )

    def _take_shared(self, index: int) -> None:
        if self._region is None:
            return
        other = str(self.shared.itemData(index))
        name = self._names.get(other, "")
        self.edit_wanted.emit(share_form(self._region.id, other or None, self._region.name, name))

    def _move(self, by: int) -> None:
        if self._region is not None:
            place = self._order[self._region.label] - 1 + by
            kept = min(max(place, 0), len(self._order) - 1)
            self.edit_wanted.emit(
                change_setting("region.REGION.front", kept, self._region.id, self._region.name)
            )
