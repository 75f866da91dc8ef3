"""Kinds of sketch on drawings whose areas are known, half of them held out; kept shading; regions
matched after a change. Beside docs/engine.md's rows."""

import time
from collections.abc import Callable, Iterator

import numpy as np
from msgspec.structs import replace
from scipy.ndimage import gaussian_filter

from bench import changes, drawings
from bench.drawings import Known, Score
from bench.rows import Row, cold, times_ms, yardstick_ms
from umber_compass.colour.difference import ciede2000
from umber_compass.colour.packed import Levels, pack, unpack
from umber_compass.colour.shaded import shaded, values_through
from umber_compass.colour.spaces import Floats, cielab, decode, value
from umber_compass.document import Opened, take_in
from umber_compass.formats import picture
from umber_compass.picture.shading import VALUE_OF_LEVEL
from umber_compass.plan.edits import study, with_study
from umber_compass.plan.harmony_edits import turn_lead
from umber_compass.plan.model import Plan, Planned, Shading
from umber_compass.plan.settings import change_setting
from umber_compass.steps.pictures import exact_picture
from umber_compass.steps.pictures import picture as picture_of
from umber_compass.steps.pipeline import Derived, Pipeline
from umber_compass.steps.sketch.kinds import KINDS
from umber_compass.work import idle

_SIZE = (1600, 1200)
_SEEN, _HELD = (1, 2), (101, 102)  # seeds


def rows() -> Iterator[Row]:
    """Lines, greys, paintings; shading; matching."""
    yield from _found("lines", _lines, 0.999, 0.02, 0.6)
    yield from _found("grey", _greys, 0.998, 0.0, 0.6)
    yield from _found("painting", _paintings, 0.985, 0.0, 1.3)
    yield from _hard()
    yield from _shading("grey")
    yield from _shading("painting")
    yield from _matching()


def _lines(seed: int) -> Iterator[tuple[Known, dict[str, float]]]:
    for way in drawings.LINE_WAYS:
        yield drawings.line_art(seed, way, _SIZE), {}


def _greys(seed: int) -> Iterator[tuple[Known, dict[str, float]]]:
    for levels in (2, 3, 4, 5, 6):
        yield drawings.grey_thumbnail(seed, levels, _SIZE), {}


def _paintings(seed: int) -> Iterator[tuple[Known, dict[str, float]]]:
    for more in (0, 10, 20):
        known = drawings.painting(seed + more, _SIZE)
        yield known, {"regions": float(round(1.5 * int(known.truth.max())))}


Makes = Callable[[int], Iterator[tuple[Known, dict[str, float]]]]


def _found(kind: str, make: Makes, right: float, lost: float, seconds: float) -> Iterator[Row]:
    for which, seeds in (("seen", _SEEN), ("held out", _HELD)):
        scores: list[Score] = []
        took: list[float] = []
        for seed in seeds:
            for known, told in make(seed):
                packed = pack(known.rgb)
                begin = time.perf_counter()
                split = KINDS[kind].split(packed, "x", told, idle)
                took.append(time.perf_counter() - begin)
                scores.append(drawings.score(split.labels, known.truth))
        mean = float(np.mean([s.right for s in scores]))
        true, gone = sum(s.true for s in scores), sum(s.lost for s in scores)
        areas = sum(s.found for s in scores) / true
        said = f"{mean:.2%}, {gone} of {true} lost, {areas:.2f} areas"
        target = f"{right:.1%}" + (f", {lost:.0%} lost" if lost else "")
        yield Row(
            f"{kind}, {which}, 1600x1200",
            said,
            target,
            mean >= right and (not lost or gone <= lost * true),
        )
        median = float(np.median(took))
        yield Row(
            f"{kind}, {which}: time",
            f"{median:.2f} s, worst {max(took):.2f}",
            f"{seconds:g} s",
            median <= seconds,
        )


def _hard() -> Iterator[Row]:
    """Hair, foliage and figures of many parts, which the prototype did not try."""
    for seed in (1, 101):
        known = drawings.foliage(seed, _SIZE)
        split = KINDS["lines"].split(pack(known.rgb), "x", {}, idle)
        got = drawings.score(split.labels, known.truth)
        said = f"{got.right:.2%}, {got.lost} of {got.true} lost, {got.found / got.true:.2f} areas"
        which = "seen" if seed < 100 else "held out"
        yield Row(f"lines: foliage, hair, many parts, {which}", said, "", None)


def _coloured(opened: Opened) -> Plan:
    """A plan with hues and other values in every region."""
    rng = np.random.default_rng(0)
    now = study(opened.plan)
    colours = {
        i: replace(
            c,
            slot="A",
            chroma=0.09,
            hue_offset_deg=float(rng.uniform(-180, 180)),
            value=float(np.clip(c.value + rng.uniform(-15, 15), 5, 95)),
        )
        for i, c in now.colours.items()
        if isinstance(c, Planned)
    }
    return with_study(opened.plan, replace(now, colours=colours))


def _apart(a: Floats | Levels, b: Floats | Levels) -> Floats:
    one, two = (cielab(decode(x.reshape(-1, 3) / 255)) for x in (a, b))
    return np.asarray(ciede2000(one, two))


def _shading(kind: str) -> Iterator[Row]:
    size = (1280, 960)
    known = drawings.grey_thumbnail(1, 5, size) if kind == "grey" else drawings.painting(1, size)
    opened = take_in(picture.decode(picture.png_bytes(known.rgb), "x"), "x.png", kind=kind)
    pipeline, plan = Pipeline(opened.pixels.drawings), _coloured(opened)
    derived = pipeline.derive(plan)
    drawing = derived.drawing
    assert drawing.shades is not None
    shown = unpack(picture_of(derived))
    local = np.zeros(len(drawing.shades.mean))
    for region in plan.regions:
        local[region.label] = derived.colours[region.id].first.value
    off = VALUE_OF_LEVEL[drawing.shades.grey] - drawing.shades.mean[drawing.labels]
    wished = values_through(local[drawing.labels], off.astype(float)).reshape(-1)
    plain = np.ones(drawing.labels.size, bool)
    plain[drawing.borders.place] = False
    apart = np.abs(value(decode(shown / 255)).reshape(-1) - wished)[plain]
    p99 = float(np.percentile(apart, 99))
    yield Row(
        f"kept shading, {kind}: L* off, mean, p99",
        f"{apart.mean():.2f}, {p99:.2f}",
        "0.2, 2",
        bool(apart.mean() <= 0.2 and p99 <= 2),
    )
    m = yardstick_ms(size[1], size[0])
    angle = iter(range(10_000))

    def drag() -> None:
        picture_of(pipeline.derive(turn_lead(next(angle) * 1.7 % 360).apply(plan)))

    took = float(np.median(times_ms(drag, 21, cold)))
    yield Row(
        f"kept shading, {kind}: a drag, all of it",
        f"{took:.1f} ms = {took / m:.1f} M",
        "a frame, 16 ms",
        took <= 16,
    )
    for beside in (False, True):
        lit = change_setting("light.on", True).apply(plan)
        lit = with_study(lit, replace(study(lit), shading=Shading(beside=beside)))
        there = pipeline.derive(lit)
        coded, exact = unpack(picture_of(there)), unpack(exact_picture(there))
        far = _apart(coded[::3, ::3], exact[::3, ::3])
        p999 = float(np.percentile(far, 99.9))
        where = "beside forms" if beside else "instead of forms"
        yield Row(
            f"kept shading, {kind}, {where}: coded",
            f"{far.mean():.2f} / {p999:.2f} / {far.max():.2f}",
            "p99.9 2.5",
            p999 <= 2.5,
        )
    if kind == "grey":
        yield _borders(1)
        yield _borders(101)


def _borders(seed: int) -> Row:
    """Colours along borders against those of the same drawing made in colour."""
    size, levels = (1280, 960), 4
    known = drawings.grey_thumbnail(seed, levels, size)
    layers = drawings.grey_layers(seed, levels, size)
    opened = take_in(
        picture.decode(picture.png_bytes(known.rgb), "x"),
        "x.png",
        kind="grey",
        settings={"groups": levels},
    )
    # Every region takes the colour of its group at its own mean value: only hue is new.
    plan = opened.plan
    now = study(plan)
    labels = opened.pixels.labels(plan.sketch)
    hues = {g: 360.0 * g / levels for g in range(levels)}
    colours = {}
    for region in plan.regions:
        c = now.colours[region.id]
        assert isinstance(c, Planned)
        group = int(np.bincount(layers.group[labels == region.label]).argmax())
        colours[region.id] = replace(c, slot="A", chroma=0.08, hue_offset_deg=hues[group])
    plan = with_study(plan, replace(now, colours=colours))
    derived = Pipeline(opened.pixels.drawings).derive(plan)
    shown = unpack(picture_of(derived))[layers.near].astype(float)
    far = _apart(shown, np.clip(_true_borders(derived, layers, known), 0, 255))
    which = "seen" if seed < 100 else "held out"
    met = bool(far.mean() <= 1.5)
    return Row(f"kept shading: near borders, {which}", f"{far.mean():.2f} CIEDE2000", "1.5", met)


def _true_borders(derived: Derived, layers: drawings.GreyLayers, known: Known) -> Floats:
    """What px near borders should be, (n, 3) levels: each group's colour in the light and dark that
    lies there, mixed as the drawing's edges mix its groups."""
    from scipy.ndimage import distance_transform_edt

    labels, near = derived.drawing.labels, layers.near
    assert derived.drawing.shades is not None
    mean = derived.drawing.shades.mean
    local = np.zeros((len(mean), 3))
    group_of = np.zeros(len(mean), np.intp)
    for region in derived.regions:
        text = derived.colours[region.id].first.hex
        local[region.label] = [int(text[i : i + 2], 16) / 255 for i in (1, 3, 5)]
        group_of[region.label] = np.bincount(layers.group[labels == region.label]).argmax()
    light = (known.rgb[..., 0].astype(float) - layers.base)[near]
    true, whole = np.zeros((int(near.sum()), 3)), np.zeros(int(near.sum()))
    for group, level in enumerate(layers.values):
        mine = (layers.group == group).astype(float)
        crisp, soft = gaussian_filter(mine, 0.7), gaussian_filter(mine, 3.0)
        cover = np.where(layers.soft, soft, crisp)[near]
        away = group_of[labels] != group
        if away.all():
            continue
        v, u = distance_transform_edt(away, return_distances=False, return_indices=True)
        own = labels[v[near], u[near]]
        there = np.clip(level + light, 0, 255)
        off = np.interp(there, np.arange(256), VALUE_OF_LEVEL) - mean[own]
        true += cover[:, None] * shaded(local[own], off) * 255
        whole += cover
    return np.asarray(true / np.maximum(whole, 1e-6)[:, None])


def _matching() -> Iterator[Row]:
    wrong = 0
    for name, change in changes.CHANGES.items():
        found = [changes.tally(change, seed) for seed in (1, 2, 3, 4, 101, 102, 103, 104)]
        right, every = sum(t.right for t in found), sum(t.all for t in found)
        wrong += sum(t.wrong for t in found)
        target = 0.9 if name == "shift + recolour" else 0.99
        doubted = sum(t.doubted for t in found)
        yield Row(
            f"matching: {name}",
            f"{right / every:.1%}, {doubted} of {every} doubted",
            f"{target:.0%}",
            right >= target * every,
        )
    yield Row("matching: wrong and not doubted", str(wrong), "0", wrong == 0)
