"""Spots: where the light of each falls, and the lights that fall on parts of the picture alone."""

from collections.abc import Mapping

import numpy as np

from umber_compass.picture.buffers import SurfaceBuffers
from umber_compass.picture.finish import Finish
from umber_compass.picture.light import Lights
from umber_compass.picture.pools import PoolLight, Spread
from umber_compass.plan.rig import Pool, Rig
from umber_compass.steps.light.glowing import code_spread
from umber_compass.steps.light.standing import STEP


def pools_of(rig: Rig) -> tuple[tuple[str, Pool], ...]:
    """Every spot’s name and where its light falls, by rank."""
    return tuple((lamp.name, lamp.pool) for lamp in rig.ranked[1:] if lamp.pool is not None)


def spot_spreads(
    buffers: SurfaceBuffers | None,
    pools: tuple[tuple[str, Pool], ...],
    finishes: Mapping[int, Finish],
    spares: Mapping[str, frozenset[int]],
) -> tuple[Spread, ...]:
    """How far every spot’s light reaches; it leaves out what its lamp does not light."""
    if buffers is None:
        return ()
    label = buffers.adjacency.label
    found = []
    for name, pool in pools:
        without = np.isin(label, list(left_out(name, finishes, spares)))
        found.append(code_spread(_plane(buffers, pool), buffers, without))
    return tuple(found)


def left_out(
    spot: str, finishes: Mapping[int, Finish], spares: Mapping[str, frozenset[int]]
) -> frozenset[int]:
    """The labels that the light of a spot does not fall on, or, for no name, of what glows: a spot
    falls on what is far away too, for it was put there."""
    if not spot:
        return frozenset(n for n, f in finishes.items() if not f.lit)
    glowing = frozenset(n for n, f in finishes.items() if f.name == "glow")
    return glowing | spares.get(spot, frozenset())


def _plane(buffers: SurfaceBuffers, pool: Pool) -> np.ndarray[tuple[int, int], np.dtype[np.uint8]]:
    """How much of a spot's light reaches px, 0 to 255, on the planes of live shadows."""
    fine = buffers.pieces.number.shape
    height, width = (-(-n // STEP) for n in fine)
    y, x = np.arange(height, dtype=np.float32) + 0.5, np.arange(width, dtype=np.float32) + 0.5
    across, down = x / (fine[1] / STEP) - pool.x, (y / (fine[0] / STEP) - pool.y)
    down *= fine[0] / fine[1]  # of the width, as the radius is
    far = np.sqrt(across[None] ** 2 + down[:, None] ** 2) * np.float32(1 / pool.radius)
    step = np.clip((1 - far) * np.float32(1 / pool.fall), 0, 1)
    return np.asarray(step * step * (3 - 2 * step) * 255 + 0.5, np.float32).astype(np.uint8)


def pool_lights(
    glow: PoolLight | None, spreads: tuple[Spread, ...], lights: Lights
) -> tuple[PoolLight, ...]:
    """Every light that falls on a part of the picture alone: of what glows, and of spots."""
    found = () if glow is None else (glow,)
    # While the picture is flat nothing is spread.
    for spread, spot in zip(spreads, lights.spots, strict=bool(spreads)):
        r, g, b = (float(x) for x in spot.lamp.light)
        if max(r, g, b) > 0:
            found = (*found, PoolLight(spread, (r, g, b), spot.lamp))
    return found
