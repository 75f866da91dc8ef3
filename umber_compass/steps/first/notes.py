"""What is worth saying of how proposals came about: what was guessed, what could not be."""

from umber_compass.colour.spaces import hue_distance
from umber_compass.steps.first.chains import Chain, bound_by, every_scheme, misfit
from umber_compass.steps.first.materials import MATERIALS
from umber_compass.steps.first.task import Task
from umber_compass.steps.harmony.scheme import slot_hues
from umber_compass.steps.harmony.schemes import spec_of
from umber_compass.words import Words, words

_OUTSIDE = 30.0  # OKLCh degrees from every hue of a scheme, beyond which it holds none for a colour


def notes_on(task: Task, chains: list[Chain]) -> tuple[Words, ...]:
    """The notes, at most three."""
    found = [*_of_focus(task), *_of_locks(task), *_of_scheme(task, chains)]
    return tuple(found[:3])


def _named(task: Task, thing: int) -> str:
    """A thing by the largest of its regions."""
    share = task.things.outlines.share
    largest: int = max(task.things.members(thing).tolist(), key=lambda i: float(share[i]))
    return task.things.regions[largest].name


def _of_focus(task: Task) -> list[Words]:
    if task.focus is None:
        return [words("Nothing looks like a focus; click what should be seen first")]
    if (
        task.things.role[task.focus] == "line"
        or task.is_line[task.things.members(task.focus)].all()
    ):
        name = _named(task, task.focus)
        return [words("{name} is a line and hardly seen first; click an area", name=name)]
    if task.guessed:
        name = _named(task, task.focus)
        return [words("Taken to be seen first: {name}", name=name)]
    return []


def _of_locks(task: Task) -> list[Words]:
    """Things that stay in a colour that their material seldom has."""
    for thing, (value, chroma, hue) in task.locked.items():
        row = MATERIALS.get(task.things.material[thing])
        if row is None:
            continue
        span = row.noon
        into = (hue - span.from_deg) % 360
        off = not span.any_hue and chroma > 0.03 and into > span.span_deg
        if (
            off
            or not span.dark - 15 <= value <= span.light + 15
            or chroma > span.high_chroma + 0.05
        ):
            line = words(
                "{name} stays as it is locked, though {material} seldom has that colour",
                name=_named(task, thing),
                material=task.things.material[thing],
            )
            return [line]
    return []


def _of_scheme(task: Task, chains: list[Chain]) -> list[Words]:
    """A material that the chosen scheme has no hue for, and a scheme that would have one."""
    if task.scheme is None:
        return []
    light = chains[0].light
    bound = bound_by(task, light)
    hues = [h for s, h in slot_hues(task.scheme).items() if s != "grey"]
    out = [
        b
        for b in bound
        if min(abs(float(hue_distance(b.hue, h))) for h in hues) > b.half + _OUTSIDE
    ]
    if not out:
        return []
    worst = max(out, key=lambda b: b.area * b.chroma)
    best = min(every_scheme(task), key=lambda s: misfit(s, bound))
    line = words(
        "The scheme has no hue for {name}; {title} with its lead at {lead:.0f}° would",
        name=_named(task, worst.thing),
        title=spec_of(best).title,
        lead=best.lead_deg,
    )
    return [line]
