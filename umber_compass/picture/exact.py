"""The lit picture, exactly: every px shaded with `shade.shade`, once nothing is dragged."""

from collections.abc import Mapping
from typing import NamedTuple, TypeAlias

import numpy as np
import numpy.typing as npt

from umber_compass.colour.packed import Levels, Packed, PackedRow
from umber_compass.colour.spaces import encode
from umber_compass.picture.buffers import SurfaceBuffers
from umber_compass.picture.finish import Finish
from umber_compass.picture.finishing import parts_of
from umber_compass.picture.forms import FLAT, ROUND
from umber_compass.picture.indexed import IndexedPicture, blended, codes_by_px
from umber_compass.picture.light import Lights, Surface, facing
from umber_compass.picture.mixes import Ints, Labels
from umber_compass.picture.pools import PoolLight
from umber_compass.picture.reach import edge_on, is_turned
from umber_compass.picture.relit import PAPER, kept_of, local_light
from umber_compass.picture.shade import shade
from umber_compass.picture.ways import WAYS, Planar, Row, share_of
from umber_compass.work import Tick, idle, in_turn

Half: TypeAlias = npt.NDArray[np.float16]

_TILE = 64  # rows shaded at a time: they stay in the cache


class Exact(NamedTuple):
    """What the exact picture is made with."""

    lights: Lights  # exposed
    finishes: Mapping[int, Finish]  # by label, those that are not matte
    spares: Mapping[str, frozenset[int]]  # by lamp, the labels it does not light
    shadow: npt.NDArray[np.uint8] | None  # (h x w,) of the key's light, what is kept away of 255
    edges: Mapping[int, float]  # by label, how wide light turns to shade there
    pools: tuple[tuple[PoolLight, Row], ...] = ()  # and how much of it each px has, 0-1, (h x w,)


def paint_exact(
    buffers: SurfaceBuffers,
    indexed: IndexedPicture,
    table: Levels,
    labels: Labels,
    exact: Exact,
    tick: Tick = idle,
    workers: int = 1,
) -> Packed:
    """The exact picture, (h, w), 0x00RRGGBB: every pixel shaded with its own facing, occlusion and
    share of the key's light. `table` is the flat picture's colours by flat code; `workers` threads
    share the work."""
    height, width = buffers.shape
    local = local_light(table)
    codes = codes_by_px(indexed)
    picture = np.empty((height, width), np.uint32)

    def paint(top: int) -> int:
        rows = slice(top, min(top + _TILE, height))
        place = np.arange(rows.start * width, rows.stop * width)
        line = _shaded(buffers, local, codes[place], labels.reshape(-1)[place], place, exact)
        picture[rows] = line.reshape(-1, width)
        return top

    for top in in_turn(paint, range(0, height, _TILE), workers):
        tick(top / height)
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
    for pool, near in exact.pools:
        added = pool.on(surface, None, lights) * near[place]
        more = added if more is None else more + added
    out = shade(local[:, flat], surface, lights, kept, share, parts, more)
    wide = np.asarray(encode(out) * np.float32(255) + np.float32(0.5)).astype(np.uint32)
    line: PackedRow = wide[0] << 16 | wide[1] << 8 | wide[2]
    line[flat == 0] = PAPER
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


def _mixed(top: PackedRow, under: PackedRow, cover: Row) -> PackedRow:
    """Packed colours mixed on encoded values; `cover`, 0-1, is the top's."""
    out = np.zeros(len(top), np.uint32)
    for shift in (16, 8, 0):
        over, below = (((c >> shift) & 255).astype(np.float32) for c in (top, under))
        level = below + (over - below) * cover + np.float32(0.5)
        out |= level.astype(np.uint32) << np.uint32(shift)
    return out
