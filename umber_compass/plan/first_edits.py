"""Changes to what first colours are told."""

from collections.abc import Mapping, Sequence

from msgspec.structs import replace

from umber_compass.plan.edits import Edit, study, with_study
from umber_compass.plan.first import LIGHT_NAMES, First
from umber_compass.plan.model import Plan, Region
from umber_compass.words import Refusal, Words, words


def set_lights(lights: Sequence[str]) -> Edit:
    """The lights that proposals are made for. Raises Refusal for none, or one that is unknown."""
    found = tuple(light for light in LIGHT_NAMES if light in lights)
    unknown = [light for light in lights if light not in LIGHT_NAMES]
    if unknown or not found:
        known = ", ".join(LIGHT_NAMES)
        raise Refusal((unknown or ["lights"])[0][:40], words("is no light; take {k}", k=known))
    return tell_first(words("propose for {lights}", lights=", ".join(found)), lights=found)


def tell_first(name: Words, **changes: object) -> Edit:
    """Something first colours are told."""
    return Edit(name, lambda plan: with_first(plan, **changes))


def with_first(plan: Plan, **changes: object) -> Plan:
    """The plan with some of what first colours are told changed."""
    return replace(plan, first=replace(plan.first, **changes))


def keep_colours(colours: Mapping[str, str | None], name: Words) -> Edit:
    """Colours, hexes by region, that every proposal has; None lets a region go again."""

    def change(plan: Plan) -> Plan:
        both = {**plan.first.kept, **colours}
        return with_first(plan, kept={r: h for r, h in both.items() if h is not None})

    return Edit(name, change)


def see_first(plan: Plan, *region_ids: str, material: str | None = None) -> Edit:
    """Regions as what should be seen first, and nothing else; and what they are made of."""
    chosen = set(region_ids)

    def one(own: Region) -> Region:
        if own.id in chosen:
            made = replace(own, role="focus")
            return made if material is None else replace(made, material=material)
        return replace(own, role="figure") if own.role == "focus" else own

    def change(now: Plan) -> Plan:
        changed = replace(now, regions=tuple(one(r) for r in now.regions))
        return with_study(changed, replace(study(changed), focus=None))

    name = next(r.name for r in plan.regions if r.id in chosen)
    if material is not None:
        return Edit(words("see {name} first: {material}", name=name, material=material), change)
    return Edit(words("see {name} first", name=name), change)


def tell_budget(most: int | None) -> Edit:
    """How many colours the piece may use; None for any number."""
    text = words("set no colour budget") if most is None else words("allow {n} colours", n=most)
    return Edit(text, lambda plan: replace(plan, budget=most))


def ask_again() -> Edit:
    """Other proposals from the same answers."""
    return Edit(words("try others"), lambda plan: with_first(plan, seed=_next(plan.first)))


def _next(told: First) -> int:
    return told.seed % 1_000_000 + 1
