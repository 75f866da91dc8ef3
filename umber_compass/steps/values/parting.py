"""Where figures stand before something: which borders are asked to part in value, and by how much
they do."""

from typing import NamedTuple

import numpy as np

from umber_compass.colour.spaces import Floats
from umber_compass.picture.adjacency import Adjacency
from umber_compass.picture.forms import FormWish, front_order
from umber_compass.picture.mixes import Ints
from umber_compass.plan.model import Region
from umber_compass.steps.values.wishes import HeldWishes

FIGURES = ("figure", "focus")


class Border(NamedTuple):
    """A figure and what it stands before, by id and label, and their pair in the adjacency."""

    figure: str
    behind: str
    figure_label: int
    pair: int
    wish: str  # `parting` from a ground, `parting-middle` from a middle ground

    @property
    def constraint(self) -> str:
        """The name under which it can be switched off or locked alone."""
        return f"{self.wish}.{self.figure}.{self.behind}"


def borders_of(
    adjacency: Adjacency,
    regions: tuple[Region, ...],
    form_wishes: tuple[FormWish, ...],
    least: float,
) -> tuple[Border, ...]:
    """The borders of figures and the focus with grounds, and with middle grounds behind them, that
    are at least a share of the figure’s outline, percent."""
    most = max((r.label for r in regions), default=0) + 1
    by_label = {r.label: r for r in regions}
    rank = _ranks(adjacency, form_wishes, most)
    outline = np.bincount(adjacency.pair_labels.reshape(-1), np.repeat(adjacency.pair_px, 2), most)
    roles = np.array([_ROLE.get(by_label[i].role, 0) if i in by_label else 0 for i in range(most)])
    found = []
    for one, two in ((0, 1), (1, 0)):
        figure, behind = adjacency.pair_labels[:, one], adjacency.pair_labels[:, two]
        asked = (roles[figure] == 3) & (roles[behind] > 0) & (roles[behind] < 3)
        asked &= (roles[behind] == 1) | (rank[behind] < rank[figure])
        asked &= 100 * adjacency.pair_px >= least * outline[figure]
        for pair in np.flatnonzero(asked).tolist():
            a, b = int(figure[pair]), int(behind[pair])
            wish = "parting" if roles[b] == 1 else "parting-middle"
            found.append(Border(by_label[a].id, by_label[b].id, a, pair, wish))
    return tuple(sorted(found, key=lambda border: border.pair))


_ROLE = {"ground": 1, "middle ground": 2, "figure": 3, "focus": 3}


def _ranks(adjacency: Adjacency, form_wishes: tuple[FormWish, ...], most: int) -> Ints:
    """Each label’s place from back to front, (labels,)."""
    area = np.bincount(adjacency.label, adjacency.pixels, most).astype(np.intp)
    order = front_order(form_wishes, area)
    return np.array([order.get(i, 0) for i in range(most)])


def wanted(borders: tuple[Border, ...], wishes: HeldWishes) -> list[Border]:
    """Those that are wished to part now."""
    return [b for b in borders if wishes.on(b.constraint)]


def gaps(adjacency: Adjacency, by_code: Floats) -> Floats:
    """The mean difference along every pair’s border, (pairs,), of something by code."""
    gap = np.abs(by_code[adjacency.touching[:, 0]] - by_code[adjacency.touching[:, 1]])
    return np.asarray(
        np.bincount(adjacency.pair, gap * adjacency.touch_px, len(adjacency.pair_px))
        / adjacency.pair_px
    )


class Sides(NamedTuple):
    """What lies on either side of a border, px by px: the figure’s, what is behind, and for how
    many px."""

    figure: Floats
    behind: Floats
    px: Ints


def sides_of(adjacency: Adjacency, border: Border, by_code: Floats) -> Sides:
    """The two sides of a border in something by code."""
    met = adjacency.pair == border.pair
    touching, px = adjacency.touching[met], adjacency.touch_px[met]
    first = adjacency.label[touching[:, 0]] == border.figure_label
    own = np.where(first, touching[:, 0], touching[:, 1])
    other = np.where(first, touching[:, 1], touching[:, 0])
    return Sides(by_code[own], by_code[other], px)
