"""The forms of a sketch: which way every pixel faces, and how open it lies (docs/light.md).

Regions become surfaces: flat, sloped like a floor or a roof, or round. Regions that share a form
are one surface. What lies in front covers what is behind and never dents it.
"""

from collections.abc import Iterable
from typing import NamedTuple, TypeAlias

import numpy as np
import numpy.typing as npt

from umber_compass.picture.mixes import Labels
from umber_compass.picture.poisson import (
    BEHIND,
    FRONT,
    INSIDE,
    Plane,
    carried_up,
    is_held,
    swelling,
)
from umber_compass.plan.model import Region
from umber_compass.plan.terms import Form, Role
from umber_compass.work import Tick, idle

Box: TypeAlias = tuple[slice, slice]

FLAT, SLOPE, ROUND = 0, 1, 2
KINDS = {"flat": FLAT, "slope": SLOPE, "round": ROUND}
# x right, y down, z toward the viewer: a floor or a roof seen from before it (studio rule).
SLOPE_NORMAL = (0.0, -(0.5**0.5), 0.5**0.5)
OPEN_REACH = 24 / 1280  # share of the width from which a border in front darkens nothing
_BLUR = 1.2  # px; takes the steps of a pixel's border off the normals
_LEAST_PX = 12  # a part smaller than this is too small to have a form
_ROLES = ("ground", "middle ground", "figure", "focus", "line")


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
    rank: int  # a greater one lies in front
    is_far: bool  # behind, and not told to be a wall or a floor: nothing darkens it


class Forms(NamedTuple):
    """Every pixel's facing and ambient occlusion."""

    kind: npt.NDArray[np.uint8]  # by label
    nx: npt.NDArray[np.float16]  # (h, w), right
    ny: npt.NDArray[np.float16]  # (h, w), down
    occlusion: npt.NDArray[np.uint8]  # (h, w), 255 is open


def kind_of(region: FormWish) -> int:
    """The form a region has: what it was told, or round for figures and flat for the rest."""
    if region.form != "auto":
        return KINDS[region.form]
    return ROUND if region.role in ("figure", "focus") else FLAT


def front_order(regions: Iterable[FormWish], area: npt.NDArray[np.intp]) -> dict[int, int]:
    """Each label's place from back to front: by role, then the smaller area in front; a region
    that was told its place stands there. `area` is px by label."""
    known = list(regions)
    free = sorted(
        (r for r in known if r.front is None), key=lambda r: (_ROLES.index(r.role), -area[r.label])
    )
    for told in sorted((r for r in known if r.front is not None), key=lambda r: r.front or 0):
        free.insert(told.front or 0, told)
    return {r.label: i + 1 for i, r in enumerate(free)}


def surfaces(regions: Iterable[FormWish], area: npt.NDArray[np.intp]) -> list[Surface]:
    """The surfaces of a sketch, from back to front."""
    known = list(regions)
    order = front_order(known, area)
    by_id = {r.id: r for r in known}
    groups: dict[str, list[FormWish]] = {}
    for region in known:
        groups.setdefault(_root(region, by_id), []).append(region)
    found = []
    for root, members in groups.items():
        lead = by_id[root]
        kind = kind_of(lead)
        behind = lead.role in ("ground", "middle ground") and lead.form == "auto"
        far = behind or (lead.role == "ground" and lead.form == "round")
        rank = max(order[m.label] for m in members)
        found.append(Surface(tuple(m.label for m in members), kind, rank, far))
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
    boxes: dict[int, tuple[int, int, int, int]],
    tick: Tick = idle,
) -> Forms:
    """The forms of a sketch, (h, w). `boxes` are x, y, width, height of each label in px."""
    most = max(int(labels.max(initial=0)), max((r.label for r in regions), default=0))
    area = np.bincount(labels.reshape(-1), minlength=most + 1)
    kinds, ranks = np.zeros(most + 1, np.uint8), np.zeros(most + 1, np.int32)
    found = surfaces(regions, area)
    for surface in found:
        kinds[list(surface.labels)], ranks[list(surface.labels)] = surface.kind, surface.rank
    rank = ranks[labels]
    standing = np.where(kinds != FLAT, ranks, 0).astype(np.int32)[labels]
    nx, ny = (np.zeros(labels.shape, np.float16) for _ in range(2))
    occlusion = np.full(labels.shape, 255, np.uint8)
    for i, surface in enumerate(found):
        tick(i / max(len(found), 1))
        box = _box_of(surface, boxes, labels.shape)
        if box is None:
            continue
        if surface.kind == SLOPE:
            np.copyto(ny[box], np.float16(SLOPE_NORMAL[1]), where=rank[box] == surface.rank)
        if surface.kind == ROUND:
            _swell(rank, surface.rank, box, nx, ny)
        if not surface.is_far:
            _darken(standing, rank, surface.rank, box, occlusion)
    return Forms(kinds, nx, ny, occlusion)


def _box_of(
    surface: Surface, boxes: dict[int, tuple[int, int, int, int]], shape: tuple[int, ...]
) -> Box | None:
    known = [boxes[label] for label in surface.labels if label in boxes]
    if not known:
        return None
    x0, y0 = min(b[0] for b in known), min(b[1] for b in known)
    x1, y1 = max(b[0] + b[2] for b in known), max(b[1] + b[3] for b in known)
    return slice(y0, min(y1, shape[0])), slice(x0, min(x1, shape[1]))


def _swell(
    rank: npt.NDArray[np.int32],
    own: int,
    box: Box,
    nx: npt.NDArray[np.float16],
    ny: npt.NDArray[np.float16],
) -> None:
    """Give every part of a round surface its normals."""
    from scipy.ndimage import find_objects, label  # costs 0.3 s, so only where it is used

    parts, _ = label(rank[box] == own)
    for number, part in enumerate(find_objects(parts)):
        inside = parts[part] == number + 1
        if inside.sum() < _LEAST_PX:
            continue
        place = _shifted((part[0], part[1]), box)
        state = _state(rank, own, place, inside)
        if not is_held(state):
            continue  # nothing of its silhouette is seen, so nothing says how round it is
        right, down = _normals(swelling(state), state)
        np.copyto(nx[place], right, where=inside)
        np.copyto(ny[place], down, where=inside)


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


def _normals(
    swell: Plane, state: npt.NDArray[np.uint8]
) -> tuple[npt.NDArray[np.float16], npt.NDArray[np.float16]]:
    """Right and down of the normals of the height that is the root of a swelling, rim taken off.
    With h = sqrt(u) the normal is (-u_x, -u_y, 2 h), which never grows beyond bounds."""
    from scipy.ndimage import gaussian_filter

    counts = (state != FRONT).astype(np.float32)
    smooth = gaussian_filter(swell, _BLUR, truncate=3, mode="nearest")
    smooth /= np.maximum(gaussian_filter(counts, _BLUR, truncate=3, mode="nearest"), 1e-3)
    if (state == FRONT).any():
        smooth = np.where((state == FRONT) & (smooth == 0), np.float32(0), smooth)
    across = (smooth[1:-1, 2:] - smooth[1:-1, :-2]) / 2
    along = (smooth[2:, 1:-1] - smooth[:-2, 1:-1]) / 2
    toward = 2 * np.sqrt(np.maximum(smooth[1:-1, 1:-1], 0))
    length = np.sqrt(across**2 + along**2 + toward**2)
    length = np.maximum(length, 1e-6)
    return (-across / length).astype(np.float16), (-along / length).astype(np.float16)


def _darken(
    standing: npt.NDArray[np.int32],
    rank: npt.NDArray[np.int32],
    own: int,
    box: Box,
    occlusion: npt.NDArray[np.uint8],
) -> None:
    """Occlusion near whatever stands out in front of a surface: the distance to its border over the
    reach. What is flat lies on the surface like paint and takes nothing. Found at half size, where
    it varies slowly."""
    from scipy.ndimage import distance_transform_edt

    reach = OPEN_REACH * rank.shape[1]
    wide = int(np.ceil(reach)) + 2
    rows = slice(max(box[0].start - wide, 0), box[0].stop + wide)
    columns = slice(max(box[1].start - wide, 0), box[1].stop + wide)
    seen = rank[rows, columns]
    front = standing[rows, columns][::2, ::2] > own
    if not front.any():
        return
    far = np.asarray(distance_transform_edt(~front), np.float32) * np.float32(2) - np.float32(0.5)
    near = carried_up(carried_up(far, 0), 1)[: seen.shape[0], : seen.shape[1]]
    level = np.clip(near * np.float32(255 / reach), 0, 255).astype(np.uint8)
    np.copyto(occlusion[rows, columns], level, where=seen == own)
