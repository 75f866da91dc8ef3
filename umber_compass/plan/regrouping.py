"""Other regions in a plan: what was decided for the old ones goes over to the new, in every study.

Pixels are changed elsewhere (steps/sketch/label_edits); an edit here names the new labels by hash.
"""

import re
from collections.abc import Callable, Mapping, Sequence
from typing import TypeAlias, TypeVar

from msgspec.structs import replace

from umber_compass.plan.edits import Edit
from umber_compass.plan.model import Colour, Plan, Region, Sketch, Study
from umber_compass.plan.terms import Id
from umber_compass.words import Words, words

T = TypeVar("T")
_COUNTED = re.compile(r"r[0-9]{1,9}")

# The colours of regions that no study has yet, or that a new sketch tells otherwise.
Fresh: TypeAlias = Callable[[Study], Mapping[Id, Colour]]


def _nothing(study: Study) -> Mapping[Id, Colour]:
    return {}


def regrouped(
    plan: Plan,
    sketch: Sketch,
    regions: Sequence[Region],
    came_from: Mapping[Id, Id],
    fresh: Fresh,
) -> Plan:
    """The plan with other regions. One that is there already keeps what it is and takes only its
    new label: it may have been named or placed since `regions` were made. `came_from` says by new
    id which old region each takes its decisions from; one that comes from none takes the colour
    `fresh` gives it in a study. An order, a lock or a note of a region that is gone goes with
    it."""
    ids = {r.id for r in regions}
    there = {r.id: r for r in plan.regions}
    regions = [replace(there[r.id], label=r.label) if r.id in there else r for r in regions]
    kept = tuple(
        replace(r, shares_form_with=None)
        if r.shares_form_with is not None and r.shares_form_with not in ids
        else r
        for r in regions
    )
    studies = tuple(_study(s, ids, came_from, fresh) for s in plan.studies)
    return replace(plan, sketch=sketch, regions=kept, studies=studies)


def _study(study: Study, ids: set[Id], came_from: Mapping[Id, Id], fresh: Fresh) -> Study:
    source = {i: came_from.get(i, i) for i in ids}
    told = fresh(study)
    colours = {i: told[i] if i in told else study.colours[source[i]] for i in sorted(ids)}
    focus = study.focus
    if focus is not None and focus.regions:
        left = tuple(i for i in focus.regions if i in ids)
        focus = replace(focus, regions=left) if left else None
    palette = study.palette
    if palette is not None:
        palette = replace(palette, of={k: v for k, v in palette.of.items() if k in ids})
    return replace(
        study,
        colours=colours,
        recipes={i: study.recipes[s] for i, s in source.items() if s in study.recipes},
        locked=tuple(i for i in study.locked if i in ids),
        wishes=replace(study.wishes, order=tuple(i for i in study.wishes.order if i in ids)),
        focus=focus,
        palette=palette,
        notes={k: v for k, v in study.notes.items() if k in ids},
        row_order=tuple(i for i in study.row_order if i in ids),
        zones={k: v for k, v in study.zones.items() if k in ids},
        variations={k: v for k, v in study.variations.items() if k in ids},
        chart={k: v for k, v in study.chart.items() if k in ids},
        shades={k: v for k, v in study.shades.items() if k in ids and v.of in ids},
    )


def regroup(
    name: Words,
    sketch: Sketch,
    regions: Sequence[Region],
    came_from: Mapping[Id, Id] | None = None,
    fresh: Fresh = _nothing,
) -> Edit:
    """The plan's regions replaced by others."""
    return Edit(name, lambda plan: regrouped(plan, sketch, regions, came_from or {}, fresh))


def bring_back(name: Words, earlier: Plan) -> Edit:
    """The sketch and regions of an earlier plan. A region that is still there keeps what was
    decided since; one that is gone comes back with all that was decided for it then."""

    def change(plan: Plan) -> Plan:
        there = {r.id for r in plan.regions}
        back = {r.id for r in earlier.regions} - there
        then = {s.id: s for s in earlier.studies}
        shown = then[earlier.current_study]

        def before(study: Study) -> Study:
            return then.get(study.id, shown)

        made = regrouped(
            plan,
            earlier.sketch,
            earlier.regions,
            {},
            lambda study: {i: c for i, c in before(study).colours.items() if i in back},
        )
        studies = (_with_again(s, before(s), back) for s in made.studies)
        return replace(made, studies=tuple(studies))

    return Edit(name, change)


def _with_again(study: Study, then: Study, back: set[Id]) -> Study:
    """A study with what an earlier one said of regions that have come back."""

    def kept(now: Mapping[Id, T], was: Mapping[Id, T]) -> dict[Id, T]:
        return {**now, **{i: one for i, one in was.items() if i in back}}

    def in_order(now: Sequence[Id], was: Sequence[Id]) -> tuple[Id, ...]:
        """As it was then, what was put in order since behind it."""
        mine = [i for i in was if i in back or i in now]
        return (*mine, *(i for i in now if i not in mine))

    return replace(
        study,
        recipes=kept(study.recipes, then.recipes),
        notes=kept(study.notes, then.notes),
        zones=kept(study.zones, then.zones),
        variations=kept(study.variations, then.variations),
        chart=kept(study.chart, then.chart),
        shades=kept(study.shades, {k: v for k, v in then.shades.items() if v.of in study.colours}),
        locked=in_order(study.locked, then.locked),
        row_order=in_order(study.row_order, then.row_order),
        wishes=replace(study.wishes, order=in_order(study.wishes.order, then.wishes.order)),
        focus=study.focus or then.focus,
    )


def new_ids(regions: Sequence[Region], count: int) -> list[Id]:
    """Ids that none of some regions has, beyond all that count up to theirs: one that went before
    is not given to another thing."""
    taken = {r.id for r in regions}
    found: list[Id] = []
    number = max([len(regions), *(int(i[1:]) for i in taken if _COUNTED.fullmatch(i))])
    while len(found) < count:
        number += 1
        if f"r{number}" not in taken:
            found.append(f"r{number}")
    return found


def set_several(region_ids: Sequence[Id], name: Words, fields: Mapping[str, object]) -> Edit:
    """Some fields of several regions at once, as their role."""
    chosen = set(region_ids)

    def change(plan: Plan) -> Plan:
        regions = tuple(replace(r, **fields) if r.id in chosen else r for r in plan.regions)
        return replace(plan, regions=regions)

    return Edit(name, change)


def one_surface(region_ids: Sequence[Id]) -> Edit:
    """Several regions lit as one surface: the first leads."""
    lead, others = region_ids[0], set(region_ids[1:])

    def change(plan: Plan) -> Plan:
        regions = []
        for r in plan.regions:
            if r.id in others or (r.shares_form_with in others and r.id != lead):
                regions.append(replace(r, shares_form_with=lead))
            elif r.id == lead:
                regions.append(replace(r, shares_form_with=None))
            else:
                regions.append(r)
        return replace(plan, regions=tuple(regions))

    return Edit(words("make {count} regions one surface", count=len(region_ids)), change)


def place_in_front(order: Sequence[Id]) -> Edit:
    """What lies in front: all regions from back to front."""
    rank = {r: i for i, r in enumerate(order)}

    def change(plan: Plan) -> Plan:
        regions = tuple(replace(r, front=rank[r.id]) if r.id in rank else r for r in plan.regions)
        return replace(plan, regions=regions)

    return Edit(words("move regions forward or back"), change)
