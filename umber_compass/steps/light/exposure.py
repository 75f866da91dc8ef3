"""One exposure for the plan's light, and what it could not hold."""

from collections.abc import Mapping
from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from umber_compass.colour.packed import Levels
from umber_compass.colour.spaces import (
    LUMINANCE,
    Floats,
    luminance_of_value,
    value_of_luminance,
)
from umber_compass.picture.buffers import SurfaceBuffers
from umber_compass.picture.finish import Finish
from umber_compass.picture.indexed import IndexedPicture
from umber_compass.picture.light import Lights, Surface, normal_at
from umber_compass.picture.pools import PoolLight
from umber_compass.picture.relit import Arriving, Lit, Told, arriving, light_up, local_light
from umber_compass.picture.screen import luminance_of, shouldered
from umber_compass.picture.shade import arriving_on
from umber_compass.picture.ways import Planar
from umber_compass.plan.model import Region
from umber_compass.plan.rig import Anchor, Rig
from umber_compass.plan.terms import Role

HALFTONE = 0.5  # N.L of the key
_BINS = 48  # half octaves of luminance, in which many px of a region are gathered
_FIRST_BIN = (127 - 20) * 2  # of a float’s bits: 2^-20
_LUMINANCE = LUMINANCE.astype(np.float32)
_MANY = 4000  # samples from which they are
_FOR_LABEL = 400  # codes that stand for a region’s mean
# Steps of the search, in the exposure's logarithm: coarse ones, then fine ones round the lowest
# place of the parabola through the best three.
_WIDE, _STEPS, _FINE = 3.0, 25, 0.06
# By role, what a px counts: figures keep their planned values before the ground does (studio rule,
# docs/light.md).
_WEIGHTS: dict[Role, float] = {
    "ground": 1.0, "middle ground": 2.0, "figure": 5.0, "focus": 8.0, "line": 0.2,
}  # fmt: skip


class Anchored(NamedTuple):
    """The codes at which each region is held to its planned value."""

    code: npt.NDArray[np.intp]  # (n,)
    label: npt.NDArray[np.intp]  # (n,)
    share: npt.NDArray[np.float32]  # (n,) of the label's px that are held
    flat: npt.NDArray[np.intp]  # (n,) their flat codes
    light: Planar  # (3, n) the light that arrives at them


class Samples(NamedTuple):
    """What the exposure is solved on: px of regions, with their luminance at exposure 1."""

    region: npt.NDArray[np.intp]  # (n,) index of the region
    share: Floats  # (n,) of the region's samples, 0-1
    lum: Floats  # (n,)
    wished: Floats  # (regions,) value L*
    weight: Floats  # (regions,) share of the picture


class Held(NamedTuple):
    """Where the regions' colours stand among the codes, and what each region holds."""

    ids: tuple[str, ...]
    label: npt.NDArray[np.intp]
    first: npt.NDArray[np.intp]  # flat codes of both ends of a gradient, or twice the only one
    last: npt.NDArray[np.intp]
    share: npt.NDArray[np.float64]


def held_by_regions(
    buffers: SurfaceBuffers | None,
    indexed: IndexedPicture,
    regions: tuple[Region, ...],
    finishes: Mapping[int, Finish],
) -> Held | None:
    """What each region holds among the buffers' codes, and counts for the exposure: what shines by
    itself, or is far away, not at all. None where there are none."""
    if buffers is None:
        return None
    label = np.array([r.label for r in regions])
    spans = np.array([indexed.spans.get(r.label, (0, 1)) for r in regions])
    held = np.bincount(buffers.adjacency.label, buffers.adjacency.pixels, int(label.max()) + 1)[
        label
    ]
    ids = tuple(r.id for r in regions)
    dark = {label for label, finish in finishes.items() if not finish.lit}
    weight = np.array([0.0 if r.label in dark else _WEIGHTS[r.role] for r in regions])
    counts = held * weight
    return Held(ids, label, spans[:, 0], spans[:, 1] - 1, counts / max(counts.sum(), 1))


def light_arriving(
    buffers: SurfaceBuffers | None,
    lights: Lights,
    told: Told | None,
    shadow: npt.NDArray[np.float32] | None,
) -> Arriving | None:
    """The light that arrives on buffers, at exposure 1; None where there is none."""
    return None if buffers is None or told is None else arriving(buffers, lights, told, shadow)


def anchored(buffers: SurfaceBuffers | None, light: Arriving | None, rig: Rig) -> Anchored | None:
    """Where each region of buffers is held to its planned value: at the most lit facing it really
    has, at the facing nearest to a halftone, or everywhere; None where there is none."""
    if buffers is None or light is None:
        return None
    label, begin = buffers.adjacency.label, buffers.begin
    mean = light.mean
    if rig.anchor == "mean":
        code, share = _spread(buffers)
    else:
        # One code a region: that which is nearest to what the anchor asks.
        near = luminance_of(mean)
        if rig.anchor == "halftone":
            near = -np.abs(light.cosine - np.float32(HALFTONE))
        best = np.maximum.reduceat(near, begin)
        code = np.flatnonzero(near == np.repeat(best, np.diff(np.append(begin, len(label)))))
        code = code[np.searchsorted(code, begin)]
        code = code[label[code] > 0]
        share = np.ones(len(code), np.float32)
    return Anchored(code, label[code], share, buffers.local[code], mean[:, code])


def _spread(buffers: SurfaceBuffers) -> tuple[npt.NDArray[np.intp], npt.NDArray[np.float32]]:
    """Codes that stand for every label's px, evenly taken from those in their order, and the share
    of the label each stands for."""
    label, begin = buffers.adjacency.label, buffers.begin
    count = np.diff(np.append(begin, len(label)))
    parts = [
        np.arange(b, b + n, max(1, n // _FOR_LABEL)) for b, n in zip(begin, count, strict=True)
    ]
    code = np.concatenate(parts)
    code = code[label[code] > 0]  # paper has no form
    held = np.bincount(label[code], buffers.weight[code])
    return code, (buffers.weight[code] / held[label[code]]).astype(np.float32)


def in_light(
    buffers: SurfaceBuffers | None,
    held: Held | None,
    table: Levels,
    light: Arriving | None,
    anchor: Anchored | None,
    lights: Lights,
    rig: Rig,
    pools: tuple[PoolLight, ...],
) -> Lit | None:
    """The colours of every code in the rig's light, at the one exposure that suits the plan; None
    where the picture is flat. `table` is by flat code."""
    if buffers is None or held is None or light is None or anchor is None:
        return None
    local = local_light(table)
    samples = _samples(held, local, anchor)
    if rig.exposed == "off":
        exposed = lights._replace(exposure=rig.fixed)
        rest = _shown_at(samples, np.log([max(rig.fixed, 1e-6)]))[0] - samples.wished
    else:
        exposed, rest = expose(_on_region(samples, held, rig), lights)
    rest = np.where(samples.weight > 0, rest, 0.0)
    packed, ends = light_up(buffers, local, light, exposed, pools)
    return Lit(exposed, packed, ends, dict(zip(held.ids, rest.tolist(), strict=True)))


def _on_region(samples: Samples, held: Held, rig: Rig) -> Samples:
    """The samples as they count: those of the one region that the exposure holds, where it is told
    and there; else of all."""
    if rig.exposed != "region" or rig.held not in held.ids:
        return samples
    weight = np.full(len(held.ids), 1e-9)
    weight[held.ids.index(rig.held)] = 1.0
    return samples._replace(weight=weight)


def _samples(held: Held, local: Planar, anchor: Anchored) -> Samples:
    """The anchored px with the luminance they have at exposure 1 and the value they are planned
    to have. The terminator's tint keeps luminance, so it has no part in this."""
    index = np.zeros(max(int(held.label.max()), int(anchor.label.max(initial=0))) + 1, np.intp)
    index[held.label] = np.arange(len(held.label))
    region, flat, count = index[anchor.label], anchor.flat, len(held.ids)
    lum = np.zeros(len(flat), np.float32)
    for i, part in enumerate(_LUMINANCE):
        lum += np.take(local[i] * part, flat, mode="clip") * anchor.light[i]
    own = np.take(luminance_of(local), flat, mode="clip")
    planned: Floats = np.bincount(region, own * anchor.share, count).astype(float)
    absent = np.bincount(region, minlength=count) == 0
    middle = (local[:, held.first] + local[:, held.last]) * np.float32(0.5)
    planned[absent] = luminance_of(middle).astype(float)[absent]
    found = Samples(region, anchor.share, lum, value_of_luminance(planned), held.share)
    return _gathered(found) if len(lum) > _MANY else found


def _gathered(many: Samples) -> Samples:
    """Many px gathered by region and luminance: half an octave together."""
    bits = np.ascontiguousarray(many.lum, np.float32).view(np.int32) >> 22
    bins = np.clip(bits - _FIRST_BIN, 0, _BINS - 1)
    key = many.region * _BINS + bins
    size = len(many.wished) * _BINS
    share: Floats = np.bincount(key, many.share, size).astype(float)
    lum = np.bincount(key, many.share * many.lum, size)
    kept = np.flatnonzero(share > 0)
    return many._replace(region=kept // _BINS, share=share[kept], lum=lum[kept] / share[kept])


def anchor_light(anchor: Anchor, lights: Lights) -> Floats:
    """The light, (3,), on a material's lit side or its halftone, at the lights' exposure, where no
    form is known."""
    cosine = HALFTONE if anchor == "halftone" else 1.0
    return np.asarray(light_at(np.array([cosine]), np.ones(1), lights)[:, 0], float)


def light_at(cosine: Floats, occlusion: Floats, lights: Lights) -> npt.NDArray[np.float32]:
    """The light, (3, n), where a form turns to the key by N.L and lies open, each (n,): the other
    lamps meet it at the normal that is seen best of those."""
    return arriving_on(surface_at(cosine, occlusion, lights), lights)


def surface_at(cosine: Floats, occlusion: Floats, lights: Lights) -> Surface:
    """Places on a round form that turn to the key by N.L and lie open, each (n,)."""
    normals = np.array([normal_at(float(t), lights.key.direction) for t in cosine], np.float32)
    return Surface.round_of(np.ascontiguousarray(normals.T), occlusion.astype(np.float32))


def expose(samples: Samples, lights: Lights) -> tuple[Lights, Floats]:
    """The lights with the one exposure that brings what is shown of the samples nearest to the
    planned values, and what remains of each region, L* (regions,). Least squares in L*, weighted by
    share, with the shoulder of what the screen shows."""
    count = len(samples.wished)
    seen = np.bincount(samples.region, samples.share * samples.lum, count) > 1e-9
    if not seen.any() or lights.is_dark:
        return lights, -samples.wished
    weight = np.where(seen, np.maximum(samples.weight, 1e-6), 0)
    mean = np.maximum(np.bincount(samples.region, samples.share * samples.lum, count), 1e-9)
    ratio = np.log(np.maximum(luminance_of_value(samples.wished), 1e-6) / mean)
    log = float((ratio * weight).sum() / weight.sum())
    for reach in (_WIDE, _FINE):
        tried = log + np.linspace(-reach, reach, _STEPS)
        off = _shown_at(samples, tried) - samples.wished
        log = _lowest(tried, (off * off) @ weight)
    rest = _shown_at(samples, np.array([log]))[0] - samples.wished
    return lights._replace(exposure=float(np.exp(log))), rest


def _lowest(at: Floats, height: Floats) -> float:
    """Where a smooth line is lowest: of the parabola through its lowest point and those beside."""
    i = min(max(int(height.argmin()), 1), len(at) - 2)
    left, middle, right = (float(h) for h in height[i - 1 : i + 2])
    bend = left - 2 * middle + right
    if bend <= 0:
        return float(at[height.argmin()])
    away = min(max((left - right) / (2 * bend), -1.0), 1.0)
    return float(at[i] + away * (at[1] - at[0]))


def _shown_at(samples: Samples, logs: Floats) -> Floats:
    """The value L* that the samples of each region show on the mean, (exposures, regions)."""
    shown = shouldered(samples.lum * np.exp(logs)[:, None]) * samples.share
    count = len(samples.wished)
    key = samples.region + count * np.arange(len(logs))[:, None]
    lum: Floats = np.bincount(key.reshape(-1), shown.reshape(-1), count * len(logs)).astype(float)
    return value_of_luminance(lum.reshape(len(logs), count))
