"""What is likely the focus, and which regions belong to a face: a first guess by how they lie."""

import numpy as np

from umber_compass.colour.spaces import Floats
from umber_compass.picture.mixes import Ints
from umber_compass.steps.first.things import Outlines, Things

_LEVEL, _BESIDE = 0.03, 0.05  # of the picture: twins on one level; a middle that is the face's
_FACE, _LOOKS = 1.2, 0.6  # a face with something below its eyes; with eyes alone
_SIDE = 0.1  # of a face's outline, that hair holds at least
_SMALL = 0.2  # of a face, that its eyes have at most
_FEATURE = 0.08  # of a face, that one of its features has at most


def facelike(things: Things, thing: int) -> float:
    """How much a thing looks like a face: 1.2 where it encloses twins in its upper half and
    something in the middle below them, .6 for twins alone, else 0."""
    lying, kids = things.outlines, np.flatnonzero(things.parent == thing)
    middle = lying.centre[things.members(thing)].mean(axis=0)
    best = 0.0
    for kid in kids.tolist():
        own = things.members(kid)
        place = lying.centre[own]
        if len(own) not in (2, 4) or things.largest[kid] > _SMALL * things.area[thing]:
            continue
        level, wide = np.ptp(place[:, 1]), np.ptp(place[:, 0])
        off = abs(place[:, 0].mean() - middle[0])
        if level > _LEVEL or wide < 0.01 or place[:, 1].mean() > middle[1] + 0.02 or off > _BESIDE:
            continue
        below = any(
            abs(lying.centre[things.members(k)][:, 0].mean() - place[:, 0].mean()) < _LEVEL
            and lying.centre[things.members(k)][:, 1].mean() > place[:, 1].mean() + 0.02
            for k in kids.tolist()
            if k != kid
        )
        best = max(best, _FACE if below else _LOOKS)
    return best


def guess_focus(things: Things) -> int | None:
    """The thing that is likeliest what should be seen first: central, neither small nor large,
    with things in it, above all a face. None where nothing may be."""
    found: list[tuple[float, int]] = []
    for thing in range(things.many):
        own = things.members(thing)
        area = float(things.largest[thing])
        if things.role[thing] in ("ground", "line") or not 0.002 < area < 0.2:
            continue
        middle = things.outlines.centre[own].mean(axis=0)
        kids = np.flatnonzero(things.parent == thing).tolist()
        pairs = sum(len(things.members(k)) > 1 for k in kids)
        face = facelike(things, thing)
        holds_face = not face and any(facelike(things, k) for k in kids)
        score = _FACE * face - 0.8 * holds_face + 0.6 * (things.role[thing] == "figure")
        score += 0.35 * min(len(kids), 4) + 0.6 * pairs - 0.6 * (len(own) > 2)
        score -= 1.6 * float(np.hypot(middle[0] - 0.5, (middle[1] - 0.45) * 0.8))
        found.append((score - 0.22 * abs(float(np.log(area / 0.03))), thing))
    return max(found)[1] if found else None


def face_parts(things: Things, face: int, material: str) -> tuple[dict[int, str], list[list[int]]]:
    """What the regions about a face of a material are, by their place in the plan; and which of
    them take one colour. Only regions of which nothing is known."""
    lying = things.outlines
    own = things.members(face)
    left, top = lying.box[own, :2].min(axis=0)
    right, bottom = lying.box[own, 2:].max(axis=0)
    x, y = lying.centre[own].mean(axis=0)
    parts: dict[int, str] = {}
    _inside(things, face, parts)
    along = lying.border[own].sum(axis=0) / max(float(lying.outline[own].sum()), 1.0)
    neck = lying.border[_necks(lying, along, (x, y, right - left, bottom))].sum(axis=0)
    hair: list[int] = []
    for i in np.flatnonzero((along > 0) | (neck > 0)).tolist():
        if i in own or i in parts or things.material[things.of[i]]:
            continue
        if things.regions[i].role in ("line", "ground") or lying.parent[i] in own:
            continue
        a, b, c, d = lying.box[i]
        wide = c - a
        at = lying.centre[i]
        area = float(lying.share[i] / max(float(things.area[face]), 1e-9))
        if (
            along[i] > 0
            and abs(at[0] - x) < 0.3 * (right - left)
            and at[1] > bottom - 0.35 * (bottom - top)
            and wide < 1.05 * (right - left)
            and area < 0.9
            and d > bottom
        ):
            parts[i] = material  # a neck
        elif (
            along[i] > 0
            and area < 0.12
            and abs(at[1] - y) < 0.35 * (bottom - top)
            and (at[0] < left + 0.1 * (right - left) or at[0] > right - 0.1 * (right - left))
        ):
            parts[i] = material  # an ear
        elif area < 3 and _is_hair((a, b, c, d), (left, top, right, bottom), float(along[i])):
            hair.append(i)
    for i in hair:
        parts[i] = "hair"
    flesh = [i for i, m in parts.items() if m == material and i not in own]
    return parts, [hair, [int(own[0]), *flesh]] if hair else [[int(own[0]), *flesh]]


def _necks(lying: Outlines, along: Floats, face: tuple[float, ...]) -> Ints:
    """Regions that touch a face below its middle: hair falls along them too."""
    x, _, wide, bottom = face
    below = (lying.centre[:, 1] > bottom - 0.05) & (np.abs(lying.centre[:, 0] - x) < 0.3 * wide)
    return np.flatnonzero(below & (along > 0))


def _is_hair(box: tuple[float, ...], face: tuple[float, ...], along: float) -> bool:
    """Whether a region falls beside a face, or covers its top and is hardly wider."""
    left, top, right, bottom = face
    a, b, c, d = box
    wide, tall = right - left, bottom - top
    beside = (
        d > top + 0.45 * tall
        and b < top + 0.7 * tall
        and (a < left + 0.1 * wide or c > right - 0.1 * wide)
    )
    if beside and c - a < 2.2 * wide and b > top - 0.6 * tall:
        return True
    return along >= _SIDE and b < top + 0.2 * tall and c - a < 1.3 * wide and d - b < 0.7 * tall


def _inside(things: Things, face: int, parts: dict[int, str]) -> None:
    """Eyes, what is in them, brows, lips, by how they lie in the face. In place."""
    lying = things.outlines
    own = things.members(face)
    (left, top), (right, bottom) = lying.box[own, :2].min(axis=0), lying.box[own, 2:].max(axis=0)
    wide, tall = right - left, bottom - top
    x = (left + right) / 2
    held = lying.share < _FEATURE * things.area[face]
    within = (lying.centre > (left, top)).all(axis=1) & (lying.centre < (right, bottom)).all(axis=1)
    drawn = np.array([r.role != "line" for r in things.regions])
    free = np.array([not things.material[t] for t in things.of])
    some = np.flatnonzero(held & within & drawn & free & ~np.isin(np.arange(len(drawn)), own))
    sides: tuple[list[int], list[int]] = ([], [])
    for i in some.tolist():
        box, at = lying.box[i], lying.centre[i]
        if at[1] < top + 0.6 * tall and abs(at[0] - x) > 0.08 * wide:
            if box[3] - box[1] < 0.3 * (box[2] - box[0]) and at[1] < top + 0.4 * tall:
                parts[i] = "hair"  # a brow
            else:
                sides[int(at[0] > x)].append(i)
        elif at[1] > top + 0.62 * tall and abs(at[0] - x) < 0.2 * wide:
            parts[i] = "lips"
    for eye in sides:
        _eye(lying, eye, parts)


def _eye(lying: Outlines, eye: list[int], parts: dict[int, str]) -> None:
    """White and iris of one eye: the iris is what lies in its middle, with what lies in that."""
    if not eye:
        return
    box = lying.box[eye]
    middle = (box[:, :2].min(axis=0) + box[:, 2:].max(axis=0)) / 2
    wide = max(float(box[:, 2].max() - box[:, 0].min()), 1e-9)
    for i in eye:
        inner = float(np.abs(lying.centre[i] - middle)[0]) < 0.15 * wide
        small = float(lying.box[i, 2] - lying.box[i, 0]) < 0.7 * wide
        parts[i] = "iris" if len(eye) > 1 and inner and small else "eye"
