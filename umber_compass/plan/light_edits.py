"""Changes to a plan's lights."""

from typing import Any

from msgspec.structs import replace

from umber_compass.plan.edits import Edit, region, study, with_study
from umber_compass.plan.model import Plan, Study
from umber_compass.plan.ranges import bounded
from umber_compass.plan.rig import Ambient, Lamp, Part, Percent, Rig, Strength, Terminator
from umber_compass.plan.rigs import KINDS, RigSpec
from umber_compass.plan.terms import ChartPlace, Share
from umber_compass.words import Refusal, Words, words

OFF = Rig(on=False)
MOST_LAMPS = 12


def rig_of(plan: Plan) -> Rig:
    """The rig of the plan's study; one that is off until the artist thinks of light."""
    return rig_in(study(plan))


def rig_in(now: Study) -> Rig:
    """The rig of a study; one that is off until the artist thinks of light."""
    return now.rig or OFF


def with_rig(plan: Plan, rig: Rig) -> Plan:
    """The plan with another rig."""
    return with_study(plan, replace(study(plan), rig=rig))


def light_on(plan: Plan) -> Plan:
    """The plan with its rig on, as it stands or as every rig begins."""
    return plan if rig_of(plan).on else with_rig(plan, replace(rig_of(plan), on=True))


def light_off(plan: Plan) -> Plan:
    """The plan with its rig off: flat."""
    return with_rig(plan, replace(rig_of(plan), on=False)) if rig_of(plan).on else plan


_BOUNDS: dict[str, dict[type, Any]] = {
    "strength": {Lamp: Strength, Ambient: Strength, Terminator: Percent},
    "softness": {Lamp: Share},
}


def _kept(record: Lamp | Ambient | Terminator, changes: dict[str, Any]) -> Any:
    """A record of the rig with some fields changed, numbers brought into their ranges."""
    kept = dict(changes)
    for name, kinds in _BOUNDS.items():
        if name in kept:
            kept[name] = bounded(kinds[type(record)], kept[name])
    if "direction" in kept:
        kept["direction"] = tuple(bounded(Part, a) for a in kept["direction"])
    return replace(record, **kept)


def set_lamp(lamp: str, name: Words, merge: str | None = None, **changes: Any) -> Edit:
    """The lamp of this name changed; the light is on then. Raises Refusal, when it is made, where
    the plan has no such lamp."""

    def change(plan: Plan) -> Plan:
        rig = rig_of(plan)
        if all(one.name != lamp for one in rig.lamps):
            raise Refusal(lamp, words("is no lamp of this plan"))
        lamps = (_kept(one, changes) if one.name == lamp else one for one in rig.lamps)
        return with_rig(plan, replace(rig, on=True, lamps=tuple(lamps)))

    return Edit(name, change, merge)


def place_spot(lamp: str, x: float, y: float) -> Edit:
    """The middle of a spot's light, shares of width and height, kept on the picture."""
    text = words("put {lamp} at {x:.0%}, {y:.0%} of the picture", lamp=lamp, x=x, y=y)
    return set_pool(lamp, text, f"pool {lamp}", x=bounded(Share, x), y=bounded(Share, y))


def set_pool(lamp: str, name: Words, merge: str, **changes: Any) -> Edit:
    """Where a spot's light falls changed; the light is on then. Raises Refusal, when it is made,
    where the plan has no such spot."""

    def change(plan: Plan) -> Plan:
        own = next((one for one in rig_of(plan).lamps if one.name == lamp), None)
        if own is None or own.pool is None:
            raise Refusal(lamp, words("is no spot of this plan"))
        return set_lamp(lamp, name, pool=replace(own.pool, **changes)).change(plan)

    return Edit(name, change, merge)


def set_ambient(name: Words, merge: str | None = None, **changes: Any) -> Edit:
    """The ambient light changed; the light is on then."""

    def change(plan: Plan) -> Plan:
        rig = rig_of(plan)
        return with_rig(plan, replace(rig, on=True, ambient=_kept(rig.ambient, changes)))

    return Edit(name, change, merge)


def with_lamp(rig: Rig, name: str) -> Rig:
    """The rig with a lamp of this name; the same where it has one. Raises Refusal for a name that
    is none of the kinds, and for too many lamps."""
    if any(lamp.name == name for lamp in rig.lamps):
        return rig
    if name not in KINDS:
        line = words("is no lamp; take {known}", known=", ".join(("key", *KINDS)))
        raise Refusal(name[:40], line)
    if len(rig.lamps) >= MOST_LAMPS:
        raise Refusal(f"{len(rig.lamps)} lamps", words("are as many as a rig holds"))
    last = max(lamp.rank for lamp in rig.lamps)
    return replace(rig, lamps=(*rig.lamps, replace(KINDS[name], rank=min(last + 1, 99))))


def add_lamp(name: str) -> Edit:
    """Another lamp in the rig, by the name of its kind; the light is on then."""

    def change(plan: Plan) -> Plan:
        return with_rig(plan, replace(with_lamp(rig_of(plan), name), on=True))

    return Edit(words("add a {name} light", name=name), change)


def remove_lamp(name: str) -> Edit:
    """A lamp taken away. Raises Refusal, when it is made, for the only one."""

    def change(plan: Plan) -> Plan:
        rig = rig_of(plan)
        left = tuple(lamp for lamp in rig.lamps if lamp.name != name)
        if all(lamp.pool for lamp in left):
            line = words("is the only lamp that lights the whole picture; switch it off instead")
            raise Refusal(name[:40], line)
        return with_rig(plan, replace(rig, lamps=left))

    return Edit(words("take the {name} away", name=name), change)


def swap_lamps(what: str) -> Edit:
    """Key and second lamp with their colours, or their ranks, exchanged: `hex` or `rank`. Raises
    Refusal, when it is made, where there is no second lamp."""

    def change(plan: Plan) -> Plan:
        rig = rig_of(plan)
        ranked = [lamp for lamp in rig.ranked if lamp.pool is None]
        if len(ranked) < 2:
            raise Refusal("one lamp", words("has nothing to swap with; add a second"))
        one, other = ranked[:2]
        both = {one.name: getattr(other, what), other.name: getattr(one, what)}
        if what == "rank" and one.rank == other.rank:
            both = {one.name: min(one.rank + 1, 99), other.name: one.rank}
        lamps = tuple(
            replace(lamp, **{what: both[lamp.name]}) if lamp.name in both else lamp
            for lamp in rig.lamps
        )
        return with_rig(plan, replace(rig, on=True, lamps=lamps))

    said = "swap the colours of key and second" if what == "hex" else "let the second lead"
    return Edit(words(said), change)


def swap_warm_and_cool() -> Edit:
    """The colours of key and ambient exchanged."""

    def change(plan: Plan) -> Plan:
        rig = rig_of(plan)
        key, ambient = rig.key, rig.ambient
        lamps = tuple(replace(x, hex=ambient.hex) if x is key else x for x in rig.lamps)
        sky = replace(ambient, hex=key.hex)
        return with_rig(plan, replace(rig, on=True, lamps=lamps, ambient=sky))

    return Edit(words("swap the colours of key and ambient"), change)


def use_rig(spec: RigSpec) -> Edit:
    """The lights of a rig, in the plan's own way of lighting."""

    def change(plan: Plan) -> Plan:
        rig = rig_of(plan)
        lit = replace(
            rig, on=True, ambient=spec.ambient, lamps=spec.lamps, terminator=spec.terminator
        )
        return with_rig(plan, lit)

    return Edit(words("light it as {name}", name=spec.title), change)


def spare(lamp: str, region_id: str, name: str) -> Edit:
    """A region that a lamp does not light, or lights again. Raises Refusal, when it is made, where
    the plan has no such lamp."""

    def change(plan: Plan) -> Plan:
        rig = rig_of(plan)
        own = next((one for one in rig.lamps if one.name == lamp), None)
        if own is None:
            raise Refusal(lamp[:40], words("is no lamp of this plan"))
        kept = tuple(r for r in own.spares if r != region_id)
        spares = kept if region_id in own.spares else (*kept, region_id)
        lamps = tuple(replace(x, spares=spares) if x is own else x for x in rig.lamps)
        return with_rig(plan, replace(rig, lamps=lamps))

    return Edit(words("say whether {lamp} lights {name}", lamp=lamp, name=name), change)


def correct_chart(region_id: str, place: ChartPlace, hex_: str | None, name: str) -> Edit:
    """A colour of the paint chart as the artist wants it; None: as the light makes it. Raises
    Refusal, when it is made, where the plan has no such region."""
    text = "correct {place} of {name}" if hex_ else "let the light make {place} of {name}"

    def change(plan: Plan) -> Plan:
        region(plan, region_id)
        now = study(plan)
        cells = {k: v for k, v in now.chart.get(region_id, {}).items() if k != place}
        if hex_ is not None:
            cells[place] = hex_
        chart = {k: v for k, v in now.chart.items() if k != region_id}
        if cells:
            chart[region_id] = cells
        return with_study(plan, replace(now, chart=chart))

    return Edit(words(text, place=place.replace("-", " "), name=name), change)


def fix_exposure(exposure: float) -> Edit:
    """The exposure as it is now, from here on whatever the lamps do."""
    kept = min(max(exposure, 0.001), 1000.0)

    def change(plan: Plan) -> Plan:
        return with_rig(plan, replace(rig_of(plan), exposed="off", fixed=kept))

    return Edit(words("hold the exposure where it is"), change)
