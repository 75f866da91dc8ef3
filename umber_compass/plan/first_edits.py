"""Changes to what first colours are told."""

from collections.abc import Iterable, Mapping

from msgspec.structs import replace

from umber_compass.plan.edits import Edit
from umber_compass.plan.first import LIGHT_NAMES, First
from umber_compass.plan.model import Plan
from umber_compass.words import Refusal, Words, words


def set_lights(lights: Iterable[str]) -> Edit:
    """The lights that proposals are made for. Raises Refusal for none, or one that is unknown."""
    found = tuple(light for light in LIGHT_NAMES if light in set(lights))
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


def ask_again() -> Edit:
    """Other proposals from the same answers."""
    return Edit(words("try others"), lambda plan: with_first(plan, seed=_next(plan.first)))


def _next(told: First) -> int:
    return told.seed % 1_000_000 + 1
