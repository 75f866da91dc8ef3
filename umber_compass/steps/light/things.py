"""What stands where, guessed from the pieces of a sketch: which belong together as a thing, what is
floor, wall or sky, where the floor ends. Right about half the time, as what follows can be from
shapes alone; each guess can be corrected (docs/light.md).
"""

from collections.abc import Iterable, Sequence
from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from umber_compass.picture.cards import Placed
from umber_compass.picture.finish import finish_of
from umber_compass.picture.pieces import SPRITE_PX, Pieces
from umber_compass.plan.model import Region
from umber_compass.plan.terms import Ground

# What the names of far grounds have in them, on which nothing casts a shadow (studio rule).
_FAR = (
    "sky", "cloud", "sea", "ocean", "lake", "water", "sun", "moon", "star", "hill", "headland",
    "mountain", "air", "night", "evening", "dawn", "dusk", "fog", "mist", "rain", "horizon",
    "distance", "foam", "light",
)  # fmt: skip
_FAR_MADE = ("sky", "cloud", "water")
_WALL_MADE = ("plaster", "brick", "wood", "paper")
_FLOOR_NAMES = (
    "floor", "ground", "path", "road", "street", "pier", "quay", "deck", "table", "bench top",
    "yard", "grass", "sand",
)  # fmt: skip
_LEAST_THING = 0.0008  # share of the picture
_WIDE = 0.45  # of the picture's width, from which a middle ground is a ground rather than a thing
_BIG = 0.22  # of the picture, the same
_CROPPED_GAP, _HUNG_GAP = 0.15, 0.04  # of the picture's width
_NEAR = 0.03  # of the height, within which a foot on the horizon makes it part of the wall
_HORIZON = 0.66  # of the height, where nothing says it
_ABOVE = 0.12  # of the height, that a floor goes on above the part of it that things stand on
_SAME_FOOT = 0.04  # of the height, within which pieces stand on the same foot
_BAND = 0.03  # of the height, the strip beside a foot in which its floor is looked for


class Found(NamedTuple):
    """A thing as it was guessed."""

    name: str
    members: tuple[int, ...]  # pieces
    placed: Placed


class Guessed(NamedTuple):
    """What stands where, as far as shapes, roles and names say."""

    things: tuple[Found, ...]
    horizon: float  # share of the height
    grounds: dict[str, Ground]  # of the regions that are ground, by id


def guess(pieces: Pieces | None, regions: tuple[Region, ...]) -> Guessed | None:
    """The things and grounds of a sketch; None where its pieces are not known."""
    return None if pieces is None else _Guess(pieces, regions).made()


class _Guess:
    """One guess: what is known of the pieces, and the order things are decided in."""

    def __init__(self, pieces: Pieces, regions: tuple[Region, ...]) -> None:
        self.pieces, self.regions = pieces, {r.label: r for r in regions}
        self.height, self.width = (int(n) for n in pieces.number.shape)
        self.count = len(pieces.area)
        self.grouped: set[int] = set()
        # In a sprite, px that touch at a corner hold together.
        self.least = 1 if pieces.scale == 1 and self.width < SPRITE_PX else 3
        self.share = pieces.area / max(int(pieces.area[1:].sum()), 1)

    def made(self) -> Guessed:
        """All of it."""
        groups = [*self._groups(("figure", "focus")), *self._groups(("middle ground",))]
        groups = self._resting([g for g in groups if self._share(g) >= _LEAST_THING])
        floor = self._floor(groups)
        horizon = self._horizon(floor)
        things, standing = [], set[int]()
        for group in groups:
            placed = self._placed(group, horizon, floor)
            if placed is not None:
                things.append(Found(self._name(group), tuple(sorted(group)), placed))
                standing |= group
        return Guessed(tuple(things), horizon, self._grounds(floor, standing, horizon))

    def _groups(self, roles: Sequence[str]) -> list[set[int]]:
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
            region = self._region(i)
            if region is None or region.role == "ground" or _is_far(region):
                continue
            if over in lead and i not in lead:
                groups[root(over)].add(i)
        self.grouped.update(*groups.values())
        return list(groups.values())

    def _belong(self, one: int, other: int) -> bool:
        """Whether two pieces that touch stand together: those of figures do; of what stands behind
        them, those that end at about the same height, or of which one encloses the other."""
        a, b = self._region(one), self._region(other)
        if a is None or b is None or "middle ground" not in (a.role, b.role):
            return True
        ends = abs(int(self.pieces.box[one][3]) - int(self.pieces.box[other][3]))
        nested = other == self.pieces.inside[one] or one == self.pieces.inside[other]
        near = ends < _SAME_FOOT * self.height
        return nested or near or a.id == b.id or self._one_form(one, other)

    def _one_form(self, one: int, other: int) -> bool:
        """Whether two pieces are of regions that are one form, as the stripes of an awning."""
        a, b = self._region(one), self._region(other)
        if a is None or b is None or "ground" in (a.role, b.role):
            return False
        return b.id == a.shares_form_with or a.id == b.shares_form_with

    def _stands(self, piece: int, roles: Sequence[str]) -> bool:
        region = self._region(piece)
        if region is None or region.role not in roles or region.material in (*_FAR_MADE, "glow"):
            return False
        if region.role != "middle ground":
            return True
        left, _, right, _ = self.pieces.box[piece]
        wide = (right - left) > _WIDE * self.width or self.share[piece] > _BIG
        return not wide and not _is_far(region)

    def _region(self, piece: int) -> Region | None:
        return self.regions.get(int(self.pieces.label[piece]))

    def _share(self, group: Iterable[int]) -> float:
        return float(self.share[list(group)].sum())

    def _name(self, group: set[int]) -> str:
        def weight(piece: int) -> float:
            region = self._region(piece)
            focal = region is not None and region.role == "focus"
            return float(self.share[piece]) * (3.0 if focal else 1.0)

        region = self._region(max(group, key=weight))
        return region.name if region else ""

    def _box(self, group: Iterable[int]) -> tuple[int, int, int, int]:
        boxes = self.pieces.box[list(group)]
        left, top = boxes[:, :2].min(axis=0).tolist()
        right, bottom = boxes[:, 2:].max(axis=0).tolist()
        return left, top, right, bottom

    def _mask(self, group: Iterable[int]) -> npt.NDArray[np.bool_]:
        chosen = np.zeros(self.count, bool)
        chosen[list(group)] = True
        return chosen

    def _under(self, group: set[int]) -> npt.NDArray[np.intp]:
        """Px by piece just below and beside the foot of a group."""
        left, _, right, bottom = self._box(group)
        band = max(2, int(_BAND * self.height))
        aside = max(2, (right - left) // 6)
        rows = slice(max(bottom - band, 0), min(bottom + band // 2 + 1, self.height))
        columns = slice(max(left - aside, 0), min(right + aside, self.width))
        near = self.pieces.number[rows, columns]
        return np.bincount(near.reshape(-1), minlength=self.count)

    def _resting(self, groups: list[set[int]]) -> list[set[int]]:
        """What rests upon another thing goes with it: a gull on a bollard."""
        owner = np.full(self.count, -1)
        for i, group in enumerate(groups):
            owner[list(group)] = i
        onto_of: dict[int, int] = {}
        for i, group in enumerate(groups):
            # A door behind a crate is cut off by it in the same way, so nothing told to be flat.
            onto = None if self._is_flat(group) else self._rests_on(group, owner, i)
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
        left, top, right, bottom = self._box(group)
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

    def _floor(self, groups: list[set[int]]) -> set[int]:
        """The labels of the floor: what lies under most feet, and is a ground or wide; else a
        ground along the lower frame."""
        votes = np.zeros(max(self.regions, default=0) + 1)
        for group in groups:
            _, _, _, bottom = self._box(group)
            if bottom >= self.height - 1:
                continue
            near = self._under(group)
            near[list(group)] = 0
            for piece in np.flatnonzero(near).tolist():
                region = self._region(piece)
                if region and not _is_far(region) and self._is_ground(piece, region):
                    low = (bottom / self.height) ** 4
                    weight = 4 if self._is_figure(group) else 1
                    votes[region.label] += near[piece] * low * weight * self._share(group) ** 0.5
        lying = [i for i in np.argsort(-votes).tolist() if votes[i] and self._lies_low(i)]
        if lying:
            top = self._top(lying[0]) - _ABOVE * self.height
            sloped = {n for n, r in self.regions.items() if r.form == "slope"}
            return {lying[0], *(n for n in sloped if self._lies_low(n) and self._top(n) >= top)}
        named = {r.label for r in self.regions.values() if _named(r, _FLOOR_NAMES)}
        if named:
            return named
        grounds = [i for i in range(1, self.count) if self._bottom_ground(i)]
        return {int(self.pieces.label[i]) for i in grounds}

    def _is_ground(self, piece: int, region: Region) -> bool:
        left, _, right, _ = self.pieces.box[piece]
        return region.role == "ground" or right - left > _WIDE * self.width

    def _top(self, label: int) -> float:
        """Where most of a label begins, px from above."""
        own = np.flatnonzero((self.pieces.label[self.pieces.number] == label).any(axis=1))
        return int(own[len(own) // 20]) - float(_BAND * self.height) if len(own) else 0.0

    def _lies_low(self, label: int) -> bool:
        """Whether a label reaches down far enough to be a floor, and not all the way up."""
        boxes = self.pieces.box[(self.pieces.label == label) & (self.share > _LEAST_THING)]
        if not len(boxes):
            return False
        tall = (boxes[:, 3].max() - boxes[:, 1].min()) / self.height
        return bool(boxes[:, 3].max() > 0.6 * self.height and tall < 0.75)

    def _bottom_ground(self, piece: int) -> bool:
        region = self._region(piece)
        if region is None or region.role != "ground" or _is_far(region):
            return False
        _, top, _, bottom = self.pieces.box[piece]
        return bool(bottom >= self.height and top > 0.4 * self.height)

    def _horizon(self, floor: set[int]) -> float:
        """Where the floor ends above: the upper end of most of its columns."""
        if not floor:
            return _HORIZON
        own = np.isin(self.pieces.label[self.pieces.number], list(floor))
        held = own.any(axis=0)
        tops = own.argmax(axis=0)[held]
        return float(np.percentile(tops, 15)) / self.height

    def _placed(self, group: set[int], horizon: float, floor: set[int]) -> Placed | None:
        """Where a thing stands; None where it is part of a wall or of the distance."""
        _, _, _, bottom = self._box(group)
        foot = bottom / self.height
        if bottom >= self.height - 1:
            return Placed("wall", 1.0, _CROPPED_GAP) if self._is_figure(group) else None
        if floor and foot > horizon + (0 if self._is_figure(group) else _NEAR):
            return Placed("floor", foot, _HUNG_GAP)
        if self._before_a_wall(group):
            flat = self._is_flat(group)
            near = abs(foot - horizon) <= _NEAR
            return None if flat or near else Placed("wall", foot, _HUNG_GAP)
        return Placed("air", foot, 0.0) if self._is_figure(group) else None

    def _is_flat(self, group: set[int]) -> bool:
        return all(r is None or r.form == "flat" for r in map(self._region, group))

    def _is_figure(self, group: set[int]) -> bool:
        return any(r and r.role in ("figure", "focus") for r in map(self._region, group))

    def _before_a_wall(self, group: set[int]) -> bool:
        """Whether most of what touches a thing is near ground: no sky, no sea."""
        near, far = 0.0, 0.0
        for (a, b), length in zip(self.pieces.pairs.tolist(), self.pieces.length, strict=True):
            if (a in group) == (b in group):
                continue
            region = self._region(b if a in group else a)
            if region is None or region.role not in ("ground", "middle ground", "focus"):
                continue
            if _is_far(region) or not finish_of(region.material).lit:
                far += length
            else:
                near += length
        return near > far

    def _grounds(self, floor: set[int], standing: set[int], horizon: float) -> dict[str, Ground]:
        """What each region is that mostly belongs to no thing."""
        own = np.zeros(self.count, bool)
        own[list(standing)] = True
        found: dict[str, Ground] = {}
        for label, region in self.regions.items():
            mine = self.pieces.label == label
            held = float(self.share[mine & own].sum())
            if region.role in ("line", "figure", "focus") and held > 0:
                continue
            if held > 0.5 * float(self.share[mine].sum()):
                continue
            if label in floor:
                found[region.id] = "floor"
            else:
                found[region.id] = "sky" if _is_far(region) else "wall"
        return found


def _is_far(region: Region) -> bool:
    return region.material in _FAR_MADE or (
        region.role in ("ground", "middle ground")
        and region.material not in _WALL_MADE
        and _named(region, _FAR)
    )


def _named(region: Region, words: Sequence[str]) -> bool:
    name = region.name.lower()
    return any(word in name for word in words)
