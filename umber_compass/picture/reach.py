"""How much of the key's light reaches each px that is shown: its form's own light or shade, and
what other things keep away. One share a px serves both edges, so that form shadow and cast shadow
are drawn alike (docs/light.md).

The picture is then mixed, px by px, of two: lit by the key wholly, and not at all.
"""

from collections.abc import Mapping
from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from umber_compass.colour.packed import Packed, PackedRow
from umber_compass.picture.buffers import SurfaceBuffers
from umber_compass.picture.casting import Shadows
from umber_compass.picture.finish import Finish
from umber_compass.picture.finishing import shine
from umber_compass.picture.forms import ROUND, SLOPE_NORMAL
from umber_compass.picture.indexed import blended, mixed_quickly
from umber_compass.picture.light import Lights, facing
from umber_compass.picture.mixes import Ints, Labels
from umber_compass.picture.pools import Near, Share8, drawn_up
from umber_compass.picture.seen import Grid, Seen
from umber_compass.picture.sharing import PARTS_ONE_AFTER_OTHER, SHINE_PARTS
from umber_compass.picture.ways import WAYS, Planar, Row, share_of

_HALF = np.uint8(128)
_LEAST_SHINE = 2.0  # of 255, from which a highlight is painted
FLOOR, WALL, THING, FREE = 0, 1, 2, 3  # the first three in the order of Shadows
_SLOPE = np.float16(SLOPE_NORMAL[1])


class Ends(NamedTuple):
    """The colours of every code, encoded, (codes,), between which its px lie."""

    lit: PackedRow  # by the key wholly
    shade: PackedRow  # not at all
    bright: PackedRow  # in the middle of a highlight; as lit where there can be none
    mean: PackedRow  # as its px are on the mean
    bend: npt.NDArray[np.uint8]  # which power raises its shares of light
    pools: tuple[tuple[PackedRow, PackedRow], ...]  # in light and in shade, in all of each pool
    half: PackedRow  # lit by half of the key where all of it is too much for the screen, else 0


class Pooled(NamedTuple):
    """Px in a light that falls on a part of the picture, made ready to be painted."""

    at: Ints  # (k,)
    part: PackedRow  # (k,) of 256 of that light
    base: Ints  # (k,) where each begins, in the colours in light and, after them, in shade
    mixed: tuple[Ints, Ints, Share8]  # those of both: place among the k, code, share


class Receivers(NamedTuple):
    """What px receive shadows as: by label FLOOR, WALL, THING, or FREE of any."""

    of_label: npt.NDArray[np.uint8]


class ShownForms(NamedTuple):
    """The forms of the px that are shown."""

    at: Ints  # (k,) those on round forms, in the picture that is shown
    normal: Planar  # (3, k)
    label: Labels  # (n,) of every px
    grid: Grid
    beside: Ints | None  # of a whole picture, the px that each border px is mixed with


def shown_forms(
    buffers: SurfaceBuffers, labels: Labels, grid: Grid, place: Ints | None = None
) -> ShownForms:
    """The forms that a grid shows; `place` is the px of the picture that each of its px shows,
    where it is not the whole picture px by px."""
    nx, ny = buffers.forms.nx.reshape(-1), buffers.forms.ny.reshape(-1)
    flat = labels.reshape(-1)
    if place is not None:
        nx, ny, flat = nx[place], ny[place], flat[place]
    at = np.flatnonzero(is_turned(nx, ny, buffers.forms.kind[flat] == ROUND))
    x, y = nx[at].astype(np.float32), ny[at].astype(np.float32)
    normal = np.stack([x, y, np.sqrt(np.maximum(1 - x * x - y * y, 0))])
    beside = buffers.other_place if place is None else None
    return ShownForms(at, normal, flat, grid, beside)


def is_turned(
    nx: npt.NDArray[np.float16], ny: npt.NDArray[np.float16], own: npt.NDArray[np.bool_]
) -> npt.NDArray[np.bool_]:
    """Whether px, (n,), lie on a round form: their `own`, or that of what lies under a line; not on
    a wall or floor."""
    return np.asarray(own | (nx != 0) | ((ny != 0) & (ny != _SLOPE)))


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
            drawn = drawn_up(plane, shown.grid, reaching.scale)
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


class Shares(NamedTuple):
    """How light lies on the px that are shown."""

    key: Share8  # (n,) of the key's light, what reaches each
    shine: tuple[Ints, Share8] | None  # px in a highlight, and how much of it each has
    pools: tuple[Near, ...]  # px in each light on a part of the picture


class Laid(NamedTuple):
    """Shares of light made ready to be painted many times in other colours."""

    base: Ints  # (n,) where each px begins, in the colours in light and, after them, in shade
    mixed: tuple[Ints, Ints, Share8]  # px of both: places, codes, shares
    shine: Near | None
    pools: tuple[Pooled, ...]
    border: Share8  # shares of the border px


def laid(seen: Seen | SurfaceBuffers, shares: Shares, count: int) -> Laid:
    """Shares on the px of a grid or picture, of so many codes."""
    key, base, bright = shares.key, seen.code.copy(), None
    base[np.flatnonzero(key == 0)] += count
    at = np.flatnonzero((key + np.uint8(1)) > 1)  # neither 0 nor 255
    if shares.shine is not None:
        places, level = shares.shine
        bright = places, seen.code[places], SHINE_PARTS[level]
    pools = tuple(_pooled(near, key[near[0]], count) for near in shares.pools)
    return Laid(base, (at, seen.code[at], key[at]), bright, pools, key[seen.place])


def _pooled(near: Near, key: Share8, count: int) -> Pooled:
    at, code, part = near
    both = np.flatnonzero((key + np.uint8(1)) > 1)
    base = code + count * (key == 0)
    return Pooled(at, part, base, (both, code[both], key[both]))


def shine_on(
    shown: ShownForms, lights: Lights, finishes: Mapping[int, Finish], key: Share8
) -> tuple[Ints, Share8] | None:
    """The px that lie in a highlight, and how much of it each has; None where none does."""
    if not lights.highlights or not finishes:
        return None
    label = shown.label[shown.at]
    places: list[Ints] = []
    levels: list[Share8] = []
    for finish in {f for f in finishes.values() if f.gloss}:
        own = [n for n, f in finishes.items() if f is finish]
        at = np.flatnonzero(np.isin(label, own))
        if len(at):
            level = shine(shown.normal[:, at], lights, finish) * key[shown.at[at]]
            some = level > _LEAST_SHINE
            places.append(shown.at[at[some]])
            levels.append(level[some].astype(np.uint8))
    return (np.concatenate(places), np.concatenate(levels)) if places else None


def paint_reached(
    seen: Seen | SurfaceBuffers,
    ends: Ends,
    light: Laid,
    shown: ShownForms,
    out: Packed | None = None,
) -> Packed:
    """The picture, (h, w) 0x00RRGGBB, each px between the ends of its code by its shares of light;
    into `out` where it is given."""
    picture = np.empty(seen.shape, np.uint32) if out is None else out
    flat = picture.reshape(-1)
    np.take(np.concatenate((ends.lit, ends.shade)), light.base, out=flat, mode="clip")
    at, code, share = light.mixed
    flat[at] = between(ends, code, share)
    for (lit, shade), pool in zip(ends.pools, light.pools, strict=True):
        reached = np.take(np.concatenate((lit, shade)), pool.base, mode="clip")
        both, code, share = pool.mixed
        reached[both] = mixed_by(lit, shade, ends.bend, code, share)
        flat[pool.at] = mixed_quickly(reached, flat[pool.at], pool.part)
    if light.shine is not None:
        at, code, part = light.shine
        flat[at] = mixed_quickly(np.take(ends.bright, code, mode="clip"), flat[at], part)
    if shown.beside is not None:
        own, other = flat[seen.place], flat[shown.beside]
    else:  # what lies beyond a border is known by its code alone
        own = between(ends, seen.own, light.border)
        other = ends.mean[seen.other]
    flat[seen.place] = mixed_quickly(own, other, seen.part)
    flat[seen.rest.place] = blended(ends.mean[seen.rest.of], seen.rest.share)
    return picture


def mixed_by(
    bright: PackedRow, dark: PackedRow, bend: Share8, code: Ints, share: Share8
) -> PackedRow:
    """The colours of px of codes, (n,), between two of each code, by shares of light."""
    lit, shade = np.take(bright, code, mode="clip"), np.take(dark, code, mode="clip")
    at = np.take(bend, code, mode="clip").astype(np.uint16) << np.uint16(8)
    at |= share
    return mixed_quickly(lit, shade, np.take(PARTS_ONE_AFTER_OTHER, at, mode="clip"))


def between(ends: Ends, code: Ints, share: Share8) -> PackedRow:
    """The colours of px of codes, (n,), that such a share of the key's light reaches."""
    found = mixed_by(ends.lit, ends.shade, ends.bend, code, share)
    half = np.take(ends.half, code, mode="clip")
    some = np.flatnonzero((half != 0) & (share > 0) & (share < 255))
    if len(some):
        # Fully lit it has lost its chroma to white; on the way there it has more than a mix tells.
        low, high = ends.shade[code[some]], ends.lit[code[some]]
        middle, own = half[some], share[some]
        upper = own >= _HALF
        top, under = np.where(upper, high, middle), np.where(upper, middle, low)
        part = (np.where(upper, own - _HALF, own) * np.uint32(2)).astype(np.uint32)
        found[some] = mixed_quickly(top, under, np.minimum(part, np.uint32(256)))
    return found
