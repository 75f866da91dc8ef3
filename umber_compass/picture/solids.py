"""The normals of one part of a surface, by its form: round, cylinder, slab, membrane, faceted; and
big volumes, in which small forms are drawn together (docs/light.md)."""

from typing import TypeAlias

import numpy as np
import numpy.typing as npt

from umber_compass.picture.poisson import FRONT, Plane, State, swelling
from umber_compass.plan.terms import Form

Inside: TypeAlias = npt.NDArray[np.bool_]  # (h, w) a part in its box
Normals: TypeAlias = tuple[Plane, Plane]  # right and down, (h, w)

_BLUR = 1.2  # px; takes the steps of a pixel's border off the normals
_SHEET = 0.38  # of a round form's turn, what a membrane keeps
_SLAB_PX, _SLAB_SHARE, _SLAB_TURN = 12.0, 0.1, 0.75
_FACET, _FEWEST, _MOST_FACETS = 38.0, 5, 48  # px across one, and how many at least and at most
_DRAWN = {"medium": 0.022, "big": 0.085}  # of the root of a part's area, how far normals are drawn
_SMALLEST = 24  # px across below which nothing is drawn together
_COARSE = 3.0  # px of blur from which it is worked out on fewer px


def normals_of(form: Form, state: State, inside: Inside, volume: str) -> Normals:
    """Right and down of the normals of a part. `state` is the part in its box with a rim of one px
    (poisson.py); `volume` says how much small forms are drawn together."""
    if form == "slab":
        return _slab(inside)
    if form == "cylinder":
        found = _cylinder(inside)
        if found is not None:
            return found
    right, down = _round(swelling(state), state)
    if form == "faceted":
        return _faceted(right, down, inside)
    right, down = _drawn_together(right, down, inside, volume)
    if form == "membrane":
        return right * np.float32(_SHEET), down * np.float32(_SHEET)
    return right, down


def _round(swell: Plane, state: State) -> Normals:
    """The normals of the height that is the root of a swelling, rim taken off. With h = sqrt(u) the
    normal is (-u_x, -u_y, 2 h), which never grows beyond bounds."""
    from scipy.ndimage import gaussian_filter

    counts = (state != FRONT).astype(np.float32)
    smooth = gaussian_filter(swell, _BLUR, truncate=3, mode="nearest")
    smooth /= np.maximum(gaussian_filter(counts, _BLUR, truncate=3, mode="nearest"), 1e-3)
    if (state == FRONT).any():
        smooth = np.where((state == FRONT) & (smooth == 0), np.float32(0), smooth)
    across = (smooth[1:-1, 2:] - smooth[1:-1, :-2]) / 2
    along = (smooth[2:, 1:-1] - smooth[:-2, 1:-1]) / 2
    toward = 2 * np.sqrt(np.maximum(smooth[1:-1, 1:-1], 0))
    length = np.maximum(np.sqrt(across**2 + along**2 + toward**2), 1e-6)
    return -across / length, -along / length


def _drawn_together(right: Plane, down: Plane, inside: Inside, volume: str) -> Normals:
    """Normals blurred inside the part, as wide as its size asks. Where it turns away from the
    viewer, at its silhouette, they stay."""
    sigma = _DRAWN[volume] * float(np.sqrt(inside.sum()))
    if min(inside.shape) < _SMALLEST or sigma < 1:
        return right, down
    step = max(1, int(sigma / _COARSE))
    toward = np.sqrt(np.maximum(1 - right * right - down * down, 0))
    blurred = _blurred(np.stack([right, down, toward]), inside, sigma, step)
    blurred /= np.maximum(np.sqrt((blurred * blurred).sum(axis=0)), 1e-6)
    seen = np.clip((toward - 0.15) / 0.45, 0, 1)
    seen *= seen * (3 - 2 * seen)
    mixed = np.stack([right, down, toward]) * (1 - seen) + blurred * seen
    mixed /= np.maximum(np.sqrt((mixed * mixed).sum(axis=0)), 1e-6)
    return mixed[0].astype(np.float32), mixed[1].astype(np.float32)


def _blurred(planes: Plane, inside: Inside, sigma: float, step: int) -> Plane:
    """Planes, (n, h, w), blurred inside a part only; worked out on every `step`th px."""
    from scipy.ndimage import gaussian_filter, zoom

    few = inside[::step, ::step].astype(np.float32)
    weight = gaussian_filter(few, sigma / step) + np.float32(1e-4)
    found = []
    for plane in planes:
        small = gaussian_filter(plane[::step, ::step] * few, sigma / step) / weight
        if step > 1:
            rows, columns = inside.shape
            small = zoom(small, (rows / small.shape[0], columns / small.shape[1]), order=1)
            small = small[:rows, :columns]
        found.append(small.astype(np.float32))
    return np.stack(found)


def _slab(inside: Inside) -> Normals:
    """A flat face whose edge alone is turned away."""
    from scipy.ndimage import distance_transform_edt, gaussian_filter

    far = np.asarray(distance_transform_edt(np.pad(inside, 1)), np.float32)
    wide = min(_SLAB_PX, max(1.5, _SLAB_SHARE * float(np.sqrt(inside.sum()))))
    smooth = gaussian_filter(far, 0.12 * wide)
    along, across = np.gradient(smooth)
    slope = np.maximum(np.hypot(along, across), 1e-6)
    turn = np.clip(1 - far / wide, 0, 1) * np.float32(_SLAB_TURN) * (far > 0)
    cut = np.s_[1:-1, 1:-1]
    return (-across / slope * turn)[cut], (-along / slope * turn)[cut]


def _cylinder(inside: Inside) -> Normals | None:
    """A part as a straight round bar: sides fitted as lines along its longer axis, the normal from
    the place between them. None where it is too small to have sides."""
    row, column = np.nonzero(inside)
    if len(row) < 60:
        return None
    axis = _axis_of(row, column)
    at = np.stack([column - column.mean(), row - row.mean()])
    along, across = axis @ at, np.array([-axis[1], axis[0]]) @ at
    bins = np.round(along).astype(np.intp)
    bins -= bins.min()
    count = int(bins.max()) + 1
    low, high = np.full(count, np.inf), np.full(count, -np.inf)
    np.minimum.at(low, bins, across)
    np.maximum.at(high, bins, across)
    held = np.flatnonzero(np.isfinite(low) & np.isfinite(high))
    one, other = _side(held, low[held], 1.0), _side(held, high[held], -1.0)
    left, right = np.polyval(one, bins), np.polyval(other, bins)
    turn = np.clip((across - left) / np.maximum(right - left, 1.0) * 2 - 1, -0.995, 0.995)
    nx, ny = (np.zeros(inside.shape, np.float32) for _ in range(2))
    nx[row, column], ny[row, column] = turn * -axis[1], turn * axis[0]
    return nx, ny


def _axis_of(row: npt.NDArray[np.intp], column: npt.NDArray[np.intp]) -> npt.NDArray[np.float64]:
    """The longer axis of some px, (2,), upright where none is much longer."""
    spread = np.cov(np.stack([column, row]).astype(float))
    lengths, axes = np.linalg.eigh(spread)
    if lengths[1] < 1.3 * lengths[0]:
        return np.array([0.0, 1.0])
    return np.asarray(axes[:, 1])


def _side(
    at: npt.NDArray[np.intp], edge: npt.NDArray[np.float64], sign: float
) -> npt.NDArray[np.float64]:
    """A straight line along a side, through what lies furthest out."""
    kept = np.ones(len(at), bool)
    line = np.array([0.0, float(np.median(edge))])
    for _ in range(4):
        if kept.sum() < 4:
            break
        line = np.polyfit(at[kept], edge[kept], 1)
        off = sign * (edge - np.polyval(line, at))
        kept = off < max(2.0, float(np.percentile(off, 70)))
    return line


def _faceted(right: Plane, down: Plane, inside: Inside) -> Normals:
    """A part cut into flat faces, as a rock or a crystal: each has the mean of the normals it
    stands for."""
    from scipy.spatial import cKDTree

    row, column = np.nonzero(inside)
    count = int(np.clip(len(row) / _FACET**2, _FEWEST, _MOST_FACETS))
    rng = np.random.default_rng(7)  # the same part is always cut alike
    chosen = _spread(np.stack([row, column], axis=1), count, rng)
    _, face = cKDTree(chosen).query(np.stack([row, column], axis=1))
    held = np.maximum(np.bincount(face, minlength=count), 1)
    toward = np.sqrt(np.maximum(1 - right * right - down * down, 0))
    mean = [np.bincount(face, p[row, column], count) / held for p in (right, down, toward)]
    length = np.maximum(np.sqrt(sum(m * m for m in mean)), 1e-6)
    nx, ny = (np.zeros(inside.shape, np.float32) for _ in range(2))
    # A little steeper than the mean, so that neighbouring faces part.
    nx[row, column] = np.clip(mean[0] / length * 1.15, -0.98, 0.98)[face]
    ny[row, column] = np.clip(mean[1] / length * 1.15, -0.98, 0.98)[face]
    over = np.maximum(np.hypot(nx, ny) / np.float32(0.98), 1)
    return (nx / over).astype(np.float32), (ny / over).astype(np.float32)


def _spread(
    px: npt.NDArray[np.intp], count: int, rng: np.random.Generator
) -> npt.NDArray[np.float64]:
    """Places among some px, (count, 2), far from each other: the best of a few tries each time
    (Mitchell 1991)."""
    found = [px[rng.integers(len(px))].astype(float)]
    while len(found) < count:
        tried = px[rng.integers(len(px), size=8)].astype(float)
        near = np.min([((tried - f) ** 2).sum(axis=1) for f in found], axis=0)
        found.append(tried[int(near.argmax())])
    return np.array(found)
