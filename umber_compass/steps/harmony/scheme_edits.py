"""Changes of scheme and wheel: colours that fit stay, and what moves is said."""

from collections.abc import Mapping

from msgspec.structs import replace

from umber_compass.colour.spaces import hue_distance
from umber_compass.colour.wheels import angle_of, hue_at
from umber_compass.plan.edits import (
    Edit,
    each_free,
    each_part,
    part,
    study,
    with_scheme,
    with_study,
)
from umber_compass.plan.harmony_edits import half_turned, turned
from umber_compass.plan.model import Pinned, Plan, Planned, Scheme, Solid
from umber_compass.plan.practices import numbers_of
from umber_compass.plan.terms import Slot, Wheel
from umber_compass.steps.harmony.scheme import nearest_slot, slot_hues, stray_deg
from umber_compass.steps.harmony.schemes import FREE, SCHEMES, spec_of
from umber_compass.words import Words, words

WHEEL_TITLES = {"painter": "painter’s", "light": "light", "perceptual": "perceptual"}
_STILL_DEG = 1.5  # OKLCh degrees; less is no move
_NAMED = 3  # regions that are named with how far they moved


def choose_scheme(name: str) -> Edit:
    """Another scheme under the same lead. A colour within an arc of the new one keeps its hue; the
    others go with their slot, or with the one that does the same part."""

    def apply(plan: Plan) -> Plan:
        now = study(plan)
        if now.scheme.name == name:
            return with_scheme(plan, chosen=name != FREE or now.scheme.chosen)
        return _rescheme(plan, _scheme_of(now.scheme, name))

    title = FREE if name == FREE else SCHEMES[name].title
    return Edit(words("choose the scheme {title}", title=title), apply, says=what_moved)


def _scheme_of(old: Scheme, name: str) -> Scheme:
    """A scheme of another name under the same lead; a free one keeps its hues."""
    plain = replace(old, name=name, lead_at="middle", shares={}, chroma={}, arcs={}, offsets=())
    changed = replace(plain, chosen=name != FREE)  # who chooses no rule holds colours to none
    if name == FREE:
        needles = [n for n in spec_of(old).needles if n.slot != "A"]
        offsets = tuple(turned(n.at(old.spread_deg, old.lead_at)) for n in needles)
        return replace(changed, offsets=offsets)
    return replace(changed, spread_deg=float(SCHEMES[name].spread_deg))


def _rescheme(plan: Plan, scheme: Scheme) -> Plan:
    """The plan under another scheme of the same wheel and lead."""
    now = study(plan)
    before, after = slot_hues(now.scheme), slot_hues(scheme)
    move = _moves(_parts(now.scheme), _parts(scheme))
    arc = numbers_of(plan.practice, plan.overrides)["hue-off-scheme.arc"]

    def one(solid: Solid) -> Solid:
        if isinstance(solid, Pinned) or solid.slot == "grey":
            return solid
        hue = before.get(solid.slot, before["A"]) + solid.hue_offset_deg
        strays, slot = stray_deg(after, hue, arc)
        if strays == 0 or scheme.name == FREE:
            offset = float(hue_distance(after[slot], hue))
            return replace(solid, slot=slot, hue_offset_deg=half_turned(offset))
        return replace(solid, slot=move[solid.slot])

    colours = {k: each_part(c, one) for k, c in now.colours.items()}
    return with_study(plan, replace(now, scheme=scheme, colours=colours))


def _parts(scheme: Scheme) -> dict[Slot, str]:
    return {n.slot: n.part for n in spec_of(scheme).needles}


def _moves(old: Mapping[Slot, str], new: Mapping[Slot, str]) -> dict[Slot, Slot]:
    """Where each old slot goes: the same part first, then the same letter, then the lead."""
    moves: dict[Slot, Slot] = {}
    for slot, task in old.items():
        same = [s for s, p in new.items() if p == task]
        rank = [s for s, p in old.items() if p == task].index(slot)
        fallback: Slot = slot if slot in new else "A"
        moves[slot] = same[min(rank, len(same) - 1)] if same else fallback
    return moves


def choose_wheel(wheel: Wheel) -> Edit:
    """Another wheel. Every colour stays as it is; the lead keeps its hue and the others stand anew
    from it, so what follows them is read anew."""

    def apply(plan: Plan) -> Plan:
        now = study(plan)
        if now.scheme.wheel == wheel:
            return plan
        hue = hue_at(now.scheme.wheel, now.scheme.lead_deg)
        lead = turned(float(angle_of(wheel, hue)))
        offsets = tuple(
            turned(float(angle_of(wheel, hue_at(now.scheme.wheel, now.scheme.lead_deg + o))) - lead)
            for o in now.scheme.offsets
        )
        return resaid(plan, replace(now.scheme, wheel=wheel, lead_deg=lead, offsets=offsets))

    return Edit(words("read on the {wheel} wheel", wheel=WHEEL_TITLES[wheel]), apply)


def resaid(plan: Plan, scheme: Scheme) -> Plan:
    """The plan under another scheme, every colour as it was: each takes the nearest slot and is
    said by its turn from it."""
    now = study(plan)
    before, after = slot_hues(now.scheme), slot_hues(scheme)

    def one(solid: Solid) -> Solid:
        if isinstance(solid, Pinned):
            return solid
        hue = before.get(solid.slot, before["A"]) + solid.hue_offset_deg
        slot: Slot = "grey" if solid.slot == "grey" else nearest_slot(scheme, hue)
        offset = float(hue_distance(after[slot], hue))
        times = now.scheme.chroma.get(solid.slot, 1.0) / max(scheme.chroma.get(slot, 1.0), 1e-6)
        chroma = min(solid.chroma * times, 0.5)
        return replace(solid, slot=slot, hue_offset_deg=half_turned(offset), chroma=chroma)

    colours = {k: each_part(c, one) for k, c in now.colours.items()}
    return with_study(plan, replace(now, scheme=scheme, colours=colours))


def take_scheme(scheme: Scheme, title: str) -> Edit:
    """A scheme that the picture was read to follow; the colours stay."""
    return Edit(
        words("read it as {title}", title=title), lambda plan: resaid(plan, _chosen(scheme))
    )


def _chosen(scheme: Scheme) -> Scheme:
    return replace(scheme, chosen=scheme.name != FREE)


def fit_scheme(scheme: Scheme, title: str) -> Edit:
    """A scheme that suits the given colours. Colours in its arcs stay, the others go with it."""

    text = words("build {title}", title=title)
    return Edit(text, lambda plan: _rescheme(plan, _chosen(scheme)), says=what_moved)


def drop_hue() -> Edit:
    """The last hue of a free scheme taken away; its colours stay as they are, with the nearest."""

    def apply(plan: Plan) -> Plan:
        scheme = study(plan).scheme
        return resaid(plan, replace(scheme, offsets=scheme.offsets[:-1]))

    return Edit(words("take a hue away"), apply)


def pull_into(strength: float, slot: Slot | None = None) -> Edit:
    """Colours turned a share, 0-1, of the way to their slot's hue: all, or one slot's; locked and
    given ones stay."""
    kept = min(max(strength, 0.0), 1.0)

    def one(solid: Planned) -> Planned:
        if solid.slot == "grey" or slot not in (None, solid.slot):
            return solid
        return replace(solid, hue_offset_deg=half_turned(solid.hue_offset_deg) * (1 - kept))

    text = words("move hues {strength:.0%} toward the scheme", strength=kept)
    return Edit(text, lambda plan: each_free(plan, one), f"pull {slot}")


def lead_by(plan: Plan, slot: Slot) -> Edit:
    """Another slot's hue as the lead: the scheme turns so that A stands where that slot stood, and
    what followed either takes the other's place."""
    now = study(plan)
    angle = slot_hues(now.scheme)[slot]
    lead = turned(float(angle_of(now.scheme.wheel, angle)))
    text = words("let {slot} lead", slot=slot)
    return Edit(text, lambda p: resaid(p, replace(study(p).scheme, lead_deg=lead)))


def what_moved(before: Plan, after: Plan) -> Words:
    """Which colours turned from one plan to another, and how far, in a line."""
    old, new = study(before), study(after)
    was, now = slot_hues(old.scheme), slot_hues(new.scheme)
    turns: list[tuple[float, str]] = []
    for region in after.regions:
        one, two = old.colours[region.id], new.colours[region.id]
        turn = max((_turn(was, now, part(one, e), part(two, e)) for e in (0, 1)), key=abs)
        if abs(turn) > _STILL_DEG:
            turns.append((turn, region.name))
    turns.sort(key=lambda t: -abs(t[0]))
    if not turns:
        return words("Every colour fits and stays")
    said = ", ".join(f"{name} {turn:+.0f}°" for turn, name in turns[:_NAMED])
    more = len(turns) - _NAMED
    if more > 0:
        return words("Turned: {said} and {more} more; the rest stays", said=said, more=more)
    return words("Turned: {said}; the rest stays", said=said)


def _turn(was: Mapping[Slot, float], now: Mapping[Slot, float], one: Solid, two: Solid) -> float:
    if not (isinstance(one, Planned) and isinstance(two, Planned)) or one.chroma < 0.01:
        return 0.0
    old = was.get(one.slot, was["A"]) + one.hue_offset_deg
    new = now.get(two.slot, now["A"]) + two.hue_offset_deg
    return float(hue_distance(old, new))
