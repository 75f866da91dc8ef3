"""What the eye meets first, second and third, and whether anything leads."""

from typing import NamedTuple

import numpy as np

from umber_compass.picture.mixes import Ints
from umber_compass.steps.focus.lattice import Lattice, Row, joined
from umber_compass.steps.focus.pull import Look, Pull, pull_of

# Studio rules, found on pictures with a known answer (docs/focus.md).
_LEAST = 0.36  # pull under which the strongest does not lead
_CROWD, _CROWD_FROM = 4, 0.88  # so many places within this part of the first: none of them leads
_PART_FROM = 0.89  # part of the first at which what touches it is a part of it
_APART = 0.10  # of the diagonal; what is nearer is one place
_AS_BUSY = 0.02  # detail, within which they are
_ALIKE = 0.03  # OKLab, within which regions that touch are one place
_SHOWN = 3


class Places(NamedTuple):
    """Labels in the order the eye meets them, one for each place."""

    order: tuple[int, ...]
    is_met: bool  # whether any is met first: none is that draws little, or is one of a crowd
    second: float  # pull of the second place over the first's; 0 where there is none

    def tie(self, from_percent: float) -> bool:
        """Whether two places are met first: the second draws this part of the first."""
        return self.is_met and 100 * self.second >= from_percent

    @property
    def first(self) -> tuple[int, ...]:
        """The places that are numbered: three; the third is less certain."""
        return self.order[:_SHOWN]


def places_of(lattice: Lattice, pull: Pull) -> Places:
    """The places of a picture, by the pull of their regions. Regions that touch and look alike are
    one; outlines belong to their figures."""
    group = _alike(lattice, pull.look)
    if (group != np.arange(len(group))).any():
        lattice, pull = _as_one(lattice, pull.look, group)
    total = np.where(lattice.is_line, 0.0, pull.total)
    ranked = [int(i) for i in np.argsort(-total, kind="stable") if total[i] > 0]
    if not ranked:
        return Places((), False, 0.0)
    met: list[int] = []
    for label in ranked:
        apart = not any(_near(lattice, label, other) for other in met)
        if apart and not (met and _one_with(lattice, total, label, met[0])):
            met.append(label)
    strength = total[met]
    second = float(strength[1] / strength[0]) if len(met) > 1 else 0.0
    return Places(tuple(met), _is_met(strength), second)


def _alike(lattice: Lattice, look: Look) -> Ints:
    """For every label the one it is a place with: the largest of those that touch each other and
    have about one colour."""
    a, b = np.nonzero(np.triu(lattice.border))
    near = np.linalg.norm(look.lab[a] - look.lab[b], axis=1) < _ALIKE
    near &= np.abs(look.detail[a] - look.detail[b]) < _AS_BUSY
    group = np.arange(len(lattice.share))
    for one, other in zip(a[near].tolist(), b[near].tolist(), strict=True):
        first, second = group[one], group[other]
        if first != second:
            first, second = sorted((first, second), key=lambda g: -lattice.area[g])
            group[group == second] = first
    return group


def _as_one(lattice: Lattice, look: Look, group: Ints) -> tuple[Lattice, Pull]:
    """The lattice and the pull of groups."""
    made = joined(lattice, group)
    held = np.maximum(made.area, 1e-9)
    lab = [np.bincount(group, look.lab[:, i] * lattice.area, len(group)) / held for i in range(3)]
    detail = np.bincount(group, look.detail * lattice.area, len(group)) / held
    return made, pull_of(made, Look(np.stack(lab, axis=1), detail))


def _is_met(strength: Row) -> bool:
    top = float(strength[0])
    return top >= _LEAST and bool((strength >= _CROWD_FROM * top).sum() < _CROWD)


def _near(lattice: Lattice, one: int, other: int) -> bool:
    away = (lattice.centre[one] - lattice.centre[other]) * [lattice.aspect, 1]
    return float(np.hypot(*away)) < _APART * float(np.hypot(lattice.aspect, 1))


def _one_with(lattice: Lattice, total: Row, label: int, first: int) -> bool:
    """Whether a region touches the first place and is about as strong: it is a part of it."""
    return bool(lattice.border[label, first] > 0 and total[label] >= _PART_FROM * total[first])
