"""Which materials of the starter file lie in one group: those of a thing, as far as what lies
between them allows."""

from collections.abc import Mapping
from typing import NamedTuple

import numpy as np

from umber_compass.plan.model import Region
from umber_compass.steps.handoff.material_layers import Box, Sheet, from_back, grown_box
from umber_compass.steps.pipeline import Derived

_MOST_OF = 0.5  # of a region's px in a thing, from which it is that thing's


class Run(NamedTuple):
    """Materials that follow each other, the lowest first; of a thing, or one without a name."""

    thing: str
    regions: tuple[Region, ...]


def runs_of(derived: Derived, sheet: Sheet, grown: int) -> list[Run]:
    """All materials, the lowest first: one by one, or gathered by thing where the plan wishes it
    and the light knows things. What overlaps keeps its order, so a thing may have several runs."""
    regions = from_back(derived)
    things = _things(derived) if derived.plan.layers.things else {}
    if not things:
        return [Run("", (r,)) for r in regions]
    held: list[tuple[str, list[Region]]] = []
    boxes = {
        r.id: grown_box(sheet.box[r.label], grown, sheet.labels.shape)
        for r in regions
        if r.label in sheet.box
    }
    for region in regions:
        thing = things.get(region.id, "")
        at = _open_run(held, thing, boxes.get(region.id), boxes) if thing else None
        if at is None:
            held.append((thing, [region]))
        else:
            held[at][1].append(region)
    return _named([Run(thing, tuple(many)) for thing, many in held])


def _things(derived: Derived) -> dict[str, str]:
    """The name of the thing that most of each region belongs to, by region id."""
    pieces, standing = derived.pieces, derived.standing
    if pieces is None or standing is None:
        return {}
    most = int(pieces.label.max(initial=0)) + 1
    whole = np.bincount(pieces.label, pieces.area, most)
    found: dict[str, str] = {}
    for thing in standing.things:
        members = list(thing.members)
        part = np.bincount(pieces.label[members], pieces.area[members], most)
        own = np.flatnonzero((part > 0) & (part >= _MOST_OF * whole))
        labels = set(own.tolist())
        found |= {r.id: thing.name for r in derived.regions if r.label in labels}
    return {r.id: found[r.id] for r in derived.regions if r.id in found and r.role != "line"}


def _open_run(
    held: list[tuple[str, list[Region]]], thing: str, box: Box | None, boxes: Mapping[str, Box]
) -> int | None:
    """The run of a thing that a material can go down into: nothing that lies above that run is in
    its way. None where there is none."""
    for at in range(len(held) - 1, -1, -1):
        if held[at][0] == thing:
            return at
        if any(_overlap(box, boxes.get(r.id)) for r in held[at][1]):
            return None
    return None


def _overlap(one: Box | None, other: Box | None) -> bool:
    if one is None or other is None:
        return False
    across = one[0] < other[2] and other[0] < one[2]
    return across and one[1] < other[3] and other[1] < one[3]


def _named(runs: list[Run]) -> list[Run]:
    """Names that are told apart; a run of one material has none."""
    seen: dict[str, int] = {}
    out = []
    for run in runs:
        if len(run.regions) < 2 or not run.thing:
            out.append(run._replace(thing=""))
            continue
        seen[run.thing] = seen.get(run.thing, 0) + 1
        number = seen[run.thing]
        out.append(run._replace(thing=run.thing if number == 1 else f"{run.thing} {number}"))
    return out
