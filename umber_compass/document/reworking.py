"""Regions changed by hand in a plan with its pixels: the edit that does it, its labels and drawing
taken in beside the plan first."""

from collections.abc import Sequence
from functools import partial
from typing import NamedTuple

import numpy as np
from msgspec.structs import replace

from umber_compass.document.in_hand import drawing_with
from umber_compass.document.pixels import Pixels
from umber_compass.picture.drawing import Drawing
from umber_compass.picture.mixes import Labels
from umber_compass.plan.edits import Edit, each_part, find_region
from umber_compass.plan.model import (
    Colour,
    Pinned,
    Plan,
    Region,
    Scheme,
    Sketch,
    Solid,
    Study,
)
from umber_compass.plan.regrouping import Fresh, new_ids, regroup
from umber_compass.plan.terms import Id
from umber_compass.steps.harmony.edits import planned_from_hex
from umber_compass.steps.sketch import label_edits
from umber_compass.steps.sketch.label_edits import Parted, Point
from umber_compass.steps.sketch.naming import distinct
from umber_compass.words import Refusal, Words, words
from umber_compass.work import Tick, idle

_LINE_VALUE = 20.0  # L* at most, of a line that is a dark of its material (studio rule)


class Reworked(NamedTuple):
    """An edit of regions, the pixels it names, and what is chosen after it."""

    edit: Edit
    encoded: tuple[str, bytes, Labels]
    drawing: Drawing
    chosen: tuple[Id, ...]

    def take(self, pixels: Pixels) -> None:
        """Lay the pixels beside the plan, before the edit is made."""
        pixels.take_labels(*self.encoded)
        pixels.drawings[self.encoded[0]] = self.drawing


def region_in(plan: Plan, region_id: Id) -> Region:
    """The region with this id. Raises Refusal where it went since it was chosen."""
    found = find_region(plan, region_id)
    if found is None:
        raise Refusal("the chosen region", words("is not there any more; choose regions again"))
    return found


def merge(plan: Plan, pixels: Pixels, ids: Sequence[Id], tick: Tick = idle) -> Reworked:
    """Several regions as one: the first that was chosen stays. Raises Refusal for fewer than
    two."""
    if len(ids) < 2:
        raise Refusal("merge", words("takes two regions or more; choose them with Shift"))
    kept = region_in(plan, ids[0])
    gone = [region_in(plan, i) for i in ids[1:]]
    labels = label_edits.merged(pixels.labels(plan.sketch), kept.label, [r.label for r in gone])
    left = [r for r in plan.regions if r.id not in ids[1:]]
    name = words("merge {count} regions into {name}", count=len(ids), name=kept.name)
    return made_of(plan, pixels, labels, left, {}, name, (kept.id,), tick)


def split_parts(plan: Plan, pixels: Pixels, region_id: Id, tick: Tick = idle) -> Reworked:
    """A region split into the parts that do not hang together."""
    one = region_in(plan, region_id)
    return _split(
        plan, pixels, one, label_edits.split_parts(pixels.labels(plan.sketch), one.label), tick
    )


def split_by_line(
    plan: Plan, pixels: Pixels, region_id: Id, line: Sequence[Point], tick: Tick = idle
) -> Reworked:
    """A region split along a drawn line, px of the sketch."""
    one = region_in(plan, region_id)
    found = label_edits.split_by_line(pixels.labels(plan.sketch), one.label, line)
    return _split(plan, pixels, one, found, tick)


def _split(plan: Plan, pixels: Pixels, one: Region, found: Parted, tick: Tick) -> Reworked:
    ids = new_ids(plan.regions, len(found.fresh))
    said = distinct([*(r.name for r in plan.regions), *(f"{one.name}, part" for _ in ids)])
    fresh = [
        replace(one, id=i, label=label, name=name[:200])
        for i, label, name in zip(ids, found.fresh, said[len(plan.regions) :], strict=True)
    ]
    name = words("split {name} in {count}", name=one.name, count=len(ids) + 1)
    regions = [*plan.regions, *fresh]
    sources = dict.fromkeys(ids, one.id)
    return made_of(plan, pixels, found.labels, regions, sources, name, (one.id, *ids), tick)


def swallow_specks(
    plan: Plan, pixels: Pixels, ids: Sequence[Id] | None = None, tick: Tick = idle
) -> Reworked:
    """Specks given to the regions they touch most: of all regions, or of some. Raises Refusal if
    there are none."""
    only = None if ids is None else [region_in(plan, i).label for i in ids]
    labels, count = label_edits.without_specks(pixels.labels(plan.sketch), only)
    if not count:
        line = words("there are none under {px} px", px=label_edits.SPECK_PX)
        raise Refusal("specks", line)
    name = words("give {count} specks to their neighbours", count=count)
    return made_of(plan, pixels, labels, plan.regions, {}, name, tuple(ids or ()), tick)


def reassign(plan: Plan, pixels: Pixels, place: Point, to: Id, tick: Tick = idle) -> Reworked:
    """The part of a region at a place, px of the sketch, given to another region."""
    other = region_in(plan, to)
    labels = label_edits.reassigned(pixels.labels(plan.sketch), place, other.label)
    name = words("give a part to {name}", name=other.name)
    return made_of(plan, pixels, labels, plan.regions, {}, name, (to,), tick)


def turn_neck(plan: Plan, pixels: Pixels, number: int, tick: Tick = idle) -> Reworked:
    """A gap of line art: a closed one is opened, so that the areas it parts are one; one that may
    leak is closed, so that its area is two. Raises Refusal where that cannot be."""
    neck = plan.sketch.necks[number]
    labels = pixels.labels(plan.sketch)
    necks = tuple(
        replace(n, closed=not n.closed) if i == number else n
        for i, n in enumerate(plan.sketch.necks)
    )
    turned = replace(plan, sketch=replace(plan.sketch, necks=necks))
    if neck.closed:
        sides = label_edits.sides_of(labels, (neck.x0, neck.y0), (neck.x1, neck.y1))
        ids = [r.id for r in plan.regions if r.label in sides and r.role != "line"]
        if len(ids) != 2:
            line = words("parts no two areas any more; merge the regions instead")
            raise Refusal("the gap", line)
        return merge(turned, pixels, ids, tick)
    label = label_edits.label_between(labels, (neck.x0, neck.y0), (neck.x1, neck.y1))
    one = next((r for r in plan.regions if r.label == label), None)
    if one is None:
        raise Refusal("the gap", words("lies in no region; split the region by a line instead"))
    found = label_edits.split_by_line(labels, one.label, [(neck.x0, neck.y0), (neck.x1, neck.y1)])
    return _split(turned, pixels, one, found, tick)


def tint_lines(plan: Plan, pixels: Pixels, line_id: Id, tick: Tick = idle) -> Reworked:
    """A region of lines parted by what the lines lie along, each part a dark of that material.
    Raises Refusal where it lies along nothing."""
    one, labels = region_in(plan, line_id), pixels.labels(plan.sketch)
    along = label_edits.lines_by_material(labels, one.label)
    by_label = {r.label: r for r in plan.regions}
    kept = [label for label in along if label in by_label and label != one.label]
    if not kept:
        raise Refusal(one.name, words("lies along no other region; choose the region of lines"))
    begin = int(labels.max())
    number = np.full(begin + 1, one.label, np.uint16)
    number[kept] = np.arange(begin + 1, begin + 1 + len(kept))
    mine = labels == one.label
    found = labels.copy()
    found[mine] = number[label_edits.nearest_of(labels, one.label)[mine]]
    ids = new_ids(plan.regions, len(kept))
    said = distinct(
        [*(r.name for r in plan.regions), *(f"line of {by_label[k].name}" for k in kept)]
    )
    fresh = [
        replace(one, id=i, label=begin + 1 + n, name=name[:200], named=True)
        for n, (i, name) in enumerate(zip(ids, said[len(plan.regions) :], strict=True))
    ]
    whose = {i: by_label[k].id for i, k in zip(ids, kept, strict=True)}

    def darks(study: Study) -> dict[Id, Colour]:
        return {
            i: each_part(study.colours[w], partial(_dark, study.scheme)) for i, w in whose.items()
        }

    left = [r for r in plan.regions if r.id != one.id or bool((found == one.label).any())]
    name = words("tint the lines by material")
    sources = dict.fromkeys(ids, one.id)
    return made_of(plan, pixels, found, [*left, *fresh], sources, name, tuple(ids), tick, darks)


def _dark(scheme: Scheme, solid: Solid) -> Solid:
    """The dark that an outline of a material has; of a given colour, as the scheme says it."""
    own = planned_from_hex(scheme, solid.hex) if isinstance(solid, Pinned) else solid
    return replace(own, value=min(own.value, _LINE_VALUE), chroma=min(own.chroma * 0.8, 0.08))


def made_of(
    plan: Plan,
    pixels: Pixels,
    labels: Labels,
    regions: Sequence[Region],
    sources: dict[Id, Id],
    name: Words,
    chosen: tuple[Id, ...],
    tick: Tick,
    fresh: Fresh | None = None,
) -> Reworked:
    """The edit to these labels and regions; new ones take what was decided from their `sources`.
    Where nothing else is told, px of a shaded sketch keep their values."""
    tick(0.2)
    key, data = pixels.encoded(labels)
    tick(0.4)
    sketch: Sketch = replace(plan.sketch, labels=key)
    drawing = drawing_with(pixels, plan.sketch, labels)
    before = pixels.drawings.get(plan.sketch.labels)
    if fresh is None and before is not None and sketch.shaded:
        from umber_compass.document.values_kept import values_kept

        fresh = values_kept(before, drawing, (list(plan.regions), list(regions)), sources)
    edit = regroup(name, sketch, regions, sources, fresh or (lambda study: {}))
    return Reworked(edit, (key, data, labels), drawing, chosen)
