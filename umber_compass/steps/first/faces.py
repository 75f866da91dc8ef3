"""What is likely the focus, and which regions belong to a face: a first guess by how they lie."""

import numpy as np

from umber_compass.colour.spaces import Floats
from umber_compass.picture.mixes import Ints
from umber_compass.steps.first.things import Outlines, Things

_LEVEL, _BESIDE = 0.03, 0.05  # of the picture: twins on one level; a middle that is the face's
_FACE, _LOOKS = 1.2, 0.6  # a face with something below its eyes; with eyes alone
_LAYERS = 3  # of hair on hair
_HELD, _SMALL_HELD = 0.2, 0.06  # of an outline, along a face and its hair
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
    box = _box_of(lying, own)
    parts: dict[int, str] = {}
    _inside(things, face, parts)
    along = lying.border[own].sum(axis=0) / max(float(lying.outline[own].sum()), 1.0)
    neck = lying.border[_necks(lying, along, box)].sum(axis=0)
    free = [
        i
        for i in range(len(things.regions))
        if i not in own
        and i not in parts
        and things.material[things.of[i]] in ("", material)
        and things.regions[i].role not in ("line", "ground")
    ]
    hair: list[int] = []
    for i in (k for k in free if along[k] > 0 or neck[k] > 0):
        area = float(lying.share[i] / max(float(things.area[face]), 1e-9))
        if _is_neck(lying, i, box, area, float(along[i])) or _is_ear(
            lying, i, box, area, float(along[i])
        ):
            parts[i] = material
        elif (
            not things.material[things.of[i]]
            and area < 3
            and _is_hair(lying.box[i], box, float(along[i]))
        ):
            hair.append(i)
    unknown = [i for i in free if i not in parts and not things.material[things.of[i]]]
    _more_hair(lying, own.tolist(), hair, unknown, box)
    for i in hair:
        parts[i] = "hair"
    flesh = [i for i, m in parts.items() if m == material and i not in own]
    return parts, [hair, [int(own[0]), *flesh]] if hair else [[int(own[0]), *flesh]]


def _box_of(lying: Outlines, own: Ints) -> Floats:
    """Left, top, right, bottom of some regions together."""
    return np.concatenate([lying.box[own, :2].min(axis=0), lying.box[own, 2:].max(axis=0)])


def _is_neck(lying: Outlines, i: int, face: Floats, area: float, along: float) -> bool:
    """Whether a region goes on below a face, no wider than it."""
    left, top, right, bottom = face
    middle = abs(lying.centre[i, 0] - (left + right) / 2) < 0.3 * (right - left)
    a, _, c, d = lying.box[i]
    low = lying.centre[i, 1] > bottom - 0.35 * (bottom - top) and d > bottom
    return bool(along > 0 and middle and low and c - a < 1.05 * (right - left) and area < 0.9)


def _is_ear(lying: Outlines, i: int, face: Floats, area: float, along: float) -> bool:
    """Whether a small region lies at the side of a face, about its middle."""
    left, top, right, bottom = face
    x, y = lying.centre[i]
    level = abs(y - (top + bottom) / 2) < 0.35 * (bottom - top)
    edge = 0.1 * (right - left)
    return bool(along > 0 and area < 0.12 and level and (x < left + edge or x > right - edge))


def _more_hair(
    lying: Outlines, face: list[int], hair: list[int], free: list[int], box: Floats
) -> None:
    """What lies on a face or its hair, above, and no wider: a fringe, a bun. In place."""
    left, top, right, bottom = box
    wide, tall = right - left, bottom - top
    for _ in range(_LAYERS):
        before = len(hair)
        for i in (k for k in free if k not in hair):
            a, _, c, _ = lying.box[i]
            held = float(lying.border[i, [*face, *hair]].sum() / lying.outline[i])
            small = lying.share[i] < 0.4 * lying.share[face].sum()
            above = lying.centre[i, 1] < top + 0.3 * tall and c - a < 1.35 * wide
            if hair and above and held >= (_SMALL_HELD if small else _HELD):
                hair.append(i)
        if len(hair) == before:
            return


def _necks(lying: Outlines, along: Floats, face: Floats) -> Ints:
    """Regions that touch a face below its middle: hair falls along them too."""
    left, _, right, bottom = face
    off = np.abs(lying.centre[:, 0] - (left + right) / 2)
    below = (lying.centre[:, 1] > bottom - 0.05) & (off < 0.3 * (right - left))
    return np.flatnonzero(below & (along > 0))


def _is_hair(box: Floats, face: Floats, along: float) -> bool:
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
    return bool(
        along >= _SIDE and b < top + 0.2 * tall and c - a < 1.3 * wide and d - b < 0.7 * tall
    )


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
        if at[1] < top + 0.6 * tall and 0.08 * wide < abs(at[0] - x) < 0.4 * wide:
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
