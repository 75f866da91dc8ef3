"""What the paper of line art is like at each px, and how dark each px is beside it: paper is seldom
lit evenly where it was scanned or photographed, and lines may be the lighter of the two."""

from typing import TypeAlias

import numpy as np
import numpy.typing as npt

from umber_compass.colour.packed import CLEAR, Packed, unpack
from umber_compass.colour.spaces import Floats

Grey: TypeAlias = npt.NDArray[np.uint8]
Dark: TypeAlias = npt.NDArray[np.float32]

_EVERY = 7  # px, looked at for paper and ink
_BLOCKS = 32  # along the longer side, of each of which the light px are paper if any are
_LIGHT, _DARK = 90, 1  # percentiles that stand for paper and for ink
_ORDER, _ROUNDS = 4, 8  # of the surface that paper's light is taken for; rounds of fitting it
_UNDER = 0.06  # of the surface, by which a block may lie under it and still be paper
_EVEN = 0.05  # of its mean, up to which paper is taken as lit evenly
_LEAST_PARTED = 40  # levels between paper and ink, under which there are no lines
_FEW = 0.45  # of the picture, that lighter px must be under to be lines on a dark ground
_PLAIN = 0.5  # of the picture, at one level, from which its paper needs no cleaning
_GRAIN, _FULL = 0.18, 0.9  # of the way from paper to ink: what is wholly paper, and wholly ink
_CLEAR = 0.3  # of the picture; a drawing on so much clear ground is all lines


def grey_of(packed: Packed) -> Grey:
    """A picture, (h, w) 0x00RRGGBB, as one level a px; what is clear is paper."""
    rgb = unpack(packed).astype(np.uint16)
    grey = ((rgb[..., 0] * 54 + rgb[..., 1] * 183 + rgb[..., 2] * 19) >> 8).astype(np.uint8)
    grey[packed == CLEAR] = 255
    return grey


def drawn_dark(packed: Packed) -> Grey:
    """The same, turned round where lines are the lighter: white on clear ground, chalk, a
    negative."""
    grey = grey_of(packed)
    clear = packed == CLEAR
    if clear.mean() > _CLEAR:
        shown = grey[~clear]
        if len(shown) and np.median(shown) > 127:
            grey = np.asarray(255 - grey, np.uint8)
            grey[clear] = 255
        return grey
    seen = grey.reshape(-1)[::_EVERY]
    dark, light = np.percentile(seen, (2, 99))
    if light - dark < _LEAST_PARTED:  # lines so few that they are not among these
        dark, light = float(grey.min()), float(grey.max())
    if (seen > (dark + light) / 2).mean() < _FEW:
        return np.asarray(255 - grey, np.uint8)
    return grey


def darkness(grey: Grey) -> Dark | None:
    """How dark each px is, (h, w): 0 that of the paper there, 1 that of the ink; None where nothing
    parts from the paper."""
    paper = paper_of(grey)
    if isinstance(paper, float):
        dark = float(np.percentile(grey.reshape(-1)[::_EVERY], _DARK))
        if paper - dark < _LEAST_PARTED:
            dark = float(grey.min())
        if paper - dark < _LEAST_PARTED:
            return None
        level = (paper - np.arange(256, dtype=np.float32)) / np.float32(paper - dark)
        return np.asarray(level.astype(np.float32)[grey])
    left = grey / paper
    ink = float(np.percentile(left.reshape(-1)[::_EVERY], _DARK))
    if (1 - ink) * float(paper.mean()) < _LEAST_PARTED:
        return None
    return np.asarray((1 - left) / np.float32(1 - ink), np.float32)


def paper_of(grey: Grey) -> Dark | float:
    """The paper's level at each px, (h, w), or everywhere where it is lit evenly."""
    plain = float(np.percentile(grey.reshape(-1)[::_EVERY], _LIGHT))
    height, width = grey.shape
    size = max(8, -(-max(height, width) // _BLOCKS))
    down, across = max(1, height // size), max(1, width // size)
    cut = grey[: down * size, : across * size]
    if down < 3 or across < 3:
        return plain
    each = cut.reshape(down, size, across, size)[:, ::3, :, ::3].swapaxes(1, 2)
    light = np.percentile(each.reshape(down, across, -1), _LIGHT, axis=2)
    surface = _fitted(light)
    if surface is None or np.ptp(surface) <= _EVEN * surface.mean():
        return plain
    from scipy.ndimage import map_coordinates

    y = (np.arange(height) + 0.5) / size - 0.5
    x = (np.arange(width) + 0.5) / size - 0.5
    # Along the rows, then down the columns: the surface is smooth between the blocks' middles.
    rows = map_coordinates(surface, np.meshgrid(np.arange(down), x, indexing="ij"), order=1,
                           mode="nearest")  # fmt: skip
    low = np.clip(np.floor(y).astype(int), 0, down - 2)
    share = np.clip(y - low, 0, 1)[:, None]
    found = rows[low] * (1 - share) + rows[low + 1] * share
    return np.asarray(np.maximum(found, 1), np.float32)


def _fitted(light: Floats) -> Floats | None:
    """A smooth surface over the light of blocks, (down, across), that lies at their upper side:
    what is far below it is no paper. None where too few are left to tell."""
    down, across = light.shape
    y, x = np.indices(light.shape)
    u, v = (2 * x / (across - 1) - 1).reshape(-1), (2 * y / (down - 1) - 1).reshape(-1)
    powers = [(i, j) for i in range(_ORDER + 1) for j in range(_ORDER + 1 - i)]
    terms = np.stack([u**i * v**j for i, j in powers], axis=1)
    level, kept = light.reshape(-1), np.ones(light.size, bool)
    found = level
    for _ in range(_ROUNDS):
        if kept.sum() < max(2 * len(powers), light.size // 3):
            return None
        weights, *_ = np.linalg.lstsq(terms[kept], level[kept], rcond=None)
        found = terms @ weights
        now = level > found * (1 - _UNDER)
        if (now == kept).all():
            break
        kept = now
    return np.asarray(np.clip(found, 1, 255).reshape(light.shape))


def cleaned(packed: Packed) -> Packed:
    """Line art as black on white, (h, w), without its paper's light and grain; as it is where its
    paper is of one level already."""
    seen = grey_of(packed).reshape(-1)[::_EVERY]
    if not (packed == CLEAR).any() and np.bincount(seen).max() >= _PLAIN * len(seen):
        return packed
    dark = darkness(drawn_dark(packed))
    if dark is None:
        return packed
    share = np.clip((dark - _GRAIN) / (_FULL - _GRAIN), 0, 1)
    level = (255 * (1 - share) + 0.5).astype(np.uint32)
    return np.asarray(level << 16 | level << 8 | level, np.uint32)
