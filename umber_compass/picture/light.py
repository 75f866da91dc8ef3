"""What light does to a local colour: one function for picture, chart, ramps and volumes.

Light is added and multiplied in linear light: out = local x (ambient x occlusion + sum of lamps x
facing), times the exposure. Chart, pictures and volumes use `illumination`, `tinted` and `fitted`;
`shade` is all three.
"""

from collections.abc import Sequence
from functools import lru_cache
from typing import NamedTuple, TypeAlias

import numpy as np
import numpy.typing as npt

from umber_compass.colour.edge import toward_grey
from umber_compass.colour.spaces import LUMINANCE, Floats, decode, luminance, parse_hex
from umber_compass.plan.model import Ambient, Direction, Lamp, Rig

Planar: TypeAlias = npt.NDArray[np.float32]  # (3, n), a row for each channel
Row: TypeAlias = npt.NDArray[np.float32]  # (n,)

DARK = 1e-6  # linear light below which nothing is lit
# The place where light turns is this wide in N.L, for a hard and for a wholly soft lamp (studio
# rule, docs/light.md).
_BAND_HARD, _BAND_SOFT = 0.18, 0.42
_AXIS = 0.999  # a lamp whose z is beyond this stands in the viewer's axis
_WRAP_SOFT = 0.5  # N.L by which a wholly soft lamp reaches round a form
SHOULDER = 0.8  # luminance, L* 91.7, from which more light gives ever less (studio rule)
_LEAST_TINT = 1 / 128  # a share below it changes next to nothing
_LEAST_LACKING = 1e-6
_MOST_SCALE = 3.0  # by which a tinted colour is lifted to its luminance; the rest is added
_LUMINANCE = LUMINANCE.astype(np.float32)


class LampLight(NamedTuple):
    """One lamp as numbers: linear light, and the unit direction toward it."""

    name: str
    light: Floats  # (3,)
    direction: Direction
    wrap: float  # N.L at which its light begins to give way


class Lights(NamedTuple):
    """A rig as numbers: linear light."""

    ambient: Floats  # (3,)
    key: LampLight
    others: tuple[LampLight, ...]  # by rank
    tint: Floats  # (3,), of luminance 1
    tint_share: float  # 0-1
    band: float  # width of the tint in N.L of the key
    crevice: float  # 0-1
    exposure: float = 1.0

    @property
    def lamps(self) -> tuple[LampLight, ...]:
        """Every lamp, the key first."""
        return (self.key, *self.others)

    @property
    def is_dark(self) -> bool:
        """Whether nothing shines."""
        shining = luminance(self.ambient) + sum(luminance(lamp.light) for lamp in self.lamps)
        return float(shining) < DARK

    def only(self, ambient: bool = False, key: bool = False) -> "Lights":
        """The same lights at the same exposure with all else switched off; the tint needs both."""
        return self._replace(
            ambient=self.ambient if ambient else np.zeros(3),
            key=self.key if key else self.key._replace(light=np.zeros(3)),
            others=(),
            tint_share=self.tint_share if key else 0.0,
        )


@lru_cache(16)
def lights_of(rig: Rig) -> Lights:
    """The lights of a rig, at exposure 1."""
    ranked = sorted(rig.lamps, key=lambda lamp: lamp.rank)
    key, *others = [
        LampLight(lamp.name, _light(lamp), unit(lamp.direction), _WRAP_SOFT * lamp.softness)
        for lamp in ranked
    ]
    tint = decode(parse_hex(rig.terminator.hex))
    shines = bool(luminance(key.light) > DARK and luminance(tint) > DARK)
    return Lights(
        ambient=_light(rig.ambient),
        key=key,
        others=tuple(others),
        tint=tint / luminance(tint) if shines else np.ones(3),
        tint_share=rig.terminator.strength / 100 if shines else 0.0,
        band=_BAND_HARD + (_BAND_SOFT - _BAND_HARD) * ranked[0].softness,
        crevice=rig.crevice / 100,
    )


def _light(lamp: Ambient | Lamp) -> Floats:
    """A lamp's light: its colour's linear light times its strength."""
    if not lamp.on:
        return np.zeros(3)
    return np.asarray(decode(parse_hex(lamp.hex)) * (lamp.strength / 100))


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


def facings(normals: Planar, lights: Lights) -> list[Row]:
    """N.L of normals (3, n) and every lamp, the key first."""
    return [facing(normals, lamp.direction) for lamp in lights.lamps]


def normal_at(cosine: float, direction: Direction) -> Floats:
    """The normal, (3,), that has this N.L with a lamp and, of all that have, is seen best: it leans
    from the lamp toward the viewer, or downward where the lamp stands in the viewer's axis."""
    lamp = np.array(direction)
    toward = np.array([0.0, 0.0, 1.0]) if abs(lamp[2]) < _AXIS else np.array([0.0, 1.0, 0.0])
    across = toward - lamp * (toward @ lamp)
    across /= np.linalg.norm(across)
    return np.asarray(lamp * cosine + across * np.sqrt(max(1 - cosine * cosine, 0.0)))


def reached(cosine: Row, wrap: float) -> Row:
    """How much of the key's light a surface takes, 0-1, at N.L (n,). Within the wrap it gives way
    as a parabola, so that the terminator is soft; outside it is the cosine."""
    if wrap < 1e-3:
        return np.maximum(cosine, 0)
    w = np.float32(wrap)
    soft = np.clip(cosine, -w, w)
    soft += w
    soft *= soft
    soft *= np.float32(1 / (4 * wrap))
    return np.where(cosine > w, cosine, soft)


def illumination(
    cosines: Sequence[Row], occlusion: Row, lights: Lights, unshadowed: Sequence[Row] | None = None
) -> Planar:
    """The light that arrives, (3, n), at N.L of every lamp, the key first, and occlusion (n,),
    exposed; `unshadowed`, 0-1, is the share of each lamp's light that nothing keeps away."""
    if lights.crevice < 1:
        occlusion = 1 - np.float32(lights.crevice) * (1 - occlusion)
    out = np.empty((3, len(occlusion)), np.float32)
    for i in range(3):
        np.multiply(occlusion, np.float32(lights.ambient[i] * lights.exposure), out=out[i])
    for n, lamp in enumerate(lights.lamps):
        if not lamp.light.any():
            continue
        taken = reached(cosines[n], lamp.wrap)
        if unshadowed is not None:
            taken *= unshadowed[n]
        for i in range(3):
            out[i] += taken * np.float32(lamp.light[i] * lights.exposure)
    return out


class Tint(NamedTuple):
    """The terminator's tint where light turns: which places it reaches, and what it multiplies the
    three channels there by."""

    at: npt.NDArray[np.intp]  # (k,)
    factor: Planar  # (3, k)
    colour: Floats  # (3,), of luminance 1


def tinting(cosine: Row, lights: Lights) -> Tint | None:
    """The tint at N.L of the key (n,); None where there is none."""
    if lights.tint_share <= 0:
        return None
    near = cosine * np.float32(1 / lights.band)
    near *= near
    # Far off the bell is nothing; most places are never asked for it.
    least = np.float32(np.log(max(lights.tint_share / _LEAST_TINT, 1.0)))
    at = np.flatnonzero(near < least)
    share = np.exp(-near[at]) * np.float32(lights.tint_share)
    factor = 1 + share * (lights.tint - 1).astype(np.float32)[:, None]
    return Tint(at, np.asarray(factor, np.float32), lights.tint)


def tinted(out: Planar, tint: Tint | None) -> Planar:
    """Lit colours, linear (3, n), turned toward the terminator's tint. The tint multiplies; the
    luminance stays what it was, and what a colour has nothing of to be multiplied is added. In
    place."""
    if tint is None:
        return out
    parts = np.take(out, tint.at, axis=1, mode="clip")
    before = luminance_of(parts)
    parts *= tint.factor
    after = luminance_of(parts)
    scale = np.minimum(before / np.maximum(after, np.float32(1e-9)), np.float32(_MOST_SCALE))
    lacking = np.maximum(before - after * scale, 0)
    parts *= scale
    some = bool((lacking > _LEAST_LACKING).any())
    for i, (row, part) in enumerate(zip(out, parts, strict=True)):
        row[tint.at] = part + lacking * np.float32(tint.colour[i]) if some else part
    return out


def luminance_of(rows: Sequence[Row] | npt.NDArray[np.float32]) -> Row:
    """Relative luminance, (n,), of three rows of linear light."""
    found: Row = rows[0] * _LUMINANCE[0]
    found += rows[1] * _LUMINANCE[1]
    found += rows[2] * _LUMINANCE[2]
    return found


def fitted(out: Planar) -> Planar:
    """Linear light, (3, n), brought into what the screen shows. Light beyond the shoulder gives
    way smoothly, so that white is never reached by a step; colours too strong for the screen lose
    chroma at their OKLCh hue, so that value is exact and the hue stays. In place."""
    top = np.maximum(np.maximum(out[0], out[1]), out[2])
    near = np.flatnonzero(top > SHOULDER)
    if len(near):
        # Most of these are bright in one channel only: neither white nor beyond the screen.
        lum = luminance_of([np.take(row, near, mode="clip") for row in out])
        some = np.flatnonzero((lum > SHOULDER) | (np.take(top, near, mode="clip") > 1))
        over, lum = near[some], lum[some]
        parts = [np.take(row, over, mode="clip") for row in out]
        kept = shouldered(lum)
        scale = kept / np.maximum(lum, np.float32(1e-6))
        for part in parts:
            part *= scale
        beyond = np.flatnonzero(np.take(top, over, mode="clip") * scale > 1)
        if len(beyond):
            inside = toward_grey(np.stack([p[beyond] for p in parts]), kept[beyond])
            for part, row in zip(parts, inside, strict=True):
                part[beyond] = row
        for row, part in zip(out, parts, strict=True):
            row[over] = part
    return out


def shouldered(lum: Row) -> Row:
    """Luminance as it is up to the shoulder, and beyond it ever less of it, up to white."""
    beyond = np.maximum(lum - np.float32(SHOULDER), 0) * np.float32(1 / (1 - SHOULDER))
    soft = 1 - np.float32(1 - SHOULDER) * np.exp(-beyond)
    return np.where(lum > SHOULDER, soft, lum).astype(lum.dtype)


def shade(local: Planar, cosines: Sequence[Row], occlusion: Row, lights: Lights) -> Planar:
    """What a local colour (3, n), linear light, becomes at N.L of every lamp and occlusion, each
    (n,): linear light the screen can show."""
    out = illumination(cosines, occlusion, lights)
    out *= local
    return fitted(tinted(out, tinting(cosines[0], lights)))
