"""What follows from a plan and its sketch: one table of stages, from the plan to what is shown.

The inputs of the table are the plan's own parts, so that a change runs just what names it.
"""

from collections.abc import Mapping
from typing import Any, TypeVar

from umber_compass.picture.adjacency import Adjacency
from umber_compass.picture.buffers import SurfaceBuffers
from umber_compass.picture.building import build_buffers
from umber_compass.picture.drawing import Drawing
from umber_compass.picture.forms import form_wishes
from umber_compass.picture.indexed import index_drawing, region_shares
from umber_compass.picture.light import lights_of
from umber_compass.picture.ways import WAYS
from umber_compass.plan.edits import study
from umber_compass.plan.light_edits import rig_in
from umber_compass.plan.model import Plan, Shading, Study
from umber_compass.plan.practices import numbers_of
from umber_compass.steps.focus.attention import attention
from umber_compass.steps.focus.falloff import falloff_spots
from umber_compass.steps.focus.lattice import lattice_of
from umber_compass.steps.focus.rings import rings_of
from umber_compass.steps.focus.strong import strong_from, strong_shares
from umber_compass.steps.harmony.budget import budget_of, colours_needed
from umber_compass.steps.harmony.colours import code_table, measured_colours, shading_of
from umber_compass.steps.harmony.families import by_family, given_names, slot_shares
from umber_compass.steps.harmony.fields import field_axes, field_stops
from umber_compass.steps.harmony.given import grounds_for, suited
from umber_compass.steps.harmony.mood import mood_rows
from umber_compass.steps.harmony.places import parts_of, slot_places
from umber_compass.steps.harmony.planned_levels import planned_levels
from umber_compass.steps.harmony.readings import is_uncoloured, is_unpainted, read_now
from umber_compass.steps.harmony.relativity import reads
from umber_compass.steps.harmony.rose import rose
from umber_compass.steps.harmony.touching import liveliness, touching_of
from umber_compass.steps.harmony.warmth import temperature
from umber_compass.steps.light.between import between_share, highlight_shares
from umber_compass.steps.light.chart import chart, lights_for
from umber_compass.steps.light.exposure import anchored, held_by_regions, in_light, light_arriving
from umber_compass.steps.light.glowing import glow_far, glow_of, glow_spread
from umber_compass.steps.light.spots import pool_lights, pools_of, spot_spreads
from umber_compass.steps.light.standing import (
    casts,
    exact_shadows,
    members_of,
    parts_before,
    pieces_in,
    receivers,
    sampled,
    shadow_by_code,
    shadows,
    standees,
    standing,
)
from umber_compass.steps.light.telling import (
    edges_of,
    exact_light,
    finishes_of,
    ground_colour,
    spares_of,
    told_codes,
    whole_forms,
)
from umber_compass.steps.light.things import guess
from umber_compass.steps.light.two_sides import two_sides
from umber_compass.steps.needs import (
    ARC,
    CASTING,
    DARK,
    EXACTLY,
    LEAST_BORDER,
    LIGHT,
    LIT_BY,
    LOST,
    TOLD,
)
from umber_compass.steps.ramps.shade_maps import shade_maps
from umber_compass.steps.ramps.sharing import ramps_of
from umber_compass.steps.ramps.tied import tied
from umber_compass.steps.stages import KEPT, Memory, Stage, slow_stage, stage
from umber_compass.steps.values.bands import band_shares
from umber_compass.steps.values.figures import figures_of, merged_borders
from umber_compass.steps.values.ink import ink_labels, ink_regions
from umber_compass.steps.values.measured import (
    code_weights,
    exact_values,
    label_histograms,
    measure_values,
    picture_values,
    planned_histogram,
)
from umber_compass.steps.values.parting import borders_of
from umber_compass.steps.values.wishes import held_wishes
from umber_compass.work import Tick, idle

T = TypeVar("T")


_AS_IT_IS = Shading()


class Derived:
    """Everything that follows from one study of a plan; each result worked out when it is first
    asked for. `works` says whether slow stages may be worked out here."""

    def __init__(
        self, plan: Plan, now: Study, drawing: Drawing, memory: Memory, works: bool, tick: Tick
    ) -> None:
        self.plan, self.study, self.drawing = plan, now, drawing
        self.regions, self.own_colours, self.scheme = plan.regions, now.colours, now.scheme
        self.shades = now.shades
        self.scene = plan.scene
        self.recipes, self.rig, self.focus = now.recipes, rig_in(now), now.focus
        self.wished, self.falloff = now.wishes, now.falloff
        self.locked = (*now.locked, *now.shades) if now.shades else now.locked
        self.corrected = now.chart
        self.steps_budget = plan.budget if now.within_budget else None
        self.mood, self.zones, self.variations = now.mood, now.zones, now.variations
        self.two_families = bool(WAYS[self.rig.way].steps)
        self.shaded, told = now.shading, now.shading or _AS_IT_IS
        # The artist's own shading stands for the forms, unless it is told to go beside them.
        self.even = drawing.shades is not None and told.on and not told.beside
        self.shade_rig = self.rig if told.hue == "rig" and self.rig.on else None
        self.practice, self.overrides = plan.practice, plan.overrides
        self.planned_budget = plan.budget
        self._memory, self._works, self._tick = memory, works, tick
        self._results: dict[str, Any] = {}

    rules = stage(numbers_of, "practice", "overrides")
    planned = stage(tied, "own_colours", "shades", "scheme", "recipes", "rules", "rig")
    axes = stage(field_axes, "regions", "planned", "zones", "variations", settles=True)
    indexed = stage(index_drawing, "drawing", "axes")
    shares = stage(region_shares, "indexed", "regions")
    levels = stage(planned_levels, "scheme", "planned", goes_on=True)
    colours = stage(measured_colours, "levels", goes_on=True)
    shading = stage(shading_of, "shaded", "rules:picture.shading", settles=True)
    stops = stage(field_stops, "regions", "planned", "levels", "zones", "variations")
    shade_maps = stage(shade_maps, "shading", "regions", "recipes", "colours", "rules", "rig")
    table = stage(
        code_table, "indexed", "regions", "levels", "shading", "shade_rig", "stops", "shade_maps"
    )
    form_wishes = stage(form_wishes, "regions", "even", settles=True)
    # One that was built for other forms serves until the new one is there; one that was built for
    # other gradients does not, for its codes stand for other colours.
    built = slow_stage(
        build_buffers,
        "drawing",
        "form_wishes",
        "axes",
        "indexed",
        "rig.volume",
        "two_families",
        stands_in=("drawing", "axes"),
    )
    # What stands where, and the shadows it casts.
    pieces = stage(pieces_in, "buffers")
    guessed = stage(guess, "pieces", "regions")
    standing = stage(standing, "pieces", "guessed", "scene", "regions")
    members = stage(members_of, "standing", settles=True)
    standees = slow_stage(standees, "pieces", "members", stands_in=("pieces",))
    parts_before = stage(parts_before, "pieces", "members", "form_wishes")
    casts = stage(casts, "rig.key", "rig.shadows")
    shadows = stage(shadows, *CASTING)
    exact_shadows = stage(exact_shadows, *CASTING)
    receivers = stage(receivers, "standing", "buffers", "regions")
    sampled = stage(sampled, "buffers", "drawing.labels", "receivers")
    shadow_by_code = stage(shadow_by_code, "sampled", "shadows")
    finishes = stage(finishes_of, "regions", "standing", "rig.reaches_far", settles=True)
    edges = stage(edges_of, "regions", settles=True)
    spares = stage(spares_of, "rig", "regions", settles=True)
    ground = stage(
        ground_colour, "standing", "colours", "shares", "rig.ambient.bounce", settles=True
    )
    rig_lights = stage(lights_of, "rig", "ground")
    told = stage(told_codes, *TOLD)
    whole_forms = stage(whole_forms, "buffers", "drawing.labels")
    glow_far = stage(glow_far, "sampled", "buffers", "finishes")
    glow_spread = stage(glow_spread, "glow_far", "buffers", "finishes", "rig.glow")
    glow = stage(glow_of, "glow_spread", "regions", "colours", "shares", "rig.glow")
    pools = stage(pools_of, "rig", settles=True)
    spot_spreads = stage(spot_spreads, "buffers", "pools", "finishes", "spares")
    pool_lights = stage(pool_lights, "glow", "spot_spreads", "rig_lights")
    arriving = stage(light_arriving, "buffers", "rig_lights", "told", "shadow_by_code")
    held = stage(held_by_regions, "buffers", "indexed", "regions", "finishes")
    anchored = stage(anchored, "buffers", "arriving", "rig")
    lit = stage(in_light, *LIT_BY)
    exact_light = stage(exact_light, *EXACTLY)
    wishes = stage(held_wishes, "wished", "rules")
    ink = stage(ink_regions, "regions", "colours", "wishes", "rules", settles=True)
    ink_labels = stage(ink_labels, "regions", "ink", settles=True)
    weights = stage(code_weights, "adjacency", "ink_labels")
    flat_weights = stage(code_weights, "indexed.adjacency")
    values = stage(picture_values, "table", "weights", "lit", DARK, LIGHT)
    by_label = stage(label_histograms, "values.by_code", "adjacency")
    figures = stage(figures_of, "adjacency", "regions", "shares")
    planned_histogram = stage(planned_histogram, "table", "flat_weights")
    borders = stage(borders_of, "adjacency", "regions", "form_wishes", LEAST_BORDER)
    merged = stage(
        merged_borders, "figures", "borders", "wishes", "adjacency", "values.by_code", LOST
    )
    bands = stage(
        band_shares, "values.by_code", "values.histogram", "adjacency", "wishes.bands.edges"
    )
    # What is met first is not worked out while a hand waits.
    lattice = slow_stage(lattice_of, "drawing")
    attention = slow_stage(
        attention, "lattice", "indexed", "buffers", "table", "lit", "regions", "focus", kept=KEPT
    )
    rings = slow_stage(rings_of, "lattice", "attention", kept=KEPT)
    spots = stage(falloff_spots, "lattice", "attention", "colours", "regions")
    strong_from = stage(strong_from, "colours", "rules")
    strong = stage(strong_shares, "colours", "strong_from", "shares")
    families = stage(by_family, "scheme", "colours", "shares")
    slot_shares = stage(slot_shares, "scheme", "colours", "shares")
    given = stage(given_names, "regions", "colours")
    uncoloured = stage(is_uncoloured, "colours", "shares", "regions")
    unpainted = stage(is_unpainted, "uncoloured", "colours", "regions")
    rose = stage(rose, "scheme", "colours", "shares", ARC)
    readings = stage(read_now, "colours", "shares", "scheme.wheel")
    suited = stage(suited, "colours", "shares", "scheme.wheel")
    grounds = stage(grounds_for, "colours", "scheme")
    temperature = stage(temperature, "colours", "shares")
    touching = stage(touching_of, "indexed.adjacency", "regions")
    lively = stage(liveliness, "touching", "colours")
    reads = stage(reads, "touching", "colours")
    parts = slow_stage(parts_of, "drawing")
    places = stage(slot_places, "parts", "regions", "colours", "rules:echo.apart")
    moods = stage(mood_rows, "colours", "shares", "mood")
    needed = stage(colours_needed, "colours")
    budget = stage(budget_of, "planned_budget", "rules:budget.colours")
    lights = stage(lights_for, "lit", "rig_lights", "rig", "colours", "shares")
    two_sides = stage(two_sides, "regions", "colours", "shares", "lit", "finishes")
    between = stage(between_share, "buffers", "arriving", "rig_lights", "told")
    highlight_shares = stage(highlight_shares, "buffers", "arriving")
    chart = slow_stage(
        chart, "regions", "planned", "colours", "lit", "lights", "casts", "finishes", "corrected"
    )
    ramps = slow_stage(
        ramps_of, "regions", "recipes", "colours", "rules", "rig", "shares", "steps_budget"
    )

    @property
    def buffers(self) -> SurfaceBuffers | None:
        """The surface buffers the picture is lit on; None while it is flat."""
        return self.built if self.rig.on else None

    @property
    def adjacency(self) -> Adjacency:
        """What the shown picture's codes are measured by."""
        return self.buffers.adjacency if self.buffers is not None else self.indexed.adjacency

    def needs(self, wanted: Stage[T]) -> tuple[object, ...]:
        """What a stage is handed here."""
        return tuple(self._need(name) for name in wanted.needs)

    def _need(self, name: str) -> object:
        """A result by name; a part of one, as `values.by_code`; a number, as `rules:fix.hue`."""
        path, _, key = name.partition(":")
        found: Any = self
        for part in path.split("."):
            found = getattr(found, part)
        return found[key] if key else found

    def result(self, wanted: Stage[T]) -> T:
        """A stage's result: known here, remembered, or worked out now."""
        if wanted.name not in self._results:
            self._results[wanted.name] = self._found(wanted)
        return self._results[wanted.name]  # type: ignore[no-any-return]  # kept under its own name

    def _found(self, wanted: Stage[T]) -> T | None:
        needs = self.needs(wanted)
        known = self._memory.find(wanted, needs)
        if known is not None:
            return known[0]
        if wanted.goes_on:
            before = self._memory.newest(wanted)
            return self._memory.keep(wanted, needs, wanted.work(*needs, before=before))
        if not wanted.slow:
            return self._memory.keep(wanted, needs, wanted.work(*needs))
        if not self._works:
            return self._memory.stand_in(wanted, needs)
        return self.worked(wanted, self._tick)

    def worked(self, wanted: Stage[T], tick: Tick = idle) -> T:
        """A slow stage's result, worked out here and now where it is not known; its needs are as
        they stand, so no other slow stage is."""
        needs = self.needs(wanted)
        known = self._memory.find(wanted, needs)
        if known is not None:
            return known[0]
        return self._memory.keep(wanted, needs, wanted.work(*needs, tick=tick))

    def exactly(self, tick: Tick = idle) -> "Derived":
        """The same, its values those of px shaded exactly and not of a drag's codes."""
        found = Derived(self.plan, self.study, self.drawing, self._memory, self._works, tick)
        light = self.exact_light
        if self.buffers is not None and self.lit is not None and light is not None:
            tick(-1.0)
            by_code = exact_values(
                self.buffers,
                self.indexed,
                self.table,
                self.drawing.labels,
                self.lit,
                light,
            )
            found._results[Derived.values.name] = measure_values(
                by_code,
                self.weights,
                self.rules["extremes.dark"],
                self.rules["extremes.light"],
            )
        return found

    def of(self, plan: Plan, aside: bool = False) -> "Derived":
        """What follows from another plan of the same drawing. What is tried `aside`, and all that
        is derived from that, is remembered apart: it makes nothing else be forgotten."""
        memory = self._memory.copy() if aside else self._memory
        return Derived(plan, study(plan), self.drawing, memory, self._works, self._tick)

    def think(self, tick: Tick = idle) -> "Derived":
        """The same, with what the eye meets first worked out here and now."""
        self.worked(Derived.lattice, tick)
        self.worked(Derived.parts, tick)
        self.forget_missing()
        self.worked(Derived.attention, tick)
        self.forget_missing()
        return self

    def forget_missing(self) -> None:
        """Look slow results up again that were not there when they were asked for; not those for
        which another stands in: other stages hang on them, so they make another picture."""
        for name in [n for n, result in self._results.items() if result is None]:
            made = getattr(Derived, name)
            if made.slow and made.stands_in is None:
                del self._results[name]

    def has(self, wanted: Stage[T]) -> bool:
        """Whether a slow stage's own result, and no stand-in, is there."""
        if wanted.stands_in is None and self._results.get(wanted.name) is not None:
            return True  # it is in hand, whatever others made the memory forget
        return self._memory.find(wanted, self.needs(wanted)) is not None

    def take(self, wanted: Stage[T], result: T) -> None:
        """A slow stage's result that was kept or worked out elsewhere."""
        found = self._memory.keep(wanted, self.needs(wanted), result)
        if wanted.stands_in is None:
            self._results[wanted.name] = found

    def take_thought(self, other: "Derived") -> None:
        """What the eye meets first, as another record of the same plan has worked it out."""
        self.take(Derived.lattice, other.lattice)
        self.take(Derived.parts, other.parts)
        self.take(Derived.attention, other.attention)


def carried(before: Derived, plan: Plan) -> Derived | None:
    """The very same results for another plan, where that shows the same study of the same regions
    by the same rules; None where it shows anything else."""
    mine = before.plan
    if study(plan) is not before.study or plan.regions is not mine.regions:
        return None
    if plan.scene is not mine.scene:
        return None
    rules = (plan.practice, plan.overrides, plan.budget)
    if plan.sketch is not mine.sketch or rules != (mine.practice, mine.overrides, mine.budget):
        return None
    found = before.of(plan)
    found._results = before._results
    return found


class Pipeline:
    """Derives plans of one document and remembers what followed from them. `drawings` are by the
    hash of the label pixels. Where `works` is False slow stages are not worked out unless it is
    asked for: a hand that drags must not wait."""

    def __init__(
        self, drawings: Mapping[str, Drawing], works: bool = True, tick: Tick = idle
    ) -> None:
        self._drawings, self._works, self._tick = drawings, works, tick
        self._memory = Memory()

    def derive(
        self,
        plan: Plan,
        study_id: str | None = None,
        works: bool | None = None,
        tick: Tick | None = None,
    ) -> Derived:
        """What follows from a plan's current study, or from the one named. The same plan gives the
        very same results."""
        now = study(plan)
        if study_id is not None:
            now = next(s for s in plan.studies if s.id == study_id)
        allowed = self._works if works is None else works
        drawing = self._drawings[plan.sketch.labels]
        return Derived(plan, now, drawing, self._memory, allowed, tick or self._tick)
