"""The records' own ranges: numbers brought into them, and plans held against them."""

import math
from collections.abc import Iterator
from typing import Any, get_args

import msgspec
from msgspec.structs import replace

from umber_compass.plan.model import Candidate, Colour, Plan, Study
from umber_compass.words import Refusal, words


def bounded(kind: Any, number: float) -> float:
    """A number brought into the range of an annotated type of the model, as `Value`. Raises Refusal
    for what is no number."""
    meta = get_args(kind)[1]
    if math.isnan(number):
        raise Refusal(str(number), words("is no number; give one"))
    low = -math.inf if meta.ge is None else meta.ge
    high = math.inf if meta.le is None else meta.le
    return min(max(number, low), high)


def checked(before: Plan, after: Plan) -> Plan:
    """The plan after an edit, if all that is new in it keeps the records' ranges, so that what is
    saved can be opened. Raises Refusal otherwise; the plan before is then untouched."""
    for record, kind in _new(before, after):
        try:
            # By way of JSON, as a file goes: a number that is none has no place there.
            msgspec.json.decode(msgspec.json.encode(record), type=kind)
        except (msgspec.ValidationError, msgspec.DecodeError) as error:
            why = str(error).split(" - ")[0]
            raise Refusal("this change", words("is not possible: {why}", why=why)) from error
        except UnicodeEncodeError as error:
            line = words("holds characters that are no text; type it again")
            raise Refusal("this change", line) from error
    if after.studies is not before.studies or after.regions is not before.regions:
        _agree(after)
    return after


def _new(before: Plan, after: Plan) -> Iterator[tuple[Any, Any]]:
    """The records that are not the very same, each with its type: a drag must not check all."""
    if after is before:
        return
    yield replace(after, regions=(), studies=(), candidates=()), Plan
    old = {id(r) for r in before.regions}
    yield from ((r, type(r)) for r in after.regions if id(r) not in old)
    if after.candidates is not before.candidates:
        yield from ((c, Candidate) for c in after.candidates)
    known = {s.id: s for s in before.studies}
    for study in after.studies:
        yield from _new_in_study(known.get(study.id), study)


def _new_in_study(before: Study | None, after: Study) -> Iterator[tuple[Any, Any]]:
    if after is before:
        return
    if before is None:
        yield after, Study
        return
    yield replace(after, colours={}, recipes={}), Study
    for old, new, kind in (
        (before.colours, after.colours, Colour),
        (before.recipes, after.recipes, None),
    ):
        if new is not old:
            changed = ((k, r) for k, r in new.items() if old.get(k) is not r)
            yield from ((r, kind or type(r)) for _, r in changed)


def _agree(plan: Plan) -> None:
    """What types cannot say: studies speak of the plan's regions, lamps have names of their own."""
    ids = {r.id for r in plan.regions}
    for study in plan.studies:
        lamps = [lamp.name for lamp in study.rig.lamps] if study.rig else []
        fault = fault_of(study, ids)
        if fault:
            raise Refusal("this change", words("is not possible: {fault}", fault=fault))
        if set(study.colours) != ids or not set(study.recipes) <= ids:
            raise Refusal("this change", words("is not possible: it leaves regions uncoloured"))
        if len(set(lamps)) != len(lamps):
            raise Refusal("this change", words("is not possible: two lamps have one name"))


def fault_of(study: Study, ids: set[str]) -> str:
    """What is wrong with a study's wishes and focus that types cannot say; empty where nothing is.
    `ids` are the plan's regions."""
    wishes, focus = study.wishes, study.focus
    named = {*wishes.order, *study.locked, *(focus.regions if focus else ())}
    if not named <= ids:
        return "its wishes speak of a region it does not have"
    if len(set(wishes.order)) != len(wishes.order):
        return "its order of materials names a region twice"
    if wishes.bands is not None and wishes.bands.fault():
        return wishes.bands.fault()
    if (
        not {
            *study.notes,
            *study.row_order,
            *study.zones,
            *study.variations,
            *study.chart,
            *study.shades,
        }
        <= ids
    ):
        return "its palette speaks of a region it does not have"
    if not {shade.of for shade in study.shades.values()} <= ids - set(study.shades):
        return "a region is tied to one that it does not have, or that is tied itself"
    parts = (*study.falloff.values(), *(p for p in (study.mood, study.palette) if p))
    if study.palette is not None and not set(study.palette.of) <= ids:
        return "its palette speaks of a region it does not have"
    return next((p.fault() for p in parts if p.fault()), "")
