"""The colours of a flats picture: those that own blocks of 2 x 2 equal px are nearly its true
palette, resized pictures' too, but not where it was stored with loss or has noise."""

from typing import NamedTuple, TypeAlias

import numpy as np
import numpy.typing as npt

from umber_compass.colour.packed import CLEAR, Packed, PackedRow, unpack

Counted: TypeAlias = tuple[PackedRow, npt.NDArray[np.intp]]  # colours, rising; px of each

SPRITE_PX = 128 * 128  # a picture no larger may be drawn px by px
_STRIP_PX = 8_000_000
_FEW = 64  # distinct colours that are taken as they are, unless they lie side by side
_RARE, _LOSSY_SHARE = 4, 0.30  # blocks of a colour; share of colours that have no more
_COVERED = 0.35  # of the picture, that blocks must hold


class Palette(NamedTuple):
    """Colours that own blocks, (n,) 0x00RRGGBB in rising order, and what they own."""

    colours: PackedRow
    blocks: npt.NDArray[np.intp]
    crosses: npt.NDArray[np.bool_]  # whether one somewhere fills a px and its four neighbours
    covered: float  # share of the painted picture that lies in blocks
    distinct: PackedRow  # every colour; of more than a few, only those of some strips
    painted: int  # px


def palette_of(packed: Packed) -> Palette:
    """The palette of a picture, (h, w) 0x00RRGGBB, looked at strip by strip."""
    height, width = packed.shape
    high = max(2, _STRIP_PX // width)
    found: dict[str, list[PackedRow]] = {"blocks": [], "crosses": [], "distinct": []}
    counts: list[npt.NDArray[np.intp]] = []
    covered = painted = 0
    for top in range(0, height, high):
        skip = min(top, 1)  # rows of the strip before, so that nothing across the cut is missed
        (colours, count), crosses, inside = _owned(packed[top - skip : top + high + 1], skip, high)
        found["blocks"].append(colours)
        counts.append(count)
        found["crosses"].append(crosses)
        own = packed[top : top + high]
        covered += int(inside[skip : skip + len(own)].sum())
        painted += int((own != CLEAR).sum())
        if sum(map(len, found["distinct"])) <= _FEW * 4:
            found["distinct"].append(_different(own[_begins(own)]))
    colours, where = np.unique(np.concatenate(found["blocks"]), return_inverse=True)
    blocks_of = np.bincount(where, np.concatenate(counts), len(colours)).astype(np.intp)
    crossed = np.isin(colours, np.concatenate(found["crosses"]))
    distinct = np.unique(np.concatenate(found["distinct"]))
    kept = colours != CLEAR
    return Palette(
        colours[kept],
        blocks_of[kept],
        crossed[kept],
        covered / max(painted, 1),
        distinct[distinct != CLEAR],
        painted,
    )


def _owned(strip: Packed, skip: int, high: int) -> tuple[Counted, PackedRow, npt.NDArray[np.bool_]]:
    """The colours of a strip's blocks and how many each has, those of its crosses, and which px lie
    in blocks, clear ones apart. Blocks are those that begin in `high` rows after the skipped
    ones."""
    right, down = strip[:, 1:] == strip[:, :-1], strip[1:] == strip[:-1]
    block = right[:-1] & right[1:] & down[:, :-1]
    cross = right[1:-1, 1:] & right[1:-1, :-1] & down[1:, 1:-1] & down[:-1, 1:-1]
    inside = np.zeros(strip.shape, bool)
    for dy in (0, 1):
        for dx in (0, 1):
            inside[dy : dy + block.shape[0], dx : dx + block.shape[1]] |= block
    inside &= strip != CLEAR
    fresh = block[skip : skip + high]
    at = strip[skip : skip + len(fresh), :-1]
    return _counted_in(at, fresh), _counted_in(strip[1:-1, 1:-1], cross)[0], inside


def _counted_in(colours: Packed, held: npt.NDArray[np.bool_]) -> Counted:
    """Different colours, rising, of the px held, and how many px each has. Held px that touch in a
    row must be of one colour, so that a run of them is looked at once."""
    padded = np.zeros((held.shape[0], held.shape[1] + 1), bool)
    padded[:, :-1] = held
    ends = np.flatnonzero(np.diff(padded.reshape(-1), prepend=False))
    starts, lengths = ends[::2], ends[1::2] - ends[::2]
    row, column = np.divmod(starts, held.shape[1] + 1)
    found, where = np.unique(colours[row, column], return_inverse=True)
    return found, np.bincount(where, lengths, len(found)).astype(np.intp)


def _begins(strip: Packed) -> npt.NDArray[np.bool_]:
    """Where runs of equal px begin."""
    begin = np.ones(strip.shape, bool)
    begin[:, 1:] = strip[:, 1:] != strip[:, :-1]
    return begin


def _different(colours: PackedRow) -> PackedRow:
    """Different colours, rising; sorted, because NumPy's own way takes much longer."""
    ordered = np.sort(colours)
    return ordered[np.flatnonzero(np.diff(ordered, prepend=np.uint32(0xFFFFFFFF)))]


def is_lossy(palette: Palette) -> bool:
    """Whether flat areas are speckled, as lossy storage or noise leaves them."""
    if len(palette.distinct) <= _FEW and not _side_by_side(palette.distinct, 2):
        return False
    rare = (palette.blocks < _RARE).mean() if len(palette.blocks) > 10 else 0.0
    return bool(rare > _LOSSY_SHARE or palette.covered < _COVERED)


def _side_by_side(colours: PackedRow, levels: int) -> bool:
    """Whether most of some colours lie within so many levels of another."""
    if len(colours) < 2:
        return False
    wide = unpack(colours).astype(np.int16)
    gaps = np.abs(wide[:, None] - wide[None]).max(axis=2)
    np.fill_diagonal(gaps, 255)
    return float((gaps.min(axis=1) <= levels).mean()) > 0.5


def is_shaded(colours: PackedRow, levels: int) -> bool:
    """Whether most of many colours lie a shade apart: a gradient or a photograph, not flats."""
    return len(colours) > 24 and _side_by_side(colours, levels)
