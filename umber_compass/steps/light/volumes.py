"""A loaf, a bollard and a crate on planks: plain volumes that show the light alone, lit by the same
code as the picture. Their shadows are found by the closest approach of the ray to the lamp.

Seen from a little above, without perspective. World axes are x right, u up, f toward the viewer.
"""

from functools import lru_cache
from typing import NamedTuple, TypeAlias

import numpy as np
import numpy.typing as npt

from umber_compass.colour.spaces import encode, parse_hex
from umber_compass.picture.light import LampLight, Lights, Surface
from umber_compass.picture.relit import local_light
from umber_compass.picture.shade import shade
from umber_compass.picture.ways import Planar, Row

Point: TypeAlias = tuple[Row, Row, Row]

_TILT = np.radians(24.0)  # how far the viewer looks down
_WIDE = 7.8  # units across the picture
_LOAF, _BOLLARD, _CRATE, _PLANKS, _GAPS = "#d39a57", "#5d7076", "#9a7450", "#8b8d88", "#5f6462"
_HALF_BOX = (0.62, 0.55, 0.62)
_BOX_AT, _BOX_TURN = (2.35, 0.55, -0.1), np.radians(28.0)
_BALLS = (  # middle, half axes
    ((-2.2, 0.5, 0.15), (1.0, 0.52, 0.6)),
    ((0.25, 1.2, -0.1), (0.62, 0.28, 0.62)),
)
_POST_AT, _POST_WIDE, _POST_HIGH = (0.25, -0.1), 0.48, 1.2
_PENUMBRA = 0.3


class Scene(NamedTuple):
    """What is seen, pixel by pixel; no light in it."""

    shape: tuple[int, int]
    local: Planar  # (3, n), linear light
    normal: Planar  # (3, n), x right, y down, z toward the viewer
    occlusion: Row
    at: Point  # where in the world


def draw(scene: Scene, lights: Lights) -> npt.NDArray[np.uint8]:
    """The volumes in a light, (h, w, 3), encoded."""
    kept = [_unshadowed(scene, lamp) for lamp in lights.lamps]
    surface = Surface.round_of(scene.normal, scene.occlusion)
    out = shade(scene.local, surface, lights, kept)
    levels = encode(out) * np.float32(255) + np.float32(0.5)
    return np.ascontiguousarray(levels.astype(np.uint8).T.reshape(*scene.shape, 3))


@lru_cache(4)
def scene(width: int, height: int) -> Scene:
    """The volumes at a size in px."""
    unit = _WIDE / width
    y, x = np.mgrid[:height, :width].astype(np.float32)
    across = ((x + 0.5) * unit - _WIDE / 2).reshape(-1)
    down = ((y + 0.5 - height) * unit + 0.62).reshape(-1)
    sin, cos = np.float32(np.sin(_TILT)), np.float32(np.cos(_TILT))
    # The floor first; whatever lies nearer to the viewer, at a greater depth t, covers it.
    t = down * cos / sin
    normal = np.zeros((3, len(t)), np.float32)
    normal[1] = 1
    kind = np.zeros(len(t), np.int8)
    eye = (across, -down * cos, down * sin)
    way = (np.float32(0), sin, cos)
    for number, found in enumerate(_things(eye, way), 1):
        nearer = found[0] > t
        t = np.where(nearer, found[0], t)
        kind[nearer] = number
        normal[:, nearer] = found[1][:, nearer]
    at = (across, eye[1] + t * sin, eye[2] + t * cos)
    seen = np.stack(
        [normal[0], -normal[1] * cos + normal[2] * sin, normal[1] * sin + normal[2] * cos]
    )
    local = _locals(kind, at)
    return Scene((height, width), local, seen.astype(np.float32), _occlusion(kind, at), at)


def _things(eye: Point, way: tuple[np.float32, ...]) -> list[tuple[Row, Planar]]:
    """For the loaf, the bollard's head, its post and the crate: depth and normal in the world."""
    return [*(_ball(eye, way, *ball) for ball in _BALLS), _post(eye, way), _box(eye, way)]


def _ball(
    eye: Point,
    way: tuple[np.float32, ...],
    middle: tuple[float, ...],
    half: tuple[float, ...],
) -> tuple[Row, Planar]:
    p = [(e - np.float32(m)) / np.float32(h) for e, m, h in zip(eye, middle, half, strict=True)]
    d = [w / np.float32(h) for w, h in zip(way, half, strict=True)]
    a = sum(x * x for x in d)
    b = sum(x * y for x, y in zip(p, d, strict=True))
    c = sum(x * x for x in p) - 1
    root = np.asarray(b * b - a * c)
    t = np.where(root > 0, (-b + np.sqrt(np.maximum(root, 0))) / a, -np.inf)
    hit = [(x + np.where(np.isfinite(t), t, 0) * y) for x, y in zip(p, d, strict=True)]
    normal = np.stack([h / np.float32(r) for h, r in zip(hit, half, strict=True)])
    length = np.maximum(np.linalg.norm(normal, axis=0), 1e-6)
    return np.asarray(t, np.float32), np.asarray(normal / length, np.float32)


def _post(eye: Point, way: tuple[np.float32, ...]) -> tuple[Row, Planar]:
    px, pf = eye[0] - _POST_AT[0], eye[2] - _POST_AT[1]
    root = _POST_WIDE**2 - px * px
    t = np.where(root > 0, (np.sqrt(np.maximum(root, 0)) - pf) / way[2], -np.inf)
    high = eye[1] + np.where(np.isfinite(t), t, 0) * way[1]
    t = np.where((high >= 0) & (high <= _POST_HIGH), t, -np.inf)
    forward = np.sqrt(np.maximum(root, 0))
    normal = np.stack([px, np.zeros_like(px), forward]) / np.float32(_POST_WIDE)
    return np.asarray(t, np.float32), np.asarray(normal, np.float32)


def _box(eye: Point, way: tuple[np.float32, ...]) -> tuple[Row, Planar]:
    p, d = _turned(eye), _turned(tuple(np.full_like(eye[0], w) for w in way), move=False)
    last, first, side = (
        np.full_like(eye[0], np.inf),
        np.full_like(eye[0], -np.inf),
        np.zeros(len(eye[0]), np.int8),
    )
    for i in range(3):
        safe = np.where(np.abs(d[i]) < 1e-6, 1e-6, d[i])
        ends = np.sort(
            np.stack([(-_HALF_BOX[i] - p[i]) / safe, (_HALF_BOX[i] - p[i]) / safe]), axis=0
        )
        first = np.maximum(first, ends[0])
        side = np.where(ends[1] < last, i, side)
        last = np.minimum(last, ends[1])
    t = np.where(last > first, last, -np.inf)
    normal = np.zeros((3, len(t)), np.float32)
    for i in range(3):
        normal[i] = np.where(side == i, np.sign(d[i]), 0)
    c, s = np.cos(_BOX_TURN), np.sin(_BOX_TURN)
    back = np.stack([c * normal[0] + s * normal[2], normal[1], -s * normal[0] + c * normal[2]])
    return t, back.astype(np.float32)


def _turned(at: tuple[Row, ...], move: bool = True) -> tuple[Row, ...]:
    """World places, or directions, in the crate's own axes."""
    x, u, f = (a - (m if move else 0) for a, m in zip(at, _BOX_AT, strict=True))
    c, s = np.float32(np.cos(_BOX_TURN)), np.float32(np.sin(_BOX_TURN))
    return c * x - s * f, u, s * x + c * f


def _locals(kind: npt.NDArray[np.int8], at: Point) -> Planar:
    """Linear local colours, (3, n): the planks run to the right, with gaps."""
    hexes = (_PLANKS, _LOAF, _BOLLARD, _BOLLARD, _CRATE, _GAPS)
    table = np.array([np.round(parse_hex(h) * 255) for h in hexes]).astype(np.uint8)
    planks = (kind == 0) & (np.abs((at[2] / 0.8) % 1 - 0.5) > 0.47)
    return np.ascontiguousarray(local_light(table)[:, np.where(planks, 5, kind)])


def _occlusion(kind: npt.NDArray[np.int8], at: Point) -> Row:
    """Less open where a thing stands on the floor."""
    x, u, f = at
    feet = [
        np.hypot((x + 2.2) / 1.0, (f - 0.15) / 0.6) - 0.75,
        np.hypot(x - _POST_AT[0], f - _POST_AT[1]) - _POST_WIDE,
        np.maximum(*(np.abs(p) - h for p, h in zip(_turned(at)[::2], _HALF_BOX[::2], strict=True))),
    ]
    near = np.minimum(np.minimum(feet[0], feet[1]), feet[2])
    floor = np.clip(0.35 + np.maximum(near, 0) * 1.8, 0, 1)
    return np.asarray(np.where(kind == 0, floor, np.clip(0.45 + u * 1.3, 0, 1)), np.float32)


def _unshadowed(scene: Scene, lamp: LampLight) -> Row:
    """The share, 0-1, of a lamp’s light that reaches every place: past balls and post by the
    closest approach, past the crate by how long the ray runs in it."""
    x, y, z = lamp.direction
    sin, cos = float(np.sin(_TILT)), float(np.cos(_TILT))
    way = (np.float32(x), np.float32(-y * cos + z * sin), np.float32(y * sin + z * cos))
    start = tuple(
        a + n * np.float32(0.02) for a, n in zip(scene.at, _world_normal(scene), strict=True)
    )
    open_ = np.ones(len(start[0]), np.float32)
    soft = np.float32(_PENUMBRA * (0.15 + lamp.wrap * 2))
    for middle, half in (
        *_BALLS,
        ((_POST_AT[0], 0.6, _POST_AT[1]), (_POST_WIDE, 0.85, _POST_WIDE)),
    ):
        p = [
            (s - np.float32(m)) / np.float32(h) for s, m, h in zip(start, middle, half, strict=True)
        ]
        d = [w / np.float32(h) for w, h in zip(way, half, strict=True)]
        length = float(np.sqrt(sum(float(v) ** 2 for v in d)))
        along = -sum(a * b for a, b in zip(p, d, strict=True)) / length
        apart = np.sqrt(np.maximum(sum(a * a for a in p) - along * along, 0))
        free = np.clip((apart - 1) / soft + 0.5, 0, 1)
        open_ *= np.where(along > 0, free, 1)
    found: Row = open_ * _past_box(start, way, soft)
    return found


def _past_box(start: tuple[Row, ...], way: tuple[np.float32, ...], soft: np.float32) -> Row:
    p = _turned(start)
    d = _turned(tuple(np.full(1, w, np.float32) for w in way), move=False)
    first, last = np.zeros(len(p[0]), np.float32), np.full(len(p[0]), np.inf, np.float32)
    for i in range(3):
        safe = d[i] if abs(float(d[i][0])) > 1e-5 else np.full(1, 1e-5, np.float32)
        a, b = (-_HALF_BOX[i] - p[i]) / safe, (_HALF_BOX[i] - p[i]) / safe
        first, last = np.maximum(first, np.minimum(a, b)), np.minimum(last, np.maximum(a, b))
    within = (last - first - np.float32(0.04)) / (soft + np.float32(0.05))
    return np.asarray(1 - np.clip(within, 0, 1), np.float32)


def _world_normal(scene: Scene) -> tuple[Row, ...]:
    sin, cos = np.float32(np.sin(_TILT)), np.float32(np.cos(_TILT))
    n = scene.normal
    return n[0], -n[1] * cos + n[2] * sin, n[1] * sin + n[2] * cos
