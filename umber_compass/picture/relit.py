"""The lit picture: quickly from codes while something is dragged, exactly once it is let go.

The exact one shades every pixel with `shade.shade` and is the reference that tests hold the coded
one to; that one takes it apart, so that the light of a rig is kept while colours are dragged.
"""

from collections.abc import Mapping
from typing import NamedTuple, TypeAlias

import numpy as np
import numpy.typing as npt

from umber_compass.colour.packed import Levels, Packed, PackedRow
from umber_compass.colour.spaces import (
    LUMINANCE,
    Floats,
    decode,
    encode,
    value_of_luminance,
)
from umber_compass.picture.buffers import SurfaceBuffers
from umber_compass.picture.finish import Finish
from umber_compass.picture.finishing import Gloss, Parts, gloss, on_key, on_rest
from umber_compass.picture.forms import FLAT, ROUND
from umber_compass.picture.indexed import IndexedPicture, blended, codes_by_px
from umber_compass.picture.light import (
    Lights,
    Surface,
    add_key,
    beside_key,
    facing,
    key_share,
    of_key,
)
from umber_compass.picture.mixes import Ints, Labels
from umber_compass.picture.reach import (
    Ends,
    Glow,
    bends,
    between,
    edge_on,
    is_turned,
    mixed_parts,
    near_glow,
)
from umber_compass.picture.screen import SHOULDER, fitted, luminance_of
from umber_compass.picture.shade import shade
from umber_compass.picture.tint import Tint, of_codes, tinted, tinting
from umber_compass.picture.ways import WAYS, Planar, Row, share_of
from umber_compass.work import Tick, idle

Half: TypeAlias = npt.NDArray[np.float16]

_TILE = 64  # rows shaded at a time: they stay in the cache
# Encoded level by the first bits of linear light as a float: 10 of its fraction, and the exponents
# from 2^-13, under which a level is nought. No root need be taken.
_CUT, _LEAST = 13, np.float32(2.0**-13)
_FIRST = int(_LEAST.view(np.int32)) >> _CUT
_PLACES = np.arange(_FIRST, (int(np.float32(1).view(np.int32)) >> _CUT) + 1, dtype=np.int32)
# In the middle of what has the same bits; the last is 1 alone.
_MIDDLE = (_PLACES << _CUT | 1 << (_CUT - 1)).view(np.float32)
_LEVEL = np.asarray(encode(np.minimum(_MIDDLE, 1)) * 255 + 0.5).astype(np.uint32)
_PAPER = np.uint32(0xFFFFFF)
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
    glow: Glow | None = None,
) -> tuple[PackedRow, Ends | None]:
    """Encoded colours of every code, (codes,), in the light that arrives on each, exposed as the
    lights are: on the mean of its px, and lit by the key and in shade, where those differ. `local`
    is by flat code."""
    own = np.empty_like(arriving.light)
    for i in range(3):
        np.take(local[i], buffers.local, out=own[i], mode="clip")
    exposed = arriving.light * np.float32(lights.exposure)
    lit, bright_lum = _coloured(buffers, own, exposed, arriving)
    bright, shine = lit, arriving.gloss
    if shine is not None and len(shine.at):
        bright = lit.copy()
        bright[shine.at] = _highlit(own, exposed, lights, shine)
    if arriving.shade is None or arriving.share is None:
        mean = lit if shine is None else mixed_parts(bright, lit, _whole(shine, len(lit)))
        glowing = _glowing(mean, own, arriving, lights, glow)
        mean = near_glow(mean, glowing, glow)
        none, bend = np.zeros(len(lit), np.uint32), np.zeros(len(lit), np.uint8)
        alike = shine is None and glowing is None
        return mean, None if alike else Ends(lit, lit, bright, mean, bend, glowing, none)
    dark = arriving.shade * np.float32(lights.exposure)
    shade, dark_lum = _coloured(buffers, own, dark, arriving)
    half = _halves(own, exposed, dark, bright_lum)
    half[arriving.unlit] = 0
    bend = bends(dark_lum, bright_lum)
    ends = Ends(lit, shade, bright, lit, bend, None, half)
    level = np.clip(arriving.share * 255 + 0.5, 0, 255).astype(np.uint8)
    mean = between(ends, np.arange(len(lit)), level)
    if shine is not None:
        mean = mixed_parts(bright, mean, _whole(shine, len(lit)) * arriving.share)
    glowing = _glowing(mean, own, arriving, lights, glow)
    mean = near_glow(mean, glowing, glow)
    return mean, ends._replace(mean=mean, glowing=glowing)


def _glowing(
    mean: PackedRow, own: Planar, arriving: Arriving, lights: Lights, glow: Glow | None
) -> PackedRow | None:
    """Codes in all the light of what glows, (codes,), where any reaches them; None where nothing
    glows. `mean` is what the others are."""
    if glow is None:
        return None
    codes, found = glow.spread.codes, mean.copy()
    light = np.take(arriving.mean, codes, axis=1, mode="clip") * np.float32(lights.exposure)
    most = glow.spread.most[codes] * np.float32(1 / 255)
    light += np.array(glow.light, np.float32)[:, None] * most
    light *= np.take(own, codes, axis=1, mode="clip")
    found[codes] = _encoded(fitted(tinted(light, of_codes(arriving.tint, codes))))
    return found


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


def _coloured(
    buffers: SurfaceBuffers, own: Planar, exposed: Planar, arriving: Arriving
) -> tuple[PackedRow, Row]:
    """Local colours, (3, codes), in one light, tinted, and brought into the screen; and their
    luminance before that."""
    out = tinted(own * exposed, arriving.tint)
    if len(arriving.unlit):
        out[:, arriving.unlit] = own[:, arriving.unlit]
    lum = luminance_of(out)
    packed = _encoded(fitted(out))
    packed[buffers.local == 0] = _PAPER  # no light falls where nothing is painted
    return packed, lum


def _encoded(linear: Planar) -> PackedRow:
    """Linear light 0-1, (3, n), encoded and packed, by a table."""
    place = (linear.view(np.int32) >> _CUT).astype(np.intp)
    place -= _FIRST
    packed: PackedRow = np.take(_SHIFTED[0], place[0], mode="clip")
    for i in (1, 2):
        packed |= np.take(_SHIFTED[i], place[i], mode="clip")
    return packed


def _mixed(top: PackedRow, under: PackedRow, cover: Row) -> PackedRow:
    """Packed colours mixed on encoded values; `cover`, 0-1, is the top's."""
    out = np.zeros(len(top), np.uint32)
    for shift in (16, 8, 0):
        over, below = (((c >> shift) & 255).astype(np.float32) for c in (top, under))
        level = below + (over - below) * cover + np.float32(0.5)
        out |= level.astype(np.uint32) << np.uint32(shift)
    return out


class Exact(NamedTuple):
    """What the exact picture is made with."""

    lights: Lights  # exposed
    finishes: Mapping[int, Finish]  # by label, those that are not matte
    spares: Mapping[str, frozenset[int]]  # by lamp, the labels it does not light
    shadow: npt.NDArray[np.uint8] | None  # (h x w,) of the key's light, what is kept away of 255
    edges: Mapping[int, float]  # by label, how wide light turns to shade there
    glow: Glow | None = None
    near: Row | None = None  # (h x w,) how much of it reaches each px, 0-1


def paint_exact(
    buffers: SurfaceBuffers,
    indexed: IndexedPicture,
    table: Levels,
    labels: Labels,
    exact: Exact,
    tick: Tick = idle,
) -> Packed:
    """The exact picture, (h, w), 0x00RRGGBB: every pixel shaded with its own facing, occlusion and
    share of the key's light. `table` is the flat picture's colours by flat code."""
    height, width = buffers.shape
    local = local_light(table)
    codes = codes_by_px(indexed)
    picture = np.empty((height, width), np.uint32)
    for top in range(0, height, _TILE):
        tick(top / height)
        rows = slice(top, min(top + _TILE, height))
        place = np.arange(rows.start * width, rows.stop * width)
        line = _shaded(buffers, local, codes[place], labels.reshape(-1)[place], place, exact)
        picture[rows] = line.reshape(-1, width)
    flat_picture = picture.reshape(-1)
    own, other = flat_picture[buffers.place], flat_picture[buffers.other_place]
    more = blended(flat_picture[buffers.rest_places], buffers.rest.share)
    flat_picture[buffers.place] = _mixed(own, other, buffers.cover)
    flat_picture[buffers.rest.place] = more
    return picture


def shaded_at(
    buffers: SurfaceBuffers,
    indexed: IndexedPicture,
    table: Levels,
    labels: Labels,
    exact: Exact,
    place: Ints,
) -> PackedRow:
    """The exact colours of some px, (n,), without the mixing of borders; `place` is in the flat
    picture."""
    local, flat = local_light(table), codes_by_px(indexed)[place]
    return _shaded(buffers, local, flat, labels.reshape(-1)[place], place, exact)


def _shaded(
    buffers: SurfaceBuffers, local: Planar, flat: Ints, label: Labels, place: Ints, exact: Exact
) -> PackedRow:
    """Px, (n,), shaded each with its own facing and ambient occlusion."""
    forms, lights = buffers.forms, exact.lights
    nx, ny = forms.nx.reshape(-1)[place], forms.ny.reshape(-1)[place]
    own = forms.kind[label] == ROUND
    turned = is_turned(nx, ny, own)
    x, y = nx.astype(np.float32), ny.astype(np.float32)
    # A line lies on a form and is seen with it, but is none itself.
    x[forms.kind[label] == FLAT], y[forms.kind[label] == FLAT] = 0, 0
    normal = np.stack([x, y, np.sqrt(np.maximum(1 - x * x - y * y, 0))])
    open_ = forms.occlusion.reshape(-1)[place].astype(np.float32) / np.float32(255)
    share = _exact_share(nx, ny, turned, label, place, exact)
    parts = parts_of(exact.finishes, label)
    spared = {n: np.flatnonzero(np.isin(label, list(s))) for n, s in exact.spares.items()}
    kept = kept_of(lights, spared, len(label))
    surface = Surface(normal, open_, own)
    more = None
    if exact.glow is not None and exact.near is not None:
        more = np.array(exact.glow.light, np.float32)[:, None] * exact.near[place]
    out = shade(local[:, flat], surface, lights, kept, share, parts, more)
    wide = np.asarray(encode(out) * np.float32(255) + np.float32(0.5)).astype(np.uint32)
    line: PackedRow = wide[0] << 16 | wide[1] << 8 | wide[2]
    line[flat == 0] = _PAPER
    return line


def _exact_share(
    nx: Half, ny: Half, turned: npt.NDArray[np.bool_], label: Labels, place: Ints, exact: Exact
) -> Row:
    """The share of the key's light that reaches px, (n,)."""
    lights, share = exact.lights, np.ones(len(place), np.float32)
    if WAYS[lights.way].steps:
        at = np.flatnonzero(turned)
        x, y = nx[at].astype(np.float32), ny[at].astype(np.float32)
        normal = np.stack([x, y, np.sqrt(np.maximum(1 - x * x - y * y, 0))])
        edge = edge_on(label[at], lights, exact.edges)
        share[at] = share_of(facing(normal, lights.key.direction), lights.way, edge)
    if exact.shadow is not None:
        share *= 1 - exact.shadow[place].astype(np.float32) / np.float32(255)
    return share


def parts_of(finishes: Mapping[int, Finish], label: Labels | Ints) -> Parts:
    """The places of labels, (n,), by their finish."""
    if not finishes:
        return {}
    found: dict[Finish, list[int]] = {}
    for one, finish in finishes.items():
        found.setdefault(finish, []).append(one)
    return {f: np.flatnonzero(np.isin(label, many)) for f, many in found.items()}


def values_of(packed: PackedRow) -> Floats:
    """Value L* of encoded colours (codes,), shape (codes,)."""
    lum = np.zeros(len(packed), np.float32)
    for shift, weight in zip((16, 8, 0), LUMINANCE, strict=True):
        lum += _LINEAR[(packed >> np.uint32(shift)) & np.uint32(255)] * np.float32(weight)
    return value_of_luminance(lum)
