"""Which px of a painting are not painted yet: its bare ground runs on across materials that are
planned to differ."""

import numpy as np
import numpy.typing as npt

from umber_compass.colour.spaces import Floats
from umber_compass.picture.mixes import Labels
from umber_compass.steps.painting.aligning import Planes, Seen

_NEAR = (
    2.5  # CIELAB-like, within which a px has the ground's colour (studio rule, docs/painting.md)
)
_CELL = 4.0  # of L*, and of OKLab x 100: how finely colours are counted
_HOLDS = 0.5  # of a region, that the ground covers where it lies bare
_PATCH = 0.15  # the same, of a ground that shows by having no strokes
_APART = 6.0  # between planned colours, of which a painter would not make one
_SAME = 3.0  # within which a region is planned in the ground's own colour
_COVERED = 3  # regions, that are not enough to be a ground where a region is planned in its colour
_STROKES, _SMOOTH = 0.06, 0.3  # L* from px to px of a painting; of that, at most, on its ground
_GROUNDS = 4  # colours that are tried, most frequent first
_LEAST = 0.01  # of the picture, that a ground holds


def unpainted(painting: Planes, seen: Seen, labels: Labels, planned: Floats) -> Seen:
    """The px of a painting, (h, w), that show its bare ground. `planned` is each label's colour as
    it should be, (labels, 3), on the same scales as the planes."""
    bare = np.zeros(seen.shape, bool)
    of = labels[seen]
    held = np.maximum(np.bincount(of, minlength=len(planned)), 1)
    rough = np.abs(np.diff(painting[0], axis=1, prepend=painting[0][:, :1]))
    for ground in _frequent(painting[:, seen]):
        near = (np.abs(painting - ground[:, None, None]).max(axis=0) < _NEAR) & seen
        share = np.bincount(labels[near], minlength=len(planned)) / held
        bare_between = _is_smoother(rough, near, seen)
        covered = np.flatnonzero(share > (_PATCH if bare_between else _HOLDS))
        # Where the plan wants this colour, it may be paint as well; and one more region in it is
        # no ground, but a shape that was painted in another's colour.
        wanted = np.abs(planned - ground).max(axis=1) < _SAME
        enough = _COVERED if wanted[covered].any() and not bare_between else 1
        if (~wanted[covered]).sum() > enough and _differ(planned[covered]):
            bare |= near & ~wanted[labels]
    return bare


def _is_smoother(rough: npt.NDArray[np.float32], near: Seen, seen: Seen) -> bool:
    """Whether there are brush strokes everywhere but on what may be the ground."""
    other = seen & ~near
    if not near.any() or not other.any():
        return False
    strokes = float(np.median(rough[other]))
    return strokes > _STROKES and float(np.median(rough[near])) < _SMOOTH * strokes


def _differ(colours: Floats) -> bool:
    apart = np.abs(colours[:, None] - colours[None]).max(axis=2)
    return bool(apart.max() > _APART)


def _frequent(colours: npt.NDArray[np.float32]) -> list[npt.NDArray[np.float32]]:
    """The colours of many px, (3, n), that occur most, the mean of each."""
    if not colours.shape[1]:
        return []
    cell = np.floor(colours / _CELL).astype(np.int64) + 512
    key = (cell[0] << 40) | (cell[1] << 20) | cell[2]
    _, at, count = np.unique(key, return_inverse=True, return_counts=True)
    most = np.argsort(count)[::-1][:_GROUNDS].tolist()
    held = [k for k in most if count[k] > _LEAST * colours.shape[1]]
    return [np.median(colours[:, at == k], axis=1).astype(np.float32) for k in held]
