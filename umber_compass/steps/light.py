"""What light does to a local colour: one function for picture, chart, ramps and volumes.

Light is added and multiplied in linear light: out = local x (ambient x openness + key x facing),
times the exposure. Chart, pictures and volumes use `illumination` and `fitted`; `shade` is both.
"""

from typing import NamedTuple, TypeAlias

import numpy as np
import numpy.typing as npt

from umber_compass.colour.spaces import LUMINANCE, Floats, decode, luminance, parse_hex
from umber_compass.plan.model import Ambient, Lamp, Rig

Planar: TypeAlias = npt.NDArray[np.float32]  # (3, n), a row for each channel
Row: TypeAlias = npt.NDArray[np.float32]  # (n,)

DEFAULT = Rig()
DARK = 1e-6  # linear light below which nothing is lit
# The place where light turns is this wide in N.L, for a hard and for a wholly soft lamp (studio
# rule, docs/light.md).
_BAND_HARD, _BAND_SOFT = 0.18, 0.42
_WRAP_SOFT = 0.5  # N.L by which a wholly soft lamp reaches round a form
SHOULDER = 0.8  # luminance, L* 91.7, from which more light gives ever less (studio rule)
_LUMINANCE = LUMINANCE.astype(np.float32)


class Lights(NamedTuple):
    """A rig as numbers: linear light, and the unit direction toward the key."""

    ambient: Floats  # (3,)
    key: Floats  # (3,)
    direction: tuple[float, float, float]
    wrap: float  # N.L at which the key's light begins to give way
    tint: Floats  # (3,), of luminance 1
    tint_share: float  # 0-1
    band: float  # width of the tint in N.L
    crevice: float  # 0-1
    exposure: float = 1.0

    @property
    def is_dark(self) -> bool:
        """Whether nothing shines."""
        return float(luminance(self.ambient) + luminance(self.key)) < DARK


def lights_of(rig: Rig) -> Lights:
    """The lights of a rig, at exposure 1."""
    lamp = rig.lamps[0]
    key = _light(lamp)
    tint = decode(parse_hex(rig.terminator.hex))
    lit = bool(luminance(key) > DARK and luminance(tint) > DARK)
    return Lights(
        ambient=_light(rig.ambient),
        key=key,
        direction=unit(lamp.direction),
        wrap=_WRAP_SOFT * lamp.softness,
        tint=tint / luminance(tint) if lit else np.ones(3),
        tint_share=rig.terminator.strength / 100 if lit else 0.0,
        band=_BAND_HARD + (_BAND_SOFT - _BAND_HARD) * lamp.softness,
        crevice=rig.crevice / 100,
    )


def _light(lamp: Ambient | Lamp) -> Floats:
    """A lamp's light: its colour's linear light times its strength."""
    if not lamp.on:
        return np.zeros(3)
    return np.asarray(decode(parse_hex(lamp.hex)) * (lamp.strength / 100))


def unit(direction: tuple[float, float, float]) -> tuple[float, float, float]:
    """A direction of length 1; straight from the front if it has no length."""
    length = float(np.linalg.norm(direction))
    if length < 1e-6:
        return 0.0, 0.0, 1.0
    return direction[0] / length, direction[1] / length, direction[2] / length


def facing(normals: Planar, direction: tuple[float, float, float]) -> Row:
    """N.L, -1 to 1, of normals (3, n)."""
    out: Row = normals[0] * np.float32(direction[0])
    out += normals[1] * np.float32(direction[1])
    out += normals[2] * np.float32(direction[2])
    return out


def reached(turn: Row, wrap: float) -> Row:
    """How much of the key's light a surface takes, 0-1, at N.L (n,). Within the wrap it gives way
    as a parabola, so that the terminator is soft; outside it is the cosine."""
    if wrap < 1e-3:
        return np.maximum(turn, 0)
    w = np.float32(wrap)
    soft = np.clip(turn, -w, w)
    soft += w
    soft *= soft
    soft *= np.float32(1 / (4 * wrap))
    return np.where(turn > w, turn, soft)


def illumination(turn: Row, openness: Row, lights: Lights, unshadowed: Row | None = None) -> Planar:
    """The light that arrives, (3, n), at N.L and openness (n,), exposed; `unshadowed`, 0-1, is the
    share of the key that nothing keeps away."""
    lamp = reached(turn, lights.wrap)
    if unshadowed is not None:
        lamp *= unshadowed
    if lights.crevice < 1:
        openness = 1 - np.float32(lights.crevice) * (1 - openness)
    out = np.empty((3, len(turn)), np.float32)
    for i in range(3):
        np.multiply(openness, np.float32(lights.ambient[i] * lights.exposure), out=out[i])
        out[i] += lamp * np.float32(lights.key[i] * lights.exposure)
    if lights.tint_share > 0:
        near = turn * np.float32(1 / lights.band)
        near *= near
        near = np.exp(-near)
        for i in range(3):
            out[i] *= 1 + near * np.float32(lights.tint_share * (lights.tint[i] - 1))
    return out


def fitted(out: Planar) -> Planar:
    """Linear light, (3, n), brought into what the screen shows. Light beyond the shoulder gives
    way smoothly, so that white is never reached by a step; colours too strong for the screen go
    toward the grey of their luminance, so that value is exact. In place."""
    top = np.maximum(np.maximum(out[0], out[1]), out[2])
    over = np.flatnonzero(top > SHOULDER)
    if len(over):
        parts = [np.take(row, over) for row in out]
        lum = parts[0] * _LUMINANCE[0] + parts[1] * _LUMINANCE[1] + parts[2] * _LUMINANCE[2]
        kept = shouldered(lum)
        scale = kept / np.maximum(lum, np.float32(1e-6))
        room = np.maximum(np.take(top, over) * scale - kept, np.float32(1e-6))
        share = np.minimum((1 - kept) / room, 1)
        scale *= share
        kept *= 1 - share
        for row, part in zip(out, parts, strict=True):
            row[over] = part * scale + kept
    return out


def shouldered(lum: Row) -> Row:
    """Luminance as it is up to the shoulder, and beyond it ever less of it, up to white."""
    beyond = np.maximum(lum - np.float32(SHOULDER), 0) * np.float32(1 / (1 - SHOULDER))
    soft = 1 - np.float32(1 - SHOULDER) * np.exp(-beyond)
    return np.where(lum > SHOULDER, soft, lum).astype(lum.dtype)


def shade(local: Planar, turn: Row, openness: Row, lights: Lights) -> Planar:
    """What a local colour (3, n), linear light, becomes at N.L and openness (n,): linear light the
    screen can show."""
    out = illumination(turn, openness, lights)
    out *= local
    return fitted(out)
