"""The shadows that things cast on floor, walls, each other, and parts on parts of one thing.

On a floor a thing is cards that face the lamp; each px of the floor looks up the place of the card
its light comes through, an affine map. On a wall it is the thing moved. Shares of the key's light
that are kept away, 0 to 255, on a grid of few px (docs/light.md).
"""

from collections.abc import Sequence
from functools import lru_cache
from typing import NamedTuple, TypeAlias

import numpy as np
import numpy.typing as npt
from PIL import Image, ImageFilter

from umber_compass.picture.cards import ACROSS, BLURS, SLOPES, Placed, Stage, Standee
from umber_compass.plan.rig import Direction

Plane: TypeAlias = npt.NDArray[np.uint8]  # (h, w), 255 keeps all of the key's light away
Flat: TypeAlias = npt.NDArray[np.float64]
Affine: TypeAlias = tuple[float, float, float, float, float, float]

DEPTH = 0.5  # px of the picture for a px of depth on the floor
_SOFTNESS = 0.32  # of the distance, half of what a wholly soft lamp's shadow is soft over
_LEVEL = 0.03  # a lamp nearer to the floor's plane than this casts nothing on it
_BEHIND = 0.06  # a lamp must be so far before a wall
# How wide a base is, in thicknesses, up to which a thing turns to the lamp wholly, and from which
# not at all.
_NARROW_BASE, _WIDE_BASE = 0.8, 1.4
_MOST_EDGE_ON = np.radians(60.0)
_STEPS = (0.45, 1.0)  # of the gap between parts, at which what lies before is looked up
_LEAST_DEPTH = 0.35  # z of the lamp that overlaps are reckoned with at least


class Shadows(NamedTuple):
    """What keeps the key's light away: on floors, on walls, on things."""

    floor: Plane
    wall: Plane
    things: Plane


class Parts(NamedTuple):
    """Which part of a thing lies before which: on a grid, by px."""

    rank: npt.NDArray[np.int16]  # (h, w), 0 where no thing is
    reach: npt.NDArray[np.float32]  # by rank, how far it stands out, fine px; of few levels


class _Same:
    """Parts as a key of a cache: the same only as themselves."""

    def __init__(self, own: Parts) -> None:
        self.own = own

    def __hash__(self) -> int:
        return id(self.own.rank)

    def __eq__(self, other: object) -> bool:
        return isinstance(other, _Same) and other.own.rank is self.own.rank


def cast(
    standees: Sequence[tuple[Standee, Placed]],
    stage: Stage,
    parts: Parts | None,
    direction: Direction,
    softness: float,
    fine: tuple[int, int],
    step: int,
    exact: bool = False,
) -> Shadows:
    """The shadows in a light from a direction. `fine` is height and width of the map of pieces;
    the planes have a px for every `step` of its px."""
    shape = (-(-fine[0] // step), -(-fine[1] // step))
    planes = Shadows(*(np.zeros(shape, np.uint8) for _ in range(3)))
    job = _Job(planes, stage.horizon * fine[0], direction, softness * _SOFTNESS, step, exact)
    depths = [_depth(placed, fine, stage) for _, placed in standees]
    for i, (standee, placed) in enumerate(standees):
        foot = placed.foot * fine[0]
        if placed.on != "air":
            _on_wall(job, standee, placed, depths[i], foot)
        if placed.on == "floor":
            _put(job, planes.floor, standee.contact, standee, (0.0, standee.bottom - foot))
            _on_floor(job, standee, foot)
            for j, (other, where) in enumerate(standees):
                if i != j and where.on == "floor" and depths[i] > depths[j]:
                    _on_thing(
                        job, standee, foot, other, where.foot * fine[0], depths[i] - depths[j]
                    )
    if parts is not None:
        np.maximum(planes.things, _overlaps(parts, direction, step), out=planes.things)
    return planes


def _depth(placed: Placed, fine: tuple[int, int], stage: Stage) -> float:
    """How far before the wall a thing stands, px."""
    if placed.on == "floor":
        return (placed.foot - stage.horizon) * fine[0] / DEPTH
    return placed.gap * fine[1]


class _Job(NamedTuple):
    planes: Shadows
    horizon: float  # fine px
    direction: Direction
    soft: float  # half width of the penumbra for a px of distance
    step: int
    exact: bool


def _on_wall(job: _Job, standee: Standee, placed: Placed, depth: float, foot: float) -> None:
    """A thing's shadow on a wall: the thing moved away from the lamp."""
    x, y, z = job.direction
    if z <= _BEHIND or depth <= 0:
        return
    far = depth / z
    moved = far * x, far * y + (foot - job.horizon if placed.on == "floor" else 0.0)
    image = standee.walls[_nearest(BLURS, job.soft * far)]
    _put(job, job.planes.wall, image, standee, moved)


def _on_thing(
    job: _Job, standee: Standee, foot: float, other: Standee, behind: float, apart: float
) -> None:
    """A thing's shadow on another that stands further back."""
    x, y, z = job.direction
    if z <= _BEHIND:
        return
    far = apart / z
    image = standee.walls[_nearest(BLURS, job.soft * far)]
    plane = np.zeros_like(job.planes.things)
    _put(job, plane, image, standee, (far * x, far * y + foot - behind))
    left, top, right, bottom = other.box
    step = job.step
    rows, columns = slice(top // step, -(-bottom // step)), slice(left // step, -(-right // step))
    mask = other.mask[-top % step :: step, -left % step :: step]
    part = job.planes.things[rows, columns][: mask.shape[0], : mask.shape[1]]
    cut = plane[rows, columns][: mask.shape[0], : mask.shape[1]]
    mask = mask[: part.shape[0], : part.shape[1]]
    np.maximum(part, cut, out=part, where=mask)


def _put(
    job: _Job, plane: Plane, image: Image.Image, standee: Standee, moved: tuple[float, float]
) -> None:
    """A card drawn where it is moved to by so many fine px, right and down from itself."""
    step = job.step
    dx, dy = moved
    left, top = (standee.left - dx) / step, (standee.top - dy) / step
    right, bottom = left + standee.size[0] / step, top + standee.size[1] / step
    whole = (float(step), 0.0, dx - standee.left, 0.0, float(step), dy - standee.top)
    _draw(job, plane, image, whole, (left, top, right, bottom))


def _on_floor(job: _Job, standee: Standee, foot: float) -> None:
    """A thing's shadow on the floor: cards across its thickness, turned toward the lamp."""
    x, y, z = job.direction
    up = -y
    if up <= _LEVEL:
        return
    level = max(float(np.hypot(x, z)), 1e-3)
    to = np.array([x / level, z / level])  # along the ground, toward the lamp
    front = _front_of(standee, to)
    slope = job.soft * float(np.hypot(1, level / up))
    at = _nearest(SLOPES, slope)
    for across, cards in zip(ACROSS, standee.cards, strict=True):
        matrix = _floor_map(standee, foot, across * standee.half, to, front, up / level)
        corners = _corners(standee) @ np.linalg.inv(matrix).T / job.step
        horizon = job.horizon / job.step
        box = (
            float(corners[:, 0].min()),
            max(float(corners[:, 1].min()), horizon),
            float(corners[:, 0].max()) + 1,
            float(corners[:, 1].max()) + 1,
        )
        (a, b, c), (d, e, f) = matrix[0], matrix[1]
        whole = (a * job.step, b * job.step, c, d * job.step, e * job.step, f)
        _draw(job, job.planes.floor, cards[at], whole, box)


def _front_of(standee: Standee, to: Flat) -> Flat:
    """Which way a thing's cards face on the ground. What is as thick as its base is wide, as a
    ball, faces the lamp; what stands on a wide base, as a figure on two feet, keeps to its foot
    line and turns only as far as a lamp from the side asks: edge on, it would cast nothing."""
    facing_lamp = float(np.arctan2(to[0], abs(to[1])))
    wide = standee.base / max(2 * standee.half, 1.0)
    compact = float(np.clip((_WIDE_BASE - wide) / (_WIDE_BASE - _NARROW_BASE), 0, 1))
    turn = facing_lamp * compact
    if abs(facing_lamp - turn) > _MOST_EDGE_ON:
        turn = facing_lamp - np.sign(facing_lamp) * _MOST_EDGE_ON
    return np.array([np.sin(turn), np.cos(turn) * (1 if to[1] >= 0 else -1)])


def _floor_map(
    standee: Standee, foot: float, across: float, to: Flat, front: Flat, rise: float
) -> Flat:
    """The affine map, (3, 3), from a place on the floor, fine px of the picture, to the place of a
    card its light comes through, px of the card's image."""
    aside = np.array([front[1], -front[0]]) * (1 if front[1] >= 0 else -1)
    x, y = standee.middle + across * front[0], foot / DEPTH + across * front[1]
    # How far along the ground the light has gone from the card, and where it passed through it.
    ahead = -np.array([front[0], front[1] / DEPTH, -(front[0] * x + front[1] * y)])
    ahead /= float(to @ front)
    lateral = np.array([aside[0], aside[1] / DEPTH, -(aside[0] * x + aside[1] * y)])
    lateral += ahead * float(to @ aside)
    return np.array(
        [
            lateral + np.array([0, 0, standee.middle - standee.left]),
            -ahead * rise + np.array([0, 0, standee.bottom - standee.top]),
            [0, 0, 1.0],
        ]
    )


def _corners(standee: Standee) -> Flat:
    """The corners of a card down to its foot, px of its image."""
    width, _ = standee.size
    low = standee.bottom - standee.top
    return np.array([[0, 0, 1.0], [width, 0, 1], [0, low, 1], [width, low, 1]])


def _nearest(levels: tuple[float, ...], wanted: float) -> int:
    return int(np.abs(np.array(levels) - wanted).argmin())


def _draw(
    job: _Job,
    plane: Plane,
    image: Image.Image,
    whole: Affine,
    box: tuple[float, float, float, float],
) -> None:
    """Draw a card over what is there, keeping the darker. In place."""
    height, width = plane.shape
    left, top = int(max(box[0], 0)), int(max(box[1], 0))
    right, bottom = int(min(box[2] + 1, width)), int(min(box[3] + 1, height))
    if right <= left or bottom <= top:
        return
    a, b, c, d, e, f = whole
    # From the middle of one px to the middle of another; Pillow adds half a px on both sides.
    moved = (a, b, c + a * left + b * top, d, e, f + d * left + e * top)
    how = Image.Resampling.BILINEAR if job.exact else Image.Resampling.NEAREST
    drawn = image.transform((right - left, bottom - top), Image.Transform.AFFINE, moved, how)
    part = plane[top:bottom, left:right]
    np.maximum(part, np.asarray(drawn), out=part)


class _Layers(NamedTuple):
    """The parts of things on the planes of shadows, made ready for any light."""

    rank: npt.NDArray[np.int16]
    levels: tuple[tuple[float, npt.NDArray[np.int16]], ...]  # how far parts stand out; their ranks


@lru_cache(4)
def _layers(parts: _Same, step: int) -> _Layers:
    rank = np.ascontiguousarray(parts.own.rank[::step, ::step])
    reaches, level_of = np.unique(parts.own.reach, return_inverse=True)
    level = level_of.astype(np.uint8)[rank]
    return _Layers(
        rank,
        tuple(
            (float(reaches[n]), np.where(level == n, rank, np.int16(0)))
            for n in np.unique(level_of[1:]).tolist()
        ),
    )


def _overlaps(parts: Parts, direction: Direction, step: int) -> Plane:
    """What parts of a thing keep from those behind them: the ranks read toward the lamp."""
    x, y, z = direction
    depth = max(z, _LEAST_DEPTH)
    layers = _layers(_Same(parts), step)
    rank = layers.rank
    found = np.zeros(rank.shape, bool)
    for reach, stands in layers.levels:
        for share in _STEPS:
            far = float(share * reach / depth / step)
            right, down = round(far * x), round(far * y)
            if right or down:
                here, there = _slices(rank.shape, down, right)
                found[here] |= stands[there] > rank[here]
    found &= rank > 0
    image = Image.fromarray(found.astype(np.uint8) * np.uint8(255))
    soft = np.asarray(image.filter(ImageFilter.BoxBlur(2 / step + 0.5)))
    return np.where(rank > 0, soft, np.uint8(0))


def _slices(
    shape: tuple[int, ...], down: int, right: int
) -> tuple[tuple[slice, slice], tuple[slice, slice]]:
    """Where a plane has px so many px further down and right of others: those, and theirs."""
    height, width = shape
    down, right = max(min(down, height), -height), max(min(right, width), -width)
    here = (
        slice(max(-down, 0), height + min(-down, 0)),
        slice(max(-right, 0), width + min(-right, 0)),
    )
    there = (
        slice(max(down, 0), height + min(down, 0)),
        slice(max(right, 0), width + min(right, 0)),
    )
    return here, there
