"""How codes are laid out: one number for a px's place along each of several dimensions.

Each label has room of its own for every combination; combinations that no px has are dropped
afterwards. Another thing that tells px of a region apart (the artist's own shading, the distance to
a glow) is one more dimension.
"""

from typing import Any, NamedTuple, TypeAlias

import numpy as np
import numpy.typing as npt

from umber_compass.picture.mixes import Ints, Labels

Wide: TypeAlias = npt.NDArray[np.int64]
Small: TypeAlias = npt.NDArray[np.signedinteger[Any]]  # as narrow as it may be: one a px adds up


class Dimension(NamedTuple):
    """One thing that tells px of a region apart."""

    name: str
    sizes: Wide  # (labels,) how many places it has in each region, 1 where it tells nothing
    place: Ints | None  # the px, in the flat picture, that stand elsewhere than at 0; None: all
    standing: Small  # (places,) where they stand


class Layout(NamedTuple):
    """Room for every combination of the dimensions, the first of which runs fastest."""

    first: Wide  # (labels + 1,) the first number of each label
    names: tuple[str, ...]
    counts: tuple[Wide, ...]


def lay_out(dimensions: list[Dimension]) -> Layout:
    """The room that dimensions take."""
    counts = tuple(d.sizes for d in dimensions)
    size = np.prod(np.stack(counts), axis=0)
    return Layout(np.concatenate([[0], np.cumsum(size)]), tuple(d.name for d in dimensions), counts)


def numbers(labels: Labels, dimensions: list[Dimension], layout: Layout) -> Wide:
    """Every px's number, (n,), for labels (n,)."""
    found = layout.first[:-1][labels]
    stride = np.ones(len(layout.first) - 1, np.int64)
    for dimension in dimensions:
        at = slice(None) if dimension.place is None else dimension.place
        found[at] += dimension.standing * stride[labels[at]]
        stride = stride * dimension.sizes
    return found


def places(kept: Wide, layout: Layout) -> tuple[Ints, dict[str, Wide]]:
    """What numbers stand for: their labels, and their places along each dimension by name."""
    label = np.searchsorted(layout.first, kept, side="right") - 1
    rest = kept - layout.first[label]
    found = {}
    for name, count in zip(layout.names, layout.counts, strict=True):
        found[name] = rest % count[label]
        rest = rest // count[label]
    return label.astype(np.intp), found
