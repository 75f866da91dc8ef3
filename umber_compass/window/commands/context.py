"""The menu of a region or colour, wherever one is shown."""

from PySide6.QtCore import QObject, QPointF
from PySide6.QtGui import QColor, QContextMenuEvent, QGuiApplication, QIcon, QPixmap
from PySide6.QtWidgets import QMenu, QWidget

from umber_compass.colour.measured import measure_hex
from umber_compass.plan.edits import region
from umber_compass.steps.checks import CHECKS
from umber_compass.steps.pipeline import Derived
from umber_compass.window.commands.regions import Regions
from umber_compass.window.commands.steps import StepCommands
from umber_compass.window.desk.desk import Desk
from umber_compass.window.frame.layout import Layout
from umber_compass.window.stage.marks import StageMarks
from umber_compass.window.widgets.actions import Actions
from umber_compass.window.widgets.under import Showing, Under
from umber_compass.words import Refusal

_GIVEN = 24  # colours of the picture that are offered at most


class ContextMenu(QObject):
    """Finds what lies under a right click, and offers what can be done with it."""

    def __init__(
        self,
        desk: Desk,
        layout: Layout,
        regions: Regions,
        steps: StepCommands,
        marks: StageMarks,
        actions: Actions,
    ) -> None:
        super().__init__(layout)
        self.desk, self.layout, self.regions = desk, layout, regions
        self.steps, self.marks, self.actions = steps, marks, actions
        layout.menu_wanted.connect(self._open)

    def _open(self, event: QContextMenuEvent) -> None:
        """Open the menu of what lies there, or of the chosen region where a key asked for it."""
        found = self.under(self.layout, QPointF(event.pos()))
        if event.reason() == QContextMenuEvent.Reason.Keyboard and not found.region:
            found = Under(self.desk.session.selection)
        menu = self.menu(found)
        if menu is not None:
            event.accept()
            menu.popup(event.globalPos())

    def under(self, widget: QWidget, place: QPointF) -> Under:
        """What lies at a place of a widget: of the innermost part there that shows anything."""
        child: QWidget = widget.childAt(place.toPoint()) or widget
        stage = self.layout.stage
        while child not in (widget, stage) and not isinstance(child, Showing):
            child = child.parentWidget() or widget
        at = child.mapFrom(widget, place)
        if child is stage:
            return Under(self.marks.region_at(*stage.to_picture(at)))
        return child.under(at) if isinstance(child, Showing) else Under()

    def menu(self, found: Under) -> QMenu | None:
        """What can be done with a region or a colour; None where there is neither."""
        derived = self.desk.derived
        if derived is None or not (found.region or found.hex):
            return None
        menu = QMenu(self.layout)
        colour = found.hex or derived.colours[found.region].first.hex
        menu.addAction(_dot(colour), self.tr("Copy {hex}").format(hex=colour)).triggered.connect(
            lambda: self.regions.copy(colour)
        )
        if found.region:
            if found.region not in self.desk.session.chosen:
                self.desk.session.select(found.region)
            self._add_region(menu, derived, found.region)
        return menu

    def _add_region(self, menu: QMenu, derived: Derived, chosen: str) -> None:
        named = region(derived.plan, chosen)
        head = menu.actions()[0]
        title = menu.addSection(f"{named.name}, {named.role}")
        menu.removeAction(title)
        menu.insertAction(head, title)
        self._add_giving(menu, derived, chosen)
        menu.addSeparator()
        self.actions.add_to(menu, "region")
        self._add_checks(menu, chosen)

    def _add_giving(self, menu: QMenu, derived: Derived, chosen: str) -> None:
        """A colour it may take: the one on the clipboard, or another region's."""
        giving = menu.addMenu(self.tr("Give it the colour"))
        copied = _hex_of(QGuiApplication.clipboard().text())
        if copied:
            text = self.tr("{hex}, copied").format(hex=copied)
            giving.addAction(_dot(copied), text).triggered.connect(
                lambda: self.regions.give(copied, chosen)
            )
        largest = sorted(derived.regions, key=lambda r: -derived.shares[r.id])
        for other in [r for r in largest if r.id != chosen][:_GIVEN]:
            colour = derived.colours[other.id].first.hex
            text = self.tr("of {name}").format(name=other.name)
            giving.addAction(_dot(colour), text).triggered.connect(
                lambda _=False, c=colour: self.regions.give(c, chosen)
            )

    def _add_checks(self, menu: QMenu, chosen: str) -> None:
        """What is said of it, each leading to its step."""
        mine = [r for r in self.desk.judge.results if chosen in r.regions and r.level != "fine"]
        if mine:
            menu.addSeparator()
        for result in mine:
            line = f"▲ {result.title}" if result.level == "warning" else f"△ {result.title}"
            menu.addAction(line).triggered.connect(
                lambda _=False, c=result.check: self._look_at(c, chosen)
            )

    def _look_at(self, check: str, chosen: str) -> None:
        self.steps.open(CHECKS[check].step)
        self.layout.checks.look_at(check, chosen)


def _dot(colour: str) -> QIcon:
    """A colour as an icon."""
    image = QPixmap(14, 14)
    image.fill(QColor(colour))
    return QIcon(image)


def _hex_of(text: str) -> str:
    """The colour that a text is, or none."""
    try:
        return measure_hex(text.strip()).hex
    except Refusal:
        return ""
