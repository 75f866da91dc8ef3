"""Which region stands before which, as names are moved on the stage plan."""

from collections.abc import Sequence

from umber_compass.plan.model import Region
from umber_compass.plan.terms import Id


def moved_to(standing: Sequence[Region], ids: Sequence[Id], role: str, before: Id) -> list[Id]:
    """Every region's id from back to front after some were put before another of a role, or in
    front of all that have it where none is told."""
    order = [r.id for r in standing]
    moved = [i for i in order if i in ids]
    rest = [i for i in order if i not in ids]
    if before and before in rest:
        at = rest.index(before)
    else:
        mine = [i for i, r in enumerate(standing) if r.role == role and r.id not in ids]
        last = order[mine[-1]] if mine else ""
        at = rest.index(last) + 1 if last else len(rest)
    return [*rest[:at], *moved, *rest[at:]]


def next_unnamed(regions: Sequence[Region], order: Sequence[Id], after: Id) -> Id:
    """The next region, in an order, whose name is a first guess; after the one told, from the start
    again at the end. Empty where all are named."""
    open_ = {r.id for r in regions if not r.named}
    at = list(order).index(after) + 1 if after in order else 0
    turned = [*order[at:], *order[:at]]
    return next((i for i in turned if i in open_), "")
