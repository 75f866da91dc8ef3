"""Which regions of a changed sketch are which of the old one: by overlap, colour and place, the
best assignment of all (docs/sketch.md)."""

from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from umber_compass.colour.packed import Levels
from umber_compass.colour.spaces import Floats, decode, oklab
from umber_compass.picture.mixes import Labels

_SIDE = 400  # px, the longer side of what is compared
_UNMATCHED = 1.15  # what a region costs that finds none
_COLOUR, _PLACE, _AREA = 0.5, 0.35, 0.15
_COLOUR_FAR, _PLACE_FAR = 0.25, 0.3  # OKLab, and share of the diagonal, that count as wholly other
_DOUBTED, _LEAD = 0.62, 0.18  # cost from which, and lead under which, a match is doubtful
_WITHIN, _RECOLOURED = 0.9, 0.06  # containment; OKLab apart
_WORTH_SHIFT = 1.02  # times more borders that fall together, for a shift to be believed


PROPORTIONS = 0.03  # by which two pictures of one piece may differ in width over height
_FINE_SIDE = 1000  # px, the longer side at which a grey picture is lined up
_EDGE_LEVELS = 24  # a px, beyond which an edge is no clearer
_MOST_SHIFT = 50  # of the longer side, over what it may be moved


class Matched(NamedTuple):
    """An old and a new region that are one."""

    old: int  # labels
    new: int
    cost: float
    doubtful: bool
    recoloured: bool


class Match(NamedTuple):
    """What became of the regions of a sketch."""

    pairs: tuple[Matched, ...]
    gone: tuple[int, ...]  # old labels
    fresh: tuple[int, ...]  # new labels


def match_regions(old: Labels, old_colours: Levels, new: Labels, new_colours: Levels) -> Match:
    """Old and new regions matched; colours are main ones by label, label 1 first, (n, 3). The two
    may be of other sizes."""
    from scipy.optimize import linear_sum_assignment

    a, b = _same_size(old, new)
    b = _shifted(a, b)
    cost, within, apart = _costs(a, b, old_colours, new_colours)
    n, m = cost.shape
    # Every region may stay alone, at a price.
    wide = np.full((n + m, n + m), _UNMATCHED / 2)
    wide[:n, :m] = cost
    wide[n:, m:] = 0
    rows, columns = linear_sum_assignment(wide)
    pairs = [(int(i), int(j)) for i, j in zip(rows, columns, strict=True) if i < n and j < m]
    pairs = [(i, j) for i, j in pairs if cost[i, j] < _UNMATCHED]
    found = [_told(i, j, cost, within, apart) for i, j in pairs]
    seen, taken = {i for i, _ in pairs}, {j for _, j in pairs}
    return Match(
        tuple(sorted(found)),
        tuple(i + 1 for i in range(n) if i not in seen),
        tuple(j + 1 for j in range(m) if j not in taken),
    )


def _told(i: int, j: int, cost: Floats, within: Floats, apart: Floats) -> Matched:
    """A match, and whether to doubt it: it is dear, or another would have been nearly as good."""
    own = float(cost[i, j])
    others = np.concatenate([np.delete(cost[i], j), np.delete(cost[:, j], i), [_UNMATCHED]])
    recoloured = bool(within[i, j] > _WITHIN and apart[i, j] > _RECOLOURED)
    doubtful = not recoloured and (own > _DOUBTED or float(others.min()) - own < _LEAD)
    return Matched(i + 1, j + 1, own, doubtful, recoloured)


def _same_size(old: Labels, new: Labels) -> tuple[Labels, Labels]:
    """Both label maps at one small size: that of the old."""
    scale = max(1.0, max(old.shape) / _SIDE)
    height, width = (max(1, round(n / scale)) for n in old.shape)

    def sized(labels: Labels) -> Labels:
        rows = ((np.arange(height) + 0.5) * labels.shape[0] / height).astype(np.intp)
        columns = ((np.arange(width) + 0.5) * labels.shape[1] / width).astype(np.intp)
        return np.asarray(labels[rows[:, None], columns])

    return sized(old), sized(new)


def _borders(labels: Labels) -> npt.NDArray[np.float32]:
    found = np.zeros(labels.shape, np.float32)
    found[:, 1:] += labels[:, 1:] != labels[:, :-1]
    found[1:] += labels[1:] != labels[:-1]
    return np.minimum(found, 1)


def _shifted(a: Labels, b: Labels) -> Labels:
    """The new labels moved as the whole picture was, where it was (phase correlation of borders,
    Kuglin and Hines 1975); what comes in from outside is no region."""
    from scipy.ndimage import uniform_filter

    one, two = uniform_filter(_borders(a), 3), uniform_filter(_borders(b), 3)
    dy, dx = _shift(one, two, max(one.shape))
    return np.asarray(_moved(b, dy, dx)) if dy or dx else b


def _shift(
    one: npt.NDArray[np.float32], two: npt.NDArray[np.float32], most: int
) -> tuple[int, int]:
    """How far the second must be moved, down and to the right, to fall on the first: at most so
    many px, and not at all where that makes no more of both fall together."""
    spectrum = np.fft.rfft2(one) * np.conj(np.fft.rfft2(two))
    peak = np.fft.irfft2(spectrum / np.maximum(np.abs(spectrum), 1e-9), s=one.shape)
    down, across = (np.minimum(np.arange(n), n - np.arange(n)) <= most for n in one.shape)
    peak = np.where(down[:, None] & across, peak, -np.inf)
    dy, dx = divmod(int(peak.argmax()), peak.shape[1])
    dy -= one.shape[0] if dy > one.shape[0] // 2 else 0
    dx -= one.shape[1] if dx > one.shape[1] // 2 else 0
    moved = _moved(two, dy, dx)
    if float((one * moved).sum()) < _WORTH_SHIFT * float((one * two).sum()):
        return 0, 0
    return dy, dx


def shift_between(labels: Labels, grey: Levels) -> tuple[int, int]:
    """How far a grey picture, (h, w), must be moved, px down and to the right, for its edges to
    fall on the borders of labels of its size; at most a fiftieth of the longer side."""
    from scipy.ndimage import uniform_filter

    step = max(1, -(-max(labels.shape) // _FINE_SIDE))
    height, width = (n // step * step for n in labels.shape)

    def smaller(array: npt.NDArray[np.float32]) -> npt.NDArray[np.float32]:
        cut = array[:height, :width].reshape(height // step, step, width // step, step)
        return np.asarray(cut.max(axis=(1, 3)), np.float32)

    smooth = uniform_filter(grey.astype(np.float32), 3)
    edges = np.hypot(*np.gradient(smooth)).astype(np.float32)
    edges = np.minimum(edges, np.float32(_EDGE_LEVELS))
    one = uniform_filter(smaller(_borders(labels)), 3)
    two = uniform_filter(smaller(edges), 3)
    dy, dx = _shift(one, two, max(1, max(one.shape) // _MOST_SHIFT))
    return dy * step, dx * step


def _moved(array: npt.NDArray, dy: int, dx: int) -> npt.NDArray:  # type: ignore[type-arg]  # any
    height, width = array.shape
    out = np.zeros_like(array)
    to = slice(max(dy, 0), min(height, height + dy)), slice(max(dx, 0), min(width, width + dx))
    of = slice(max(-dy, 0), min(height, height - dy)), slice(max(-dx, 0), min(width, width - dx))
    out[to] = array[of]
    return out


def _costs(
    a: Labels, b: Labels, old_colours: Levels, new_colours: Levels
) -> tuple[Floats, Floats, Floats]:
    """What each match would cost, how much of the smaller lies within the larger, and how far their
    colours lie apart; (old, new) each."""
    n, m = len(old_colours), len(new_colours)
    key = a.astype(np.int64).reshape(-1) * (m + 1) + b.reshape(-1)
    both = np.bincount(key, minlength=(n + 1) * (m + 1)).reshape(n + 1, m + 1)[1:, 1:].astype(float)
    area_a = np.bincount(a.reshape(-1), minlength=n + 1)[1:].astype(float)
    area_b = np.bincount(b.reshape(-1), minlength=m + 1)[1:].astype(float)
    union = area_a[:, None] + area_b[None] - both
    iou = both / np.maximum(union, 1)
    within = both / np.maximum(np.minimum(area_a[:, None], area_b[None]), 1)
    lab_a, lab_b = (oklab(decode(c / 255)) for c in (old_colours, new_colours))
    apart = np.linalg.norm(lab_a[:, None] - lab_b[None], axis=2)
    diagonal = float(np.hypot(*a.shape))
    far = np.linalg.norm(_middles(a, n)[:, None] - _middles(b, m)[None], axis=2) / diagonal
    ratio = np.abs(np.log(np.maximum(area_a[:, None], 1) / np.maximum(area_b[None], 1)))
    cost = 1 - iou / 2 - within / 2
    cost += _COLOUR * np.minimum(apart / _COLOUR_FAR, 1)
    cost += _PLACE * np.minimum(far / _PLACE_FAR, 1)
    cost += _AREA * np.minimum(ratio / np.log(4), 1)
    return cost, within, apart


def _middles(labels: Labels, count: int) -> Floats:
    flat = labels.reshape(-1)
    held = np.maximum(np.bincount(flat, minlength=count + 1), 1)
    y, x = np.indices(labels.shape)
    found = [np.bincount(flat, g.reshape(-1), count + 1) / held for g in (y, x)]
    return np.stack(found, axis=1)[1:]
