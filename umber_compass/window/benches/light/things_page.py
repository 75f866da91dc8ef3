"""What stands where: the things of the picture, and what they stand on."""

from PySide6.QtCore import QSignalBlocker, Signal
from PySide6.QtWidgets import QPushButton, QScrollArea, QWidget

from umber_compass.plan.edits import find_region, region_of_label
from umber_compass.plan.scene import Things
from umber_compass.plan.scene_edits import (
    guess_again,
    name_thing,
    place_foot,
    place_gap,
    remove_thing,
    set_horizon,
    stand_on,
)
from umber_compass.plan.terms import Standing
from umber_compass.steps.light.standing import Stands
from umber_compass.steps.light.telling_things import as_told, in_or_out, of_its_own
from umber_compass.steps.pipeline import Derived
from umber_compass.window.bench.bench import quiet
from umber_compass.window.bench.choice_row import ChoiceRow
from umber_compass.window.benches.light.ground_part import GroundPart
from umber_compass.window.stage.thing_marks import FOOT, GAP
from umber_compass.window.widgets.fields import NumberField, Of, TextField
from umber_compass.window.widgets.flow import Flow
from umber_compass.window.widgets.rows import in_column, in_row

_ON = {
    "floor": ("on the floor", "its shadow falls on the floor and the wall behind"),
    "wall": ("before a wall", "it hangs or stands close to a wall, and casts on that"),
    "air": ("in the air", "it casts no shadow on floor or wall"),
}
_STANDING: tuple[Standing, ...] = ("floor", "wall", "air")


class ThingsPage(QWidget):
    """Says which edit is wanted, and which thing is chosen."""

    edit_wanted = Signal(object)
    marked = Signal()  # other things are to be marked on the stage

    def __init__(self) -> None:
        super().__init__()
        self._derived: Derived | None = None
        self._selected = ""
        self.thing = ""
        self._buttons: dict[str, QPushButton] = {}
        says = quiet(
            self.tr(
                "Things cast the shadows. They are guessed: click one on the picture, then drag "
                "its foot line, or take pieces in and out."
            )
        )
        says.setWordWrap(True)
        self.grounds = GroundPart()
        self.grounds.edit_wanted.connect(self.edit_wanted)
        self._list = QWidget()
        self._flow = Flow([], gap=4)
        self._list.setLayout(self._flow)
        scroll = QScrollArea()
        scroll.setWidgetResizable(True)
        inner = QWidget()
        column = in_column(
            says,
            self._list,
            self._build_thing(),
            self.grounds,
            1,
            gap=8,
            margins=(0, 2, 6, 0),
            on=inner,
        )
        column.setSpacing(8)
        scroll.setWidget(inner)
        in_column(scroll, on=self)

    def _build_thing(self) -> QWidget:
        self.name = TextField(self.tr("Name of the thing"), needed=True)
        self.name.typed.connect(self._take_name)
        self.on = ChoiceRow("", _ON)
        self.on.chosen.connect(self._stand)
        self.foot = NumberField(
            self.tr("Foot line, % of the height"), 0, 100, " %", 0.5, 1,
            self.tr("Where it stands, from the top; drag the line under it on the picture."),
        )  # fmt: skip
        self.gap = NumberField(
            self.tr("Gap to the wall, % of the width"), 0, 100, " %", 0.5, 1,
            self.tr("How far it hangs before the wall; drag the knob beside it on the picture."),
        )  # fmt: skip
        self.foot.wanted.connect(lambda n: self.take_move(FOOT, self.thing, n / 100))
        self.gap.wanted.connect(lambda n: self.take_move(GAP, self.thing, n / 100))
        self.pieces = QPushButton(self.tr("Pieces in or out"))
        self.pieces.setCheckable(True)
        self.pieces.setToolTip(
            self.tr(
                "While this is down, a click on the picture takes a piece into the thing, or out."
            )
        )
        self.pieces.toggled.connect(lambda _: self.marked.emit())
        self.alone = QPushButton(self.tr("New thing"))
        self.alone.setToolTip(
            self.tr("The chosen region’s largest piece becomes a thing of its own")
        )
        self.alone.clicked.connect(self._make_thing)
        self.remove = QPushButton(self.tr("Take away"))
        self.remove.setToolTip(self.tr("It is no thing any more, and casts no shadow"))
        self.remove.clicked.connect(self._remove)
        self.again = QPushButton(self.tr("Guess again"))
        self.again.setToolTip(self.tr("Give up what you said of things, horizon and grounds"))
        self.again.clicked.connect(lambda: self.edit_wanted.emit(guess_again()))
        self._of_thing = QWidget()
        foot, gap = quiet(self.tr("foot")), quiet(self.tr("gap"))
        numbers = in_row((self.name, 1), foot, self.foot, gap, self.gap, gap=6)
        in_column(numbers, in_row(self.on, 1), gap=6, on=self._of_thing)
        holder = QWidget()
        in_column(
            self._of_thing,
            in_row(self.pieces, self.alone, self.remove, 1, self.again, gap=4),
            gap=6,
            on=holder,
        )
        return holder

    def show_derived(self, derived: Derived, selected: str) -> None:
        """What stands where, and the chosen region."""
        self._derived, self._selected = derived, selected
        standing = derived.standing
        things = standing.things if standing is not None else ()
        if self.thing not in {t.id for t in things}:
            # The one that most of its shadow is seen of.
            largest = sorted(things, key=lambda t: (t.placed.on != "floor", -_px(derived, t)))
            self.thing = largest[0].id if largest else ""
        self._show_list(things)
        own = self._own()
        self._of_thing.setVisible(own is not None)
        self.pieces.setEnabled(own is not None)
        self.remove.setEnabled(own is not None)
        self.alone.setEnabled(bool(selected) and standing is not None)
        self.again.setEnabled(derived.scene != type(derived.scene)())
        if own is not None:
            of = Of(thing=own.id)
            self.name.fill(of, own.name)
            self.on.show_choice(own.placed.on)
            self.foot.show_number(own.placed.foot * 100, of)
            self.gap.show_number(own.placed.gap * 100, of)
            self.foot.setEnabled(own.placed.on == "floor")
            self.gap.setEnabled(own.placed.on == "wall")
        self.grounds.show_derived(derived, selected)

    def _show_list(self, things: tuple[Stands, ...]) -> None:
        if list(self._buttons) != [t.id for t in things]:
            for button in self._buttons.values():
                self._flow.removeWidget(button)
                button.hide()
                button.deleteLater()
            self._buttons = {}
            for thing in things:
                button = QPushButton()
                button.setCheckable(True)
                button.setObjectName("small")
                button.clicked.connect(lambda _=False, t=thing.id: self.choose(t))
                self._flow.addWidget(button)
                self._buttons[thing.id] = button
        for thing in things:
            button = self._buttons[thing.id]
            button.setText(thing.name or thing.id)
            with QSignalBlocker(button):
                button.setChecked(thing.id == self.thing)
        self._list.setMinimumHeight(self._flow.heightForWidth(max(self.width() - 12, 300)))

    def choose(self, thing: str) -> None:
        """Another thing."""
        self.thing = thing
        if self._derived is not None:
            self.show_derived(self._derived, self._selected)
        self.marked.emit()

    def take_press(self, x: float, y: float) -> None:
        """The picture was pressed at a place, shares of width and height: the thing there is
        chosen, or a piece taken in or out."""
        derived = self._derived
        if derived is None or derived.pieces is None or derived.standing is None:
            return
        if not (0 <= x < 1 and 0 <= y < 1):
            return
        piece = derived.pieces.at(x, y)
        if self.pieces.isChecked():
            region = region_of_label(derived.plan, int(derived.pieces.label[piece]))
            name = region.name if region else ""
            edit = in_or_out(derived.pieces, derived.standing, self.thing, piece, name)
            if piece and edit is not None:
                self.edit_wanted.emit(edit)
            return
        found = next((t for t in derived.standing.things if piece in t.members), None)
        if found is not None:
            self.choose(found.id)

    def take_move(self, what: str, thing: str, value: float) -> None:
        """A foot line, a gap or the horizon moved to a share of the height or width."""
        own = self._own(thing)
        if what == FOOT and own is not None:
            self.edit_wanted.emit(place_foot(self._told(), thing, value, own.name))
        elif what == GAP and own is not None:
            self.edit_wanted.emit(place_gap(self._told(), thing, value, own.name))
        elif own is None and not thing:
            self.edit_wanted.emit(set_horizon(value))

    def _own(self, thing: str | None = None) -> Stands | None:
        wanted = self.thing if thing is None else thing
        standing = self._derived.standing if self._derived is not None else None
        if standing is None:
            return None
        return next((t for t in standing.things if t.id == wanted), None)

    def _told(self) -> Things:
        derived = self._derived
        if derived is None:
            return ()
        known = derived.scene.things
        return as_told(derived.pieces, derived.standing) if known is None else known

    def _take_name(self, of: Of, text: str) -> None:
        if of.thing:
            self.edit_wanted.emit(name_thing(self._told(), of.thing, text))

    def _stand(self, on: str) -> None:
        own = self._own()
        if own is not None:
            kind = next(s for s in _STANDING if s == on)
            self.edit_wanted.emit(stand_on(self._told(), own.id, kind, own.name))

    def _remove(self) -> None:
        own = self._own()
        if own is not None:
            self.edit_wanted.emit(remove_thing(self._told(), own.id, own.name))

    def _make_thing(self) -> None:
        derived = self._derived
        if derived is None or derived.pieces is None or derived.standing is None:
            return
        region = find_region(derived.plan, self._selected)
        if region is None:
            return
        pieces = derived.pieces
        own = [i for i, n in enumerate(pieces.label) if n == region.label and i]
        if own:
            largest = max(own, key=lambda i: int(pieces.area[i]))
            edit = of_its_own(pieces, derived.standing, largest, region.name)
            self.edit_wanted.emit(edit)


def _px(derived: Derived, thing: Stands) -> int:
    """How large a thing is."""
    if derived.pieces is None:
        return 0
    return int(derived.pieces.area[list(thing.members)].sum())
