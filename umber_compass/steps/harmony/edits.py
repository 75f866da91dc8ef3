"""Changes of a plan's colours and scheme that must compute a colour."""

from collections.abc import Callable, Sequence

from msgspec.structs import replace

from umber_compass.colour.measured import measure_hex
from umber_compass.colour.spaces import (
    to_hex,
)
from umber_compass.plan.edits import (
    Edit,
    End,
    each_part,
    part,
    study,
    with_colours,
    with_part,
)
from umber_compass.plan.harmony_edits import half_turned, set_colour
from umber_compass.plan.model import Colour, Gradient, Pinned, Plan, Planned, Scheme, Solid
from umber_compass.plan.ranges import bounded
from umber_compass.plan.terms import Chroma, Slot, Value
from umber_compass.steps.harmony.colours import region_colours, solid_levels
from umber_compass.steps.harmony.scheme import planned_as, slot_hues
from umber_compass.words import Refusal, Words, words

MOST_CHROMA = 0.4  # OKLCh, beyond what any screen shows


def planned_from_hex(scheme: Scheme, text: str) -> Planned:
    """A measured colour in a scheme's terms."""
    m = measure_hex(text)
    return planned_as(scheme, m.value, m.chroma, m.hue)


def _freed(plan: Plan, solid: Planned | Pinned) -> Planned:
    """A colour that can move: a pinned one is said in the scheme's terms."""
    if isinstance(solid, Planned):
        return solid
    return planned_from_hex(study(plan).scheme, solid.hex)


def set_value(region_id: str, end: End, wished: float, name: str) -> Edit:
    """A region's colour at another value; hue and chroma stay as planned, a pinned colour stays
    pinned to the moved colour."""
    kept = bounded(Value, wished)
    return _changed(
        region_id,
        end,
        lambda solid: replace(solid, value=kept),
        words("set {name} to value {value:.0f}", name=name, value=kept),
        f"value {region_id} {end}",
    )


def set_chroma(region_id: str, end: End, wished: float, name: str) -> Edit:
    """A region's colour at another chroma."""
    kept = min(bounded(Chroma, wished), MOST_CHROMA)
    return _changed(
        region_id,
        end,
        lambda solid: replace(solid, chroma=kept),
        words("set {name} to chroma {chroma:.3f}", name=name, chroma=kept),
        f"chroma {region_id} {end}",
    )


def set_hue_offset(region_id: str, end: End, offset_deg: float, text: Words) -> Edit:
    """A region's colour at another turn from its slot's hue, OKLCh degrees."""
    kept = half_turned(offset_deg)
    return _changed(
        region_id,
        end,
        lambda solid: replace(solid, hue_offset_deg=kept),
        text,
        f"hue {region_id} {end}",
    )


def _changed(
    region_id: str, end: End, change: Callable[[Planned], Planned], name: Words, merge: str
) -> Edit:
    def apply(plan: Plan) -> Plan:
        colour = study(plan).colours[region_id]
        solid = part(colour, end)
        moved: Planned | Pinned = change(_freed(plan, solid))
        if isinstance(solid, Pinned):
            scheme = study(plan).scheme
            moved = Pinned(hex=to_hex(solid_levels(scheme, [moved])[0] / 255))
        return with_colours(plan, {region_id: with_part(colour, end, moved)})

    return Edit(name, apply, merge)


def toggle_pin(plan: Plan, region_id: str, name: str) -> Edit:
    """A region's colour given as it is shown now; or, if it is given, following the scheme again
    from where it stands."""
    colour = study(plan).colours[region_id]
    if isinstance(part(colour, 0), Pinned):
        free = {e: _freed(plan, part(colour, e)) for e in (0, 1)}
        return set_colour(region_id, _both(colour, free), words("unpin {name}", name=name))
    shown = region_colours(study(plan).scheme, {region_id: colour})[region_id]
    pins = {e: Pinned(hex=shown.ends[min(e, len(shown.ends) - 1)].hex) for e in (0, 1)}
    return set_colour(region_id, _both(colour, pins), words("pin {name}", name=name))


def _both(colour: Colour, ends: "dict[int, Planned] | dict[int, Pinned]") -> Colour:
    if isinstance(colour, Gradient):
        return replace(colour, first=ends[0], second=ends[1])
    return ends[0]


def pin_to(region_id: str, hex_text: str, name: str) -> Edit:
    """A colour given to a region, to stay as the scheme turns."""
    pinned = Pinned(hex=measure_hex(hex_text).hex)
    return set_colour(region_id, pinned, words("pin {name} to {hex}", name=name, hex=pinned.hex))


def set_slot(plan: Plan, region_id: str, slot: Slot, name: str) -> Edit:
    """Another slot whose hue a region's colour follows. Raises Refusal where the scheme has no such
    slot."""
    known = slot_hues(study(plan).scheme)
    if slot not in known:
        raise Refusal(slot, words("is no slot of this scheme; take {k}", k=", ".join(known)))
    return _changed(
        region_id,
        0,
        lambda solid: replace(solid, slot=slot),
        words("let {name} follow {slot}", name=name, slot=slot),
        f"slot {region_id}",
    )


def give_colour(region_id: str, hex_text: str, name: str) -> Edit:
    """A colour given to a region: it takes value, chroma and hue, in the scheme's terms."""

    def apply(plan: Plan) -> Plan:
        return with_colours(plan, {region_id: planned_from_hex(study(plan).scheme, hex_text)})

    return Edit(words("give {name} {hex}", name=name, hex=hex_text), apply)


def give_hue(region_id: str, hex_text: str, name: str) -> Edit:
    """The hue and chroma of a colour given to a region, its own value kept; at both ends of a
    gradient, a pinned colour freed."""
    return give_several((region_id,), hex_text, name, only_hue=True)._replace(merge=None)


def give_several(
    region_ids: Sequence[str], hex_text: str, name: str, only_hue: bool = False
) -> Edit:
    """A colour given to some regions, called after the first; or only its hue and chroma, the value
    of each kept. Those of one drag are one step."""

    def apply(plan: Plan) -> Plan:
        given = planned_from_hex(study(plan).scheme, hex_text)

        def one(own: Solid) -> Planned:
            return replace(given, value=_freed(plan, own).value)

        colours = study(plan).colours
        made = {r: each_part(colours[r], one) if only_hue else given for r in region_ids}
        return with_colours(plan, made)

    more = len(region_ids) - 1
    if only_hue and more:
        text = words(
            "give {name} and {more} more the hue of {hex}", name=name, more=more, hex=hex_text
        )
    elif only_hue:
        text = words("give {name} the hue of {hex}", name=name, hex=hex_text)
    elif more:
        text = words("give {name} and {more} more {hex}", name=name, more=more, hex=hex_text)
    else:
        text = words("give {name} {hex}", name=name, hex=hex_text)
    return Edit(text, apply, f"give {' '.join(region_ids)} {only_hue}")


def make_gradient(plan: Plan, region_id: str, name: str) -> Edit:
    """A region's colour as a gradient, its far end a little lighter; a gradient becomes one colour
    again."""
    colour = study(plan).colours[region_id]
    if isinstance(colour, Gradient):
        return set_colour(region_id, colour.first, words("make {name} one colour", name=name))
    solid = part(colour, 0)
    if isinstance(solid, Pinned):
        solid = _freed(plan, solid)
    lighter = replace(solid, value=solid.value + 12 if solid.value < 82 else solid.value - 12)
    gradient = Gradient(first=solid, second=lighter)
    return set_colour(region_id, gradient, words("make {name} a gradient", name=name))
