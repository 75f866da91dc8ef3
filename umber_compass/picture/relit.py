"""The lit picture, quickly, from codes: what is seen while something is dragged.

It takes what `shade.shade` does apart, so that the light of a rig is kept while colours are
dragged; the exact picture (exact.py) is what tests hold it to.
"""

from collections.abc import Mapping
from typing import NamedTuple

import numpy as np

from umber_compass.colour.packed import Levels, PackedRow
from umber_compass.colour.spaces import (
    LUMINANCE,
    Floats,
    decode,
    encode,
    value_of_luminance,
)
from umber_compass.picture.buffers import SurfaceBuffers
from umber_compass.picture.finishing import Gloss, Parts, gloss, on_key, on_rest
from umber_compass.picture.light import (
    Lights,
    add_key,
    beside_key,
    facing,
    key_share,
    of_key,
)
from umber_compass.picture.mixes import Ints
from umber_compass.picture.pools import PoolLight, on_the_mean
from umber_compass.picture.reach import Ends, between, mixed_by
from umber_compass.picture.screen import SHOULDER, eased, fitted, luminance_of
from umber_compass.picture.sharing import bends, mixed_parts
from umber_compass.picture.tint import Tint, tinted, tinting
from umber_compass.picture.ways import Planar, Row

# Encoded level by the first bits of linear light as a float: 10 of its fraction, and the exponents
# from 2^-13, under which a level is nought. No root need be taken.
_CUT, _LEAST = 13, np.float32(2.0**-13)
_FIRST = int(_LEAST.view(np.int32)) >> _CUT
_PLACES = np.arange(_FIRST, (int(np.float32(1).view(np.int32)) >> _CUT) + 1, dtype=np.int32)
# In the middle of what has the same bits; the last is 1 alone.
_MIDDLE = (_PLACES << _CUT | 1 << (_CUT - 1)).view(np.float32)
_LEVEL = np.asarray(encode(np.minimum(_MIDDLE, 1)) * 255 + 0.5).astype(np.uint32)
PAPER = np.uint32(0xFFFFFF)
_SHIFTED = tuple(_LEVEL << s for s in (16, 8, 0))  # of red, green and blue in a packed colour
_LINEAR = decode(np.arange(256) / 255).astype(np.float32)


class Arriving(NamedTuple):
    """The light that arrives in a rig, whatever the colours are, at exposure 1."""

    light: Planar  # (3, codes) with the key's wherever forms turn to it
    shade: Planar | None  # the same without the key's; None where no px is between the two
    share: Row | None  # (codes,) of the key's light, what reaches each code's px on the mean
    cosine: Row  # (codes,) N.L of the key
    tint: Tint | None  # of the terminator, by code
    gloss: Gloss | None
    unlit: Ints  # codes that no light falls on: they shine, or are far away

    @property
    def mean(self) -> Planar:
        """The light on each code's px on the mean, (3, codes)."""
        if self.shade is None or self.share is None:
            return self.light
        return np.asarray(self.shade + (self.light - self.shade) * self.share)


class Lit(NamedTuple):
    """The colours of every code in a plan's light."""

    lights: Lights  # exposed
    packed: PackedRow  # (codes,), encoded, as its px are on the mean
    ends: Ends | None  # None where they are alike: every px is as its code
    rest: dict[str, float]  # L* by region id: what the exposure could not hold


class Told(NamedTuple):
    """What codes are told of light beside their forms."""

    parts: Parts  # the codes of each finish
    spared: Mapping[str, Ints]  # by lamp, the codes it does not light
    edge: Row | None  # (codes,) how wide light turns to shade; None: as the way has it
    masked: bool  # whether px are between light and shade


PLAIN = Told({}, {}, None, False)


def local_light(table: Levels) -> Planar:
    """Linear light, (3, flat codes), of the flat picture's colours (flat codes, 3)."""
    return np.ascontiguousarray(_LINEAR[table].T)


def arriving(
    buffers: SurfaceBuffers, lights: Lights, told: Told = PLAIN, shadow: Row | None = None
) -> Arriving:
    """The light on every code, at exposure 1. `shadow`, (codes,), is what other things keep away of
    the key's light on the mean."""
    surface = buffers.surface
    cosine = facing(surface.normal, lights.key.direction)
    kept = kept_of(lights, told.spared, buffers.size)
    rest = beside_key(surface, lights, kept)
    taken = of_key(surface, cosine, lights)
    on_key(taken, cosine, told.parts)
    on_rest(rest, surface, cosine, lights, told.parts)
    if kept is not None:
        taken *= kept[0]
    tint, shine = (
        tinting(cosine, lights, surface.turned),
        gloss(surface, cosine, lights, told.parts),
    )
    unlit = _unlit(told.parts)
    light = rest.copy() if told.masked else rest
    add_key(light, taken, cosine, lights, surface.turned)
    if not told.masked:
        return Arriving(light, None, None, cosine, tint, shine, unlit)
    share = key_share(cosine, lights, surface.turned, told.edge)
    if shadow is not None:
        share *= 1 - shadow
    return Arriving(light, rest, share, cosine, tint, shine, unlit)


def kept_of(lights: Lights, spared: Mapping[str, Ints], count: int) -> list[Row] | None:
    """The share of each lamp's light, (count,), that is not kept from what it spares; None where
    nothing is spared."""
    if not spared:
        return None
    found = []
    for lamp in lights.lamps:
        row = np.ones(count, np.float32)
        if lamp.name in spared:
            row[spared[lamp.name]] = 0
        found.append(row)
    return found


def _unlit(parts: Parts) -> Ints:
    nothing = np.zeros(0, np.intp)
    return np.concatenate([nothing, *(at for finish, at in parts.items() if not finish.lit)])


def light_up(
    buffers: SurfaceBuffers,
    local: Planar,
    arriving: Arriving,
    lights: Lights,
    pools: tuple[PoolLight, ...] = (),
) -> tuple[PackedRow, Ends | None]:
    """Encoded colours of every code, (codes,), in the light that arrives on each, exposed as the
    lights are: on the mean of its px, and lit by the key and in shade, where those differ. `local`
    is by flat code."""
    own = np.empty_like(arriving.light)
    for i in range(3):
        np.take(local[i], buffers.local, out=own[i], mode="clip")
    exposed = arriving.light * np.float32(lights.exposure)
    light = _coloured(buffers, own, exposed, arriving)
    lit = bright = light.packed
    shine = arriving.gloss
    if shine is not None and len(shine.at):
        bright = lit.copy()
        bright[shine.at] = _highlit(own, exposed, lights, shine)
    if arriving.shade is None or arriving.share is None:
        mean = lit if shine is None else mixed_parts(bright, lit, _whole(shine, len(lit)))
        none, bend = np.zeros(len(lit), np.uint32), np.zeros(len(lit), np.uint8)
        if shine is None and not pools:
            return mean, None
        ends = Ends(lit, lit, bright, mean, bend, (), none)
        return _with_pools(ends, buffers, own, (light.linear,), arriving, lights, pools)
    dark = arriving.shade * np.float32(lights.exposure)
    shade = _coloured(buffers, own, dark, arriving)
    half = _halves(own, exposed, dark, light.lum)
    half[arriving.unlit] = 0
    ends = Ends(lit, shade.packed, bright, lit, bends(shade.lum, light.lum), (), half)
    level = np.clip(arriving.share * 255 + 0.5, 0, 255).astype(np.uint8)
    mean = between(ends, np.arange(len(lit)), level)
    if shine is not None:
        mean = mixed_parts(bright, mean, _whole(shine, len(lit)) * arriving.share)
    ends = ends._replace(mean=mean)
    both = light.linear, shade.linear
    return _with_pools(ends, buffers, own, both, arriving, lights, pools)


def _with_pools(
    ends: Ends,
    buffers: SurfaceBuffers,
    own: Planar,
    sides: tuple[Planar, ...],
    arriving: Arriving,
    lights: Lights,
    pools: tuple[PoolLight, ...],
) -> tuple[PackedRow, Ends]:
    """The codes on the mean, and the ends, with what each light on a part of the picture adds.
    `sides` are the codes in the key's light and, where they differ, in shade, as the screen shows
    them: what is added to those is brought into the screen simply, for it is little."""
    mean, found = ends.mean, []
    for pool in pools:
        codes = pool.spread.codes
        added = pool.on(buffers.surface, codes, lights)
        added *= pool.spread.most[codes] * np.float32(1 / 255)
        added *= np.take(own, codes, axis=1, mode="clip")
        both: list[PackedRow] = []
        for side, plain in zip(sides, (ends.lit, ends.shade), strict=False):
            row = plain.copy()
            row[codes] = _encoded(eased(np.take(side, codes, axis=1, mode="clip") + added))
            both.append(row)
        share = np.full(len(codes), 255, np.uint8)
        if arriving.share is not None:
            share = np.clip(arriving.share[codes] * 255 + 0.5, 0, 255).astype(np.uint8)
        lit = mixed_by(both[0], both[-1], ends.bend, codes, share)
        mean = on_the_mean(mean, lit, pool.spread)
        found.append((both[0], both[-1]))
    return mean, ends._replace(mean=mean, pools=tuple(found))


def _halves(own: Planar, lit: Planar, dark: Planar, lum: Row) -> PackedRow:
    """Codes lit by half of the key, (codes,), where the whole of it is more than the screen shows;
    0 elsewhere."""
    found = np.zeros(len(lum), np.uint32)
    over = np.flatnonzero(lum > SHOULDER)
    if len(over):
        out = (lit[:, over] + dark[:, over]) * np.float32(0.5) * own[:, over]
        found[over] = _encoded(fitted(np.ascontiguousarray(out, np.float32)))
    return found


def _whole(shine: Gloss, count: int) -> Row:
    """How much of a highlight lies on each code, (codes,)."""
    found = np.zeros(count, np.float32)
    found[shine.at] = shine.shape
    return found


def _highlit(own: Planar, exposed: Planar, lights: Lights, shine: Gloss) -> PackedRow:
    """Codes in the middle of a highlight, (k,)."""
    out = own[:, shine.at] * exposed[:, shine.at]
    out += shine.light * np.float32(lights.exposure)
    return _encoded(fitted(np.ascontiguousarray(out, np.float32)))


class _Coloured(NamedTuple):
    """Codes in one light."""

    packed: PackedRow  # (codes,)
    lum: Row  # (codes,) before it was brought into the screen
    linear: Planar  # (3, codes) after that


def _coloured(
    buffers: SurfaceBuffers, own: Planar, exposed: Planar, arriving: Arriving
) -> _Coloured:
    """Local colours, (3, codes), in one light, tinted, and brought into the screen."""
    out = tinted(own * exposed, arriving.tint)
    if len(arriving.unlit):
        out[:, arriving.unlit] = own[:, arriving.unlit]
    lum = luminance_of(out)
    out = fitted(out)
    packed = _encoded(out)
    packed[buffers.local == 0] = PAPER  # no light falls where nothing is painted
    return _Coloured(packed, lum, out)


def _encoded(linear: Planar) -> PackedRow:
    """Linear light 0-1, (3, n), encoded and packed, by a table."""
    place = (linear.view(np.int32) >> _CUT).astype(np.intp)
    place -= _FIRST
    packed: PackedRow = np.take(_SHIFTED[0], place[0], mode="clip")
    for i in (1, 2):
        packed |= np.take(_SHIFTED[i], place[i], mode="clip")
    return packed


def values_of(packed: PackedRow) -> Floats:
    """Value L* of encoded colours (codes,), shape (codes,)."""
    lum = np.zeros(len(packed), np.float32)
    for shift, weight in zip((16, 8, 0), LUMINANCE, strict=True):
        lum += _LINEAR[(packed >> np.uint32(shift)) & np.uint32(255)] * np.float32(weight)
    return value_of_luminance(lum)
