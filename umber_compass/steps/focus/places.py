"""What the eye meets first, second and third, and whether anything leads."""

from typing import Literal, NamedTuple, TypeAlias

import numpy as np

from umber_compass.picture.mixes import Ints
from umber_compass.steps.focus.lattice import Lattice, Row, joined
from umber_compass.steps.focus.pull import Look, Pull, pull_of

Verdict: TypeAlias = Literal["leads", "tie", "nothing"]

# Studio rules, found on pictures with a known answer (docs/focus.md).
_LEAST = 0.36  # pull under which the strongest does not lead
_CROWD, _CROWD_FROM = 4, 0.88  # so many places within this part of the first: none of them leads
_TIE_FROM = 0.89  # part of the first at which a second place ties
_APART = 0.10  # of the diagonal; what is nearer is one place
_AS_BUSY = 0.02  # detail, within which they are
_ALIKE = 0.03  # OKLab, within which regions that touch are one place
_SHOWN = 3


class Places(NamedTuple):
    """Labels in the order the eye meets them, one for each place, and what that comes to."""

    order: tuple[int, ...]
    verdict: Verdict

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
        return Places((), "nothing")
    met: list[int] = []
    for label in ranked:
        apart = not any(_near(lattice, label, other) for other in met)
        if apart and not (met and _one_with(lattice, total, label, met[0])):
            met.append(label)
    return Places(tuple(met), _verdict(total[met]))


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


def _verdict(strength: Row) -> Verdict:
    top = float(strength[0])
    if top < _LEAST or (strength >= _CROWD_FROM * top).sum() >= _CROWD:
        return "nothing"
    return "tie" if len(strength) > 1 and strength[1] >= _TIE_FROM * top else "leads"


def _near(lattice: Lattice, one: int, other: int) -> bool:
    away = (lattice.centre[one] - lattice.centre[other]) * [lattice.aspect, 1]
    return float(np.hypot(*away)) < _APART * float(np.hypot(lattice.aspect, 1))


def _one_with(lattice: Lattice, total: Row, label: int, first: int) -> bool:
    """Whether a region touches the first place and is about as strong: it is a part of it."""
    return bool(lattice.border[label, first] > 0 and total[label] >= _TIE_FROM * total[first])
