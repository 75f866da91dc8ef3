"""Regions drawn by hand in a plan with its pixels: an outline makes one, a brush widens or narrows
one; each is an edit of its own."""

from collections.abc import Sequence

import numpy as np
from msgspec.structs import replace

from umber_compass.document.in_hand import shown_whole
from umber_compass.document.pixels import Pixels
from umber_compass.document.reworking import Reworked, made_of, region_in
from umber_compass.picture.mixes import Labels
from umber_compass.plan.model import Plan, Region
from umber_compass.plan.regrouping import new_ids
from umber_compass.plan.terms import Id
from umber_compass.steps.sketch import drawing_edits
from umber_compass.steps.sketch.label_edits import Point
from umber_compass.steps.sketch.naming import distinct
from umber_compass.words import Refusal, words
from umber_compass.work import Tick, idle


def outline(plan: Plan, pixels: Pixels, line: Sequence[Point], tick: Tick = idle) -> Reworked:
    """What a closed line, px of the sketch, goes round as a new region; it takes colour and role of
    the one it covers most of."""
    labels = pixels.labels(plan.sketch)
    found = drawing_edits.outlined(labels, shown_whole(pixels, plan.sketch), line, _lines(plan))
    under = np.bincount(labels[found.labels == found.label])
    under[0] = 0
    by_label = {r.label: r for r in plan.regions}
    below = [by_label[i] for i in np.argsort(-under).tolist() if under[i] and i in by_label]
    if not below:
        raise Refusal("the outline", words("lies on no region; draw it on what is painted"))
    one = below[0]
    (new,) = new_ids(plan.regions, 1)
    name = distinct([*(r.name for r in plan.regions), f"{one.name}, part"])[-1]
    fresh = replace(one, id=new, label=found.label, name=name[:200], named=False)
    left = _left(plan, found.labels)
    said = words("outline a region in {name}", name=one.name)
    return made_of(plan, pixels, found.labels, [*left, fresh], {new: one.id}, said, (new,), tick)


def brush(
    plan: Plan,
    pixels: Pixels,
    region_id: Id,
    stroke: Sequence[Point],
    brush_px: float,
    widens: bool,
    tick: Tick = idle,
) -> Reworked:
    """A region with, or without, what a stroke covers, px of the sketch."""
    one = region_in(plan, region_id)
    how = drawing_edits.widened if widens else drawing_edits.narrowed
    shown, kept = shown_whole(pixels, plan.sketch), _lines(plan) - {one.label}
    found = how(pixels.labels(plan.sketch), shown, stroke, brush_px, one.label, kept)
    said = words("widen {name}", name=one.name) if widens else words("narrow {name}", name=one.name)
    return made_of(plan, pixels, found, _left(plan, found), {}, said, (one.id,), tick)


def _lines(plan: Plan) -> set[int]:
    """Labels that are not covered by what is drawn."""
    return {r.label for r in plan.regions if r.role == "line"}


def _left(plan: Plan, labels: Labels) -> list[Region]:
    """The regions that still hold a px."""
    held = np.bincount(labels.reshape(-1))
    return [r for r in plan.regions if r.label < len(held) and held[r.label]]
