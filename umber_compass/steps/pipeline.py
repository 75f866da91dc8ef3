"""The stages from plan to picture. Each names what it needs; only what changed runs again."""

from collections.abc import Callable
from typing import Any, NamedTuple, TypeVar

import numpy as np
import numpy.typing as npt

from umber_compass.plan.edits import study
from umber_compass.plan.light_edits import rig_of
from umber_compass.plan.model import Gradient, Plan, Region, Rig
from umber_compass.plan.practices import rules
from umber_compass.steps import lit as lighting
from umber_compass.steps.codes import Axes, Codes, Grain, Packed, encode_sketch, paint, shares
from umber_compass.steps.colouring import RegionColour, code_table, region_colours
from umber_compass.steps.forms import Tick, idle
from umber_compass.steps.forms import build as build_forms
from umber_compass.steps.light import lights_of
from umber_compass.steps.lit import Arriving, Lit
from umber_compass.steps.relief import Relief, encode_relief
from umber_compass.steps.sketch import Drawing
from umber_compass.steps.values import Values, flat_values, measure_values

T = TypeVar("T")


class Later:
    """A result worked out when it is first asked for, and kept: a drag's frame need not wait for
    what is only measured on it."""

    def __init__(self, work: Callable[[], Values]) -> None:
        self._work = work
        self._result: Values | None = None

    def __call__(self) -> Values:
        if self._result is None:
            self._result = self._work()
        return self._result


class Derived(NamedTuple):
    """Everything that follows from a plan and its sketch, but the picture itself."""

    plan: Plan
    drawing: Drawing
    codes: Codes
    shares: dict[str, float]  # by region id, 0-1
    colours: dict[str, RegionColour]  # by region id
    table: npt.NDArray[np.uint8]  # (codes, 3), the flat picture's colours
    relief: Relief | None  # None while the picture is flat
    lit: Lit | None
    measured: Later
    rules: dict[str, float]

    @property
    def values(self) -> Values:
        """Values of the picture that is shown."""
        return self.measured()

    @property
    def grain(self) -> Grain:
        """What the shown picture's codes are measured by."""
        return self.relief.grain if self.relief is not None else self.codes.grain

    def document_label(self, region_id: str) -> int | None:
        """A region's number in the drawing, or None if it holds no pixel there."""
        label = next(r.label for r in self.plan.regions if r.id == region_id)
        begin, end = self.codes.spans.get(label, (0, 0))
        return label if end > begin and self.codes.grain.pixels[begin:end].any() else None


class FormKey(NamedTuple):
    """What a relief was built for."""

    regions: str
    axes: str  # of the gradients


class Pipeline:
    """Derives a plan's results and remembers each stage's last one. Where `builds` is False, a
    plan is flat until its relief was taken in: building one is too slow for a hand that drags."""

    def __init__(self, drawing: Drawing, builds: bool = True, tick: Tick = idle) -> None:
        self._drawing, self._builds, self._tick = drawing, builds, tick
        self._relief: Relief | None = None
        self._relief_key: FormKey | None = None
        self._last: dict[str, tuple[tuple[Any, ...], Any]] = {}

    def take(self, relief: Relief, key: FormKey) -> None:
        """A relief that was built elsewhere, and the key it was built for."""
        for array in (*relief.forms, *relief.grain, relief.code, relief.normal, relief.openness):
            array.flags.writeable = False
        self._relief, self._relief_key = relief, key

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
        now, rig = study(plan), rig_of(plan)
        axes = self._stage("axes", _axes, plan.regions, now.colours)
        codes = self._stage("codes", self._codes, repr(axes))
        held = self._stage("shares", _shares, codes, plan.regions)
        colours = self._stage("colours", region_colours, now.scheme, now.colours)
        table = self._stage("table", _table, codes, plan.regions, colours)
        numbers = self._stage("rules", lambda *_: rules(plan), plan.overrides, plan.practice)
        relief = self._relief_for(plan, codes) if rig.on else None
        lit = None
        if relief is not None:
            light = self._stage("arriving", lambda *_: _arriving(relief, rig), relief, rig)
            placed = self._stage("placed", _placed, relief, codes, plan.regions)
            lit = self._stage("lit", _lit, relief, placed, table, light, rig)
        limits = numbers["extremes.dark"], numbers["extremes.light"]
        measured = self._stage("values", _values_later, table, codes, relief, lit, *limits)
        return Derived(
            plan, self._drawing, codes, held, colours, table, relief, lit, measured, numbers
        )

    @classmethod
    def of(cls, derived: Derived) -> "Pipeline":
        """A pipeline that knows the codes and relief of a derived plan, for another thread."""
        made = cls(derived.drawing, builds=False)
        axes = _axes(derived.plan.regions, study(derived.plan).colours)
        made._last["codes"] = ((repr(axes),), derived.codes)
        if derived.relief is not None:
            made.take(derived.relief, form_key(derived.plan))
        return made

    def _codes(self, _: str) -> Codes:
        axes: Axes = self._last["axes"][1]
        codes = encode_sketch(self._drawing.labels, self._drawing.borders, axes)
        for array in (codes.run_code, codes.run_length):
            array.flags.writeable = False
        return codes

    def _relief_for(self, plan: Plan, codes: Codes) -> Relief | None:
        """The relief of a plan. One built for other forms serves until the new one is there; one
        built for other gradients does not, for its codes stand for other colours."""
        key = form_key(plan)
        if not self._builds:
            fits = self._relief_key is not None and self._relief_key.axes == key.axes
            return self._relief if fits else None
        if self._relief is None or key != self._relief_key:
            self.take(build_relief(self._drawing, plan, codes, self._tick), key)
        return self._relief


def form_key(plan: Plan) -> FormKey:
    """What a plan's relief depends on, beside its sketch."""
    regions = [(r.label, r.id, r.role, r.form, r.shares_form_with, r.front) for r in plan.regions]
    return FormKey(repr(regions), repr(_axes(plan.regions, study(plan).colours)))


def build_relief(drawing: Drawing, plan: Plan, codes: Codes, tick: Tick = idle) -> Relief:
    """The relief of a plan's sketch: slow, once for a sketch and its forms."""
    forms = build_forms(drawing.labels, plan.regions, drawing.box, lambda s: tick(0.6 * s))
    tick(0.6)
    first = np.array([codes.spans.get(i, (0, 0))[0] for i in range(len(forms.kind))], np.intp)
    axes = _axes(plan.regions, study(plan).colours)
    relief = encode_relief(drawing.labels, drawing.borders, axes, first, forms)
    tick(1.0)
    return relief


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


def _arriving(relief: Relief, rig: Rig) -> Arriving:
    return lighting.arriving(relief, lights_of(rig))


class _Placed(NamedTuple):
    """Where the colours of the regions stand among the codes, and what each holds."""

    ids: tuple[str, ...]
    label: npt.NDArray[np.intp]
    first: npt.NDArray[np.intp]  # flat codes of both ends of a gradient, or twice the only one
    last: npt.NDArray[np.intp]
    share: npt.NDArray[np.float64]


def _placed(relief: Relief, codes: Codes, regions: tuple[Region, ...]) -> _Placed:
    label = np.array([r.label for r in regions])
    spans = np.array([codes.spans.get(r.label, (0, 1)) for r in regions])
    held = np.bincount(relief.grain.label, relief.grain.pixels, int(label.max()) + 1)[label]
    ids = tuple(r.id for r in regions)
    return _Placed(ids, label, spans[:, 0], spans[:, 1] - 1, held / max(held.sum(), 1))


def _lit(
    relief: Relief, placed: _Placed, table: npt.NDArray[np.uint8], light: Arriving, rig: Rig
) -> Lit:
    """The colours of every code in the rig's light, at the one exposure that suits the plan."""
    lights = lights_of(rig)
    local = lighting.local_light(table)
    own = (local[:, placed.first] + local[:, placed.last]).T / 2  # the mean of a gradient's ends
    if rig.anchor == "mean":
        there = light.means[np.minimum(placed.label, len(light.means) - 1)]
    else:
        there = np.tile(lighting.anchor_light(rig.anchor, lights), (len(own), 1))
    exposed, rest = lighting.expose(own, there, placed.share, lights)
    packed = lighting.light_up(relief, local, light.light, exposed.exposure)
    packed.flags.writeable = False
    return Lit(exposed, packed, dict(zip(placed.ids, rest.tolist(), strict=True)))


def _values_later(*needs: Any) -> Later:
    return Later(lambda: _values(*needs))


def _values(
    table: npt.NDArray[np.uint8],
    codes: Codes,
    relief: Relief | None,
    lit: Lit | None,
    dark: float,
    light: float,
) -> Values:
    if relief is None or lit is None:
        return measure_values(flat_values(table), codes.grain, dark, light)
    return measure_values(lighting.values_of(lit.packed), relief.grain, dark, light)


def picture(derived: Derived, out: Packed | None = None) -> Packed:
    """The picture of a plan, (h, w), 0x00RRGGBB, as fast as it can be had: lit from codes where
    the rig is on, else flat. `out` is painted over where it is given."""
    if derived.relief is None or derived.lit is None:
        return paint(derived.codes, derived.table)
    return lighting.paint_lit(derived.relief, derived.lit.packed, out)


def exact_picture(derived: Derived, tick: Tick = idle) -> Packed:
    """The exact picture of a plan, (h, w), 0x00RRGGBB."""
    if derived.relief is None or derived.lit is None:
        return paint(derived.codes, derived.table)
    lights = derived.lit.lights
    return lighting.paint_exact(derived.relief, derived.codes, derived.table, lights, tick)
