"""The picture as the stage shows it: codes and mixes for the stage's own px, so that a drag looks
up those alone and Qt has nothing to scale (docs/engine.md)."""

from typing import NamedTuple, TypeAlias

import numpy as np
import numpy.typing as npt

from umber_compass.colour.packed import Packed, PackedRow
from umber_compass.picture.buffers import SurfaceBuffers
from umber_compass.picture.indexed import Gathered, blended, mixed_quickly, parts_of
from umber_compass.picture.mixes import Blends, Ints, Labels

Few: TypeAlias = npt.NDArray[np.int32]
Shares: TypeAlias = npt.NDArray[np.float32]

_MIXED = 16_384  # mixed px worked out at a time
_NOTHING = 0.02  # a third colour's share below which it is left out
_SPREAD_FROM = 2.0  # px of the picture for one that is shown, from which four are spread over them
_BORDER = np.uint16(0xFFFF)  # in place of the label of a px that is mixed


class Grid(NamedTuple):
    """A part of the picture, px, and how many px it is shown on."""

    left: float
    top: float
    width: float
    height: float
    columns: int
    rows: int


class Seen(NamedTuple):
    """What a grid shows of a picture, px by px, as Gathered has it."""

    shape: tuple[int, int]
    code: Ints
    place: Ints
    own: Ints
    other: Ints
    part: PackedRow
    rest: Blends
    grid: Grid
    px: Ints  # which px of the picture each shows


# Which code each px shows, and which are mixed of several.
Gather: TypeAlias = Gathered | SurfaceBuffers | Seen


def whole(shape: tuple[int, int], columns: int) -> Grid:
    """A whole picture, (h, w), on so many px across, no more than it has."""
    height, width = shape
    across = max(1, min(columns, width))
    return Grid(0, 0, width, height, across, max(1, round(across * height / width)))


def paint_gathered(gather: Gather, packed: PackedRow, out: Packed | None = None) -> Packed:
    """The picture, (h, w) 0x00RRGGBB, from encoded colours by code, (codes,); into `out` where it
    is given."""
    picture = np.empty(gather.shape, np.uint32) if out is None else out
    flat = picture.reshape(-1)
    np.take(packed, gather.code, out=flat, mode="clip")
    flat[gather.place] = mixed_quickly(packed[gather.own], packed[gather.other], gather.part)
    flat[gather.rest.place] = blended(packed[gather.rest.of], gather.rest.share)
    return picture


def see(gather: Gather, labels: Labels, label_of: Ints, grid: Grid) -> Seen:
    """What a grid shows of a picture. `labels`, (h, w), are its px's, `label_of` the codes'. Each
    px is drawn from four of the picture: inside a region it is one of them, along a border the
    regions among them share it."""
    at, share = _four(gather.shape, grid)
    marked = labels.reshape(-1).copy()
    marked[gather.place] = _BORDER
    marked[gather.rest.place] = _BORDER
    first = marked[at[0]]
    mixed = first == _BORDER
    for other in at[1:]:
        mixed |= marked[other] != first
    px = _one(at, grid)
    code = gather.code[px]
    place = np.flatnonzero(mixed)
    mixes = _mixes(gather)
    parts = [
        _shared(mixes.of_px(gather, at[:, p], share[:, p]), label_of, p)
        for p in np.array_split(place, max(1, len(place) // _MIXED))
    ]
    two, three = zip(*parts, strict=True)
    at_two, own, other, part = (np.concatenate(column) for column in zip(*two, strict=True))
    rest = Blends(*(np.concatenate(column) for column in zip(*three, strict=True)))
    shape = (grid.rows, grid.columns)
    return Seen(shape, code, at_two, own, other, part, rest, grid, px)


def _four(shape: tuple[int, int], grid: Grid) -> tuple[Ints, Shares]:
    """The four px of the picture that each of the grid's is drawn from, (4, n), and their shares:
    those round its middle, or spread where it stands for many."""
    rows, down = _two(grid.top, grid.height, grid.rows, shape[0])
    columns, across = _two(grid.left, grid.width, grid.columns, shape[1])
    at = [(y[:, None] * shape[1] + x).reshape(-1) for y in rows for x in columns]
    share = [(v[:, None] * u).reshape(-1) for v in down for u in across]
    return np.stack(at), np.stack(share).astype(np.float32)


def _two(begin: float, length: float, count: int, most: int) -> tuple[Ints, Shares]:
    """Along one side, the two px that each is drawn from, (2, count), and their shares."""
    scale = length / count
    middle = begin + (np.arange(count) + 0.5) * scale - 0.5
    if scale >= _SPREAD_FROM:
        both = np.floor(np.stack([middle - scale / 4, middle + scale / 4]) + 0.5)
        share = np.full(both.shape, 0.5)
    else:
        low = np.floor(middle + 1e-6)
        both, part = np.stack([low, low + 1]), np.clip(middle - low, 0, 1)
        share = np.stack([1 - part, part])
    return np.clip(both, 0, most - 1).astype(np.intp), share.astype(np.float32)


def _one(at: Ints, grid: Grid) -> Ints:
    """One of the four for each px: the nearest where the picture is shown at its own size, else
    each in turn, or the dither of the codes would be seen in part only."""
    if grid.width <= grid.columns * 1.01:
        return np.asarray(at[0])
    y, x = np.indices((grid.rows, grid.columns)) & 1
    turn = (2 * x + y).reshape(-1)
    return np.asarray(np.take_along_axis(at, turn[None], axis=0)[0])


_Pairs: TypeAlias = tuple[Ints, Ints, Ints, PackedRow]


def _shared(
    held_by: tuple[Ints, Shares], label_of: Ints, place: Ints
) -> tuple[_Pairs, tuple[Ints, Ints, Shares]]:
    """Px that several regions share: those of two, and those of three. `held_by` is all that each
    holds, codes and shares, (12, n)."""
    code, weight = held_by
    label = label_of[code]
    held = np.stack([(weight * (label == own)).sum(axis=0) for own in label])
    chosen, shares = [], []
    for _ in range(3):
        most = np.abs(held).argmax(axis=0)[None]
        mine = label == np.take_along_axis(label, most, axis=0)
        shares.append(np.take_along_axis(held, most, axis=0)[0])
        heaviest = np.where(mine, weight, -9).argmax(axis=0)[None]
        chosen.append(np.take_along_axis(code, heaviest, axis=0)[0])
        held[mine] = 0
    total = np.maximum(sum(shares), 1e-3)
    of, share_of = np.stack(chosen, axis=1), (np.stack(shares) / total).T.astype(np.float32)
    two = (np.abs(share_of[:, 2]) < _NOTHING) & (share_of[:, 0] <= 1) & (share_of[:, 1] >= 0)
    first = share_of[two, 0] / np.maximum(share_of[two, 0] + share_of[two, 1], np.float32(1e-3))
    more = ~two
    return (
        (place[two], of[two, 0], of[two, 1], parts_of(first)),
        (place[more], of[more], share_of[more]),
    )


class _Mixes(NamedTuple):
    """Every mix of a picture: three codes and their shares; the last stands for a plain px."""

    of: Ints  # (mixes + 1, 3)
    share: Shares
    slot: Few  # by px of the picture which mix it is, or -1

    def of_px(self, gather: Gather, at: Ints, share: Shares) -> tuple[Ints, Shares]:
        """All that px drawn from four of the picture hold, (12, n) codes and shares."""
        here, count = self.slot[at], at.shape[1]
        plain = here < 0
        code = np.moveaxis(self.of[here], -1, 0).copy()
        code[:, plain] = gather.code[at[plain]]
        weight = np.moveaxis(self.share[here], -1, 0) * share
        return code.reshape(12, count), weight.reshape(12, count)


def _mixes(gather: Gather) -> _Mixes:
    """The mixes of a picture."""
    first = gather.part.astype(np.float32) / 256
    of = np.stack([gather.own, gather.other, gather.own], axis=1)
    share = np.stack([first, 1 - first, np.zeros_like(first)], axis=1)
    slot = np.full(len(gather.code), -1, np.int32)
    slot[gather.place] = np.arange(len(gather.place))
    slot[gather.rest.place] = len(gather.place) + np.arange(len(gather.rest.place))
    return _Mixes(
        np.concatenate([of, gather.rest.of, [[0, 0, 0]]]),
        np.concatenate([share, gather.rest.share, [[1, 0, 0]]]).astype(np.float32),
        slot,
    )
