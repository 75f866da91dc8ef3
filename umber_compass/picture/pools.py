"""Light that falls on a part of the picture alone: near what glows, and in the pool of a spot."""

from typing import NamedTuple, TypeAlias

import numpy as np
import numpy.typing as npt
from PIL import Image

from umber_compass.colour.packed import PackedRow
from umber_compass.picture.casting import Plane
from umber_compass.picture.indexed import mixed_quickly
from umber_compass.picture.light import LampLight, Lights, Surface, facing, taken_by
from umber_compass.picture.mixes import Ints
from umber_compass.picture.seen import Grid
from umber_compass.picture.sharing import USUAL_PARTS
from umber_compass.picture.ways import Planar

Share8: TypeAlias = npt.NDArray[np.uint8]  # (n,) of 255
# Px in one more light: their places, their codes, and parts of 256 of it.
Near: TypeAlias = tuple[Ints, Ints, PackedRow]

LEAST = 5  # of 255, from which light of this kind is painted
# Codes are worked out in as much of the light as any of their px has: over the first of two levels
# of 255, at most the second.
_TOPS = ((LEAST, 32), (32, 96), (96, 255))


class Spread(NamedTuple):
    """How far a light reaches, whatever its colour is."""

    plane: Plane  # (h, w) how much of it reaches px, as the planes of live shadows lie
    codes: Ints  # (k,) those that some of it reaches
    level: Share8  # (k,) how much of their most it is on the mean of their px
    most: Share8  # (codes,) of 255, the most that any px of a code has; 0 where none does


class PoolLight(NamedTuple):
    """A light on a part of the picture."""

    spread: Spread
    light: tuple[float, float, float]  # linear, where all of it falls
    lamp: LampLight | None = None  # the spot that it is of, exposed as lamps are; None: a glow

    def on(self, surface: Surface, places: Ints | None, lights: Lights) -> Planar:
        """The light that all of it is on places of a surface, or on all, (3, n), exposed."""
        count = len(surface.occlusion if places is None else places)
        light = np.repeat(np.array(self.light, np.float32)[:, None], count, axis=1)
        if self.lamp is not None:
            faced = surface if places is None else surface.at(places)
            cosine = facing(faced.normal, self.lamp.direction)
            light *= taken_by(cosine, self.lamp, lights, faced.turned)
            light *= np.float32(lights.exposure)
        return light


def spread_of(
    plane: Plane,
    code: Ints,
    pixels: npt.NDArray[np.intp],
    shape: tuple[int, int],
    step: int,
    without: npt.NDArray[np.bool_],
) -> Spread:
    """How far the light of a plane reaches among codes. `code` is that of every px of a picture of
    a shape, `pixels` how many each code has, `step` the px of the picture for one of the plane's,
    `without` the codes that the light does not fall on."""
    height, width = shape
    over = plane.repeat(step, 0)[:height].repeat(step, 1)[:, :width].reshape(-1)
    mean = np.bincount(code, over, len(pixels)) / pixels
    most = np.zeros(len(pixels), np.uint8)
    for least, top in _TOPS:
        most[code[over > least]] = top
    most[without] = 0
    codes = np.flatnonzero(most)
    share = np.minimum(mean[codes] * 255 / most[codes] + 0.5, 255).astype(np.uint8)
    return Spread(plane, codes, share, most)


def drawn_up(plane: Plane, grid: Grid, scale: float) -> Share8:
    """A plane at the px of a grid, (n,); `scale` is the px of the picture for one of the plane."""
    height, width = plane.shape
    left, top = grid.left / scale, grid.top / scale
    right = min(left + grid.width / scale, width)
    bottom = min(top + grid.height / scale, height)
    box = (max(min(left, right - 1e-3), 0), max(min(top, bottom - 1e-3), 0), right, bottom)
    image = Image.fromarray(plane).resize((grid.columns, grid.rows), Image.Resampling.BILINEAR, box)
    return np.asarray(image).reshape(-1)


def pool_on(spread: Spread, grid: Grid, scale: float) -> tuple[Ints, Share8]:
    """The px of a grid that a light reaches, and how much of it each has."""
    level = drawn_up(spread.plane, grid, scale)
    at = np.flatnonzero(level > LEAST)
    return at, level[at]


def near_on(code: Ints, spread: Spread, found: tuple[Ints, Share8]) -> Near:
    """The px that `pool_on` found, without those that the light does not fall on; `code` is that of
    every px."""
    at, level = found
    own = code[at]
    most = spread.most[own]
    lit = most > 0
    at, level, own, most = at[lit], level[lit], own[lit], most[lit].astype(np.uint16)
    level = np.minimum(level.astype(np.uint16) * np.uint16(255) // most, 255)
    return at, own, USUAL_PARTS[level]


def on_the_mean(under: PackedRow, lit: PackedRow, spread: Spread) -> PackedRow:
    """Codes, (codes,), as they are on the mean of their px in one more light; `lit`, (k,), is what
    those are in all of it that it reaches."""
    found, codes = under.copy(), spread.codes
    found[codes] = mixed_quickly(lit, under[codes], USUAL_PARTS[spread.level])
    return found
