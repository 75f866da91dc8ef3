"""The palette in full: rows by family, what is said of a colour, colours beside, the budget."""

from PySide6.QtGui import QGuiApplication
from PySide6.QtWidgets import QHBoxLayout, QPushButton

from umber_compass.formats.hex_list import pasted
from umber_compass.plan.edits import find_region, region
from umber_compass.plan.palette_edits import (
    add_extra,
    note_colour,
    order_rows,
    remove_extra,
)
from umber_compass.plan.settings import change_setting
from umber_compass.plan.study_edits import in_study
from umber_compass.plan.wish_edits import lock
from umber_compass.steps.harmony.edits import toggle_pin
from umber_compass.steps.pipeline import Derived
from umber_compass.steps.ramps.rows import CORE_SHARE, colour_rows, row_order
from umber_compass.window.bench.bench import quiet
from umber_compass.window.benches.harmony.page import Page
from umber_compass.window.benches.harmony.palette_rows import PaletteRow, PaletteRows
from umber_compass.window.widgets import value_words
from umber_compass.window.widgets.dots import Swatches
from umber_compass.window.widgets.fields import Of, TextField
from umber_compass.window.widgets.rows import in_row
from umber_compass.window.widgets.scrolled import at_top, scrolled
from umber_compass.window.widgets.setting_field import SettingField

_WHITE, _BLACK = "#ffffff", "#141414"
_HEADS = {"grey": "–", "given": "•"}


class PalettePage(Page):
    """Rows to reorder, name, pin, lock and annotate."""

    def __init__(self) -> None:
        super().__init__()
        self._derived: Derived | None = None
        self._selected = ""
        self.says = quiet("")
        self.by_family = QPushButton(self.tr("By family"))
        self.by_family.setObjectName("small")
        self.by_family.setToolTip(self.tr("Rows in the order of families again"))
        self.by_family.clicked.connect(lambda: self.want(order_rows(())))
        self.column.addLayout(in_row((self.says, 1), self.by_family))
        self.rows = PaletteRows()
        self.rows.chosen.connect(self.chosen)
        self.rows.copied.connect(self.copied)
        self.rows.ordered.connect(lambda ids: self.want(order_rows(ids)))
        self.scroll_area = scrolled(at_top(self.rows))
        self.column.addWidget(self.scroll_area, 1)
        self._build_chosen()
        self._build_extras()

    def _build_chosen(self) -> None:
        self.name = TextField(self.tr("Name of the chosen colour"), needed=True)
        self.note = TextField(self.tr("Note on the chosen colour"))
        self.name.setPlaceholderText(self.tr("name"))
        self.note.setPlaceholderText(self.tr("note, as a pigment or where it is from"))
        self.pin, self.lock = QPushButton(self.tr("Pin")), QPushButton(self.tr("Lock"))
        self.pin.setToolTip(self.tr("It stays as the scheme turns"))
        self.lock.setToolTip(self.tr("Nothing the program does by itself changes it"))
        for button in (self.pin, self.lock):
            button.setObjectName("small")
            button.setCheckable(True)
        self.column.addLayout(in_row((self.name, 2), (self.note, 3), self.pin, self.lock, gap=6))
        self.name.typed.connect(
            lambda of, t: self.want(change_setting("region.REGION.name", t, of.thing))
        )
        self.note.typed.connect(self._take_note)
        self.pin.clicked.connect(self._take_pin)
        self.lock.clicked.connect(self._take_lock)

    def _build_extras(self) -> None:
        line = QHBoxLayout()
        line.setSpacing(6)
        line.addWidget(quiet(self.tr("extra colours")))
        self.extras = Swatches(120, 22)
        self.extras.setToolTip(self.tr("Colours that no region has; a click takes one away"))
        self.extras.picked.connect(lambda h: self.want(remove_extra(h)))
        line.addWidget(self.extras)
        for text, hex_text, says in (
            (self.tr("+ white"), _WHITE, self.tr("Allow paper white")),
            (self.tr("+ ink"), _BLACK, self.tr("Allow an ink")),
        ):
            button = QPushButton(text)
            button.setObjectName("small")
            button.setToolTip(says)
            button.clicked.connect(lambda _=False, h=hex_text: self.want(add_extra(h)))
            line.addWidget(button)
        self.paste = QPushButton(self.tr("+ copied"))
        self.paste.setObjectName("small")
        self.paste.setToolTip(self.tr("The hex that was copied last"))
        self.paste.clicked.connect(self._take_copied)
        line.addWidget(self.paste)
        line.addStretch(1)
        line.addWidget(quiet(self.tr("colours at most")))
        self.budget = SettingField("budget")
        self.budget.setSpecialValueText(self.tr("none"))
        self.budget.asked.connect(self.edit_wanted)
        line.addWidget(self.budget)
        self.column.addLayout(line)

    def needs(self) -> tuple[str, ...]:
        return ("ramps",)

    def _take_note(self, of: Of, text: str) -> None:
        named = None if self._derived is None else find_region(self._derived.plan, of.thing)
        if named is not None:
            self.want(in_study(of.study, note_colour(named.id, text, named.name)))

    def _take_pin(self) -> None:
        if self._derived is not None and self._selected:
            plan = self._derived.plan
            self.want(toggle_pin(plan, self._selected, region(plan, self._selected).name))

    def _take_lock(self) -> None:
        if self._derived is not None and self._selected:
            name = region(self._derived.plan, self._selected).name
            self.want(lock(self._selected, self._selected not in self._derived.locked, name))

    def _take_copied(self) -> None:
        for hex_text, _ in pasted(QGuiApplication.clipboard().text())[:1]:
            self.want(add_extra(hex_text))

    def show_page(self, derived: Derived, selected: str) -> None:
        self._derived, self._selected = derived, selected
        self.rows.show_rows(_rows(derived), selected)
        study = derived.study
        self.by_family.setEnabled(bool(study.row_order))
        core = sum(share >= CORE_SHARE for share in derived.shares.values())
        line = self.tr("{n} colours: {core} core, {extra} extra; darker, base, lighter")
        palette = study.palette
        if palette is not None:
            line = self.tr("{n} colours: {core} core, {extra} extra; from {title}")
        fields = {"n": derived.needed, "core": core, "extra": len(derived.shares) - core}
        self.says.setText(line.format(**fields, title="" if palette is None else palette.title))
        self.says.setToolTip("" if palette is None else palette.source)
        named = region(derived.plan, selected).name if selected else ""
        for field, text in ((self.name, named), (self.note, study.notes.get(selected, ""))):
            field.setEnabled(bool(selected))
            field.fill(Of(study.id, selected) if selected else None, text)
        pinned = bool(selected) and derived.colours[selected].first.slot == "given"
        self.pin.setChecked(pinned)
        self.lock.setChecked(selected in derived.locked)
        for button in (self.pin, self.lock):
            button.setEnabled(bool(selected))
        self.extras.show_colours(*(s.hex for s in study.extras))
        self.extras.setVisible(bool(study.extras))
        self.budget.show_setting(derived.plan.budget or 0)


def _rows(derived: Derived) -> list[PaletteRow]:
    study = derived.study
    order = row_order(study, derived.families)
    said = {r.id: r.name for r in derived.regions}
    found, last = [], ""
    for row in colour_rows(order, study, derived.colours, derived.shares, derived.ramps):
        colour = derived.colours[row.region]
        hexes = (row.darker, row.base, row.lighter)
        if colour.second is not None:
            hexes = (row.base, row.base, colour.second.hex)
        pinned, locked = row.slot == "given", row.region in derived.locked
        marks = [m for m, on in (("pinned", pinned), ("locked", locked)) if on]
        head = _HEADS.get(row.slot, row.slot) if row.slot != last else ""
        last = row.slot
        value = value_words.value_text(colour.mean_value)
        extra = "" if row.core else "extra"
        says = "  ".join(p for p in (f"{row.base}  {value}", extra) if p)
        note = study.notes.get(row.region, "")
        found.append(
            PaletteRow(row.region, said[row.region], hexes, says, ", ".join(marks), note, head)
        )
    return found
