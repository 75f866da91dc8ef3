"""Regions that glow light what is near: how far every px lies from one, and what reaches it."""

from collections.abc import Mapping
from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from umber_compass.colour.spaces import decode, parse_hex
from umber_compass.picture.buffers import SurfaceBuffers
from umber_compass.picture.finish import Finish
from umber_compass.picture.pools import PoolLight, Spread, spread_of
from umber_compass.plan.model import Region
from umber_compass.plan.rig import Glow as Told
from umber_compass.steps.harmony.colours import RegionColour
from umber_compass.steps.light.standing import STEP, Sampled

_CORE, _END = 0.3, 1.5  # of the reach: where half of it is left, and where none is
_FULL = 0.9  # times a glowing colour's light, what it throws at 100 % on what touches it


class Far(NamedTuple):
    """How far px lie from what glows, of the picture's width, on the planes of live shadows."""

    share: npt.NDArray[np.float32]  # (h, w)


def glow_far(
    sampled: Sampled | None, buffers: SurfaceBuffers | None, finishes: Mapping[int, Finish]
) -> Far | None:
    """The distance to the nearest region that glows; None where none does."""
    glows = [label for label, finish in finishes.items() if finish.name == "glow"]
    if sampled is None or buffers is None or not glows:
        return None
    from scipy.ndimage import distance_transform_edt

    height, width = (-(-n // STEP) for n in buffers.pieces.number.shape)
    inside = np.isin(buffers.adjacency.label[sampled.code], glows).reshape(height, width)
    if not inside.any() or inside.all():
        return None
    far = distance_transform_edt(~inside)
    return Far(np.asarray(far / width, np.float32))


def glow_spread(
    far: Far | None,
    buffers: SurfaceBuffers | None,
    finishes: Mapping[int, Finish],
    told: Told,
) -> Spread | None:
    """How far the light of what glows reaches; None where nothing does."""
    if far is None or buffers is None or told.strength <= 0:
        return None
    near = far.share * np.float32(1 / told.reach)
    falls = 1 / (1 + (near * np.float32(1 / _CORE)) ** 2)
    ends = np.clip(1 - near * np.float32(1 / _END), 0, 1)
    level = falls * np.minimum(ends * 2, 1)
    plane = np.asarray(np.clip(level, 0, 1) * 255 + 0.5, np.float32).astype(np.uint8)
    dark = [n for n, f in finishes.items() if not f.lit]
    without = np.isin(buffers.adjacency.label, dark)
    return code_spread(plane, buffers, without)


def code_spread(
    plane: npt.NDArray[np.uint8], buffers: SurfaceBuffers, without: npt.NDArray[np.bool_]
) -> Spread:
    """How far the light of a plane reaches among the codes of buffers, some left out."""
    height, width = buffers.shape
    step = buffers.pieces.scale * STEP
    pixels = buffers.adjacency.pixels
    return spread_of(plane, buffers.code, pixels, (height, width), step, without)


def glow_of(
    spread: Spread | None,
    regions: tuple[Region, ...],
    colours: Mapping[str, RegionColour],
    shares: Mapping[str, float],
    told: Told,
) -> PoolLight | None:
    """What glows throw on what is near; None where nothing does."""
    if spread is None:
        return None
    glowing = [r.id for r in regions if r.material == "glow"]
    weight = np.array([max(shares.get(r, 0.0), 1e-6) for r in glowing])
    each = np.array([decode(parse_hex(colours[r].ends[0].hex)) for r in glowing])
    colour = (each * weight[:, None]).sum(axis=0) / weight.sum()
    light = colour * (_FULL * told.strength / 100)
    return PoolLight(spread, (float(light[0]), float(light[1]), float(light[2])))
