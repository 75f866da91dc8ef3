"""How much of the key's light reaches each px that is shown: its form's own light or shade, and
what other things keep away. One share a px serves both edges, so that form shadow and cast shadow
are drawn alike (docs/light.md).

The picture is then mixed, px by px, of two: lit by the key wholly, and not at all.
"""

from collections.abc import Mapping
from typing import NamedTuple

import numpy as np
import numpy.typing as npt
from PIL import Image

from umber_compass.colour.packed import Packed, PackedRow
from umber_compass.picture.buffers import SurfaceBuffers
from umber_compass.picture.casting import Plane, Shadows
from umber_compass.picture.forms import SLOPE_NORMAL
from umber_compass.picture.indexed import blended, mixed_quickly
from umber_compass.picture.light import Lights, facing
from umber_compass.picture.mixes import Ints, Labels
from umber_compass.picture.seen import Grid, Seen
from umber_compass.picture.ways import WAYS, Planar, Row, share_of

Share8 = npt.NDArray[np.uint8]  # (n,) 255 is all of the key's light

# Mixed on encoded values, a share of shade looks like more of it than in light; raised so, lit and
# shade mixed are nearest to true light (CIEDE2000 .45 on the mean, docs/light.md).
_POWER = 1.3
_PART = np.round(256 * (1 - (1 - np.arange(256) / 255) ** _POWER)).astype(np.uint32)
FLOOR, WALL, THING, FREE = 0, 1, 2, 3  # the first three in the order of Shadows
_SLOPE = np.float16(SLOPE_NORMAL[1])


class Receivers(NamedTuple):
    """What px receive shadows as: by label FLOOR, WALL, THING, or FREE of any."""

    of_label: npt.NDArray[np.uint8]


class ShownForms(NamedTuple):
    """The forms of the px that are shown."""

    grid: Grid
    at: Ints  # (k,) those on round forms, in the picture that is shown
    normal: Planar  # (3, k)
    label: Labels  # (n,) of every px


def shown_forms(
    buffers: SurfaceBuffers, labels: Labels, grid: Grid, place: Ints | None = None
) -> ShownForms:
    """The forms that a grid shows; `place` is the px of the picture that each of its px shows,
    where it is not the whole picture px by px."""
    nx, ny = buffers.forms.nx.reshape(-1), buffers.forms.ny.reshape(-1)
    flat = labels.reshape(-1)
    if place is not None:
        nx, ny, flat = nx[place], ny[place], flat[place]
    at = np.flatnonzero(is_turned(nx, ny))
    x, y = nx[at].astype(np.float32), ny[at].astype(np.float32)
    normal = np.stack([x, y, np.sqrt(np.maximum(1 - x * x - y * y, 0))])
    return ShownForms(grid, at, normal, flat)


def is_turned(nx: npt.NDArray[np.float16], ny: npt.NDArray[np.float16]) -> npt.NDArray[np.bool_]:
    """Whether px, (n,), lie on a round form, a line over it included; not on a wall or floor."""
    return np.asarray((nx != 0) | ((ny != 0) & (ny != _SLOPE)))


class Reaching(NamedTuple):
    """What the key's light is kept away by, beside forms: shadows and what they fall on, and the
    edges of regions that were told one."""

    shadows: Shadows | None
    receivers: Receivers
    scale: float  # px of the picture for one of the shadows' planes
    edges: Mapping[int, float]  # by label, how wide light turns to shade there, N.L


def share_on(
    shown: ShownForms, lights: Lights, reaching: Reaching, places: Ints | None = None
) -> Share8:
    """The share of the key's light that reaches each px that is shown, (n,); `places` are those of
    its shadow, where they are known."""
    if reaching.shadows is None:
        share = np.full(len(shown.label), 255, np.uint8)
    elif places is not None:
        share = 255 - shadow_at(reaching.shadows, places)
    else:
        share = 255 - shadow_on(shown, reaching)
    if WAYS[lights.way].steps and len(shown.at):
        turn = facing(shown.normal, lights.key.direction)
        own = share_of(turn, lights.way, edge_on(shown.label[shown.at], lights, reaching.edges))
        own *= share[shown.at]
        share[shown.at] = (own + np.float32(0.5)).astype(np.uint8)
    return share


def edge_on(label: Labels, lights: Lights, edges: Mapping[int, float]) -> Row | float:
    """How wide the edge between light and shade is on px of labels (n,)."""
    if not edges:
        return lights.edge
    table = np.full(int(label.max(initial=0)) + 1, lights.edge, np.float32)
    for one, edge in edges.items():
        if one < len(table):
            table[one] = edge
    return np.asarray(table[label], np.float32)


def shadow_on(shown: ShownForms, reaching: Reaching) -> Share8:
    """How much of the key's light is kept away from each px that is shown, (n,), 0 to 255: drawn
    up smoothly."""
    shadows, kinds = reaching.shadows, reaching.receivers.of_label
    if shadows is None:
        return np.zeros(len(shown.label), np.uint8)
    kind = kinds[shown.label]
    out = np.zeros(len(kind), np.uint8)
    for number, plane in enumerate(shadows):
        if plane.any():
            drawn = _drawn_up(plane, shown.grid, reaching.scale)
            np.copyto(out, drawn, where=kind == number)
    return out


def places_of_shadow(shown: ShownForms, reaching: Reaching, shape: tuple[int, int]) -> Ints:
    """For each px that is shown the place of its shadow, (n,), in planes of a shape that lie one
    after the other, as `shadow_at` has them: the nearest, which is quick."""
    grid, (height, width) = shown.grid, shape
    x = (grid.left + (np.arange(grid.columns) + 0.5) * grid.width / grid.columns) / reaching.scale
    y = (grid.top + (np.arange(grid.rows) + 0.5) * grid.height / grid.rows) / reaching.scale
    column = np.clip(x.astype(np.intp), 0, width - 1)
    row = np.clip(y.astype(np.intp), 0, height - 1)
    kind = reaching.receivers.of_label[shown.label].astype(np.intp)
    return kind * (height * width) + (row[:, None] * width + column).reshape(-1)


def shadow_at(shadows: Shadows, places: Ints) -> Share8:
    """How much of the key's light is kept away at places, (n,), 0 to 255."""
    flat = [plane.reshape(-1) for plane in shadows]
    every = np.concatenate([*flat, np.zeros_like(flat[0])])
    return np.take(every, places, mode="clip")


def _drawn_up(plane: Plane, grid: Grid, scale: float) -> Share8:
    """A plane at the px of a grid, (n,)."""
    height, width = plane.shape
    left, top = grid.left / scale, grid.top / scale
    right = min(left + grid.width / scale, width)
    bottom = min(top + grid.height / scale, height)
    box = (min(left, right - 1e-3), min(top, bottom - 1e-3), right, bottom)
    image = Image.fromarray(plane).resize((grid.columns, grid.rows), Image.Resampling.BILINEAR, box)
    return np.asarray(image).reshape(-1)


def paint_reached(
    seen: Seen | SurfaceBuffers,
    lit: PackedRow,
    shade: PackedRow,
    share: Share8,
    out: Packed | None = None,
) -> Packed:
    """The picture, (h, w) 0x00RRGGBB, of codes lit by the key wholly and of the same in shade, each
    px with its share of the key's light; into `out` where it is given."""
    picture = np.empty(seen.shape, np.uint32) if out is None else out
    flat = picture.reshape(-1)
    np.take(lit, seen.code, out=flat, mode="clip")
    under = np.flatnonzero(share != 255)
    dark = np.take(shade, seen.code[under], mode="clip")
    flat[under] = mixed_quickly(flat[under], dark, _PART[share[under]])
    sides = [mixed_quickly(c[seen.own], c[seen.other], seen.part) for c in (lit, shade)]
    flat[seen.place] = mixed_quickly(sides[0], sides[1], _PART[share[seen.place]])
    three = [blended(c[seen.rest.of], seen.rest.share) for c in (lit, shade)]
    flat[seen.rest.place] = mixed_quickly(three[0], three[1], _PART[share[seen.rest.place]])
    return picture


def mixed_parts(lit: PackedRow, shade: PackedRow, share: Row) -> PackedRow:
    """Codes of which a share 0-1 of the key's light reaches, (codes,), as they are on the mean."""
    level = np.clip(share * 255 + 0.5, 0, 255).astype(np.uint8)
    return mixed_quickly(lit, shade, _PART[level])
