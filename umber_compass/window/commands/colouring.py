"""A colour for one or several regions, by the colour field."""

from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, QPoint
from PySide6.QtGui import QCursor, QGuiApplication

from umber_compass.plan.edits import Edit, region
from umber_compass.steps.harmony.edits import give_several
from umber_compass.steps.harmony.fields import other_patches, vary
from umber_compass.steps.harmony.rose import ring
from umber_compass.steps.harmony.scheme import needle_angles
from umber_compass.steps.pipeline import Derived
from umber_compass.window.desk.desk import Desk
from umber_compass.window.frame.layout import Layout

if TYPE_CHECKING:
    from umber_compass.window.colour.field import ColourField, FieldFacts

_RECENT = 14


class Colouring(QObject):
    """Opens the colour field on what is chosen, and gives what it says."""

    def __init__(self, desk: Desk, layout: Layout) -> None:
        super().__init__(layout)
        self.desk, self._layout = desk, layout
        self._field: ColourField | None = None
        self._regions: tuple[str, ...] = ()
        self._recent: tuple[str, ...] = ()
        desk.changed.connect(self.follow)
        desk.painted.connect(self.follow)
        desk.opened.connect(self.close)

    @property
    def field(self) -> "ColourField":
        """The field, made when it is first wanted."""
        if self._field is None:
            from umber_compass.window.colour.field import ColourField

            made = self._field = ColourField(self._layout)
            made.wanted.connect(self._give)
            made.refused.connect(lambda line: self.desk.told.emit(line, True))
            made.vary_wanted.connect(lambda n: self._do(vary(self._regions, n, self._name)))
            made.patches_wanted.connect(lambda: self._do(other_patches(self._regions, self._name)))
            made.began.connect(self.desk.begin_drag)
            made.ended.connect(self.desk.seal)
        return self._field

    def open(self, regions: tuple[str, ...] = (), place: QPoint | None = None) -> None:
        """Open it for some regions, or for those that are chosen, beside a place on the screen."""
        derived = self.desk.derived
        chosen = regions or tuple(self.desk.session.chosen)
        if derived is None or not chosen:
            self.desk.told.emit(self.tr("Choose a region to give it a colour"), False)
            return
        self._regions = chosen
        self.desk.session.taking.emit()
        self.desk.seal()
        self.field.only_hue.setChecked(False)
        self.follow()
        at = place or QCursor.pos()
        screen = QGuiApplication.screenAt(at) or self._layout.screen()
        self.field.open_at(at, screen.availableGeometry())

    def open_on(self, region_id: str) -> None:
        """Open it for a region that was clicked twice, if any."""
        if region_id:
            self.desk.session.select(region_id)
            self.open((region_id,))

    def close(self) -> None:
        """Close it: another plan came."""
        self._regions = ()
        if self._field is not None:
            self._field.close()

    def follow(self) -> None:
        """Show the colour as the plan has it."""
        derived = self.desk.derived
        if derived is not None and self._regions and self._field is not None:
            known = tuple(r for r in self._regions if r in derived.colours)
            if known:
                self._field.show_facts(self._facts(derived, known))

    def _facts(self, derived: Derived, chosen: tuple[str, ...]) -> "FieldFacts":
        from umber_compass.window.colour.field import FieldFacts

        scheme = derived.scheme
        patch = derived.variations.get(chosen[0])
        many = self.tr("{count} regions").format(count=len(chosen))
        palette = dict.fromkeys(derived.colours[r].first.hex for r in derived.families)
        return FieldFacts(
            name=region(derived.plan, chosen[0]).name if len(chosen) == 1 else many,
            colour=derived.colours[chosen[0]].first.hex,
            wheel=scheme.wheel,
            ring=ring(scheme.wheel),
            needles={s: a for s, a in needle_angles(scheme).items() if s != "grey"},
            palette=tuple(palette),
            recent=self._recent,
            varied=0.0 if patch is None else patch.strength,
        )

    @property
    def _name(self) -> str:
        """The name of the first region that it is open for."""
        derived = self.desk.derived
        return "" if derived is None else region(derived.plan, self._regions[0]).name

    def _do(self, edit: Edit) -> None:
        if self._regions and self.desk.derived is not None:
            self.desk.do(edit)

    def _give(self, colour: str, only_hue: bool) -> None:
        derived = self.desk.derived
        if derived is None or not self._regions:
            return
        name = region(derived.plan, self._regions[0]).name
        self.desk.do(give_several(self._regions, colour, name, only_hue))
        if not self.desk.session.dragging:
            self.desk.seal()
            rest = (c for c in self._recent if c != colour)
            self._recent = (colour, *rest)[:_RECENT]
            self.follow()
