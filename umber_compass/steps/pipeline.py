"""The stages from plan to picture. Each names what it needs; only what changed runs again."""

from collections.abc import Callable
from typing import Any, NamedTuple, TypeVar

import numpy as np
import numpy.typing as npt

from umber_compass.plan.edits import study
from umber_compass.plan.model import Gradient, Plan
from umber_compass.plan.practices import rules
from umber_compass.steps.codes import Axes, Codes, Packed, encode_sketch, paint, shares
from umber_compass.steps.colouring import RegionColour, code_table, region_colours
from umber_compass.steps.sketch import Drawing
from umber_compass.steps.values import Values, measure_values

T = TypeVar("T")


class Derived(NamedTuple):
    """Everything that follows from a plan and its sketch, but the picture itself."""

    plan: Plan
    drawing: Drawing
    codes: Codes
    shares: dict[str, float]  # by region id, 0-1
    colours: dict[str, RegionColour]  # by region id
    table: npt.NDArray[np.uint8]  # (codes, 3)
    values: Values
    rules: dict[str, float]

    def document_label(self, region_id: str) -> int | None:
        """A region's number in the drawing, or None if it holds no pixel there."""
        label = next(r.label for r in self.plan.regions if r.id == region_id)
        begin, end = self.codes.spans.get(label, (0, 0))
        return label if end > begin and self.codes.pixels[begin:end].any() else None


class Pipeline:
    """Derives a plan's results and remembers each stage's last one."""

    def __init__(self, drawing: Drawing) -> None:
        self._drawing = drawing
        self._last: dict[str, tuple[tuple[Any, ...], Any]] = {}

    def _stage(self, name: str, work: Callable[..., T], *needs: object) -> T:
        """The stage's last result if its needs are the very same objects, or equal small ones."""
        known = self._last.get(name)
        if known and all(a is b or _small(a, b) for a, b in zip(known[0], needs, strict=True)):
            return known[1]  # type: ignore[no-any-return]  # stages differ in what they give
        result = work(*needs)
        self._last[name] = (needs, result)
        return result

    def derive(self, plan: Plan) -> Derived:
        """What follows from a plan. The same plan gives the very same objects."""
        now = study(plan)
        axes = self._stage("axes", _axes, plan.regions, now.colours)
        codes = self._stage("codes", self._codes, repr(axes))
        held = self._stage("shares", _shares, codes, plan.regions)
        colours = self._stage("colours", region_colours, now.scheme, now.colours)
        table = self._stage("table", _table, codes, plan.regions, colours)
        numbers = self._stage("rules", lambda *_: rules(plan), plan.overrides, plan.practice)
        values = self._stage(
            "values",
            measure_values,
            codes,
            table,
            numbers["extremes.dark"],
            numbers["extremes.light"],
        )
        return Derived(plan, self._drawing, codes, held, colours, table, values, numbers)

    @classmethod
    def of(cls, derived: Derived) -> "Pipeline":
        """A pipeline that knows the codes of a derived plan already, for another thread."""
        made = cls(derived.drawing)
        axes = _axes(derived.plan.regions, study(derived.plan).colours)
        made._last["codes"] = ((repr(axes),), derived.codes)
        return made

    def _codes(self, _: str) -> Codes:
        axes: Axes = self._last["axes"][1]
        codes = encode_sketch(self._drawing.labels, self._drawing.borders, axes)
        for array in (codes.run_code, codes.run_length, codes.pixels, codes.touching):
            array.flags.writeable = False
        return codes


def _small(a: object, b: object) -> bool:
    return isinstance(a, str | float) and a == b


def _axes(regions: Any, colours: Any) -> Axes:
    return {r.label: colours[r.id].axis for r in regions if isinstance(colours[r.id], Gradient)}


def _shares(codes: Codes, regions: Any) -> dict[str, float]:
    by_label = shares(codes)
    return {r.id: by_label.get(r.label, 0.0) for r in regions}


def _table(codes: Codes, regions: Any, colours: Any) -> npt.NDArray[np.uint8]:
    table = code_table(codes, {r.id: r.label for r in regions}, colours)
    table.flags.writeable = False
    return table


def picture(derived: Derived) -> Packed:
    """The flat picture of a plan, (h, w), 0x00RRGGBB."""
    return paint(derived.codes, derived.table)
