"""A sketch whose file changed, or that is replaced by another: its regions matched to the plan's,
so that what was decided stays."""

from collections.abc import Mapping, Sequence
from typing import NamedTuple

import numpy as np
from msgspec.structs import replace

from umber_compass.colour.measured import Measured, measure
from umber_compass.colour.packed import Levels, unpack
from umber_compass.document.opening import add_sketch
from umber_compass.document.pixels import Pixels
from umber_compass.document.splitting import Chosen
from umber_compass.formats import picture
from umber_compass.picture.mixes import Labels
from umber_compass.plan.edits import Edit
from umber_compass.plan.model import Colour, Gradient, Pinned, Plan, Region, Sketch, Study
from umber_compass.plan.regrouping import bring_back, new_ids, regroup
from umber_compass.plan.terms import Id
from umber_compass.steps.harmony.scheme import planned_as
from umber_compass.steps.sketch.kinds.many import means_of
from umber_compass.steps.sketch.matching import Match, match_regions
from umber_compass.steps.sketch.naming import distinct
from umber_compass.steps.sketch.roles import guess_roles
from umber_compass.steps.sketch.start import first_names, lying
from umber_compass.words import words

# Kinds whose sketch says values but no hues: colours that come later keep those values.
_VALUES_ONLY = ("grey", "lines")


class Followed(NamedTuple):
    """The edit that takes a changed sketch in, and what became of the regions, by id."""

    edit: Edit
    sketch: Sketch
    fresh: tuple[Id, ...]
    gone: tuple[str, ...]  # names
    doubtful: tuple[Id, ...]
    recoloured: tuple[Id, ...]

    @property
    def says(self) -> str:
        """What became of the regions, in one line."""
        parts = [
            (len(self.fresh), "new"),
            (len(self.gone), "gone"),
            (len(self.doubtful), "doubtful"),
            (len(self.recoloured), "recoloured"),
        ]
        counted = ", ".join(f"{count} {what}" for count, what in parts if count)
        return counted or "every region was found again"


def followed(
    plan: Plan,
    pixels: Pixels,
    read: picture.Picture,
    chosen: Chosen,
    name: str,
) -> Followed:
    """A changed or another sketch taken in: its pixels lie beside the plan, the edit is not made
    yet."""
    split = chosen.split
    old_labels = pixels.labels(plan.sketch)
    match = match_regions(
        old_labels, colours_of(plan, pixels, old_labels), split.labels, split.colours
    )
    sketch = add_sketch(pixels, read, chosen, name)
    by_label = {r.label: r for r in plan.regions}
    kept = {pair.new: by_label[pair.old] for pair in match.pairs if pair.old in by_label}
    colours = [measure(c / 255) for c in split.colours]
    regions, fresh_ids = _regions(plan, split.labels, chosen, colours, kept)
    edit = regroup(
        words("take in the changed sketch {name}", name=name),
        sketch,
        regions,
        {},
        _Colours(plan, chosen, colours, regions, fresh_ids),
    )
    id_of = {r.label: r.id for r in regions}
    return Followed(
        edit,
        sketch,
        tuple(fresh_ids),
        tuple(by_label[label].name for label in match.gone if label in by_label),
        _ids(match, id_of, "doubtful"),
        _ids(match, id_of, "recoloured"),
    )


def known_before(plan: Plan, earlier: Plan, name: str) -> Followed:
    """A sketch whose bytes an earlier plan has: its regions again, with what was decided for them
    then where they are gone now, and what was decided since where they are not."""
    there, then = {r.id for r in plan.regions}, {r.id for r in earlier.regions}
    back = tuple(r.id for r in earlier.regions if r.id not in there)
    return Followed(
        bring_back(words("take in the sketch {name} as it was before", name=name), earlier),
        earlier.sketch,
        back,
        tuple(r.name for r in plan.regions if r.id not in then),
        (),
        (),
    )


def most_go(plan: Plan, found: Followed) -> bool:
    """Whether most of a plan's regions would go with a changed sketch: it may be a mishap."""
    return 2 * len(found.gone) > len(plan.regions)


def _ids(match: Match, id_of: Mapping[int, Id], what: str) -> tuple[Id, ...]:
    return tuple(id_of[p.new] for p in match.pairs if getattr(p, what))


def colours_of(plan: Plan, pixels: Pixels, labels: Labels) -> Levels:
    """What each region looks like in the sketch, label 1 first."""
    packed = pixels.picture(plan.sketch)
    found = means_of(labels, np.ascontiguousarray(unpack(packed)))
    most = max((r.label for r in plan.regions), default=0)
    missing = max(most - len(found), 0)
    return np.concatenate([found, np.zeros((missing, 3), np.uint8)])


def _regions(
    plan: Plan,
    labels: Labels,
    chosen: Chosen,
    colours: list[Measured],
    kept: Mapping[int, Region],
) -> tuple[list[Region], list[Id]]:
    """The regions of the new sketch: those that were found again, and new ones."""
    split = chosen.split
    count = len(split.colours)
    step = max(1, int(np.ceil(np.sqrt(labels.size / 8_000_000))))
    small = labels[::step, ::step]
    roles = guess_roles(small, colours)
    areas, places = lying(small, count)
    names = first_names(split, colours, areas, places)
    ids = iter(new_ids(plan.regions, count))
    found: list[Region] = []
    fresh: list[Id] = []
    for i in range(count):
        one = kept.get(i + 1)
        if one is None:
            role = split.roles[i] if split.roles else None
            one = Region(
                id=next(ids),
                label=i + 1,
                name=names[i],
                role=role or roles[i],
                named=bool(split.names and split.names[i]),
            )
            fresh.append(one.id)
        found.append(replace(one, label=i + 1))
    mine = [r.name for r in found if r.id not in fresh]
    said = distinct([*mine, *(r.name for r in found if r.id in fresh)])[len(mine) :]
    told_names = dict(zip(fresh, said, strict=True))
    return [replace(r, name=told_names.get(r.id, r.name)[:200]) for r in found], fresh


class _Colours:
    """The colours a study gets: new regions what the sketch has; where the old sketch had no hues
    and the new one has, its hues at the values that were planned."""

    def __init__(
        self,
        plan: Plan,
        chosen: Chosen,
        colours: Sequence[Measured],
        regions: Sequence[Region],
        fresh: Sequence[Id],
    ) -> None:
        self._of = dict(zip((r.id for r in regions), colours, strict=True))
        self._fresh = set(fresh)
        self._hues = (
            plan.sketch.kind in _VALUES_ONLY
            and chosen.kind not in _VALUES_ONLY
            and chosen.split.is_planned
        )

    def __call__(self, study: Study) -> Mapping[Id, Colour]:
        found: dict[Id, Colour] = {}
        for region_id, colour in self._of.items():
            now = study.colours.get(region_id)
            if region_id in self._fresh or now is None:
                found[region_id] = planned_as(study.scheme, colour.value, colour.chroma, colour.hue)
            elif self._hues and not isinstance(now, Gradient | Pinned):
                found[region_id] = planned_as(study.scheme, now.value, colour.chroma, colour.hue)
        return found
