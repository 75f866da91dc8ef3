"""A drawing as things: regions that take one colour, how they touch, what encloses them."""

from typing import NamedTuple, TypeAlias

import numpy as np
import numpy.typing as npt

from umber_compass.colour.spaces import Floats
from umber_compass.picture.drawing import Drawing
from umber_compass.picture.mixes import Ints
from umber_compass.plan.model import Region
from umber_compass.steps.focus.lattice import Lattice

Mask: TypeAlias = npt.NDArray[np.bool_]
RANK = {"line": 0, "ground": 1, "middle ground": 2, "figure": 3, "focus": 4}
_LOOKED_AT = 640  # px across, at which borders are counted
_MASK = 20  # px a side, of the masks by which twins are compared
# Twins: ratio of areas at least, of a side at most e times, most of the picture, overlap at least;
# on one row or column within so much, or so small that they may lie anywhere.
_AREA, _SIDE, _LARGEST, _OVERLAP = 0.55, 0.3, 0.12, 0.74
_ROW, _COLUMN, _SMALL = 0.06, 0.03, 0.012
_VALUE = 2.5  # L* that twins differ by at most, where values are kept
_HELD = 0.5  # of an outline, along what encloses it


class Outlines(NamedTuple):
    """How regions lie, in the plan's order; lines are filled by what lies beside them."""

    share: Floats  # (n,) of all that is painted
    border: Floats  # (n, n) px of the border two share
    outline: Floats  # (n,) px, at least 1
    box: Floats  # (n, 4) left, top, right, bottom, shares of width and height
    centre: Floats  # (n, 2) x, y, shares
    parent: Ints  # (n,) what encloses each, -1 for nothing
    masks: list[Mask | None]  # (20, 20) each, within its box


class Things(NamedTuple):
    """Regions by thing; m things."""

    regions: tuple[Region, ...]
    outlines: Outlines
    of: Ints  # (n,) the thing each region belongs to
    area: Floats  # (m,) shares
    border: Floats  # (m, m) px two share
    outline: Floats  # (m,)
    role: list[str]  # (m,) of each, the foremost of its regions'
    material: list[str]  # (m,) empty where none is known
    parent: Ints  # (m,)
    largest: Floats  # (m,) share of the largest region of each

    @property
    def many(self) -> int:
        """How many things there are."""
        return len(self.area)

    def members(self, thing: int) -> Ints:
        """The regions of a thing, by their place in the plan."""
        return np.flatnonzero(self.of == thing)


def outlines_of(regions: tuple[Region, ...], lattice: Lattice, drawing: Drawing) -> Outlines:
    """How the regions of a drawing lie."""
    labels = np.array([r.label for r in regions])
    share = lattice.share[labels] / max(float(lattice.share[labels].sum()), 1e-9)
    step = max(1, drawing.labels.shape[1] // _LOOKED_AT)
    coarse = drawing.labels[::step, ::step].astype(np.intp)
    lines = [r.label for r in regions if r.role == "line"]
    filled = _without(coarse, lines) if lines and len(lines) < len(regions) else coarse
    most = max(int(labels.max()), int(coarse.max())) + 1
    border, frame = _borders(filled, most)
    border, frame = border[np.ix_(labels, labels)], frame[labels]
    outline = np.maximum(border.sum(axis=1) + frame, 1.0)
    box, masks = _masks(coarse, labels)
    parent = _parents(share, border, outline)
    return Outlines(share, border, outline, box, lattice.centre[labels], parent, masks)


def _without(coarse: Ints, lines: list[int]) -> Ints:
    """The labels with lines and bare px given to the nearest region."""
    from scipy.ndimage import distance_transform_edt

    hidden = np.isin(coarse, lines) | (coarse == 0)
    at = distance_transform_edt(hidden, return_distances=False, return_indices=True)
    filled: Ints = coarse[tuple(at)]
    return filled


def _borders(coarse: Ints, most: int) -> tuple[Floats, Floats]:
    border = np.zeros((most, most))
    for one, other in ((coarse[:, 1:], coarse[:, :-1]), (coarse[1:], coarse[:-1])):
        differ = one != other
        pair = one[differ] * most + other[differ]
        border += np.bincount(pair, minlength=most * most).reshape(most, most)
    sides = np.concatenate([coarse[0], coarse[-1], coarse[:, 0], coarse[:, -1]])
    border += border.T
    border[0], border[:, 0] = 0.0, 0.0
    return border, np.bincount(sides, minlength=most).astype(float)


def _masks(coarse: Ints, labels: Ints) -> tuple[Floats, list[Mask | None]]:
    from scipy.ndimage import find_objects

    height, width = coarse.shape
    found = find_objects(coarse.astype(np.int32), int(labels.max()))
    box, masks = np.zeros((len(labels), 4)), list[Mask | None]()
    step = (np.arange(_MASK) + 0.5) / _MASK
    for i, label in enumerate(labels.tolist()):
        at = found[label - 1]
        if at is None:
            masks.append(None)
            continue
        own = coarse[at] == label
        rows, columns = (step * own.shape[0]).astype(int), (step * own.shape[1]).astype(int)
        masks.append(own[np.ix_(rows, columns)])
        top, left = at
        box[i] = (left.start / width, top.start / height, left.stop / width, top.stop / height)
    return box, masks


def _parents(share: Floats, border: Floats, outline: Floats) -> Ints:
    """What encloses each region: it holds half of its outline or more and is twice as large, and
    whatever else touches it is tiny."""
    found = np.full(len(share), -1)
    for i in range(len(share)):
        along = np.where(share > 2 * share[i], border[i], 0)
        j = int(along.argmax())
        if along[j] < _HELD * outline[i]:
            continue
        others = np.flatnonzero(border[i] > 0)
        others = others[others != j]
        tiny = (share[others] < max(0.004, 1.3 * share[i])) & (share[others] < 0.5 * share[j])
        if tiny.all():
            found[i] = j
    return found


def twins_of(
    lying: Outlines, roles: list[str], materials: list[str], values: Floats
) -> list[tuple[int, int]]:
    """Pairs of regions alike in size and shape, straight or mirrored, that lie on one row or column
    or are tiny, as two eyes or the windows of a house. `values` are L*, (n,): those that are drawn
    differently are none."""
    share, sides = lying.share, np.maximum(lying.box[:, 2:] - lying.box[:, :2], 1e-9)
    small = np.minimum(share[:, None], share[None])
    large = np.maximum(share[:, None], share[None])
    near = (small >= _AREA * large) & (large <= _LARGEST) & (lying.border == 0)
    log = np.log(sides)
    near &= (np.abs(log[:, None] - log[None]) <= _SIDE).all(axis=-1)
    apart = np.abs(lying.centre[:, None] - lying.centre[None])
    near &= (apart[..., 1] < _ROW) | (apart[..., 0] < _COLUMN) | (large < _SMALL)
    kind = np.unique(
        [f"{r} {m}" for r, m in zip(roles, materials, strict=True)], return_inverse=True
    )
    near &= kind[1].reshape(-1)[:, None] == kind[1].reshape(-1)[None]
    near &= np.abs(values[:, None] - values[None]) <= _VALUE
    found = []
    for i, j in np.argwhere(np.tril(near, -1)).tolist():
        one, other = lying.masks[i], lying.masks[j]
        if roles[i] != "line" and one is not None and other is not None and _overlap(one, other):
            found.append((i, j))
    return found


def _overlap(one: Mask, other: Mask) -> bool:
    """Whether two outlines are alike, straight or mirrored."""
    return any((one & m).sum() >= _OVERLAP * (one | m).sum() for m in (other, other[:, ::-1]))


def things_of(
    regions: tuple[Region, ...],
    lying: Outlines,
    joined: list[tuple[int, int]],
    materials: list[str],
    values: Floats,
) -> Things:
    """Regions gathered: those that are joined, and twins of one role and material."""
    n = len(regions)
    root = list(range(n))

    def top(i: int) -> int:
        while root[i] != i:
            i = root[i]
        return i

    for i, j in joined:
        root[top(i)] = top(j)
    for i, j in twins_of(lying, [r.role for r in regions], materials, values):
        root[top(i)] = top(j)
    _, of = np.unique([top(i) for i in range(n)], return_inverse=True)
    return gathered(regions, lying, of.reshape(-1), materials)


def gathered(
    regions: tuple[Region, ...], lying: Outlines, of: Ints, materials: list[str]
) -> Things:
    """Things of regions, each region's thing given."""
    count = int(of.max()) + 1
    each = np.zeros((count, len(regions)))
    each[of, np.arange(len(regions))] = 1
    border = each @ lying.border @ each.T
    np.fill_diagonal(border, 0)
    members = [np.flatnonzero(of == t) for t in range(count)]
    parent = np.full(count, -1)
    for t, own in enumerate(members):
        around = [int(of[lying.parent[i]]) for i in own if lying.parent[i] >= 0]
        around = [p for p in around if p != t]
        if around:
            parent[t] = max(set(around), key=around.count)
    return Things(
        regions=regions,
        outlines=lying,
        of=of,
        area=each @ lying.share,
        border=border,
        outline=np.maximum(each @ lying.outline, 1),
        role=[max((regions[i].role for i in own), key=RANK.__getitem__) for own in members],
        material=[next((materials[i] for i in own if materials[i]), "") for own in members],
        parent=parent,
        largest=np.array([lying.share[own].max() for own in members]),
    )
