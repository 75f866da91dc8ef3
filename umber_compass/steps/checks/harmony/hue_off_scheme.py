"""A colour that lies outside every arc of the scheme looks stuck on."""

from collections.abc import Callable

from msgspec.structs import replace

from umber_compass.colour.spaces import hue_distance
from umber_compass.plan.edits import Edit, part, study, with_colours, with_part
from umber_compass.plan.model import Plan, Planned
from umber_compass.plan.terms import Slot
from umber_compass.steps.checks.check import CheckSpec, Fix, Result, level_over, names, upper
from umber_compass.steps.checks.shifting import amount
from umber_compass.steps.harmony.scheme import slot_hues, stray_deg
from umber_compass.steps.pipeline import Derived
from umber_compass.words import words

NAME = "hue-off-scheme"
_SAYS = {  # by whether it is the lead's arc, and whether the colour is given
    (True, False): "{measured:.3g}° outside the lead’s arc",
    (False, False): "{measured:.3g}° outside {slot}’s arc",
    (True, True): "{measured:.3g}° outside the lead’s arc, but its colour is fixed",
    (False, True): "{measured:.3g}° outside {slot}’s arc, but its colour is fixed",
}


def _strays(derived: Derived) -> dict[str, tuple[float, int, Slot]]:
    """By region that counts: how far it strays, which end of it, and from whose arc."""
    scheme, rules = derived.scheme, derived.rules
    hues = slot_hues(scheme)
    found: dict[str, tuple[float, int, Slot]] = {}
    for region_id, colour in derived.colours.items():
        if derived.shares[region_id] * 100 < rules["hue-off-scheme.share"]:
            continue
        for end, shown in enumerate(colour.ends):
            if shown.hue is None or shown.chroma <= rules["hue-off-scheme.chroma"]:
                continue
            stray, slot = stray_deg(hues, shown.hue, rules["hue-off-scheme.arc"], scheme.arcs)
            if stray >= found.get(region_id, (0.0, 0, "A"))[0]:
                found[region_id] = (stray, end, slot)
    return found


def _measure(derived: Derived) -> list[Result]:
    if not derived.scheme.chosen:
        return []  # nobody said what the colours should follow
    rules, said = derived.rules, names(derived)
    note, warning = rules["hue-off-scheme.note"], rules["hue-off-scheme.warning"]
    results = []
    for region_id, (stray, end, slot) in _strays(derived).items():
        level = level_over(stray, note, warning)
        if level == "fine":
            continue
        given = derived.colours[region_id].ends[end].slot == "given"
        text = _SAYS[slot == "A", given]
        title = words("{name}: off the scheme", name=upper(said[region_id]))
        results.append(
            Result(
                NAME,
                level,
                (region_id,),
                stray,
                note,
                "°",
                title,
                words(text, measured=stray, slot=slot),
            )
        )
    if results:
        return results
    arc = words(
        "every colour that counts lies within {arc:.0f}° of its hue",
        arc=rules["hue-off-scheme.arc"],
    )
    return [Result(NAME, "fine", (), 0.0, note, "°", words("No colour strays"), arc)]


def _candidates(derived: Derived, result: Result) -> list[Fix]:
    """The region turned to the near edge of the nearest arc, less a margin, or deeper."""
    region_id = result.regions[0]
    _, end, slot = _strays(derived)[region_id]
    shown = derived.colours[region_id].ends[end]
    if shown.hue is None or shown.slot == "given":
        return []
    middle = slot_hues(derived.study.scheme)[slot]
    way = float(hue_distance(middle, shown.hue))
    edge = derived.scheme.arcs.get(slot, derived.rules["hue-off-scheme.arc"]) + result.wanted
    margin = derived.rules["fix.hue"]
    # Rounding turns pale and dark colours by more than the margin: deeper turns are offered too.
    found = []
    for i, within in enumerate((margin, 3 * margin, 8 * margin, edge)):
        offset = max(edge - within, 0.0) * (1 if way > 0 else -1)
        text = words(
            "Turn {name} {turn}°",
            name=names(derived)[region_id],
            turn=amount(abs(way) - abs(offset)),
        )
        change = _turn(region_id, end, slot, offset)
        found.append(Fix("turn" if not i else f"turn-{i}", text, Edit(text, change)))
    return found


def _turn(region_id: str, end: int, slot: Slot, offset: float) -> Callable[[Plan], Plan]:
    def apply(plan: Plan) -> Plan:
        colour = study(plan).colours[region_id]
        solid = part(colour, end)
        if not isinstance(solid, Planned):
            return plan
        turned = replace(solid, slot=slot, hue_offset_deg=offset)
        return with_colours(plan, {region_id: with_part(colour, end, turned)})

    return apply


_ABOUT = (
    "A colour that lies outside every arc of the scheme looks as if it came from another "
    "picture. One left on purpose, as an accent, is fine."
)
CHECK = CheckSpec(
    NAME,
    "harmony",
    _measure,
    _candidates,
    _ABOUT,
    "{count} colours lie off the scheme",
    coloured=True,
    always=True,
)
