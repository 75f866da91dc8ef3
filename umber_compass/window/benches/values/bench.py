"""The values bench: the ladder, and the chosen region in numbers."""

from PySide6.QtWidgets import QWidget

from umber_compass.plan.edits import region
from umber_compass.plan.practice_edits import set_rule
from umber_compass.steps.harmony.colours import end_names
from umber_compass.steps.harmony.edits import set_value
from umber_compass.steps.pipeline import Derived
from umber_compass.steps.values.measured import lit_range
from umber_compass.window.benches.bench import Bench
from umber_compass.window.benches.values.chips import Chip
from umber_compass.window.benches.values.ladder import Ladder
from umber_compass.window.benches.values.region_bar import RegionBar
from umber_compass.window.stage.step_marks import Marks

_NAMED_FROM = 0.012  # share of the picture
_BOUNDS = {"dark": (0, 50), "light": (50, 100)}


class ValuesBench(Bench):
    """Values of every region, upright."""

    def __init__(self) -> None:
        super().__init__("Values")
        self.ladder = Ladder()
        self.column.addWidget(self.ladder, 1)
        self.bar = RegionBar()
        self.column.addWidget(self.bar)
        self.bar.edit_wanted.connect(self.edit_wanted)
        self._names: dict[str, str] = {}
        self.ladder.moved.connect(self._move)
        self.ladder.limit.connect(self._limit)
        self.ladder.chosen.connect(self.chosen)
        self.ladder.began.connect(self.drag_began)
        self.ladder.ended.connect(self.drag_ended)

    def first_focus(self) -> QWidget | None:
        return self.ladder

    def _move(self, region_id: str, end: int, value: float) -> None:
        self.edit_wanted.emit(set_value(region_id, end, value, self._names[region_id]))

    def _limit(self, kind: str, value: float) -> None:
        low, high = _BOUNDS[kind]
        title = self.tr("limit for darks") if kind == "dark" else self.tr("limit for lights")
        self.edit_wanted.emit(set_rule(f"extremes.{kind}", min(max(value, low), high), title))

    def show_derived(self, derived: Derived, selected: str) -> None:
        self._names = {r.id: r.name for r in derived.plan.regions}
        colours = derived.planned
        chips = [
            Chip(r, i, self._names[r] + end_names(colours[r])[i], e.value, derived.shares[r], e.hex)
            for r, c in derived.colours.items()
            for i, e in enumerate(c.ends)
            if derived.shares[r] > 0
        ]
        values = derived.values
        self.ladder.show_chips(
            chips,
            values.histogram.tolist(),
            {"dark": derived.rules["extremes.dark"], "light": derived.rules["extremes.light"]},
            {"dark": values.darks, "light": values.lights},
            selected,
        )
        label = region(derived.plan, selected).label if selected else 0
        lit = lit_range(values, derived.grain, label) if derived.lit and label else None
        self.ladder.show_lit(lit)
        shown = [c.value for c in chips]
        self.says.setText(
            self.tr("darkest {low:.0f}, lightest {high:.0f} L*").format(
                low=min(shown), high=max(shown)
            )
        )
        self.bar.show_region(derived, selected)


def marks(derived: Derived, selected: str) -> Marks:
    """The names and values of all regions but the smallest, and of the chosen one."""
    return Marks(
        {
            r.id: f"{r.name} {derived.colours[r.id].mean_value:.0f}"
            for r in derived.regions
            if derived.shares[r.id] > _NAMED_FROM or r.id == selected
        }
    )
