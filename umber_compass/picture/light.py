"""What light does to a local colour: one function for picture, chart, ramps and volumes.

Light is added and multiplied in linear light: out = local x (ambient x occlusion + key x strength x
share + other lamps), times the exposure. How a form takes a lamp's light is the way of lighting
(ways.py); what a surface does beside that is its finish (finish.py).
"""

from collections.abc import Sequence
from functools import lru_cache
from typing import NamedTuple, TypeAlias

import numpy as np
import numpy.typing as npt

from umber_compass.colour.spaces import Floats, decode, luminance, parse_hex
from umber_compass.picture.ways import WAYS, Planar, Row, edge_of, share_of, strength_of
from umber_compass.plan.rig import Ambient, Direction, Lamp, Pool, Rig
from umber_compass.plan.terms import Way

Turned: TypeAlias = npt.NDArray[np.bool_]  # (n,) whether it is part of a round form

DARK = 1e-6  # linear light below which nothing is lit
# The place where light turns is this wide in N.L, for a hard and for a wholly soft lamp (studio
# rule, docs/light.md).
_BAND_HARD, _BAND_SOFT = 0.18, 0.42
_THIN = 0.6  # of that, where light and shade are families
_AXIS = 0.999  # a lamp whose z is beyond this stands in the viewer's axis
_WRAP_SOFT = 0.5  # N.L by which a wholly soft lamp reaches round a form
# x right, y down, z toward the viewer: a floor seen from a little above it (docs/light.md).
FLOOR_NORMAL = (0.0, -0.97, 0.2431)
_FREE = 0.5  # of the sky, what a dark ground leaves to see at most


class LampLight(NamedTuple):
    """One lamp as numbers: linear light, and the unit direction toward it."""

    name: str
    light: Floats  # (3,)
    direction: Direction
    wrap: float  # N.L at which its light begins to give way
    edge: tuple[float, float, float] = (0.0, 0.0, 0.0)  # what its edge tint adds of its light


class SpotLight(NamedTuple):
    """A lamp that lights a disc of the picture alone."""

    lamp: LampLight
    pool: Pool


class Lights(NamedTuple):
    """A rig as numbers: linear light."""

    ambient: Floats  # (3,) from the sky
    key: LampLight
    others: tuple[LampLight, ...]  # by rank
    tint: Floats  # (3,), of luminance 1
    tint_share: float  # 0-1
    band: float  # width of the tint in N.L of the key
    crevice: float  # 0-1
    exposure: float = 1.0
    ground: Floats | None = None  # (3,) thrown back from below; None: the sky is all round
    way: Way = "soft"
    edge: float = 0.18  # width of the edge between light and shade, N.L
    highlights: bool = True
    spots: tuple[SpotLight, ...] = ()

    @property
    def lamps(self) -> tuple[LampLight, ...]:
        """Every lamp that lights the whole picture, the key first."""
        return (self.key, *self.others)

    @property
    def is_dark(self) -> bool:
        """Whether nothing shines."""
        lamps = (*self.lamps, *(spot.lamp for spot in self.spots))
        shining = luminance(self.ambient) + sum(luminance(lamp.light) for lamp in lamps)
        return float(shining) < DARK

    def only(self, ambient: bool = False, lamp: str = "") -> "Lights":
        """The same lights at the same exposure with all else switched off; the tint needs the
        key."""
        key = self.key if lamp == self.key.name else self.key._replace(light=np.zeros(3))
        return self._replace(
            ambient=self.ambient if ambient else np.zeros(3),
            ground=self.ground if ambient else None,
            key=key,
            others=tuple(one for one in self.others if one.name == lamp),
            spots=tuple(one for one in self.spots if one.lamp.name == lamp),
            tint_share=self.tint_share if lamp == self.key.name else 0.0,
        )


@lru_cache(32)
def lights_of(rig: Rig, ground: tuple[float, float, float] | None = None) -> Lights:
    """The lights of a rig, at exposure 1. `ground` is the local colour of what lies below, linear
    light; the rig's own goes before it."""
    ranked = rig.ranked
    key, *others = [_lamp_light(lamp) for lamp in ranked]
    spots = [
        SpotLight(light, lamp.pool)
        for light, lamp in zip(others, ranked[1:], strict=True)
        if lamp.pool is not None
    ]
    tint = decode(parse_hex(rig.terminator.hex))
    shines = bool(luminance(key.light) > DARK and luminance(tint) > DARK)
    band = _BAND_HARD + (_BAND_SOFT - _BAND_HARD) * ranked[0].softness
    sky = _light(rig.ambient)
    return Lights(
        ambient=sky,
        key=key,
        others=tuple(others[: len(others) - len(spots)]),
        spots=tuple(spots),
        tint=tint / luminance(tint) if shines else np.ones(3),
        tint_share=rig.terminator.strength / 100 if shines else 0.0,
        band=band * (_THIN if WAYS[rig.way].steps else 1.0),
        crevice=rig.crevice / 100,
        ground=_thrown_back(rig, sky, key, ground),
        way=rig.way,
        edge=edge_of(rig.way, ranked[0].softness),
        highlights=rig.highlights,
    )


def _lamp_light(lamp: Lamp) -> LampLight:
    wrap = _WRAP_SOFT * lamp.softness
    return LampLight(lamp.name, _light(lamp), unit(lamp.direction), wrap, _edge_of(lamp))


def _light(lamp: Ambient | Lamp) -> Floats:
    """A lamp's light: its colour's linear light times its strength."""
    if not lamp.on:
        return np.zeros(3)
    return np.asarray(decode(parse_hex(lamp.hex)) * (lamp.strength / 100))


def _edge_of(lamp: Lamp) -> tuple[float, float, float]:
    if lamp.edge <= 0 or not lamp.on:
        return 0.0, 0.0, 0.0
    added = decode(parse_hex(lamp.edge_hex)) * (lamp.edge / 100) * (lamp.strength / 100)
    return float(added[0]), float(added[1]), float(added[2])


def _thrown_back(
    rig: Rig, sky: Floats, key: LampLight, ground: tuple[float, float, float] | None
) -> Floats | None:
    """The light that the ground throws back, (3,); None where nothing is said of it. A dark ground
    leaves half of the sky to see, or undersides would go black."""
    if rig.ambient.ground is not None:
        local = decode(parse_hex(rig.ambient.ground))
    elif ground is not None:
        local = np.array(ground)
    else:
        return None
    if rig.ambient.bounce <= 0:
        return None
    faced = max(0.0, sum(a * b for a, b in zip(FLOOR_NORMAL, key.direction, strict=True)))
    back = local * (sky + key.light * faced) * rig.ambient.bounce
    return np.asarray(np.maximum(back, sky * _FREE))


def unit(direction: Direction) -> Direction:
    """A direction of length 1; straight from the front if it has no length."""
    length = float(np.linalg.norm(direction))
    if length < 1e-6:
        return 0.0, 0.0, 1.0
    return direction[0] / length, direction[1] / length, direction[2] / length


def facing(normals: Planar, direction: Direction) -> Row:
    """N.L, -1 to 1, of normals (3, n) and one lamp."""
    out: Row = normals[0] * np.float32(direction[0])
    out += normals[1] * np.float32(direction[1])
    out += normals[2] * np.float32(direction[2])
    return out


def normal_at(cosine: float, direction: Direction) -> Floats:
    """The normal, (3,), that has this N.L with a lamp and, of all that have, is seen best: it leans
    from the lamp toward the viewer, or downward where the lamp stands in the viewer's axis."""
    lamp = np.array(direction)
    toward = np.array([0.0, 0.0, 1.0]) if abs(lamp[2]) < _AXIS else np.array([0.0, 1.0, 0.0])
    across = toward - lamp * (toward @ lamp)
    across /= np.linalg.norm(across)
    return np.asarray(lamp * cosine + across * np.sqrt(max(1 - cosine * cosine, 0.0)))


class Surface(NamedTuple):
    """Places that are lit: how they turn, how open they lie, and whether their form is round."""

    normal: Planar  # (3, n)
    occlusion: Row  # (n,) 1 is open
    turned: Turned  # (n,)

    @classmethod
    def round_of(cls, normal: Planar, occlusion: Row) -> "Surface":
        """Places on a round form."""
        return cls(normal, occlusion, np.ones(len(occlusion), bool))

    def at(self, places: npt.NDArray[np.intp]) -> "Surface":
        """Some of the places alone, (k,)."""
        normal = np.take(self.normal, places, axis=1, mode="clip")
        return Surface(normal, self.occlusion[places], self.turned[places])


def beside_key(surface: Surface, lights: Lights, kept: Sequence[Row] | None = None) -> Planar:
    """The light that arrives beside the key's, (3, n), at exposure 1: from sky and ground, and from
    the other lamps. `kept`, 0-1, is the share of each lamp's light, the key's first, that nothing
    keeps away."""
    out = _ambient_on(surface, lights)
    for n, lamp in enumerate(lights.others):
        if not lamp.light.any():
            continue
        cosine = facing(surface.normal, lamp.direction)
        taken = taken_by(cosine, lamp, lights, surface.turned)
        if kept is not None:
            taken *= kept[n + 1]
        _add(out, taken, lamp.light)
        _add_edge(out, cosine, lamp, lights, surface.turned)
    return out


def taken_by(cosine: Row, lamp: LampLight, lights: Lights, turned: Turned) -> Row:
    """How much of a lamp's light places take, 0-1, at N.L (n,), families and all."""
    taken = strength_of(cosine, lights.way, lamp.wrap, turned)
    if WAYS[lights.way].steps:
        # Coded, an edge as narrow as the key's would show its steps.
        edge = max(lights.edge, _LEAST_OTHER_EDGE)
        taken *= np.where(turned, share_of(cosine, lights.way, edge), np.float32(1))
    return taken


_LEAST_OTHER_EDGE = 0.16  # N.L


def of_key(surface: Surface, cosine: Row, lights: Lights) -> Row:
    """How strongly the key lights what it reaches, 0-1, at N.L (n,)."""
    return strength_of(cosine, lights.way, lights.key.wrap, surface.turned)


def key_share(cosine: Row, lights: Lights, turned: Turned, edge: Row | None = None) -> Row:
    """The share of the key's light, 0-1, that reaches places by their form alone; `edge` is how
    wide light turns to shade at each, where that is not the same everywhere."""
    if not WAYS[lights.way].steps:
        return np.ones_like(cosine)
    wide = lights.edge if edge is None else edge
    return np.where(turned, share_of(cosine, lights.way, wide), np.float32(1))


def _ambient_on(surface: Surface, lights: Lights) -> Planar:
    """What arrives from everywhere: the sky from above, the ground's light from below on what is
    round; a wall sees the sky alone."""
    occlusion = surface.occlusion
    if lights.crevice < 1:
        occlusion = 1 - np.float32(lights.crevice) * (1 - occlusion)
    out = np.empty((3, len(occlusion)), np.float32)
    if lights.ground is None:
        for i in range(3):
            np.multiply(occlusion, np.float32(lights.ambient[i]), out=out[i])
        return out
    below = np.where(surface.turned, surface.normal[1] * np.float32(0.5) + np.float32(0.5), 0)
    below *= occlusion
    for i in range(3):
        np.multiply(occlusion, np.float32(lights.ambient[i]), out=out[i])
        out[i] += below * np.float32(lights.ground[i] - lights.ambient[i])
    return out


def _add(out: Planar, taken: Row, light: Floats) -> None:
    for i in range(3):
        out[i] += taken * np.float32(light[i])


def _add_edge(out: Planar, cosine: Row, lamp: LampLight, lights: Lights, turned: Turned) -> None:
    """A lamp's edge tint: a thin rim just inside the border of its light. In place."""
    if not any(lamp.edge):
        return
    away = (cosine - np.float32(0.12)) * np.float32(1 / 0.1)
    rim = np.exp(-away * away) * turned
    _add(out, rim.astype(np.float32), np.array(lamp.edge))


def add_key(out: Planar, taken: Row, cosine: Row, lights: Lights, turned: Turned) -> None:
    """The key's light added, where it takes so much of it (n,), with its edge tint. In place."""
    _add(out, taken, lights.key.light)
    _add_edge(out, cosine, lights.key, lights, turned)
