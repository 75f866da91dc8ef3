"""The lit picture: quickly from codes while something is dragged, exactly once it is let go.

The exact one shades every pixel with `light.shade` and is the reference that tests hold the coded
one to; that one takes its halves apart, `illumination` and `fitted`, so that the light of a rig is
kept while colours are dragged.
"""

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
from umber_compass.picture.indexed import IndexedPicture, blended, codes_by_px
from umber_compass.picture.light import (
    Lights,
    Planar,
    Row,
    Tint,
    facings,
    fitted,
    illumination,
    shade,
    tinted,
    tinting,
)
from umber_compass.picture.mixes import Ints
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
    """The light that arrives in a rig, whatever the colours are."""

    light: Planar  # (3, codes), at exposure 1
    cosine: Row  # (codes,) N.L of the key
    tint: Tint | None  # of the terminator, by code


class Lit(NamedTuple):
    """The colours of every code in a plan's light."""

    lights: Lights  # exposed
    packed: PackedRow  # (codes,), encoded
    rest: dict[str, float]  # L* by region id: what the exposure could not hold


def local_light(table: Levels) -> Planar:
    """Linear light, (3, flat codes), of the flat picture's colours (flat codes, 3)."""
    return np.ascontiguousarray(_LINEAR[table].T)


def arriving(buffers: SurfaceBuffers, lights: Lights) -> Arriving:
    """The light on every code, at exposure 1."""
    cosines = facings(buffers.normal, lights)
    light = illumination(cosines, buffers.occlusion, lights)
    return Arriving(light, cosines[0], tinting(cosines[0], lights))


def light_up(
    buffers: SurfaceBuffers, local: Planar, arriving: Arriving, lights: Lights
) -> PackedRow:
    """Encoded colours of every code, (codes,), in the light that arrives on each, exposed as the
    lights are. `local` is by flat code."""
    out = np.empty_like(arriving.light)
    exposed = local * np.float32(lights.exposure)
    for i in range(3):
        np.take(exposed[i], buffers.local, out=out[i], mode="clip")
    out *= arriving.light
    packed = _encoded(fitted(tinted(out, arriving.tint)))
    packed[buffers.local == 0] = _PAPER  # no light falls where nothing is painted
    return packed


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


def paint_exact(
    buffers: SurfaceBuffers,
    indexed: IndexedPicture,
    table: Levels,
    lights: Lights,
    tick: Tick = idle,
) -> Packed:
    """The exact picture, (h, w), 0x00RRGGBB: every pixel shaded with its own facing and occlusion.
    `table` is the flat picture's colours by flat code."""
    height, width = buffers.shape
    flat = codes_by_px(indexed).reshape(height, width)
    local = local_light(table)
    picture = np.empty((height, width), np.uint32)
    for top in range(0, height, _TILE):
        tick(top / height)
        rows = slice(top, min(top + _TILE, height))
        nx, ny = buffers.forms.nx[rows].reshape(-1), buffers.forms.ny[rows].reshape(-1)
        occlusion = buffers.forms.occlusion[rows].reshape(-1)
        line = _shaded(local, flat[rows].reshape(-1), nx, ny, occlusion, lights)
        picture[rows] = line.reshape(-1, width)
    flat_picture = picture.reshape(-1)
    own, other = flat_picture[buffers.place], flat_picture[buffers.other_place]
    more = blended(flat_picture[buffers.rest_places], buffers.rest.share)
    flat_picture[buffers.place] = _mixed(own, other, buffers.cover)
    flat_picture[buffers.rest.place] = more
    return picture


def shaded_at(
    buffers: SurfaceBuffers, indexed: IndexedPicture, table: Levels, lights: Lights, place: Ints
) -> PackedRow:
    """The exact colours of some px, (n,), without the mixing of borders; `place` is in the flat
    picture."""
    flat = codes_by_px(indexed)[place]
    nx, ny = buffers.forms.nx.reshape(-1)[place], buffers.forms.ny.reshape(-1)[place]
    occlusion = buffers.forms.occlusion.reshape(-1)[place]
    return _shaded(local_light(table), flat, nx, ny, occlusion, lights)


def _shaded(
    local: Planar, flat: Ints, nx: Half, ny: Half, occlusion: Levels, lights: Lights
) -> PackedRow:
    """Px, (n,), shaded each with its own facing and ambient occlusion."""
    x, y = nx.astype(np.float32), ny.astype(np.float32)
    normal = np.stack([x, y, np.sqrt(np.maximum(1 - x * x - y * y, 0))])
    open_ = occlusion.astype(np.float32) / np.float32(255)
    out = shade(local[:, flat], facings(normal, lights), open_, lights)
    wide = np.asarray(encode(out) * np.float32(255) + np.float32(0.5)).astype(np.uint32)
    line: PackedRow = wide[0] << 16 | wide[1] << 8 | wide[2]
    line[flat == 0] = _PAPER
    return line


def values_of(packed: PackedRow) -> Floats:
    """Value L* of encoded colours (codes,), shape (codes,)."""
    lum = np.zeros(len(packed), np.float32)
    for shift, weight in zip((16, 8, 0), LUMINANCE, strict=True):
        lum += _LINEAR[(packed >> np.uint32(shift)) & np.uint32(255)] * np.float32(weight)
    return value_of_luminance(lum)
