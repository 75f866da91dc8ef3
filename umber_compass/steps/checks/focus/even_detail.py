"""Detail everywhere the same gives the eye no place to rest, and none to go to."""

import numpy as np

from umber_compass.steps.checks.check import CheckSpec, Fix, Result, level_under
from umber_compass.steps.focus.attention import Attention
from umber_compass.steps.focus.lattice import Lattice
from umber_compass.steps.pipeline import Derived
from umber_compass.words import words

NAME = "even-detail"
_ROWS, _COLUMNS = 6, 8  # fields that are compared
_BUSIEST = 1 / 3


def _measure(derived: Derived) -> list[Result]:
    if derived.attention is None or derived.lattice is None:
        return []
    strongest = derived.rules["even-detail.edge"]
    edges, share = edge_share(derived.lattice, derived.attention, strongest)
    if edges < derived.rules["even-detail.least"]:
        return []
    note, warning = derived.rules["even-detail.note"], derived.rules["even-detail.warning"]
    level = level_under(100 * share, note, warning)
    title = "Detail is uneven" if level == "fine" else "Detail is everywhere the same"
    text = words(
        "its busiest third holds {share:.0%} of the edges, wanted {note:g} % or more",
        share=share,
        note=note,
    )
    return [Result(NAME, level, (), 100 * share, note, "%", words(title), text, whole=True)]


def edge_share(lattice: Lattice, seen: Attention, strongest: float) -> tuple[float, float]:
    """How many blocks of edge there are, and the share of all contrast along edges, 0-1, that the
    busiest third of the picture holds; an edge counts no more than `strongest`, OKLab."""
    label = lattice.label.reshape(lattice.shape)
    lab, (rows, columns) = seen.pull.look.lab, lattice.shape
    field = np.minimum(np.arange(rows) * _ROWS // rows, _ROWS - 1)[:, None] * _COLUMNS
    field = field + np.minimum(np.arange(columns) * _COLUMNS // columns, _COLUMNS - 1)
    held, count = np.zeros(_ROWS * _COLUMNS), 0
    for one, other, at in (
        (label[:, 1:], label[:, :-1], field[:, 1:]),
        (label[1:], label[:-1], field[1:]),
    ):
        y, x = np.nonzero((one != other) & (one > 0) & (other > 0))
        gap = np.linalg.norm(lab[one[y, x]] - lab[other[y, x]], axis=1)
        held += np.bincount(at[y, x], np.minimum(gap, strongest), len(held))
        count += len(y)
    busiest = np.sort(held)[::-1][: round(len(held) * _BUSIEST)]
    return float(count), float(busiest.sum() / max(float(held.sum()), 1e-9))


def _candidates(derived: Derived, result: Result) -> list[Fix]:
    """None: where detail is drawn is the sketch’s, not the colours’."""
    return []


_SAYS = (
    "Detail that is spread evenly gives the eye no place to rest, none to go to. Measured as the "
    "contrast along edges that the busiest third of the picture holds."
)
CHECK = CheckSpec(NAME, "focus", _measure, _candidates, _SAYS, mends=False, looks=True)
