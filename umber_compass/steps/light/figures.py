"""A standing figure and a head made of plain ellipsoids, turned freely and lit by the same code as
the picture: they tell what a light does to a nose, a brow, a chin over a neck.

World axes are x right, u up, f toward the viewer; the viewer looks down a little, without
perspective. Seen from the lamp, the camera stands where the lamp does.
"""

from functools import lru_cache
from typing import NamedTuple, TypeAlias

import numpy as np
import numpy.typing as npt

from umber_compass.colour.spaces import encode
from umber_compass.picture.light import Lights, Surface, unit
from umber_compass.picture.shade import shade
from umber_compass.picture.ways import Planar, Row
from umber_compass.plan.rig import Direction

Flat: TypeAlias = npt.NDArray[np.float32]
Three: TypeAlias = tuple[float, float, float]

_TILT = np.radians(11.0)
_PENUMBRA = 0.55  # of a part's size, for a wholly soft lamp at its distance
_BODY, _FLOOR, _VOID = (0.42, 0.36, 0.31), (0.36, 0.31, 0.25), 0.10  # linear light
_OUTER = 9.0  # units from the middle, beyond which nothing is worth a shadow
_NOTHING = -1e9
_JOINED = 0.22  # of a solid's size: nearer than this its neighbour is joined to it
_ROUNDED = 0.085  # units, how wide the creases between solids are rounded
_LIFT = 0.03  # units, off the surface that a shadow is looked for from


class Solid(NamedTuple):
    """An ellipsoid: its middle and half axes, units."""

    middle: Three
    half: Three


class Figure(NamedTuple):
    """A figure of solids. `feet` are those that stand on the floor."""

    name: str
    title: str
    solids: tuple[Solid, ...]
    tall: float  # units that the view is high
    base: float  # units, the height of its lower edge
    feet: tuple[int, ...]


def _both(middle: Three, half: Three) -> tuple[Solid, Solid]:
    x, u, f = middle
    return Solid((-x, u, f), half), Solid((x, u, f), half)


# Proportions of our own, by eye: seven heads tall, arms relaxed.
STANDING = Figure(
    "figure",
    "figure",
    (
        Solid((0.0, 6.95, 0.02), (0.4, 0.54, 0.47)),
        Solid((0.0, 6.3, -0.04), (0.19, 0.34, 0.19)),
        Solid((0.0, 5.42, 0.0), (0.82, 0.72, 0.46)),
        Solid((0.0, 4.45, 0.02), (0.6, 0.66, 0.4)),
        Solid((0.0, 3.7, -0.02), (0.7, 0.5, 0.47)),
        *_both((0.94, 5.58, 0.0), (0.29, 0.3, 0.29)),
        *_both((1.08, 4.82, 0.02), (0.22, 0.66, 0.23)),
        *_both((1.16, 3.74, 0.2), (0.18, 0.62, 0.19)),
        *_both((0.41, 2.6, 0.0), (0.35, 0.98, 0.37)),
        *_both((0.46, 1.08, -0.06), (0.24, 0.86, 0.26)),
        *_both((0.48, 0.15, 0.2), (0.21, 0.15, 0.42)),
    ),
    9.0,
    -1.0,
    (15, 16),
)
HEAD = Figure(
    "head",
    "head",
    (
        Solid((0.0, 5.3, -0.22), (1.28, 1.36, 1.48)),
        Solid((0.0, 4.42, 0.3), (1.0, 1.3, 0.9)),
        Solid((0.0, 3.52, 0.42), (0.78, 0.66, 0.72)),
        Solid((0.0, 4.96, 0.86), (0.86, 0.17, 0.34)),
        Solid((0.0, 4.56, 1.16), (0.15, 0.5, 0.22)),
        Solid((0.0, 4.16, 1.36), (0.21, 0.17, 0.21)),
        *_both((0.16, 4.1, 1.24), (0.13, 0.11, 0.15)),
        *_both((0.6, 4.26, 0.72), (0.38, 0.26, 0.34)),
        *_both((0.42, 4.66, 0.96), (0.21, 0.13, 0.15)),
        Solid((0.0, 3.72, 1.08), (0.31, 0.085, 0.17)),
        Solid((0.0, 3.55, 1.05), (0.27, 0.1, 0.17)),
        Solid((0.0, 3.14, 0.86), (0.34, 0.26, 0.3)),
        *_both((1.22, 4.6, -0.2), (0.15, 0.4, 0.28)),
        Solid((0.0, 2.5, -0.24), (0.7, 1.5, 0.7)),
        Solid((0.0, 0.72, -0.34), (2.5, 0.82, 0.95)),
    ),
    7.6,
    -0.3,
    (),
)
FIGURES = {f.name: f for f in (STANDING, HEAD)}


class View(NamedTuple):
    """What is seen of a figure, px by px; no light in it."""

    shape: tuple[int, int]
    normal: Planar  # (3, n) in the world
    at: Planar  # (3, n) where in the world
    part: npt.NDArray[np.int8]  # (n,) which solid, from 1; 0 the floor, -1 nothing
    contact: Row  # (n,) how open the floor lies
    solids: tuple[tuple[Flat, Flat], ...]  # middles, turned, and half axes
    inverse: Flat  # (3, 3) back into the solids' own axes


def axes(camera: Direction | None = None) -> Flat:
    """Right, up and toward the viewer, (3, 3), in the world: those of the usual view, or of one
    from a lamp that stands in this direction of the usual view."""
    cos, sin = float(np.cos(_TILT)), float(np.sin(_TILT))
    usual = np.array([[1, 0, 0], [0, cos, -sin], [0, sin, cos]], np.float32)
    if camera is None:
        return usual
    x, y, z = unit(camera)
    toward = x * usual[0] - y * usual[1] + z * usual[2]
    up = np.array([0, 1, 0]) if abs(float(toward[1])) < 0.99 else np.array([0, 0, -1])
    right = np.cross(up, toward)
    right /= np.linalg.norm(right)
    return np.stack([right, np.cross(toward, right), toward]).astype(np.float32)


@lru_cache(6)
def view(name: str, width: int, height: int, turn: float, camera: Direction | None = None) -> View:
    """A figure turned by so many radians, on so many px."""
    figure, eye = FIGURES[name], axes(camera)
    cos, sin = np.float32(np.cos(turn)), np.float32(np.sin(turn))
    rotation = np.array([[cos, 0, sin], [0, 1, 0], [-sin, 0, cos]], np.float32)
    solids = tuple(
        (rotation @ np.array(s.middle, np.float32), np.array(s.half, np.float32))
        for s in figure.solids
    )
    unit_px = np.float32(figure.tall / height)
    middle = np.array([0, figure.tall / 2 + figure.base, 0], np.float32)
    across = ((np.arange(width) + 0.5 - width / 2) * unit_px).astype(np.float32)
    above = ((height / 2 - np.arange(height) - 0.5) * unit_px).astype(np.float32)
    start = (
        middle[:, None, None]
        + eye[0][:, None, None] * across[None, None, :]
        + eye[1][:, None, None] * above[None, :, None]
    ).reshape(3, -1)
    depth = np.full(height * width, _NOTHING, np.float32)
    normal = np.zeros((3, height * width), np.float32)
    part = np.full(height * width, -1, np.int8)
    if camera is None:
        depth[:] = -start[1] / eye[2][1]
        normal[1], part[:] = 1, 0
    planes = depth.reshape(height, width), normal.reshape(3, height, width)
    seen = part.reshape(height, width)
    for number, (centre, half) in enumerate(solids):
        _draw_solid(planes, seen, number + 1, centre, half, rotation, eye, middle, across, above)
    normal = _rounded(planes[1], seen > 0, _ROUNDED / float(unit_px)).reshape(3, -1)
    at = start + depth * eye[2][:, None]
    contact = _contact(part, at, [solids[i] for i in figure.feet])
    return View((height, width), normal, at, part, contact, solids, rotation.T.copy())


def _draw_solid(
    planes: tuple[Flat, Flat],
    seen: npt.NDArray[np.int8],
    number: int,
    centre: Flat,
    half: Flat,
    rotation: Flat,
    eye: Flat,
    middle: Flat,
    across: Row,
    above: Row,
) -> None:
    """One solid over what is further away, within its own box. In place."""
    depth, normal = planes
    away = centre - middle
    right, up = float(away @ eye[0]), float(away @ eye[1])
    wide, high = (float(np.sqrt(((rotation.T @ e * half) ** 2).sum())) for e in eye[:2])
    columns = slice(*np.searchsorted(across, [right - wide, right + wide]).tolist())
    rows = slice(*np.searchsorted(-above, [-up - high, -up + high]).tolist())
    if columns.start >= columns.stop or rows.start >= rows.stop:
        return
    to_ball = (rotation.T @ eye.T) / half[:, None]  # from the view's axes to a ball of radius 1
    way = to_ball[:, 2]
    px, py = across[columns] - np.float32(right), above[rows] - np.float32(up)
    place = (
        to_ball[:, 0][:, None, None] * px[None, None, :]
        + to_ball[:, 1][:, None, None] * py[None, :, None]
        - (way * np.float32(float(away @ eye[2])))[:, None, None]
    )
    a, b = float(way @ way), np.tensordot(way, place, 1)
    root = b * b - np.float32(a) * ((place * place).sum(axis=0) - 1)
    far = np.where(root > 0, (np.sqrt(np.maximum(root, 0)) - b) / np.float32(a), _NOTHING)
    nearer = far > depth[rows, columns]
    if not nearer.any():
        return
    on_ball = (place[:, nearer] + far[nearer] * way[:, None]) / half[:, None]
    turned = rotation @ on_ball
    turned /= np.maximum(np.sqrt((turned * turned).sum(axis=0)), 1e-6)
    depth[rows, columns][nearer] = far[nearer]
    seen[rows, columns][nearer] = number
    normal[:, rows, columns][:, nearer] = turned


def _rounded(normal: Planar, on: npt.NDArray[np.bool_], sigma: float) -> Planar:
    """Normals, (3, h, w), with the creases between solids rounded, where a figure is seen."""
    from scipy.ndimage import gaussian_filter

    share = on.astype(np.float32)
    whole = np.maximum(gaussian_filter(share, sigma, truncate=2.0), np.float32(1e-3))
    soft = np.stack([gaussian_filter(n * share, sigma, truncate=2.0) / whole for n in normal])
    soft /= np.maximum(np.sqrt((soft * soft).sum(axis=0)), 1e-6)
    return np.where(on, soft, normal)


def _contact(part: npt.NDArray[np.int8], at: Planar, feet: list[tuple[Flat, Flat]]) -> Row:
    """How open the floor lies near feet, and every part by its height, 0-1."""
    found = np.clip(0.55 + at[1] * np.float32(0.12), 0, 1)
    floor = part == 0
    found[floor] = 1
    for centre, half in feet:
        off = np.hypot((at[0] - centre[0]) / half[0], (at[2] - centre[2]) / half[2])
        found[floor] = np.minimum(found, np.clip(0.3 + 0.45 * (off - 0.6), 0.3, 1))[floor]
    return np.asarray(found, np.float32)


def kept(view: View, to_lamp: Flat, softness: float) -> Row:
    """The share, 0-1, of a lamp's light that reaches every place: past each solid by the closest
    approach of the ray. `to_lamp` is its direction in the world."""
    found = np.ones(view.at.shape[1], np.float32)
    normal, at = view.normal, view.at
    facing = normal[0] * to_lamp[0] + normal[1] * to_lamp[1] + normal[2] * to_lamp[2]
    near = (np.abs(at[0]) < _OUTER) & (np.abs(at[2]) < _OUTER)
    live = np.flatnonzero((facing > -0.05) & (view.part >= 0) & near)
    start = at[:, live] + normal[:, live] * np.float32(_LIFT)
    part, along = view.part[live], to_lamp @ start
    one = np.cross(to_lamp, np.array([0, 1, 0.2]))
    one /= np.linalg.norm(one)
    two = np.cross(to_lamp, one)
    u, v = one.astype(np.float32) @ start, two.astype(np.float32) @ start
    passed = np.ones(len(live), np.float32)
    for number, (centre, half) in enumerate(view.solids):
        reach = float(half.max()) * 1.35
        close = (along < float(to_lamp @ centre) + reach) & (part != number + 1)
        close &= np.abs(u - float(one @ centre)) < reach
        close &= np.abs(v - float(two @ centre)) < reach
        some = np.flatnonzero(close)
        if len(some):
            ball = np.asarray(
                (view.inverse @ (start[:, some] - centre[:, None])) / half[:, None], np.float32
            )
            way = np.asarray((view.inverse @ to_lamp) / half, np.float32)
            passed[some] *= _past(ball, way, half, softness)
    found[live] = passed
    return found


def _past(ball: Planar, way: Flat, half: Flat, softness: float) -> Row:
    """How much passes a ball of radius 1 on the way from places in its axes, (3, n)."""
    length = float(np.sqrt(way @ way))
    to = way / np.float32(length)
    ahead = -(to[0] * ball[0] + to[1] * ball[1] + to[2] * ball[2])
    apart = np.sqrt(np.maximum((ball * ball).sum(axis=0) - ahead * ahead, 0))
    size = float(np.cbrt(half.prod()))
    soft = np.maximum(ahead * np.float32(_PENUMBRA * softness / length / size), np.float32(0.06))
    passed = np.clip((apart - 1) / soft + np.float32(0.5), 0, 1)
    apart = np.sqrt((ball * ball).sum(axis=0)) - 1
    passed = 1 - (1 - passed) * np.clip(apart / np.float32(_JOINED), 0, 1)
    return np.asarray(np.where(ahead > 0, passed, 1), np.float32)


def draw(view: View, lights: Lights) -> npt.NDArray[np.uint8]:
    """A figure in a light, (h, w, 3), encoded. Where nothing is seen it is a dark grey."""
    eye = axes()
    seen = np.stack([eye[0] @ view.normal, -(eye[1] @ view.normal), eye[2] @ view.normal])
    shares = []
    for lamp in lights.lamps:
        x, y, z = lamp.direction
        world = x * eye[0] - y * eye[1] + z * eye[2]
        dark = not lamp.light.any()
        softness = lamp.wrap * 2  # of its light, as a lamp has it
        shares.append(
            np.ones(len(view.part), np.float32)
            if dark
            else kept(view, world.astype(np.float32), softness)
        )
    floor = view.part == 0
    local = np.empty((3, len(floor)), np.float32)
    for i in range(3):
        local[i] = np.where(floor, np.float32(_FLOOR[i]), np.float32(_BODY[i]))
    surface = Surface(np.ascontiguousarray(seen, np.float32), view.contact, ~floor)
    out = shade(local, surface, lights._replace(crevice=0.8), shares)
    out[:, view.part < 0] = _VOID
    levels = encode(out) * np.float32(255) + np.float32(0.5)
    return np.ascontiguousarray(levels.astype(np.uint8).T.reshape(*view.shape, 3))
