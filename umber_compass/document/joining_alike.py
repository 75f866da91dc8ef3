"""Regions of a plan that are one thing joined, all groups at once."""

from collections.abc import Mapping

import numpy as np
from msgspec.structs import replace

from umber_compass.colour.packed import unpack
from umber_compass.colour.spaces import decode, oklab
from umber_compass.document.pixels import Pixels, labels_at_working_size
from umber_compass.document.reworking import Reworked, made_of
from umber_compass.picture.drawing import boxes
from umber_compass.plan.edits import Edit
from umber_compass.plan.model import Plan
from umber_compass.plan.terms import Id
from umber_compass.steps.sketch.alike import alike, name_of_all, shapes_of
from umber_compass.steps.sketch.kinds.many import means_of
from umber_compass.steps.sketch.naming import distinct
from umber_compass.words import Refusal, words
from umber_compass.work import Tick, idle


def join_alike(plan: Plan, pixels: Pixels, tick: Tick = idle) -> Reworked:
    """Twins and pieces joined: each group is one region. Raises Refusal if there are none."""
    labels = pixels.labels(plan.sketch)
    small = labels_at_working_size(labels)
    lab = None
    if plan.sketch.kind not in ("lines", "grey"):
        mean = means_of(labels, np.ascontiguousarray(unpack(pixels.picture(plan.sketch))))
        lab = dict(enumerate(oklab(decode(mean / 255)), 1))
    tick(0.1)
    groups = alike(plan.regions, shapes_of(small, boxes(small)), lab, small.shape)
    if not groups:
        raise Refusal("like regions", words("are not found: no two have one shape or one ground"))
    number = np.arange(int(labels.max()) + 1, dtype=np.uint16)
    names: dict[Id, tuple[str, bool]] = {}
    gone: set[Id] = set()
    for group in groups:
        number[[r.label for r in group]] = group[0].label
        names[group[0].id] = name_of_all(group)
        gone |= {r.id for r in group[1:]}
    left = [r for r in plan.regions if r.id not in gone]
    said = distinct([names.get(r.id, (r.name, False))[0] for r in left])
    called = {r.id: (said[i][:200], names[r.id][1]) for i, r in enumerate(left) if r.id in names}
    name = words("join {count} groups of like regions", count=len(groups))
    leads = tuple(g[0].id for g in groups)
    made = made_of(plan, pixels, number[labels], left, {}, name, leads, tick)
    return made._replace(edit=_with_names(made.edit, called))


def _with_names(edit: Edit, called: Mapping[Id, tuple[str, bool]]) -> Edit:
    """The same edit, after which some regions have these names."""

    def change(plan: Plan) -> Plan:
        now = edit.change(plan)
        regions = tuple(
            replace(r, name=called[r.id][0], named=r.named or called[r.id][1])
            if r.id in called
            else r
            for r in now.regions
        )
        return replace(now, regions=regions)

    return edit._replace(change=change)
