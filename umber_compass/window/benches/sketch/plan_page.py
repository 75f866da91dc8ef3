"""The page of this sketch: its stage plan, what is chosen on it, and finding a region by typing."""

from collections.abc import Callable
from typing import TypeAlias

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QHBoxLayout, QLineEdit, QPushButton, QScrollArea, QWidget

from umber_compass.document.following_sketch import Followed
from umber_compass.picture.forms import front_order
from umber_compass.plan.edits import Edit
from umber_compass.plan.model import Plan
from umber_compass.plan.regrouping import place_in_front, set_several
from umber_compass.steps.pipeline import Derived
from umber_compass.steps.sketch.order import moved_to
from umber_compass.window.bench.bench import quiet
from umber_compass.window.benches.sketch.chosen_panel import ChosenPanel
from umber_compass.window.benches.sketch.plan_layout import Named
from umber_compass.window.benches.sketch.stage_plan import StagePlan
from umber_compass.window.widgets.clearing import clear
from umber_compass.window.widgets.rows import in_column, in_row
from umber_compass.window.widgets.scrolled import at_top, scrolled
from umber_compass.words import words

Change: TypeAlias = Callable[[Plan], Plan]


class PlanPage(QWidget):
    """Regions by role, from far to near."""

    edit_wanted = Signal(object)
    chosen = Signal(object)  # ids
    pointed = Signal(str)
    asked = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        self._derived: Derived | None = None
        self._chosen: tuple[str, ...] = ()
        self._followed: Followed | None = None
        self.finding = QLineEdit()
        self.finding.setPlaceholderText(self.tr("find a region"))
        self.finding.setAccessibleName(self.tr("Find a region"))
        self.finding.setMaximumWidth(170)
        self.finding.textEdited.connect(self._on_find)
        self.join = QPushButton(self.tr("Join like regions"))
        self.join.setObjectName("small")
        self.join.setToolTip(
            self.tr("Both eyes, all panes, a ground that a figure parts: one region each")
        )
        self.join.clicked.connect(lambda: self.asked.emit("join-alike"))
        self.plan = StagePlan()
        self.area: QScrollArea = scrolled(at_top(self.plan))
        below = QHBoxLayout()
        self.says = quiet(
            self.tr("Drag a name to another row, or press 1 to 5; what stands right lies in front.")
        )
        self.says.setWordWrap(True)
        below.addWidget(self.says, 1)
        below.addWidget(quiet(self.tr("near")), 0, Qt.AlignmentFlag.AlignBottom)
        self.notes = _Notes()
        self.notes.chosen.connect(self.chosen)
        self.notes.setVisible(False)
        self.panel = ChosenPanel()
        in_column(
            in_row(quiet(self.tr("far")), 1, self.join, self.finding, gap=8),
            (self.area, 100),
            below,
            self.notes,
            self.panel,
            1,
            gap=6,
            on=self,
        )
        self.plan.chosen.connect(self.chosen)
        self.plan.pointed.connect(self.pointed)
        self.plan.moved.connect(self._on_moved)
        self.plan.naming.connect(self.panel.edit_name)
        self.panel.edit_wanted.connect(self.edit_wanted)
        self.panel.asked.connect(self.asked)
        self.panel.named.connect(lambda: self.asked.emit("next-unnamed"))

    def show_derived(self, derived: Derived, chosen: tuple[str, ...]) -> None:
        """Show a plan's regions and which are chosen."""
        other = chosen != self._chosen
        self._derived, self._chosen = derived, chosen
        order = front_order(derived.form_wishes, derived.indexed.areas(_most(derived)))
        regions = sorted(derived.regions, key=lambda r: order[r.label])
        shown = [
            Named(
                r.id,
                r.label,
                r.name,
                r.role,
                tuple(e.hex for e in derived.colours[r.id].ends),
                derived.shares[r.id],
                r.named,
            )
            for r in regions
        ]
        self.plan.show_regions(shown, chosen, derived.drawing)
        self.area.setMaximumHeight(self.plan.height() + 2)
        self.panel.show_chosen(derived, chosen)
        if other and chosen:
            self.reveal(chosen[0])

    def reveal(self, region_id: str) -> None:
        """Bring a region's name into sight."""
        box = self.plan.box_of(region_id)
        if not box.isNull():
            at = box.center()
            self.area.ensureVisible(int(at.x()), int(at.y()), 0, 40)

    def show_followed(self, found: Followed | None) -> None:
        """List what became of the regions when the sketch was read again."""
        self._followed = found
        self.notes.show_followed(found, self._name_of)

    def _name_of(self, region_id: str) -> str:
        if self._derived is None:
            return ""
        return next((r.name for r in self._derived.regions if r.id == region_id), "")

    def _on_moved(self, ids: tuple[str, ...], role: str, before: str) -> None:
        """Names were put into a row, before another or at its end."""
        derived = self._derived
        if derived is None:
            return
        order = front_order(derived.form_wishes, derived.indexed.areas(_most(derived)))
        labels = sorted(order, key=lambda k: order[k])
        by_label = {r.label: r for r in derived.regions}
        standing = [by_label[k] for k in labels if k in by_label]
        roles_change = any(r.role != role for r in standing if r.id in ids)
        edit: Edit
        if roles_change:
            name = words("make {count} regions {role}", count=len(ids), role=role)
            if len(ids) == 1:
                own = next(r for r in standing if r.id == ids[0])
                name = words("make {name} {role}", name=own.name, role=role)
            edit = set_several(ids, name, {"role": role})
            if before:
                placed = place_in_front(moved_to(standing, ids, role, before))
                edit = edit._replace(change=_both(edit.change, placed.change))
        else:
            edit = place_in_front(moved_to(standing, ids, role, before))
        self.edit_wanted.emit(edit)

    def _on_find(self, text: str) -> None:
        if self._derived is None or not text.strip():
            return
        wanted = text.strip().lower()
        names = [(r.name.lower(), r.id) for r in self._derived.regions]
        begins = [i for n, i in names if n.startswith(wanted)]
        found = begins or [i for n, i in names if wanted in n]
        if found:
            self.chosen.emit(tuple(found[:1]))


class _Notes(QWidget):
    """What became of regions, each a button that chooses them."""

    chosen = Signal(object)

    def __init__(self) -> None:
        super().__init__()
        self._row = QHBoxLayout(self)
        self._row.setContentsMargins(0, 0, 0, 0)
        self._row.setSpacing(6)

    def show_followed(self, found: Followed | None, name_of: Callable[[str], str]) -> None:
        """One button for each fate that any region has."""
        clear(self._row)
        if found is None:
            self.setVisible(False)
            return
        for ids, text in (
            (found.fresh, self.tr("{count} new")),
            (found.doubtful, self.tr("{count} doubtful")),
            (found.recoloured, self.tr("{count} recoloured")),
        ):
            if ids:
                button = QPushButton(text.format(count=len(ids)))
                button.setObjectName("small")
                button.setToolTip(", ".join(name_of(i) for i in ids)[:400])
                button.clicked.connect(lambda _=False, i=ids: self.chosen.emit(i))
                self._row.addWidget(button)
        if found.gone:
            gone = quiet(
                self.tr("{count} gone: {names}").format(
                    count=len(found.gone), names=", ".join(found.gone)[:120]
                )
            )
            gone.setToolTip(", ".join(found.gone))
            self._row.addWidget(gone)
        self._row.addStretch(1)
        close = QPushButton(self.tr("Fine"))
        close.setObjectName("small")
        close.clicked.connect(lambda: self.setVisible(False))
        self._row.addWidget(close)
        self.setVisible(True)


def _both(first: Change, second: Change) -> Change:
    return lambda plan: second(first(plan))


def _most(derived: Derived) -> int:
    return max(r.label for r in derived.regions)
