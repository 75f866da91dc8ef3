"""What stands where, guessed from the pieces of a sketch: which belong together as a thing, what is
floor, wall or sky, where the floor ends. Right about half the time, as what follows can be from
shapes alone; each guess can be corrected (docs/light.md).
"""

from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from umber_compass.picture.cards import Placed
from umber_compass.picture.finish import finish_of
from umber_compass.picture.pieces import Pieces
from umber_compass.plan.model import Region
from umber_compass.plan.terms import Ground
from umber_compass.steps.light.grouping import LEAST_THING, WIDE, Grouping, is_far, named

_FLOOR_NAMES = (
    "floor", "ground", "path", "road", "street", "pier", "quay", "deck", "table", "bench top",
    "yard", "grass", "sand",
)  # fmt: skip
_CROPPED_GAP, _HUNG_GAP = 0.15, 0.04  # of the picture's width
_NEAR = 0.03  # of the height, within which a foot on the horizon makes it part of the wall
_HORIZON = 0.66  # of the height, where nothing says it
_ABOVE = 0.12  # of the height, that a floor goes on above the part of it that things stand on
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
    return None if pieces is None else _Guess(Grouping(pieces, regions)).made()


class _Guess:
    """One guess: the order things are decided in."""

    def __init__(self, of: Grouping) -> None:
        self.of = of

    def made(self) -> Guessed:
        """All of it."""
        groups = [*self.of.groups(("figure", "focus")), *self.of.groups(("middle ground",))]
        groups = self.of.resting([g for g in groups if self.of.share_of(g) >= LEAST_THING])
        floor = self._floor(groups)
        horizon = self._horizon(floor)
        things, standing = [], set[int]()
        for group in groups:
            placed = self._placed(group, horizon, floor)
            if placed is not None:
                things.append(Found(self.of.name_of(group), tuple(sorted(group)), placed))
                standing |= group
        return Guessed(tuple(things), horizon, self._grounds(floor, standing, horizon))

    def _under(self, group: set[int]) -> npt.NDArray[np.intp]:
        """Px by piece just below and beside the foot of a group."""
        left, _, right, bottom = self.of.box(group)
        band = max(2, int(_BAND * self.of.height))
        aside = max(2, (right - left) // 6)
        rows = slice(max(bottom - band, 0), min(bottom + band // 2 + 1, self.of.height))
        columns = slice(max(left - aside, 0), min(right + aside, self.of.width))
        near = self.of.pieces.number[rows, columns]
        return np.bincount(near.reshape(-1), minlength=self.of.count)

    def _floor(self, groups: list[set[int]]) -> set[int]:
        """The labels of the floor: what lies under most feet, and is a ground or wide; else a
        ground along the lower frame."""
        votes = np.zeros(max(self.of.regions, default=0) + 1)
        for group in groups:
            _, _, _, bottom = self.of.box(group)
            if bottom >= self.of.height - 1:
                continue
            near = self._under(group)
            near[list(group)] = 0
            for piece in np.flatnonzero(near).tolist():
                region = self.of.region(piece)
                if region and not is_far(region) and self._is_ground(piece, region):
                    low = (bottom / self.of.height) ** 4
                    weight = 4 if self.of.is_figure(group) else 1
                    votes[region.label] += (
                        near[piece] * low * weight * self.of.share_of(group) ** 0.5
                    )
        lying = [i for i in np.argsort(-votes).tolist() if votes[i] and self._lies_low(i)]
        if lying:
            top = self._top(lying[0]) - _ABOVE * self.of.height
            sloped = {n for n, r in self.of.regions.items() if r.form == "slope"}
            return {lying[0], *(n for n in sloped if self._lies_low(n) and self._top(n) >= top)}
        called = {r.label for r in self.of.regions.values() if named(r, _FLOOR_NAMES)}
        if called:
            return called
        grounds = [i for i in range(1, self.of.count) if self._bottom_ground(i)]
        return {int(self.of.pieces.label[i]) for i in grounds}

    def _is_ground(self, piece: int, region: Region) -> bool:
        left, _, right, _ = self.of.pieces.box[piece]
        return region.role == "ground" or right - left > WIDE * self.of.width

    def _top(self, label: int) -> float:
        """Where most of a label begins, px from above."""
        own = np.flatnonzero((self.of.pieces.label[self.of.pieces.number] == label).any(axis=1))
        return int(own[len(own) // 20]) - float(_BAND * self.of.height) if len(own) else 0.0

    def _lies_low(self, label: int) -> bool:
        """Whether a label reaches down far enough to be a floor, and not all the way up."""
        boxes = self.of.pieces.box[(self.of.pieces.label == label) & (self.of.share > LEAST_THING)]
        if not len(boxes):
            return False
        tall = (boxes[:, 3].max() - boxes[:, 1].min()) / self.of.height
        return bool(boxes[:, 3].max() > 0.6 * self.of.height and tall < 0.75)

    def _bottom_ground(self, piece: int) -> bool:
        region = self.of.region(piece)
        if region is None or region.role != "ground" or is_far(region):
            return False
        _, top, _, bottom = self.of.pieces.box[piece]
        return bool(bottom >= self.of.height and top > 0.4 * self.of.height)

    def _horizon(self, floor: set[int]) -> float:
        """Where the floor ends above: the upper end of most of its columns."""
        if not floor:
            return _HORIZON
        own = np.isin(self.of.pieces.label[self.of.pieces.number], list(floor))
        held = own.any(axis=0)
        tops = own.argmax(axis=0)[held]
        return float(np.percentile(tops, 15)) / self.of.height

    def _placed(self, group: set[int], horizon: float, floor: set[int]) -> Placed | None:
        """Where a thing stands; None where it is part of a wall or of the distance."""
        _, _, _, bottom = self.of.box(group)
        foot = bottom / self.of.height
        if bottom >= self.of.height - 1:
            return Placed("wall", 1.0, _CROPPED_GAP) if self.of.is_figure(group) else None
        if floor and foot > horizon + (0 if self.of.is_figure(group) else _NEAR):
            return Placed("floor", foot, _HUNG_GAP)
        if self._before_a_wall(group):
            flat = self.of.is_flat(group)
            near = abs(foot - horizon) <= _NEAR
            return None if flat or near else Placed("wall", foot, _HUNG_GAP)
        return Placed("air", foot, 0.0) if self.of.is_figure(group) else None

    def _before_a_wall(self, group: set[int]) -> bool:
        """Whether most of what touches a thing is near ground: no sky, no sea."""
        near, far = 0.0, 0.0
        for (a, b), length in zip(
            self.of.pieces.pairs.tolist(), self.of.pieces.length, strict=True
        ):
            if (a in group) == (b in group):
                continue
            region = self.of.region(b if a in group else a)
            if region is None or region.role not in ("ground", "middle ground", "focus"):
                continue
            if is_far(region) or not finish_of(region.material).lit:
                far += length
            else:
                near += length
        return near > far

    def _grounds(self, floor: set[int], standing: set[int], horizon: float) -> dict[str, Ground]:
        """What each region is that mostly belongs to no thing."""
        own = np.zeros(self.of.count, bool)
        own[list(standing)] = True
        found: dict[str, Ground] = {}
        for label, region in self.of.regions.items():
            mine = self.of.pieces.label == label
            held = float(self.of.share[mine & own].sum())
            if region.role in ("line", "figure", "focus") and held > 0:
                continue
            if held > 0.5 * float(self.of.share[mine].sum()):
                continue
            if label in floor:
                found[region.id] = "floor"
            else:
                found[region.id] = "sky" if is_far(region) else "wall"
        return found
