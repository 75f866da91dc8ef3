"""First colours: what the six proposals of uncoloured drawings are worth, beside colours dealt by
chance; what they cost."""

import io
import time
from collections.abc import Iterator, Sequence
from functools import cache
from typing import NamedTuple

import numpy as np
from msgspec.structs import replace
from PIL import Image

from bench.rows import Row
from bench.scenes import mosaic
from bench.uncoloured import HELD, OTHERS, SPRITE, TUNED, Piece
from umber_compass.colour.gamut import fit
from umber_compass.colour.spaces import Floats, decode, oklab, parse_hex
from umber_compass.document import Opened
from umber_compass.document.opening import take_in
from umber_compass.formats import picture
from umber_compass.picture.mixes import Labels
from umber_compass.plan.first import First, FirstLight
from umber_compass.plan.light_edits import light_off
from umber_compass.plan.model import Plan, Study
from umber_compass.steps.checks.judging import measure_all
from umber_compass.steps.first.lights import in_light
from umber_compass.steps.first.materials import MATERIALS, range_in
from umber_compass.steps.first.propose import Proposed, propose
from umber_compass.steps.first.task import Task, task_of
from umber_compass.steps.harmony.scheme import planned_as
from umber_compass.steps.pipeline import Derived, Pipeline

_NEAR = 0.04  # OKLab from a material's range, within which a colour counts as of it
_LEAST = 0.1  # of an outline, from which two things touch


class Sheet(NamedTuple):
    """Six proposals of a drawing in numbers."""

    regions: int
    warnings: list[int]
    leads: list[float]
    share_errors: list[float]
    parted: list[bool]  # each figure's border with a ground, whether 15 L* apart or more
    in_range: list[bool]  # each told thing, whether its colour is one its material has
    colours: list[int]
    nearest: float
    cpu: float


def opened(piece: Piece, greys: bool = False) -> Opened:
    """A drawing as it is brought in."""
    stream = io.BytesIO()
    Image.fromarray(piece.greys() if greys else piece.lines()).save(stream, "PNG")
    return take_in(picture.decode(stream.getvalue(), piece.name), f"{piece.name}.png")


def told(plan: Plan, piece: Piece, labels: Labels) -> Plan:
    """The plan with every material and the focus said."""
    owners, parts = piece.owners(), [s[0] for s in piece.shapes]
    regions = []
    x, y = piece.place_of(piece.focus)
    for region in plan.regions:
        own = owners[labels == region.label]
        held = own[own >= 0]
        if region.role != "line" and len(held):
            material = piece.parts[parts[int(np.bincount(held).argmax())]][0] or "matte"
            region = replace(region, material=material)
        if region.label == labels[y, x]:
            region = replace(region, role="focus")
        regions.append(region)
    return replace(plan, regions=tuple(regions))


def sheet(piece: Piece, says: bool, greys: bool = False, first: First = First()) -> Sheet:  # noqa: B008
    """What the proposals of a drawing come to; `says` whether all is told."""
    found = opened(piece, greys)
    plan = replace(found.plan, first=first)
    if says:
        plan = told(plan, piece, found.pixels.labels(plan.sketch))
    pipeline = Pipeline(found.pixels.drawings)
    derived = pipeline.derive(plan).think()
    begin = time.process_time()
    made = propose(derived)
    cpu = time.process_time() - begin
    return _judged(pipeline, derived, made, cpu)


def by_chance(piece: Piece) -> Sheet:
    """The same for colours dealt by chance: any slot, value and chroma for any region."""
    found = opened(piece)
    pipeline = Pipeline(found.pixels.drawings)
    derived = pipeline.derive(found.plan).think()
    made, rng = propose(derived), np.random.default_rng(len(piece.name))
    dealt = tuple(_dealt(one, rng) for one in made.studies)
    return _judged(pipeline, derived, made._replace(studies=dealt), 0.0)


def _dealt(one: Study, rng: np.random.Generator) -> Study:
    colours = {
        r: planned_as(one.scheme, rng.uniform(14, 92), rng.uniform(0, 0.15), rng.uniform(0, 360))
        for r in one.colours
    }
    return replace(one, colours=colours)


def _judged(pipeline: Pipeline, derived: Derived, made: Proposed, cpu: float) -> Sheet:
    task = task_of(derived, {})
    found = Sheet(len(derived.regions), [], [], [], [], [], [], made.nearest, cpu)
    for one, way in zip(made.studies, made.ways, strict=True):
        shown = pipeline.derive(replace(derived.plan, studies=(one,), current_study=one.id)).think()
        found.warnings.append(sum(r.level == "warning" for r in measure_all(shown)))
        assert shown.attention is not None
        found.leads.append(shown.attention.lead)
        off = [abs(s.now - s.wished) for s in shown.slot_shares]
        found.share_errors.append(float(np.mean(off)))
        found.parted.extend(_parted(task, shown))
        found.in_range.extend(_in_range(task, shown, way.light))
        found.colours.append(shown.needed)
    return found


def _parted(task: Task, shown: Derived) -> list[bool]:
    things = task.things
    value = [
        shown.colours[task.things.regions[m[0]].id].mean_value
        for m in (things.members(t) for t in range(things.many))
    ]
    found = []
    for i in range(things.many):
        for j in range(things.many):
            along = things.border[i, j] / min(things.outline[i], things.outline[j])
            figure = things.role[i] in ("figure", "focus") and things.role[j] == "ground"
            if figure and along >= _LEAST:
                found.append(abs(value[i] - value[j]) >= 15)
    return found


def _in_range(task: Task, shown: Derived, light: FirstLight) -> list[bool]:
    """Whether each told region has a colour that its material has in a light, or one near it."""
    found = []
    for region in task.things.regions:
        if region.material in MATERIALS and region.role != "line":
            own = oklab(decode(parse_hex(shown.colours[region.id].first.hex)))
            far = np.linalg.norm(_cloud(region.material, light) - own, axis=1).min()
            found.append(bool(far <= _NEAR))
    return found


@cache
def _cloud(material: str, light: FirstLight) -> Floats:
    """Colours all over a material's range in a light, (n, 3) OKLab."""
    span = range_in(material, light)
    row = span or MATERIALS[material].noon
    value, chroma, hue = np.meshgrid(
        np.linspace(row.dark, row.light, 9),
        np.linspace(row.low_chroma, row.high_chroma, 6),
        row.from_deg + row.span_deg * np.linspace(0, 1, 13),
    )
    every: Floats = np.stack([value, chroma, hue], axis=-1).reshape(-1, 3)
    if span is None:
        every = in_light(every, light)
    return np.asarray(oklab(fit(every[:, 0], every[:, 1], every[:, 2])))


def rows() -> Iterator[Row]:
    """Proposals by what was told, beside chance; colours, keeping, times."""
    yield from _told_rows("nothing told", [sheet(p, False) for p in (*TUNED, *HELD, *OTHERS)], 0)
    held = [sheet(p, False) for p in (*HELD, *OTHERS)]
    yield from _told_rows("nothing told, held out", held, 0)
    yield from _told_rows("all told", [sheet(p, True) for p in (*TUNED, *HELD)], 1)
    four = First(lights=("noon", "dusk", "overcast", "night"))
    yield from _told_rows("all told, four lights", [sheet(p, True, first=four) for p in HELD], 2)
    greys = [sheet(p, False, True) for p in (*TUNED, *HELD, SPRITE)]
    near = float(np.median([s.nearest for s in greys]))
    yield Row("values kept: nearest two, median", f"{near:.3f}", ".06", near >= 0.06)
    chance = [by_chance(p) for p in HELD]
    many = float(np.mean([w for s in chance for w in s.warnings]))
    yield Row("colours dealt by chance: warnings each", f"{many:.1f}", "", None)
    yield from _keeping()
    yield from _times()


class _Goal(NamedTuple):
    """What is to be reached: shares without warnings and of leads, nearest two, CPU s."""

    clean: float
    lead: float
    nearest: float
    cpu: float


_GOALS = (_Goal(0.85, 0.95, 0.10, 1.0), _Goal(0.80, 0.90, 0.08, 2.0), _Goal(0.6, 0.8, 0.08, 3.0))


def _told_rows(name: str, sheets: Sequence[Sheet], goal: int) -> Iterator[Row]:
    wish = _GOALS[goal]
    clean = float(np.mean([w == 0 for s in sheets for w in s.warnings]))
    lead = float(np.mean([v >= 1.2 for s in sheets for v in s.leads]))
    yield Row(f"{name}: no warning", f"{clean:.0%}", f"{wish.clean:.0%}", clean >= wish.clean)
    yield Row(f"{name}: focus leads by 1.2", f"{lead:.0%}", f"{wish.lead:.0%}", lead >= wish.lead)
    near = float(np.median([s.nearest for s in sheets]))
    yield Row(f"{name}: nearest two", f"{near:.3f}", f"{wish.nearest:.2f}", near >= wish.nearest)
    if goal == 0:
        off = float(np.mean([e for s in sheets for e in s.share_errors]))
        yield Row(f"{name}: share error", f"{off:.3f}", ".05", off <= 0.05)
        parted = float(np.mean([p for s in sheets for p in s.parted]))
        yield Row(f"{name}: figure 15 L* off ground", f"{parted:.0%}", "98 %", parted >= 0.98)
    else:
        ranged = float(np.mean([r for s in sheets for r in s.in_range]))
        yield Row(f"{name}: materials in range", f"{ranged:.0%}", "95 %", ranged >= 0.95)
    small = [c for s in sheets if s.regions <= 30 for c in s.colours]
    yield Row(f"{name}: colours, 30 regions", f"most {max(small)}", "14", max(small) <= 14)
    cpu = [s.cpu for s in sheets if s.regions <= 40]
    text = f"{np.median(cpu):.2f} s, most {max(cpu):.2f}"
    yield Row(f"{name}: CPU", text, f"{wish.cpu:g} s", bool(np.median(cpu) <= wish.cpu))


def _keeping() -> Iterator[Row]:
    """Two fifths of a proposal kept and the rest tried: kept colours exact, the rest apart."""
    exact, apart = True, list[float]()
    for piece in HELD:
        found = opened(piece)
        pipeline = Pipeline(found.pixels.drawings)
        derived = pipeline.derive(found.plan).think()
        before = propose(derived)
        one = replace(found.plan, studies=(before.studies[2],), current_study=before.studies[2].id)
        shown = pipeline.derive(one)
        kept, held = dict[str, str](), 0.0
        for region in sorted(shown.shares, key=lambda r: -shown.shares[r])[::2]:
            if held < 0.4:
                kept[region] = shown.colours[region].first.hex
                held += shown.shares[region]
        after = propose(derived, kept=kept, known=before.studies)
        for study in after.studies:
            seen = pipeline.derive(replace(one, studies=(study,), current_study=study.id))
            exact &= all(seen.colours[r].first.hex == h for r, h in kept.items())
        apart.append(after.nearest / (1 - held))
    yield Row("kept colours exact", "yes" if exact else "no", "yes", exact)
    least = float(np.median(apart))
    yield Row("tried rest: nearest / free share", f"{least:.3f}", ".08", least >= 0.08)


def _times() -> Iterator[Row]:
    """The first card of a usual drawing, and 300 regions."""
    found = opened(TUNED[0])
    derived = Pipeline(found.pixels.drawings).derive(found.plan)
    begin, first = time.perf_counter(), list[float]()
    propose(derived, tell=lambda _: first.append(time.perf_counter() - begin))
    yield Row("first card", f"{first[0]:.2f} s", ".5 s", first[0] <= 0.5)
    many = mosaic(300)
    derived = Pipeline(many.pixels.drawings).derive(light_off(many.plan))
    begin = time.process_time()
    propose(derived)
    cpu = time.process_time() - begin
    yield Row("300 regions: CPU", f"{cpu:.2f} s", "3 s", cpu <= 3)
