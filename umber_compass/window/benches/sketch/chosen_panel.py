"""What can be done with the chosen regions: name, role, material, form, family; merge, split, give
away."""

from collections.abc import Sequence
from typing import get_args

from PySide6.QtCore import QSignalBlocker, Qt, Signal
from PySide6.QtWidgets import (
    QComboBox,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QMenu,
    QPushButton,
    QWidget,
)

from umber_compass.plan.edits import Edit, region
from umber_compass.plan.model import Region
from umber_compass.plan.regrouping import set_several
from umber_compass.plan.settings import change_setting
from umber_compass.plan.terms import ROLES, Form, Material
from umber_compass.steps.pipeline import Derived
from umber_compass.steps.sketch.families import join_family
from umber_compass.window.bench.bench import quiet
from umber_compass.window.widgets.fields import Of, TextField
from umber_compass.window.widgets.rows import in_column, in_row
from umber_compass.words import words

_MIXED = "–"


class ChosenPanel(QWidget):
    """Shows what the chosen regions have in common, and says what is wanted of them."""

    edit_wanted = Signal(object)
    asked = Signal(str)  # an action of regions by name
    named = Signal()  # a name and a role were given: go on to the next

    def __init__(self) -> None:
        super().__init__()
        self.head = QLabel()
        self.head.setObjectName("strong")
        self.measure = quiet("")
        in_column(
            in_row(self.head, (self.measure, 1), gap=12),
            self._build_buttons(),
            self._build_fields(),
            gap=6,
            on=self,
        )
        self._regions: list[Region] = []
        self._derived: Derived | None = None

    def _build_buttons(self) -> QHBoxLayout:
        row = QHBoxLayout()
        row.setSpacing(6)
        self.buttons: dict[str, QPushButton] = {}
        for name, text, says in (
            ("family", self.tr("One family"), self.tr("Let them follow one hue and move together")),
            ("merge", self.tr("Merge"), self.tr("Make them one region of one colour")),
            ("surface", self.tr("One surface"), self.tr("Light them as one form")),
            ("pin", self.tr("Pin"), self.tr("Let the colour stay as the scheme turns")),
            ("split", self.tr("Split …"), self.tr("Make several regions of one")),
        ):
            button = QPushButton(text)
            button.setObjectName("small")
            button.setToolTip(says)
            self.buttons[name] = button
            row.addWidget(button)
        row.addStretch(1)
        self.split_menu = QMenu(self)
        self.buttons["split"].setMenu(self.split_menu)
        for name in ("merge", "surface", "pin"):
            self.buttons[name].clicked.connect(lambda _=False, n=name: self.asked.emit(n))
        self.buttons["family"].clicked.connect(self._take_family)
        return row

    def _build_fields(self) -> QGridLayout:
        grid = QGridLayout()
        grid.setHorizontalSpacing(8)
        grid.setVerticalSpacing(4)
        self.name = TextField(self.tr("Name of the chosen region"), needed=True, confirms=True)
        self.name.setMaxLength(200)
        self.name.returnPressed.connect(self._on_named)
        self.name.typed.connect(
            lambda of, t: self.edit_wanted.emit(change_setting("region.REGION.name", t, of.thing))
        )
        self.role = self._combo(self.tr("Role"), list(ROLES))
        self.role.textActivated.connect(lambda t: self._take("role", t))
        self.role.installEventFilter(self)
        self.material = self._combo(self.tr("Material"), list(get_args(Material)))
        self.material.textActivated.connect(lambda t: self._take("material", t))
        self.form = self._combo(self.tr("Form"), list(get_args(Form)))
        self.form.textActivated.connect(lambda t: self._take("form", t))
        for column, (text, field) in enumerate(
            (
                (self.tr("name"), self.name),
                (self.tr("role"), self.role),
                (self.tr("material"), self.material),
                (self.tr("form"), self.form),
            )
        ):
            grid.addWidget(quiet(text), 0, column)
            grid.addWidget(field, 1, column)
        grid.setColumnStretch(0, 1)
        return grid

    def _combo(self, name: str, choices: list[str]) -> QComboBox:
        combo = QComboBox()
        combo.addItems(choices)
        combo.setAccessibleName(name)
        combo.setPlaceholderText(_MIXED)
        return combo

    def show_chosen(self, derived: Derived, ids: Sequence[str]) -> None:
        """Show the chosen regions; the first leads."""
        self._derived = derived
        self._regions = [region(derived.plan, i) for i in ids]
        many = len(ids)
        self.setEnabled(many > 0)
        if not many:
            self.head.setText(self.tr("Nothing chosen"))
            self.measure.setText(
                self.tr("click a name, or draw a frame on the picture; N goes through them")
            )
        else:
            lead = self._regions[0]
            self.head.setText(
                lead.name if many == 1 else self.tr("{count} chosen").format(count=many)
            )
            share = sum(derived.shares[i] for i in ids)
            values = [derived.colours[i].mean_value for i in ids]
            said = self.tr("{share:.1%} of the picture, L* {low:.0f}")
            if many > 1:
                said = self.tr("{share:.1%} of the picture, L* {low:.0f} to {high:.0f}")
            self.measure.setText(said.format(share=share, low=min(values), high=max(values)))
        one = self._regions[0] if many == 1 else None
        self.name.fill(Of(thing=one.id) if one else None, one.name if one else "")
        self.name.setEnabled(many == 1)
        for combo, field in ((self.role, "role"), (self.material, "material"), (self.form, "form")):
            held = {getattr(r, field) for r in self._regions}
            with QSignalBlocker(combo):
                combo.setCurrentIndex(combo.findText(held.pop()) if len(held) == 1 else -1)
        for key in ("family", "merge", "surface"):
            self.buttons[key].setEnabled(many > 1)
        self.buttons["split"].setEnabled(many == 1)
        pinned = many and derived.colours[ids[0]].first.slot == "given"
        self.buttons["pin"].setText(self.tr("Unpin") if pinned else self.tr("Pin"))

    def edit_name(self) -> None:
        """Put the caret into the name."""
        self.name.setFocus()
        self.name.selectAll()

    def _on_named(self) -> None:
        """Enter in the name takes it as it stands, and leads to the role, where a letter chooses it
        and Enter goes on."""
        if len(self._regions) == 1 and not self._regions[0].named:
            self.name.setModified(True)
        self.name.take()
        self.role.setFocus()

    def eventFilter(self, watched: object, event: object) -> bool:
        from PySide6.QtCore import QEvent
        from PySide6.QtGui import QKeyEvent

        enter = (Qt.Key.Key_Return, Qt.Key.Key_Enter)
        if (
            watched is self.role
            and isinstance(event, QKeyEvent)
            and event.type() == QEvent.Type.KeyPress
            and event.key() in enter
        ):
            self._take("role", self.role.currentText())
            self.named.emit()
            return True
        return False

    def _take(self, field: str, text: str) -> None:
        if text and any(getattr(r, field) != text for r in self._regions):
            self.edit_wanted.emit(self._several(field, text))

    def _several(self, field: str, text: str) -> Edit:
        names = self._regions[0].name
        if len(self._regions) > 1:
            names = self.tr("{count} regions").format(count=len(self._regions))
        fields: dict[str, object] = {field: text}
        if field == "form":
            fields["shares_form_with"] = None
        ids = [r.id for r in self._regions]
        return set_several(ids, words("make {names} {what}", names=names, what=text), fields)

    def _take_family(self) -> None:
        if self._derived is not None and len(self._regions) > 1:
            ids = [r.id for r in self._regions]
            self.edit_wanted.emit(join_family(self._derived.plan, ids))
