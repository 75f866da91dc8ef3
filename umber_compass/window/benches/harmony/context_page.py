"""How a colour looks among its neighbours, a colour that looks another way, and zones of a face."""

from itertools import zip_longest

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QVBoxLayout,
)

from umber_compass.plan.edits import Edit, region
from umber_compass.plan.model import Gradient
from umber_compass.steps.checks.check import upper
from umber_compass.steps.harmony.reading_edits import read_way
from umber_compass.steps.harmony.relativity import WAYS, Way, find
from umber_compass.steps.harmony.scheme import slot_hues
from umber_compass.steps.harmony.zones import (
    SCHOOLS,
    place_zones,
    set_zones,
    upright_axis,
    zones_of,
)
from umber_compass.steps.in_context import in_context, in_words
from umber_compass.steps.pipeline import Derived
from umber_compass.window.bench.bench import quiet
from umber_compass.window.benches.harmony.head import Head
from umber_compass.window.benches.harmony.page import Page
from umber_compass.window.widgets.fields import NumberField
from umber_compass.window.widgets.peek_button import PeekButton
from umber_compass.window.widgets.picture_box import PictureBox
from umber_compass.window.widgets.rows import in_row

_MOST = 4
_PAIR_PX, _PAIR_MOST_PX = 150, 520  # px, of the two pictures on screen, and of what is drawn
_NO_ZONES = "no zones"


class ContextPage(Page):
    """What the eye makes of a colour, beside what it is."""

    def __init__(self) -> None:
        super().__init__()
        self._derived: Derived | None = None
        self._selected = ""
        self.head(
            self.tr("A colour among its neighbours"),
            self.tr(
                "The eye shifts a colour away from what surrounds it. Left the region as it is, "
                "right as it looks there: a rough guide, after a model of adaptation."
            ),
        )
        self.measured = PictureBox(self.tr("The region as it is"), _PAIR_PX, True)
        self.looks = PictureBox(
            self.tr("The region as it looks among its neighbours"), _PAIR_PX, True
        )
        pair = QGridLayout()
        pair.setHorizontalSpacing(10)
        for i, (box, says) in enumerate(
            ((self.measured, self.tr("as it is")), (self.looks, self.tr("as it looks")))
        ):
            pair.addWidget(quiet(says), 0, i)
            pair.addWidget(box, 1, i)
            pair.setColumnStretch(i, 1)
        self.column.addLayout(pair)
        self.says = QLabel()
        self.says.setWordWrap(True)
        self.column.addWidget(self.says)
        self._build_finding()
        self._build_shifted()
        self._build_zones()
        self.column.addStretch(1)

    def _build_shifted(self) -> None:
        """The regions that are shifted most, each a button that chooses it."""
        line = QHBoxLayout()
        line.setSpacing(4)
        self.shifted_head = quiet(self.tr("shifted most"))
        line.addWidget(self.shifted_head)
        self.shifted = [QPushButton() for _ in range(_MOST)]
        for button in self.shifted:
            button.setObjectName("small")
            line.addWidget(button)
            button.clicked.connect(lambda _=False, b=button: self.chosen.emit(b.property("of")))
        line.addStretch(1)
        self.column.addLayout(line)

    def _build_finding(self) -> None:
        self.find_head = QLabel()
        self.find_head.setObjectName("heading")
        self.column.addWidget(self.find_head)
        line = QHBoxLayout()
        line.setSpacing(4)
        self.ways: dict[Way, PeekButton] = {}
        for way in WAYS:
            button = PeekButton(way)
            button.clicked.connect(lambda _=False, w=way: self._take(self._found(w)))
            button.peeked.connect(
                lambda on, w=way: self.peeked.emit(self._found(w) if on else None)
            )
            self.ways[way] = button
            line.addWidget(button)
        line.addStretch(1)
        self.column.addLayout(line)

    def _found(self, way: Way) -> Edit | None:
        """The smallest change inside the scheme that makes the chosen region read so."""
        derived = self._derived
        if derived is None or not self._selected:
            return None
        arc = derived.rules["hue-off-scheme.arc"]
        hues = list(slot_hues(derived.scheme).values())
        found = find(derived.touching, derived.colours, self._selected, way, hues, arc)
        if found is None:
            return None
        return read_way(self._selected, found, way, region(derived.plan, self._selected).name)

    def _take(self, edit: Edit | None) -> None:
        if edit is not None:
            self.want(edit)

    def _build_zones(self) -> None:
        self.zone_head = QLabel()
        self.zone_head.setObjectName("heading")
        self.column.addWidget(self.zone_head)
        self.face = Head()
        side = QVBoxLayout()
        side.setSpacing(6)
        self.school = QComboBox()
        self.school.setAccessibleName(self.tr("School of zones"))
        self.school.addItem(_NO_ZONES, None)
        for school in SCHOOLS.values():
            self.school.addItem(school.title, school.name)
            last, tip = self.school.count() - 1, Qt.ItemDataRole.ToolTipRole
            self.school.setItemData(last, school.says, tip)
        self.school.setMinimumContentsLength(16)
        self.school.setSizeAdjustPolicy(
            QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon
        )
        self.school.activated.connect(self._take_zones)
        self.strength = NumberField(self.tr("Strength of the zones"), 0, 200, " %", 10)
        self.strength.wanted.connect(self._take_zones)
        side.addLayout(in_row((self.school, 1), self.strength))
        self.on_picture = QCheckBox(self.tr("on the picture"))
        self.on_picture.setToolTip(
            self.tr("As soft fields along a line that is dragged on the stage, value kept")
        )
        self.on_picture.clicked.connect(self._lay)
        side.addWidget(self.on_picture)
        self.zones = QLabel()
        self.zones.setWordWrap(True)
        side.addWidget(self.zones)
        side.addStretch(1)
        self.column.addLayout(in_row(self.face, (side, 1), gap=12))

    def _take_zones(self) -> None:
        if self._derived is not None and self._selected:
            name = region(self._derived.plan, self._selected).name
            strength = self.strength.value() / 100
            self.want(set_zones(self._selected, self.school.currentData(), strength, name))

    def _lay(self, on: bool) -> None:
        """Lay the zones on the picture, from the top of the region to its foot, or take them
        off."""
        derived = self._derived
        if derived is not None and self._selected:
            named = region(derived.plan, self._selected)
            axis = upright_axis(derived.drawing, named.label) if on else None
            self.want(place_zones(named.id, axis, named.name))

    def show_page(self, derived: Derived, selected: str) -> None:
        self._derived, self._selected = derived, selected
        said = {r.id: r.name for r in derived.regions}
        for button, reads in zip_longest(self.shifted, derived.reads[:_MOST]):
            button.setVisible(reads is not None)
            if reads is not None:
                button.setText(said[reads.region])
                button.setProperty("of", reads.region)
        self.shifted_head.setVisible(bool(derived.reads))
        self._show_pair(derived, said)
        self._show_chosen(derived, said.get(selected, ""))

    def _show_pair(self, derived: Derived, said: dict[str, str]) -> None:
        """The chosen region twice; the one that is shifted most where none is chosen."""
        mine = [r for r in derived.reads if r.region == self._selected]
        shown = (mine or list(derived.reads))[:1]
        pair = in_context(derived, shown[0], _PAIR_MOST_PX) if shown else None
        self.measured.show_packed(None if pair is None else pair.measured)
        self.looks.show_packed(None if pair is None else pair.looks)
        none = self.tr("No two regions touch, so nothing shifts.")
        self.says.setText(str(in_words(shown[0], upper(said[shown[0].region]))) if shown else none)

    def _show_chosen(self, derived: Derived, name: str) -> None:
        pinned = bool(name) and derived.colours[self._selected].first.slot == "given"
        line = self.tr("Make {name} look") if name else self.tr("Choose a region to change")
        if pinned:
            line = self.tr("{name} is a fixed colour and stays")
        self.find_head.setText(line.format(name=name))
        for button in self.ways.values():
            button.setEnabled(bool(name) and not pinned)
        self._show_zones(derived, name)

    def _show_zones(self, derived: Derived, name: str) -> None:
        wish = derived.study.zones.get(self._selected)
        text = self.tr("Zones of {name}") if name else self.tr("Zones: choose a skin, or a cloth")
        self.zone_head.setText(text.format(name=name))
        self.school.setEnabled(bool(name))
        self.strength.setEnabled(wish is not None)
        graded = isinstance(derived.planned.get(self._selected), Gradient)
        self.on_picture.setEnabled(wish is not None and not graded)
        self.on_picture.setChecked(wish is not None and wish.axis is not None)
        at = 0 if wish is None else self.school.findData(wish.school)
        self.school.setCurrentIndex(max(at, 0))
        self.strength.show_number(100 if wish is None else wish.strength * 100)
        self.face.setVisible(bool(name))
        self.zones.setVisible(bool(name))
        if not name:
            return
        base = derived.colours[self._selected].first
        found = () if wish is None else zones_of(base, wish.school, wish.strength)
        self.face.show_zones(base.hex, {z.name: z.hex for z in found})
        line = self.tr("{name}: {far:.1f} CIEDE2000 from the base")
        rows = [line.format(name=z.name, far=z.far) for z in found]
        none = self.tr("Small shifts from one base, value kept. Three schools; choose one.")
        says = none if wish is None else SCHOOLS[wish.school].says
        self.zones.setText("\n".join([says, *rows]))
