"""Things made ready to cast shadows: each as upright cards, blurred beforehand by how far the light
has still to go, so that a shadow is one look-up a thing (docs/light.md).

All lengths here are px of the map of pieces, "fine" px; places on the floor are as on the picture,
x to the right and y down.
"""

from collections.abc import Sequence
from functools import lru_cache
from typing import NamedTuple, TypeAlias

import numpy as np
import numpy.typing as npt
from PIL import Image

from umber_compass.picture.mixes import Ints
from umber_compass.picture.pieces import Pieces
from umber_compass.plan.terms import Standing

Mask: TypeAlias = npt.NDArray[np.bool_]

# Cards of one thing stand before and behind its middle, at these shares of its half thickness.
ACROSS = (-0.62, 0.0, 0.62)
SLOPES = (0.0, 0.05, 0.12, 0.28, 0.6)  # px of blur for a px of height above the foot
BLURS = (0.0, 1.5, 4.0, 9.0, 18.0)  # px of blur for what falls on a wall
_PAD = 40  # px round a card: its blur must not be cut off
_BASE = 0.06  # of its height, the lowest part of a thing, on which it stands
_FOOT, _CONTACT = 0.06, 0.22  # of a thing's height, its foot; of that's width, how far it darkens
_SLANT, _DARKEST = 2.2, 0.6  # px of floor for one that is seen; of the key's light, what it takes
_MOST_THICK = 0.5  # of its height, half of a thing's thickness at most


class Standee(NamedTuple):
    """One thing as cards."""

    left: int  # of the cards, px
    top: int
    size: tuple[int, int]  # width and height of the cards
    box: tuple[int, int, int, int]  # of the thing itself: left, top, right, bottom
    bottom: float  # its lowest px, where the blur of its cards begins
    middle: float  # of its base, x
    base: float  # how wide that is
    half: float  # of its thickness
    cards: tuple[tuple[Image.Image, ...], ...]  # by place across, by slope
    walls: tuple[Image.Image, ...]  # by blur
    mask: Mask  # within the box
    contact: Image.Image  # as large as the cards: how near the floor is to the foot


class Placed(NamedTuple):
    """Where a thing stands: on what, with its foot at this share of the height, so far before a
    wall, a share of the width."""

    on: Standing
    foot: float
    gap: float


class Stage(NamedTuple):
    """The floor and the walls that things cast shadows on."""

    horizon: float  # share of the height
    floor: tuple[int, ...]  # labels
    wall: tuple[int, ...]


def standee_of(pieces: Pieces, members: Sequence[int]) -> Standee | None:
    """Pieces that stand together as cards; None for no px."""
    return _standee(_Alike(pieces, tuple(sorted(set(members)))))


class _Alike:
    """Pieces of one map, for remembering what was made of them."""

    def __init__(self, pieces: Pieces, members: tuple[int, ...]) -> None:
        self.pieces, self.members = pieces, members

    def __hash__(self) -> int:
        return hash((id(self.pieces.number), self.members))

    def __eq__(self, other: object) -> bool:
        if not isinstance(other, _Alike):
            return NotImplemented
        same = self.pieces.number is other.pieces.number
        return same and self.members == other.members


@lru_cache(48)
def _standee(of: _Alike) -> Standee | None:
    from scipy.ndimage import distance_transform_edt, maximum_filter

    found = mask_of(of.pieces, of.members)
    if found is None:
        return None
    box, mask = found
    padded = np.pad(mask, _PAD)
    far = np.asarray(distance_transform_edt(padded), np.float32)
    tall = box[3] - box[1]
    half = min(max(float(far.max()), 1.0), max(_MOST_THICK * tall, 1.0))
    # As thick as it is wide: within its own limb each px lies as deep as on a ball.
    wide = maximum_filter(far, size=max(3, int(1.4 * half)))
    depth = np.sqrt(np.maximum(2 * far * wide - far * far, 0))
    base = np.nonzero(mask[tall - max(2, int(_BASE * tall)) :])[1]
    top, bottom = box[1] - _PAD, float(box[3])
    height = np.maximum(bottom - (top + np.arange(len(padded)) + 0.5), 0)
    cards: list[tuple[Image.Image, ...]] = []
    walls: tuple[Image.Image, ...] = ()
    for across in ACROSS:
        # A card off the middle is what of a thing is at least that thick there.
        part = (depth > abs(across) * half if across else padded).astype(np.float32)
        stack = _blurred(part)
        cards.append(tuple(_image(_at_slope(stack, slope, height)) for slope in SLOPES))
        if not across:
            walls = tuple(_image(plane) for plane in stack)
    return Standee(
        left=box[0] - _PAD,
        top=top,
        size=(padded.shape[1], padded.shape[0]),
        box=box,
        bottom=bottom,
        middle=box[0] + (float(base.min()) + float(base.max()) + 1) / 2,
        base=float(base.max() - base.min() + 1),
        half=half,
        cards=tuple(cards),
        walls=walls,
        mask=mask,
        contact=_image(_contact(padded, tall)),
    )


def _contact(padded: Mask, tall: int) -> npt.NDArray[np.float32]:
    """How near the floor lies to a thing's foot, 0-1, whatever the lamp does: measured along the
    floor, which is seen at a slant."""
    from scipy.ndimage import distance_transform_edt

    foot = padded.copy()
    foot[: -_PAD - max(2, int(_FOOT * tall))] = False
    wide = max(float(np.ptp(np.flatnonzero(foot.any(axis=0)))), 1.0) if foot.any() else 1.0
    reach = float(np.clip(_CONTACT * wide, 4.0, _PAD * 0.8))
    far = distance_transform_edt(~foot, sampling=(_SLANT, 1.0))
    near = np.clip(1 - far / reach, 0, 1)
    return np.asarray(near * near * _DARKEST, np.float32)


def mask_of(
    pieces: Pieces, members: Sequence[int]
) -> tuple[tuple[int, int, int, int], Mask] | None:
    """The box and the px of some pieces; None where they have none."""
    known = [m for m in members if 0 < m < len(pieces.area) and pieces.area[m]]
    if not known:
        return None
    boxes = pieces.box[known]
    left, top = boxes[:, :2].min(axis=0).tolist()
    right, bottom = boxes[:, 2:].max(axis=0).tolist()
    chosen = np.zeros(len(pieces.area), bool)
    chosen[known] = True
    return (left, top, right, bottom), chosen[pieces.number[top:bottom, left:right]]


def _blurred(part: npt.NDArray[np.float32]) -> list[npt.NDArray[np.float32]]:
    from scipy.ndimage import gaussian_filter

    return [part if s == 0 else gaussian_filter(part, s, truncate=2.5) for s in BLURS]


def _at_slope(
    stack: list[npt.NDArray[np.float32]], slope: float, height: Ints
) -> npt.NDArray[np.float32]:
    """A card blurred by so much for each px above the foot."""
    sigma = np.clip(slope * height, 0, BLURS[-1])[:, None].astype(np.float32)
    out = stack[0].copy()
    for i in range(len(BLURS) - 1):
        share = np.clip((sigma - BLURS[i]) / (BLURS[i + 1] - BLURS[i]), 0, 1)
        out += (stack[i + 1] - out) * share
    return out


def _image(plane: npt.NDArray[np.float32]) -> Image.Image:
    return Image.fromarray(np.asarray(np.clip(plane, 0, 1) * 255 + 0.5).astype(np.uint8))
