"""Which pieces of a sketch belong together as one thing."""

import re
from collections.abc import Iterable, Sequence

import numpy as np
import numpy.typing as npt

from umber_compass.picture.pieces import SPRITE_PX, Pieces
from umber_compass.plan.model import Region

# What the names of far grounds have in them, on which nothing casts a shadow (studio rule).
_FAR = (
    "sky", "cloud", "sea", "ocean", "lake", "water", "sun", "moon", "star", "hill", "headland",
    "mountain", "air", "night", "evening", "dawn", "dusk", "fog", "mist", "rain", "horizon",
    "distance", "foam", "light",
)  # fmt: skip
_FAR_MADE = ("sky", "cloud", "water")
_WALL_MADE = ("plaster", "brick", "wood", "paper")
LEAST_THING = 0.0008  # share of the picture
WIDE = 0.45  # of the picture's width, from which a middle ground is a ground rather than a thing
_BIG = 0.22  # of the picture, the same
_SAME_FOOT = 0.04  # of the height, within which pieces stand on the same foot


class Grouping:
    """The pieces of a sketch with their regions, and how they go together."""

    def __init__(self, pieces: Pieces, regions: tuple[Region, ...]) -> None:
        self.pieces, self.regions = pieces, {r.label: r for r in regions}
        self.height, self.width = (int(n) for n in pieces.number.shape)
        self.count = len(pieces.area)
        self.grouped: set[int] = set()
        # In a sprite, px that touch at a corner hold together.
        self.least = 1 if pieces.scale == 1 and self.width < SPRITE_PX else 3
        self.share = pieces.area / max(int(pieces.area[1:].sum()), 1)

    def groups(self, roles: Sequence[str]) -> list[set[int]]:
        """Pieces of these roles that touch, with what they enclose, and what is of one form with
        them."""
        own = [i for i in range(1, self.count) if i not in self.grouped and self._stands(i, roles)]
        lead = {i: i for i in own}

        def root(i: int) -> int:
            while lead[i] != i:
                i = lead[i]
            return i

        for (a, b), length in zip(self.pieces.pairs.tolist(), self.pieces.length, strict=True):
            if a in lead and b in lead:
                if length >= self.least and self._belong(a, b):
                    lead[root(a)] = root(b)
            elif (a in lead) != (b in lead) and self._one_form(a, b):
                lead.setdefault(a, a)
                lead.setdefault(b, b)
                lead[root(a)] = root(b)
        own = list(lead)
        groups: dict[int, set[int]] = {}
        for i in own:
            groups.setdefault(root(i), set()).add(i)
        for i in range(1, self.count):
            over = int(self.pieces.inside[i])
            region = self.region(i)
            if region is None or region.role == "ground" or is_far(region):
                continue
            if over in lead and i not in lead:
                groups[root(over)].add(i)
        self.grouped.update(*groups.values())
        return list(groups.values())

    def _stands(self, piece: int, roles: Sequence[str]) -> bool:
        region = self.region(piece)
        if region is None or region.role not in roles or region.material in (*_FAR_MADE, "glow"):
            return False
        if region.role != "middle ground":
            return True
        left, _, right, _ = self.pieces.box[piece]
        wide = (right - left) > WIDE * self.width or self.share[piece] > _BIG
        return not wide and not is_far(region)

    def _belong(self, one: int, other: int) -> bool:
        """Whether two pieces that touch stand together: those of figures do; of what stands behind
        them, those that end at about the same height, or of which one encloses the other."""
        a, b = self.region(one), self.region(other)
        if a is None or b is None or "middle ground" not in (a.role, b.role):
            return True
        ends = abs(int(self.pieces.box[one][3]) - int(self.pieces.box[other][3]))
        nested = other == self.pieces.inside[one] or one == self.pieces.inside[other]
        near = ends < _SAME_FOOT * self.height
        return nested or near or a.id == b.id or self._one_form(one, other)

    def _one_form(self, one: int, other: int) -> bool:
        """Whether two pieces are of regions that are one form, as the stripes of an awning."""
        a, b = self.region(one), self.region(other)
        if a is None or b is None or "ground" in (a.role, b.role):
            return False
        return b.id == a.shares_form_with or a.id == b.shares_form_with

    def region(self, piece: int) -> Region | None:
        return self.regions.get(int(self.pieces.label[piece]))

    def share_of(self, group: Iterable[int]) -> float:
        return float(self.share[list(group)].sum())

    def box(self, group: Iterable[int]) -> tuple[int, int, int, int]:
        boxes = self.pieces.box[list(group)]
        left, top = boxes[:, :2].min(axis=0).tolist()
        right, bottom = boxes[:, 2:].max(axis=0).tolist()
        return left, top, right, bottom

    def _mask(self, group: Iterable[int]) -> npt.NDArray[np.bool_]:
        chosen = np.zeros(self.count, bool)
        chosen[list(group)] = True
        return chosen

    def resting(self, groups: list[set[int]]) -> list[set[int]]:
        """What rests upon another thing goes with it: a gull on a bollard."""
        owner = np.full(self.count, -1)
        for i, group in enumerate(groups):
            owner[list(group)] = i
        onto_of: dict[int, int] = {}
        for i, group in enumerate(groups):
            # A door behind a crate is cut off by it in the same way, so nothing told to be flat.
            onto = None if self.is_flat(group) else self._rests_on(group, owner, i)
            if onto is not None:
                onto_of[i] = onto
        found: dict[int, set[int]] = {}
        for i, group in enumerate(groups):
            lead, passed = i, {i}
            while onto_of.get(lead, lead) not in passed:
                lead = onto_of[lead]
                passed.add(lead)
            found.setdefault(lead, set()).update(group)
        return list(found.values())

    def _rests_on(self, group: set[int], owner: npt.NDArray[np.intp], own: int) -> int | None:
        left, top, right, bottom = self.box(group)
        mine = self._mask(group)[self.pieces.number[top:bottom, left:right]]
        strip = mine[-max(1, (bottom - top) // 25) :].any(axis=0)
        row = min(bottom + 1, self.height - 1)
        if row < bottom:
            return None  # it is cut off by the frame
        below = owner[self.pieces.number[row, left:right][strip]]
        others = below[(below >= 0) & (below != own)]
        if len(others) * 2 <= len(below):
            return None
        return int(np.bincount(others).argmax())

    def is_flat(self, group: set[int]) -> bool:
        return all(r is None or r.form == "flat" for r in map(self.region, group))

    def is_figure(self, group: set[int]) -> bool:
        return any(r and r.role in ("figure", "focus") for r in map(self.region, group))

    def name_of(self, group: set[int]) -> str:
        def weight(piece: int) -> float:
            region = self.region(piece)
            focal = region is not None and region.role == "focus"
            return float(self.share[piece]) * (3.0 if focal else 1.0)

        region = self.region(max(group, key=weight))
        return region.name if region else ""


def is_far(region: Region) -> bool:
    """Whether a region is sky, sea or the like, by its material or name."""
    return region.material in _FAR_MADE or (
        region.role in ("ground", "middle ground")
        and region.material not in _WALL_MADE
        and named(region, _FAR)
    )


def named(region: Region, words: Sequence[str]) -> bool:
    """Whether a region’s name has one of some words in it: whole words, one or several."""
    said = f" {' '.join(re.findall(r'[a-z]+', region.name.lower()))} "
    return any(f" {word} " in said or f" {word}s " in said for word in words)
