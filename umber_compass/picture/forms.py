"""The forms of a sketch: which way every pixel faces, and how open it lies (docs/light.md).

Regions become surfaces: flat, sloped like a floor, or of some round form. Regions that share a form
are one surface. What lies in front covers what is behind and never dents it; lines neither cover
nor dent, forms go on beneath them.
"""

from collections.abc import Iterable, Mapping
from typing import NamedTuple, TypeAlias

import numpy as np
import numpy.typing as npt

from umber_compass.picture.drawing import boxes
from umber_compass.picture.light import FLOOR_NORMAL
from umber_compass.picture.mixes import Labels
from umber_compass.picture.pieces import SPRITE_PX, Pieces, without_lines
from umber_compass.picture.poisson import BEHIND, FRONT, INSIDE, carried_up, is_held
from umber_compass.picture.solids import normals_of
from umber_compass.plan.model import Region
from umber_compass.plan.terms import Form, Role
from umber_compass.work import Tick, idle

Box: TypeAlias = tuple[slice, slice]

FLAT, SLOPE, ROUND = 0, 1, 2
KINDS = {"flat": FLAT, "slope": SLOPE}  # the others are round
SLOPE_NORMAL = FLOOR_NORMAL
OPEN_REACH = 24 / 1280  # share of the width from which a border in front darkens nothing
MARK = 0.08  # of what encloses it, up to which a thing is a mark that darkens nothing
_ENCLOSED = 0.6  # of a region, that lies in another
_LEAST_PX = 12  # a part smaller than this is too small to have a form
_ROLES = ("ground", "middle ground", "figure", "focus", "line")
_LAYERS: dict[Role, int] = {"ground": 0, "middle ground": 1, "figure": 2, "focus": 2, "line": 0}


class FormWish(NamedTuple):
    """What of a region its form depends on; a name or a material changes none."""

    id: str
    label: int
    role: Role
    form: Form
    shares_form_with: str | None
    front: int | None


def form_wishes(regions: Iterable[Region], even: bool = False) -> tuple[FormWish, ...]:
    """What of the regions their forms depend on; all of them flat where the picture is to be
    `even`, because its own shading stands for the forms."""
    if even:
        return tuple(FormWish(r.id, r.label, r.role, "flat", None, r.front) for r in regions)
    return tuple(
        FormWish(r.id, r.label, r.role, r.form, r.shares_form_with, r.front) for r in regions
    )


class Surface(NamedTuple):
    """Regions that are one surface."""

    labels: tuple[int, ...]
    kind: int
    form: Form  # of a round one
    rank: int  # a greater one lies in front
    layer: int  # only what is of the same darkens it: figures, or what stands behind them


class Forms(NamedTuple):
    """Every pixel's facing and ambient occlusion."""

    kind: npt.NDArray[np.uint8]  # by label
    nx: npt.NDArray[np.float16]  # (h, w), right
    ny: npt.NDArray[np.float16]  # (h, w), down
    occlusion: npt.NDArray[np.uint8]  # (h, w), 255 is open


def lines_of(regions: Iterable[FormWish]) -> frozenset[int]:
    """The labels of lines."""
    return frozenset(r.label for r in regions if r.role == "line")


def kind_of(region: FormWish) -> int:
    """The form a region has: what it was told, or round for figures and flat for the rest."""
    if region.form != "auto":
        return KINDS.get(region.form, ROUND)
    return ROUND if region.role in ("figure", "focus") else FLAT


def enclosed(pieces: Pieces) -> dict[int, int]:
    """By label, the label of the region that encloses most of it, where one does."""
    most = int(pieces.label.max(initial=0)) + 1
    over = pieces.label[pieces.inside]
    area = np.bincount(pieces.label, pieces.area, most)
    held = np.zeros((most, most))
    np.add.at(held, (pieces.label, over), pieces.area)
    held[:, 0] = 0
    np.fill_diagonal(held, 0)
    best = held.argmax(axis=1)
    share = held[np.arange(most), best] / np.maximum(area, 1)
    return {int(i): int(best[i]) for i in np.flatnonzero(share >= _ENCLOSED) if i}


def front_order(
    regions: Iterable[FormWish],
    area: npt.NDArray[np.intp],
    inside: Mapping[int, int] | None = None,
) -> dict[int, int]:
    """Each label's place from back to front: by role, then the smaller area in front; what is
    `inside` another lies in front of it whatever their roles; a region that was told its place
    stands there. `area` is px by label."""
    known = list(regions)
    free = sorted(
        (r for r in known if r.front is None), key=lambda r: (_ROLES.index(r.role), -area[r.label])
    )
    for region in list(free) if inside else ():
        _before(free, region, inside or {})
    for told in sorted((r for r in known if r.front is not None), key=lambda r: r.front or 0):
        free.insert(told.front or 0, told)
    return {r.label: i + 1 for i, r in enumerate(free)}


def _before(free: list[FormWish], region: FormWish, inside: Mapping[int, int]) -> None:
    """Bring a region before the one that encloses it, where it lies behind. In place."""
    place = {r.label: i for i, r in enumerate(free)}
    over = place.get(inside.get(region.label, 0))
    if over is not None and over > place[region.label]:
        free.insert(over, free.pop(place[region.label]))


def surfaces(
    regions: Iterable[FormWish],
    area: npt.NDArray[np.intp],
    inside: Mapping[int, int] | None = None,
) -> list[Surface]:
    """The surfaces of a sketch, from back to front; lines are none."""
    known = list(regions)
    order = front_order(known, area, inside)
    by_id = {r.id: r for r in known}
    groups: dict[str, list[FormWish]] = {}
    for region in known:
        if region.role != "line":
            groups.setdefault(_root(region, by_id), []).append(region)
    found = []
    for root, members in groups.items():
        lead = by_id[root]
        layer = _LAYERS[members[0].role if lead.role == "line" else lead.role]
        form: Form = "round" if lead.form in ("auto", "flat", "slope") else lead.form
        rank = max(order[m.label] for m in members)
        labels = tuple(m.label for m in members)
        found.append(Surface(labels, kind_of(lead), form, rank, layer))
    return sorted(found, key=lambda s: s.rank)


def _root(region: FormWish, by_id: dict[str, FormWish]) -> str:
    """The region whose form this one has, in the end; a ring of them ends at itself."""
    seen = {region.id}
    while region.shares_form_with in by_id and region.shares_form_with not in seen:
        region = by_id[region.shares_form_with or ""]
        seen.add(region.id)
    return min(seen) if region.shares_form_with in seen else region.id


def build(
    labels: Labels,
    regions: Iterable[FormWish],
    pieces: Pieces,
    volume: str = "medium",
    tick: Tick = idle,
) -> Forms:
    """The forms of a sketch, (h, w). `volume` says how much small forms are drawn together."""
    known = list(regions)
    clear = without_lines(labels, lines_of(known))
    most = max(int(labels.max(initial=0)), max((r.label for r in known), default=0))
    area = np.bincount(clear.reshape(-1), minlength=most + 1)
    kinds, ranks = np.zeros(most + 1, np.uint8), np.zeros(most + 1, np.int32)
    inside = enclosed(pieces)
    found = surfaces(known, area, inside)
    for surface in found:
        kinds[list(surface.labels)], ranks[list(surface.labels)] = surface.kind, surface.rank
    rank = ranks[clear]
    box_of = boxes(clear)
    nx, ny = (np.zeros(labels.shape, np.float16) for _ in range(2))
    occlusion = np.full(labels.shape, 255, np.uint8)
    shadowing = _shadowing(found, area, inside, most)
    for i, surface in enumerate(found):
        tick(i / max(len(found), 1))
        box = _box_of(surface, box_of, labels.shape)
        if box is None:
            continue
        if surface.kind == SLOPE:
            np.copyto(ny[box], np.float16(SLOPE_NORMAL[1]), where=rank[box] == surface.rank)
        if surface.kind == ROUND:
            _turn(rank, surface, box, volume, (nx, ny))
        # Crevices in a sprite would be black blocks.
        if surface.layer and labels.shape[1] >= SPRITE_PX:
            before = np.where(shadowing == surface.layer, ranks, 0).astype(np.int32)
            _darken(before, clear, rank, surface.rank, box, occlusion)
    return Forms(kinds, nx, ny, occlusion)


def _shadowing(
    found: list[Surface], area: npt.NDArray[np.intp], inside: Mapping[int, int], most: int
) -> npt.NDArray[np.int8]:
    """By label, the layer that it darkens where it lies in front: none for what is flat, which lies
    on a surface like paint, and for marks, as eyes on a face."""
    layer = np.zeros(most + 1, np.int8)
    for surface in found:
        if surface.kind == FLAT:
            continue
        for label in surface.labels:
            over = inside.get(label)
            if over is None or area[label] > MARK * area[over]:
                layer[label] = surface.layer
    return layer


def _box_of(
    surface: Surface, boxes: dict[int, tuple[int, int, int, int]], shape: tuple[int, ...]
) -> Box | None:
    known = [boxes[label] for label in surface.labels if label in boxes]
    if not known:
        return None
    x0, y0 = min(b[0] for b in known), min(b[1] for b in known)
    x1, y1 = max(b[0] + b[2] for b in known), max(b[1] + b[3] for b in known)
    return slice(y0, min(y1, shape[0])), slice(x0, min(x1, shape[1]))


def _turn(
    rank: npt.NDArray[np.int32],
    surface: Surface,
    box: Box,
    volume: str,
    out: tuple[npt.NDArray[np.float16], npt.NDArray[np.float16]],
) -> None:
    """Give every part of a round surface its normals. In place."""
    from scipy.ndimage import find_objects, label  # costs 0.3 s, so only where it is used

    parts, _ = label(rank[box] == surface.rank)
    for number, part in enumerate(find_objects(parts)):
        inside = parts[part] == number + 1
        if inside.sum() < _LEAST_PX:
            continue
        place = _shifted((part[0], part[1]), box)
        state = _state(rank, surface.rank, place, inside)
        if not is_held(state):
            continue  # nothing of its silhouette is seen, so nothing says how round it is
        for plane, made in zip(out, normals_of(surface.form, state, inside, volume), strict=True):
            np.copyto(plane[place], made.astype(np.float16), where=inside)


def _shifted(part: Box, box: Box) -> Box:
    y, x = box[0].start, box[1].start
    return (
        slice(part[0].start + y, part[0].stop + y),
        slice(part[1].start + x, part[1].stop + x),
    )


def _state(
    rank: npt.NDArray[np.int32], own: int, place: Box, inside: npt.NDArray[np.bool_]
) -> npt.NDArray[np.uint8]:
    """What lies in and around one part, with a rim of one px; the picture's frame is a mirror."""
    rows, columns = place
    top, left = max(rows.start - 1, 0), max(columns.start - 1, 0)
    seen = rank[top : rows.stop + 1, left : columns.stop + 1]
    around = np.where(seen > own, FRONT, BEHIND).astype(np.uint8)
    # Another part of the same surface lies beside it: neither in front nor behind, so a mirror.
    around[seen == own] = FRONT
    state = np.full((inside.shape[0] + 2, inside.shape[1] + 2), FRONT, np.uint8)
    y, x = 1 - (rows.start - top), 1 - (columns.start - left)
    state[y : y + around.shape[0], x : x + around.shape[1]] = around
    state[1:-1, 1:-1][inside] = INSIDE
    return state


def _darken(
    before: npt.NDArray[np.int32],
    labels: Labels,
    rank: npt.NDArray[np.int32],
    own: int,
    box: Box,
    occlusion: npt.NDArray[np.uint8],
) -> None:
    """Occlusion near whatever stands out in front of a surface: the distance to its border over the
    reach. `before` is by label the rank of what darkens it, 0 for what does not. Found at half
    size, where it varies slowly. In place."""
    from scipy.ndimage import distance_transform_edt

    reach = OPEN_REACH * rank.shape[1]
    wide = int(np.ceil(reach)) + 2
    rows = slice(max(box[0].start - wide, 0), box[0].stop + wide)
    columns = slice(max(box[1].start - wide, 0), box[1].stop + wide)
    seen = rank[rows, columns]
    front = before[labels[rows, columns][::2, ::2]] > own
    if not front.any():
        return
    far = np.asarray(distance_transform_edt(~front), np.float32) * np.float32(2) - np.float32(0.5)
    near = carried_up(carried_up(far, 0), 1)[: seen.shape[0], : seen.shape[1]]
    level = np.clip(near * np.float32(255 / reach), 0, 255).astype(np.uint8)
    np.copyto(occlusion[rows, columns], level, where=seen == own)
