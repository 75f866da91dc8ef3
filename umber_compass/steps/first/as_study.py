"""A proposal as a study of the plan."""

from msgspec.structs import replace

from umber_compass.plan.model import Colour, Gradient, Planned, Study
from umber_compass.plan.wishes import Focus
from umber_compass.steps.first.choosing import Searched
from umber_compass.steps.first.lights import LIGHTS
from umber_compass.steps.first.task import Task
from umber_compass.steps.harmony.families import hue_word
from umber_compass.steps.harmony.scheme import planned_as
from umber_compass.steps.harmony.schemes import spec_of
from umber_compass.steps.pipeline import Derived


def study_of(task: Task, derived: Derived, one: Searched) -> Study:
    """A proposal as a study of the plan."""
    chain, now = one.chain, derived.study
    colours: dict[str, Colour] = {}
    for i, region in enumerate(derived.regions):
        thing = int(task.things.of[i])
        was = now.colours[region.id]
        if thing in task.locked and region.id in now.locked:
            colours[region.id] = was
            continue
        v, c, h = (float(part[thing]) for part in one.mix)
        if task.values == "kept" and thing not in task.locked:
            v = derived.colours[region.id].mean_value
        made = planned_as(chain.scheme, min(max(v, 0.0), 100.0), c, h)
        colours[region.id] = _graded(was, made, derived, region.id)
    lead = hue_word(chain.scheme.wheel, chain.scheme.lead_deg).capitalize()
    title = f"{lead}, {spec_of(chain.scheme).title}"
    return replace(
        now,
        focus=_focus(task, now),
        rig=None,
        title=title,
        scheme=chain.scheme,
        colours=colours,
        readings=(),
        verdict="",
        note="",
        reason="",
        grown=f"{LIGHTS[chain.light].title}, {chain.key}",
    )


def _focus(task: Task, now: Study) -> Focus | None:
    """What the proposal has met first: as it was said, else what was taken for it."""
    if not task.guessed or task.focus is None:
        return now.focus
    ids = (task.things.regions[i].id for i in task.things.members(task.focus))
    return Focus(regions=tuple(ids))


def _graded(was: Colour, made: Planned, derived: Derived, region: str) -> Colour:
    """A gradient's two ends as far apart in value as they were drawn."""
    if not isinstance(was, Gradient):
        return made
    first, second = derived.colours[region].ends[:2]
    half = (second.value - first.value) / 2
    ends = (made.value - half, made.value + half)
    return replace(
        was,
        first=replace(made, value=min(max(ends[0], 2.0), 98.0)),
        second=replace(made, value=min(max(ends[1], 2.0), 98.0)),
    )
