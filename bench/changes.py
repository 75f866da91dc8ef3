"""Ten kinds of change to a sketch, with what each old region truly became."""

from collections.abc import Callable
from typing import NamedTuple

import numpy as np
import numpy.typing as npt
from scipy.ndimage import gaussian_filter, zoom

from bench import drawings
from umber_compass.steps.sketch.matching import match_regions

Grid = npt.NDArray[np.int64]
Colours = npt.NDArray[np.uint8]


class Changed(NamedTuple):
    """A changed label map, its colours by label, and the new label of each old one that is left."""

    labels: Grid
    colours: Colours
    truth: dict[int, int]


Change = Callable[[Grid, Colours, np.random.Generator], Changed]


class Tally(NamedTuple):
    """How matches came out: right ones of all, wrong ones that nobody was told to doubt."""

    right: int
    all: int
    wrong: int
    doubted: int


def _same(colours: Colours) -> dict[int, int]:
    return {i: i for i in range(1, len(colours) + 1)}


def _fresh(rng: np.random.Generator) -> Colours:
    return rng.integers(20, 235, (1, 3)).astype(np.uint8)


def _neighbour(labels: Grid, one: int) -> int:
    inside = labels == one
    ring = (np.roll(inside, 6, 0) | np.roll(inside, -6, 1)) & ~inside
    held = np.bincount(labels[ring], minlength=2)
    held[0] = 0
    return int(held.argmax()) or 1


def shift(labels: Grid, colours: Colours, rng: np.random.Generator) -> Changed:
    """The whole picture moved."""
    by = int(rng.integers(-50, 50)), int(rng.integers(-60, 60))
    return Changed(np.roll(labels, by, (0, 1)), colours, _same(colours))


def recolour(labels: Grid, colours: Colours, rng: np.random.Generator) -> Changed:
    """Three regions in other colours."""
    found = colours.copy()
    for i in rng.choice(len(colours), 3, replace=False):
        found[i] = _fresh(rng)[0]
    return Changed(labels, found, _same(colours))


def shift_and_recolour(labels: Grid, colours: Colours, rng: np.random.Generator) -> Changed:
    """Both."""
    moved = shift(labels, colours, rng)
    return recolour(moved.labels, moved.colours, rng)


def larger(labels: Grid, colours: Colours, rng: np.random.Generator) -> Changed:
    """The picture enlarged."""
    return Changed(zoom(labels, 1.6, order=0), colours, _same(colours))


def one_more(labels: Grid, colours: Colours, rng: np.random.Generator) -> Changed:
    """A thing drawn over it."""
    found = labels.copy()
    y, x = int(rng.integers(80, 500)), int(rng.integers(80, 700))
    found[y - 40 : y + 40, x - 50 : x + 50] = len(colours) + 1
    return Changed(found, np.vstack([colours, _fresh(rng)]), _same(colours))


def one_less(labels: Grid, colours: Colours, rng: np.random.Generator) -> Changed:
    """A thing taken away: what is beside it fills its place."""
    gone = int(rng.integers(3, len(colours)))
    found = labels.copy()
    found[found == gone] = _neighbour(labels, gone)
    truth = _same(colours)
    truth.pop(gone)
    return Changed(found, colours, truth)


def split(labels: Grid, colours: Colours, rng: np.random.Generator) -> Changed:
    """A region in two of its colour."""
    one = int(np.bincount(labels.reshape(-1)).argsort()[-4])
    columns = np.nonzero(labels == one)[1]
    found = labels.copy()
    right = (labels == one) & (np.arange(labels.shape[1]) > np.median(columns) + 20)
    found[right] = len(colours) + 1
    return Changed(found, np.vstack([colours, colours[one - 1 : one]]), _same(colours))


def moved(labels: Grid, colours: Colours, rng: np.random.Generator) -> Changed:
    """A thing stands elsewhere."""
    one = int(np.bincount(labels.reshape(-1)).argsort()[-8])
    found = labels.copy()
    found[found == one] = _neighbour(labels, one)
    found[np.roll(labels == one, (25, 30), (0, 1))] = one
    return Changed(found, colours, _same(colours))


def redrawn(labels: Grid, colours: Colours, rng: np.random.Generator) -> Changed:
    """Every outline drawn anew by a hand that is not sure."""
    way = [gaussian_filter(rng.standard_normal(labels.shape), 25) * 150 for _ in "yx"]
    y, x = np.indices(labels.shape)
    rows = np.clip((y + way[0]).astype(int), 0, labels.shape[0] - 1)
    columns = np.clip((x + way[1]).astype(int), 0, labels.shape[1] - 1)
    return Changed(labels[rows, columns], colours, _same(colours))


def toned(labels: Grid, colours: Colours, rng: np.random.Generator) -> Changed:
    """Every colour a little otherwise."""
    off = rng.integers(-14, 14, colours.shape)
    found = np.clip(colours.astype(int) + off, 0, 255).astype(np.uint8)
    return Changed(labels, found, _same(colours))


CHANGES: dict[str, Change] = {
    "shift": shift,
    "recolour": recolour,
    "shift + recolour": shift_and_recolour,
    "larger": larger,
    "one more": one_more,
    "one less": one_less,
    "split": split,
    "moved": moved,
    "redrawn": redrawn,
    "toned": toned,
}


def tally(change: Change, seed: int) -> Tally:
    """One scene, changed and matched; its new labels are numbered otherwise."""
    rng = np.random.default_rng(seed)
    scene = drawings.parts(drawings.scene(seed, (800, 600), 24), 200)
    _, old = np.unique(np.where(scene == 0, 1, scene), return_inverse=True)
    labels = old.reshape(scene.shape) + 1
    colours = rng.integers(20, 235, (int(labels.max()), 3)).astype(np.uint8)
    after = change(labels, colours, rng)
    left = {o: n for o, n in after.truth.items() if (after.labels == n).any()}
    order = rng.permutation(len(after.colours)) + 1
    number = np.concatenate([[0], order])
    table = np.zeros_like(after.colours)
    table[order - 1] = after.colours
    new = number[after.labels].astype(np.uint16)
    match = match_regions(labels.astype(np.uint16), colours, new, table)
    right = wrong = 0
    for pair in match.pairs:
        good = pair.old in left and number[left[pair.old]] == pair.new
        right += good
        wrong += not good and not pair.doubtful
    return Tally(right, len(left), wrong, sum(p.doubtful for p in match.pairs))
