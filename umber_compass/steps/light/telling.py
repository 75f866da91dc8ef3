"""What the picture engine is told of a plan's light: lamps, finishes, edges, shadows."""

from collections.abc import Mapping

import numpy as np
import numpy.typing as npt

from umber_compass.colour.spaces import decode, parse_hex
from umber_compass.picture.buffers import SurfaceBuffers
from umber_compass.picture.casting import Shadows
from umber_compass.picture.exact import Exact
from umber_compass.picture.finish import FINISHES, Finish, finish_of
from umber_compass.picture.finishing import parts_of
from umber_compass.picture.pools import PoolLight, pool_on
from umber_compass.picture.reach import Reaching, Receivers, ShownForms, shadow_on, shown_forms
from umber_compass.picture.relit import Lit, Told
from umber_compass.picture.seen import Grid
from umber_compass.picture.ways import WAYS, edge_of
from umber_compass.plan.model import Region
from umber_compass.plan.rig import Rig
from umber_compass.plan.terms import Ground, Way
from umber_compass.steps.harmony.colours import RegionColour
from umber_compass.steps.light.spots import left_out
from umber_compass.steps.light.standing import STEP, Standing

_LEAST_EDGE, _MOST_EDGE = 0.02, 0.8  # N.L, for regions that were told one


def ground_colour(
    standing: Standing | None,
    colours: Mapping[str, RegionColour],
    shares: Mapping[str, float],
    bounce: float,
) -> tuple[float, float, float] | None:
    """The floor's own colour, linear light; None where nothing is known of a floor, or it throws
    nothing back."""
    if standing is None or bounce <= 0:
        return None
    floor = [r for r, g in standing.grounds.items() if g == "floor" and r in colours]
    total = np.zeros(3)
    for region in floor:
        ends = [decode(parse_hex(e.hex)) for e in colours[region].ends]
        total += shares.get(region, 0.0) * np.mean(ends, axis=0)
    weight = sum(shares.get(r, 0.0) for r in floor)
    if weight <= 0:
        return None
    r, g, b = (round(float(x), 4) for x in total / weight)
    return r, g, b


def finishes_of(
    regions: tuple[Region, ...], standing: Standing | None, reaches_far: bool
) -> dict[int, Finish]:
    """By label, the finish of the regions that are not matte. What lies far away has that of a sky,
    unless lamps are to reach it."""
    grounds = {} if standing is None or reaches_far else standing.grounds
    found = {
        r.label: FINISHES["sky"] if _is_far(r, grounds) else finish_of(r.material) for r in regions
    }
    return {label: finish for label, finish in found.items() if finish.name != "matte"}


def _is_far(region: Region, grounds: Mapping[str, Ground]) -> bool:
    """Whether no lamp reaches a region: it is sky or sea, and was given no form."""
    return grounds.get(region.id) == "sky" and region.form in ("auto", "flat")


def edges_of(regions: tuple[Region, ...]) -> dict[int, float]:
    """By label, how wide light turns to shade on the regions that were told it, N.L."""
    return {
        r.label: _LEAST_EDGE + (_MOST_EDGE - _LEAST_EDGE) * r.edge**2
        for r in regions
        if r.edge is not None
    }


def spares_of(rig: Rig, regions: tuple[Region, ...]) -> dict[str, frozenset[int]]:
    """By lamp, the labels of the regions it does not light."""
    label = {r.id: r.label for r in regions}
    found = {
        lamp.name: frozenset(label[r] for r in lamp.spares if r in label) for lamp in rig.lamps
    }
    return {name: labels for name, labels in found.items() if labels}


def told_codes(
    buffers: SurfaceBuffers | None,
    finishes: Mapping[int, Finish],
    spares: Mapping[str, frozenset[int]],
    edges: Mapping[int, float],
    way: Way,
    softness: float,
    casts: bool,
) -> Told | None:
    """What the codes are told of light; None where there are none."""
    if buffers is None:
        return None
    label = buffers.adjacency.label
    spared = {n: np.flatnonzero(np.isin(label, list(s))) for n, s in spares.items()}
    edge = None
    if edges:
        edge = np.full(len(label), np.nan, np.float32)
        for one, wide in edges.items():
            edge[label == one] = wide
        plain = edge_of(way, softness)
        edge = np.where(np.isnan(edge), np.float32(plain), edge).astype(np.float32)
    masked = bool(WAYS[way].steps) or casts
    return Told(parts_of(finishes, label), spared, edge, masked)


def reaching(
    shadows: Shadows | None,
    receivers: Receivers,
    buffers: SurfaceBuffers | None,
    edges: Mapping[int, float],
    step: int,
) -> Reaching:
    """What keeps the key's light from px, with planes that have a px for so many of the pieces'."""
    scale = 1.0 if buffers is None else float(buffers.pieces.scale * step)
    return Reaching(shadows, receivers, scale, edges)


def whole_forms(
    buffers: SurfaceBuffers | None, labels: npt.NDArray[np.uint16]
) -> ShownForms | None:
    """The forms of the whole picture, px by px."""
    if buffers is None:
        return None
    height, width = buffers.shape
    return shown_forms(buffers, labels, Grid(0, 0, width, height, width, height))


def exact_light(
    lit: Lit | None,
    forms: ShownForms | None,
    shadows: Shadows | None,
    receivers: Receivers,
    buffers: SurfaceBuffers | None,
    finishes: Mapping[int, Finish],
    spares: Mapping[str, frozenset[int]],
    edges: Mapping[int, float],
    pools: tuple[PoolLight, ...],
) -> Exact | None:
    """What the exact picture is lit by; None while it is flat. `shadows` are those of the whole map
    of pieces."""
    if lit is None or forms is None:
        return None
    told = reaching(shadows, receivers, buffers, edges, 1)
    shadow = None if shadows is None else shadow_on(forms, told)
    live = reaching(None, receivers, buffers, {}, STEP)
    near = []
    for pool in pools:
        spot = "" if pool.lamp is None else pool.lamp.name
        without = left_out(spot, finishes, spares)
        near.append((pool, _near(pool, forms, live.scale, without)))
    return Exact(lit.lights, finishes, spares, shadow, edges, tuple(near))


def _near(
    pool: PoolLight, forms: ShownForms, scale: float, without: frozenset[int]
) -> npt.NDArray[np.float32]:
    """How much of a light on a part of the picture each px has, 0-1, (h x w,)."""
    at, level = pool_on(pool.spread, forms.grid, scale)
    near = np.zeros(len(forms.label), np.float32)
    near[at] = level.astype(np.float32) / np.float32(255)
    if without:
        near[np.isin(forms.label, list(without))] = 0
    return near
