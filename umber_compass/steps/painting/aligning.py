"""Where a painting lies on the sketch it was painted over: its size, and where its corner is.

Edges are compared and not colours, so that a drift of colours and parts that are not painted yet
do no harm: normalised cross-correlation of gradients over all scales (Lewis, Fast normalized
cross-correlation, 1995), first small, then finely round the best.
"""

from collections.abc import Iterator
from typing import NamedTuple, TypeAlias

import numpy as np
import numpy.typing as npt
from PIL import Image

from umber_compass.work import Tick, idle

Planes: TypeAlias = npt.NDArray[np.float32]  # (channels, h, w): L*, and OKLab a and b x 100
Seen: TypeAlias = npt.NDArray[np.bool_]  # (h, w)

_COARSE, _FINE = 128, 560  # px, the longer side of the sketch
_SMALLEST, _LARGEST = 0.3, 1.7  # of the sketch's width, that a painting may show
_STEP = 1.035  # from one scale to the next
_SOFT = 3.0  # L* a px, from which an edge counts nearly in full
_OVERLAP = 0.3  # of the edges of either, that must lie on the other
_ON = 0.7  # of the smaller of two pictures, that must lie on the other
_TRIED = 6  # sizes that agree best by values, and are looked at in colour
_SURE = 0.55  # agreement from which the whole view is not doubted
_DOUBT = 0.12  # by which a part must agree better than the whole view does
_MOVED = 0.035  # of the sketch's width, that a whole view may be moved
_LEAST_WHOLE, _LEAST = 0.15, 0.2  # agreement under which it is another picture
# Small pictures fit somewhere by chance: one that shows less of the sketch's width than this must
# agree as much as that (studio rule, docs/painting.md).
_SMALL, _LEAST_SMALL = 0.55, 0.35
_AS_GOOD = 0.9  # of its agreement, with which a later save lies where the earlier one did
# By how much sizes are varied round one that was found, and in how many steps to either side.
_NEAR: tuple[tuple[float, int], ...] = ((0.003, 1),)
_WIDELY = ((0.0175, 3), *_NEAR)
_SAME_VIEW = 0.02  # by which proportions may differ for a whole view


class Alignment(NamedTuple):
    """Where a painting lies on the sketch; lengths are shares of the sketch's width."""

    fit: float  # how well edges agree, 0-1
    view: float  # the painting's width
    x: float  # its left edge
    y: float  # its upper edge


def align(
    plan: Planes, painting: Planes, before: Alignment | None = None, tick: Tick = idle
) -> Alignment:
    """Where a painting lies on a plan's picture, whatever sizes they are given at. A low `fit` says
    that it is another picture. Where an earlier save of it lay is looked at `before` all else."""
    if before is not None:
        there = _refined(plan, painting, before, tick, _NEAR)
        if there.fit > _AS_GOOD * before.fit and is_found(there):
            return there
    small = at_most(plan, _COARSE)
    best = _coarse(small, at_most(painting, _LARGEST * _COARSE), tick)
    tick(0.6)
    return _refined(plan, painting, best, tick, _WIDELY)


def is_found(at: Alignment) -> bool:
    """Whether a painting shows the sketch at all. That it lies where it should is a sign of its
    own, so that fewer of its edges need to agree."""
    if _is_whole(at):
        return at.fit >= _LEAST_WHOLE
    return at.fit >= (_LEAST if at.view >= _SMALL else _LEAST_SMALL)


def _likely(at: Alignment) -> float:
    """How well edges agree, less where a picture is so small that some place agrees by chance."""
    return at.fit * min(1.0, float(np.sqrt(at.view / _SMALL)))


def _is_whole(at: Alignment) -> bool:
    """Whether a painting shows all of the sketch, moved a little at most."""
    return abs(at.view - 1) < _MOVED and max(abs(at.x), abs(at.y)) < _MOVED


def sized(planes: Planes, scale: float) -> Planes:
    """Planes made smaller or larger."""
    height, width = (max(1, round(n * scale)) for n in planes.shape[1:])
    return to_size(planes, width, height)


def at_most(planes: Planes, longer_px: float) -> Planes:
    """Planes no larger than so many px."""
    scale = longer_px / max(planes.shape[1:])
    return sized(planes, scale) if scale < 1 else planes


def to_size(planes: Planes, width: int, height: int) -> Planes:
    """Planes at another size, px: each px the mean of those it covers."""
    how = Image.Resampling.BOX if width < planes.shape[2] else Image.Resampling.BILINEAR
    made = [Image.fromarray(p).resize((width, height), how) for p in planes]
    return np.stack([np.asarray(p, np.float32) for p in made])


def _edges(planes: Planes) -> Planes:
    """The direction and strength of edges, two planes for each: strong ones count alike."""
    found = []
    for plane in planes:
        dy, dx = np.gradient(plane) if min(plane.shape) > 1 else (plane * 0, plane * 0)
        found += [dx, dy]
    both = np.stack(found).astype(np.float32)
    strength = np.sqrt((both**2).sum(axis=0))
    return np.asarray(both / (strength + np.float32(_SOFT)))


def _coarse(plan: Planes, painting: Planes, tick: Tick) -> Alignment:
    """The best place over all sizes, or the whole view where that is beyond doubt."""
    height, width = plan.shape[1:]
    apart = abs(np.log((painting.shape[2] / painting.shape[1]) / (width / height)))
    laid = _Laid(plan)
    whole = Alignment(0.0, 1.0, 0.0, 0.0)
    if apart < _SAME_VIEW:
        whole = laid.at(painting, 1.0, _MOVED)
        if whole.fit >= _SURE:
            return whole
    tick(0.1)
    by_value, value = _Laid(plan[:1]), painting[:1]
    rough = sorted((by_value.at(value, view) for view in _scales()), key=_likely, reverse=True)
    tick(0.5)
    best = max((laid.at(painting, found.view) for found in rough[:_TRIED]), key=_likely)
    # Of a painting in the sketch's proportions, most likely all is shown.
    return best if best.fit > whole.fit + (_DOUBT if whole.fit > _LEAST_WHOLE else 0) else whole


def _scales() -> Iterator[float]:
    view = _SMALLEST
    while view <= _LARGEST:
        yield view
        view *= _STEP


class _Laid:
    """A plan's edges, on which those of a painting are laid at any place at once."""

    def __init__(self, plan: Planes) -> None:
        from scipy.fft import next_fast_len

        height, width = plan.shape[1:]
        # The painting may be as much higher than wide as it likes: it is cut to what can overlap.
        self._most = int(max(height, width) * _LARGEST) + 2
        self._shape = tuple(next_fast_len(n + self._most, real=True) for n in (height, width))
        self._size = height, width
        edges = _edges(plan)
        power = (edges**2).sum(axis=0)
        self._edges = [self._spectrum(e) for e in edges]
        self._power, self._all = self._spectrum(power), self._spectrum(np.ones_like(power))
        self._held = float(power.sum())

    def _spectrum(self, plane: npt.NDArray[np.float32]) -> npt.NDArray[np.complex64]:
        from scipy.fft import rfft2

        return np.asarray(rfft2(plane, self._shape))

    def _met(self, plan: npt.NDArray[np.complex64]) -> npt.NDArray[np.float32]:
        from scipy.fft import irfft2

        return np.asarray(irfft2(plan, self._shape))

    def _is_on(self, wide: int, high: int) -> Seen:
        """Where a painting of this size lies on the plan for the most part, or the plan on it."""
        height, width = self._size
        down, across = _shared(height, high, self._shape[0]), _shared(width, wide, self._shape[1])
        return np.asarray(down[:, None] * across > _ON * min(wide * high, width * height))

    def at(self, painting: Planes, view: float, moved: float | None = None) -> Alignment:
        """The best place of a painting that is so wide, of the plan's width; moved by at most so
        much of it where that is said."""
        height, width = self._size
        wide = max(2, round(view * width))
        high = max(2, round(wide * painting.shape[1] / painting.shape[2]))
        if max(wide, high) > self._most:
            return Alignment(0.0, view, 0.0, 0.0)
        edges = _edges(to_size(painting, wide, high))
        power = (edges**2).sum(axis=0)
        spectra = [np.conj(self._spectrum(e)) for e in edges]
        met = self._met(np.sum([a * b for a, b in zip(self._edges, spectra, strict=True)], axis=0))
        mine = self._met(self._power * np.conj(self._spectrum(np.ones_like(power))))
        other = self._met(self._all * np.conj(self._spectrum(power)))
        enough = (mine > _OVERLAP * self._held) | (other > _OVERLAP * float(power.sum()))
        enough &= (mine > 1e-3) & (other > 1e-3) & self._is_on(wide, high)
        fit = np.where(enough, met / np.sqrt(np.maximum(mine * other, 1e-6)), 0)
        if moved is not None:
            far = max(1, round(moved * width))
            near = [np.minimum(np.arange(n), n - np.arange(n)) <= far for n in fit.shape]
            fit = np.where(near[0][:, None] & near[1], fit, 0)
        y, x = divmod(int(fit.argmax()), fit.shape[1])
        best = float(fit[y, x])
        y -= self._shape[0] if y > height else 0
        x -= self._shape[1] if x > width else 0
        return Alignment(best, view, x / width, y / width)


def _shared(size: int, other: int, whole: int) -> npt.NDArray[np.float32]:
    """How many px two rows share, by how far the second is moved; negative moves from the end."""
    at = np.arange(whole)
    at = np.where(at > size, at - whole, at)
    held = np.clip(np.minimum(size, at + other) - np.maximum(0, at), 0, None)
    return np.asarray(held, np.float32)


def _refined(
    plan: Planes,
    painting: Planes,
    best: Alignment,
    tick: Tick,
    steps: tuple[tuple[float, int], ...],
) -> Alignment:
    """The place found to a px of a picture of some hundred, by values alone."""
    own = at_most(plan[:1], _FINE)
    edges = _edges(_soft(own))
    painting = at_most(painting[:1], 1.1 * _FINE * max(best.view, 1.0))
    found = best
    for reach, count in steps:
        middle = found
        found = Alignment(-1.0, *middle[1:])
        for i in range(-count, count + 1):
            tick(-1.0)
            view = middle.view * (1 + reach * i / count)
            # A painting grows about its middle.
            side = painting.shape[1] / painting.shape[2]
            x = middle.x - (view - middle.view) / 2
            y = middle.y - (view - middle.view) / 2 * side
            found = max(found, _nudged(edges, painting, Alignment(0.0, view, x, y)))
    return found


def _soft(planes: Planes) -> Planes:
    from scipy.ndimage import gaussian_filter

    return np.stack([gaussian_filter(p, 1.0) for p in planes])


def _nudged(edges: Planes, painting: Planes, at: Alignment) -> Alignment:
    """A place moved by the few px that let edges fall together best."""
    from scipy.fft import irfft2, rfft2

    height, width = edges.shape[1:]
    laid, seen, corner = lay(painting, at, width, height)
    other = _edges(_soft(laid)) * _inside(seen)
    most = max(3, round(0.02 * max(height, width)))
    met = sum(
        irfft2(rfft2(a) * np.conj(rfft2(b)), (height, width))
        for a, b in zip(edges, other, strict=True)
    )
    near = [np.minimum(np.arange(n), n - np.arange(n)) <= most for n in (height, width)]
    met = np.where(near[0][:, None] & near[1], np.asarray(met), -np.inf)
    dy, dx = divmod(int(met.argmax()), width)
    dy -= height if dy > height // 2 else 0
    dx -= width if dx > width // 2 else 0
    mine = float((edges**2).sum(axis=0)[seen].sum())
    fit = float(met[dy, dx] / np.sqrt(max(mine * float((other**2).sum()), 1e-9)))
    x, y = (corner[0] + dx) / width, (corner[1] + dy) / width
    return Alignment(fit, at.view, x, y)


def _inside(seen: Seen) -> Seen:
    """What is seen without its rim, where a painting ends and no edge is painted."""
    found = seen.copy()
    for _ in range(2):
        inner = found[1:-1, 1:-1] & found[:-2, 1:-1] & found[2:, 1:-1]
        inner &= found[1:-1, :-2] & found[1:-1, 2:]
        found = np.zeros_like(seen)
        found[1:-1, 1:-1] = inner
    return found


def lay(
    painting: Planes, at: Alignment, width: int, height: int
) -> tuple[Planes, Seen, tuple[int, int]]:
    """A painting on a grid of the sketch, (channels, height, width), which px of that it shows, and
    the px its corner lies on."""
    wide = max(1, round(at.view * width))
    high = max(1, round(wide * painting.shape[1] / painting.shape[2]))
    left, top = round(at.x * width), round(at.y * width)
    out = np.zeros((len(painting), height, width), np.float32)
    seen = np.zeros((height, width), bool)
    to = [
        slice(max(c, 0), max(0, min(n, c + m)))
        for c, m, n in ((top, high, height), (left, wide, width))
    ]
    if to[0].stop <= to[0].start or to[1].stop <= to[1].start:
        return out, seen, (left, top)
    made = to_size(painting, wide, high)
    of = [slice(t.start - c, t.stop - c) for t, c in zip(to, (top, left), strict=True)]
    out[:, to[0], to[1]] = made[:, of[0], of[1]]
    seen[to[0], to[1]] = True
    return out, seen, (left, top)
