"""Keys about the piece and its light; those that are more than a row of the table of settings."""

from typing import Any

from umber_compass.colour.measured import listed_hexes
from umber_compass.colour.temperature import LEAST as LEAST_K
from umber_compass.colour.temperature import MOST as MOST_K
from umber_compass.colour.temperature import hex_of_kelvin, kelvin_of
from umber_compass.colour.wheels import WHEELS
from umber_compass.plan.edits import Edit, study
from umber_compass.plan.first_edits import set_lights
from umber_compass.plan.light_edits import rig_of, set_lamp, use_rig, with_lamp, with_rig
from umber_compass.plan.model import Plan, Shading
from umber_compass.plan.moods import MOODS
from umber_compass.plan.practice_edits import set_practice, set_rule
from umber_compass.plan.practices import PRACTICES, numbers_of, rule_of
from umber_compass.plan.ramp_edits import set_gradient
from umber_compass.plan.rigs import KINDS, RIGS
from umber_compass.plan.setting import CHOICE, NUMBER, TEXT, Kind
from umber_compass.plan.settings import change_setting
from umber_compass.plan.study_edits import choose_study, set_mood
from umber_compass.plan.terms import Slot
from umber_compass.steps.harmony.living import turn_lead
from umber_compass.steps.harmony.scheme import wished_shares
from umber_compass.steps.harmony.scheme_edits import choose_scheme, choose_wheel
from umber_compass.steps.harmony.schemes import SCHEME_NAMES
from umber_compass.steps.keys.key import Group, Key, from_table, only
from umber_compass.steps.light.contrast import LEAST, MOST, contrast_of, set_contrast
from umber_compass.steps.light.lamps import MOST_DEG, Angles, angles_of, direction_of
from umber_compass.words import Refusal, words

_NONE, _OWN = "none", "own"


def _mood(plan: Plan) -> str:
    mood = study(plan).mood
    return _NONE if mood is None else mood.name


def _rule_named(plan: Plan, text: str) -> str:
    if rule_of(plan.practice, text) is None:
        raise Refusal(f"rule.{text}"[:60], words("is no rule of the practice {p}", p=plan.practice))
    return text


def _slot_named(plan: Plan, text: str) -> Slot:
    slots = wished_shares(study(plan).scheme)
    for slot in slots:
        if slot == text:
            return slot
    raise Refusal(f"share.{text}"[:60], words("is no slot; take {k}", k=", ".join(slots)))


def _arc(plan: Plan, slot: str) -> float:
    usual = numbers_of(plan.practice, plan.overrides)["hue-off-scheme.arc"]
    return study(plan).scheme.arcs.get(_slot_named(plan, slot), usual)


def _level(plan: Plan, slot: str) -> float:
    return study(plan).scheme.chroma.get(_slot_named(plan, slot), 1.0)


def _lamp_named(plan: Plan, text: str) -> str:
    names = [lamp.name for lamp in rig_of(plan).lamps]
    if text not in names and text not in KINDS:
        known = ", ".join(dict.fromkeys((*names, *KINDS)))
        raise Refusal(f"lamp.{text}"[:60], words("is no lamp here; take {k}", k=known))
    return text


def _angles_now(plan: Plan, lamp: str) -> Angles:
    return angles_of(with_lamp(rig_of(plan), lamp).lamp(lamp).direction)


def _with_angles(plan: Plan, lamp: str, **changes: Any) -> Edit:
    text = words("set {lamp}’s place", lamp=lamp)
    return set_lamp(lamp, text, direction=direction_of(_angles_now(plan, lamp)._replace(**changes)))


def _adding(key: Key) -> Key:
    """A key of a lamp that adds the lamp where the rig has none of its name."""

    def edit(plan: Plan, lamp: str, value: Any) -> Edit:
        there = with_rig(plan, with_lamp(rig_of(plan), lamp))
        inner = key.edit(there, lamp, value)

        def change(now: Plan) -> Plan:
            return inner.change(with_rig(now, with_lamp(rig_of(now), lamp)))

        return inner._replace(change=change)

    return key._replace(edit=edit)


def _of_spot(key: Key) -> Key:
    """A key that only a lamp with a pool of light has."""

    def edit(plan: Plan, lamp: str, value: Any) -> Edit:
        if with_lamp(rig_of(plan), lamp).lamp(lamp).pool is None:
            line = words("lights the whole picture; {end} is a spot’s", end=key.name.split(".")[-1])
            raise Refusal(f"lamp.{lamp}", line)
        return key.edit(plan, lamp, value)

    return key._replace(edit=edit)


def _rig(plan: Plan, _: str) -> str:
    rig = rig_of(plan)
    same = (n for n, s in RIGS.items() if (s.ambient, s.lamps) == (rig.ambient, rig.lamps))
    return next(same, _OWN)


def _set_rig(_: Plan, __: str, name: str) -> Edit:
    if name == _OWN:
        raise Refusal("light.rig", words("{own} is what it is called, not a rig to take", own=name))
    return use_rig(RIGS[name])


def _set_kelvin(_: Plan, lamp: str, kelvin: float) -> Edit:
    return change_setting("lamp.LAMP.colour", hex_of_kelvin(kelvin), lamp, lamp)


def _kelvin(plan: Plan, lamp: str) -> float | None:
    found = kelvin_of(with_lamp(rig_of(plan), lamp).lamp(lamp).hex)
    return None if found is None else round(found, -1)


def _listed(text: str) -> list[str]:
    return [part.strip().lower() for part in text.split(",")]


# fmt: off
PIECE = Group((
    *map(from_table, ("title", "purpose")),
    Key("practice", Kind(CHOICE, choices=tuple(PRACTICES)), "whose numbers the checks hold to",
        lambda p, _: p.practice, lambda p, _, x: set_practice(x)),
    Key("study.current", Kind(TEXT), "the colour version that is shown, by id",
        lambda p, _: p.current_study, lambda p, _, x: choose_study(p, x)),
    *map(from_table, ("study.title", "study.note", "study.verdict", "study.reason")),
    Key("study.mood", Kind(CHOICE, choices=(_NONE, *MOODS)),
        "the mood the shown study is held to",
        lambda p, _: _mood(p), lambda p, _, x: set_mood(None if x == _NONE else x)),
    from_table("budget"),
    from_table("layers.light"),
    from_table("layers.clipped"),
    from_table("layers.things"),
    from_table("layers.grown"),
    Key("first.lights", Kind(TEXT, "by comma: noon, overcast, dusk, night, festive"),
        "the lights first colours are proposed for",
        lambda p, _: ",".join(p.first.lights), lambda p, _, x: set_lights(_listed(x))),
    *map(from_table, ("first.key", "first.values", "first.scheme", "first.skin", "first.strength",
                      "first.warm", "first.seed")),
    Key("scheme.name", Kind(CHOICE, choices=SCHEME_NAMES), "which hues lead, support and answer",
        lambda p, _: study(p).scheme.name, lambda p, _, x: choose_scheme(x)),
    Key("scheme.wheel", Kind(CHOICE, choices=tuple(WHEELS)), "the wheel its angles stand on",
        lambda p, _: study(p).scheme.wheel, lambda p, _, x: choose_wheel(x)),
    Key("scheme.lead", Kind(NUMBER, "° on the wheel", 0, 360), "the leading hue",
        lambda p, _: study(p).scheme.lead_deg, lambda p, _, x: turn_lead(x)),
    from_table("scheme.spread"),
    *map(from_table, ("brief.use", "brief.width", "brief.distance", "brief.notes")),
    from_table("ramps.within"),
    *map(from_table, ("shading.on", "shading.strength", "shading.hue",
                      "shading.shade-colour", "shading.light-colour", "shading.beside")),
    Key("shading.stops", Kind(TEXT, "hexes by comma"),
        "the colours of a gradient over the values of your own shading; sets shading.hue",
        lambda p, _: ",".join((study(p).shading or Shading()).stops),
        lambda p, _, x: set_gradient(listed_hexes(x))),
), "", lambda plan: ("",), only)
RULES = Group((
    Key("rule.SUBJECT", Kind(NUMBER), "one number of the practice, for this plan",
        lambda p, r: numbers_of(p.practice, p.overrides)[r], lambda p, r, x: set_rule(r, x, r)),
), "RULE", lambda plan: (r.key for r in PRACTICES[plan.practice].rules), _rule_named)
SHARES = Group((
    from_table("share.SLOT", now=lambda p, s: wished_shares(study(p).scheme)[_slot_named(p, s)]),
), "SLOT", lambda plan: wished_shares(study(plan).scheme), _slot_named)
SLOTS = Group((
    from_table("slot.SLOT.chroma", now=_level),
    from_table("slot.SLOT.arc", now=_arc),
), "SLOT", lambda plan: wished_shares(study(plan).scheme), _slot_named)
RIG = Group((
    Key("light.rig", Kind(CHOICE, choices=(_OWN, *RIGS)),
        "the rig its lights are those of; own where they are none of these", _rig, _set_rig),
    *map(from_table, ("light.on", "light.way", "light.anchor")),
    Key("light.contrast", Kind(NUMBER, "L* from light to shade", LEAST, MOST),
        "by how much value drops from light to shade, on a local colour of L* 60",
        lambda p, _: contrast_of(rig_of(p)), lambda p, _, x: set_contrast(x)),
    *map(from_table, ("light.highlights", "light.volume", "light.exposed", "light.exposure",
                      "light.held", "light.far", "shadows", "bounce")),
    *map(from_table, ("ambient.colour", "ambient.sky", "ambient.ground", "ambient.strength",
                      "ambient.on")),
    *map(from_table, ("glow.strength", "glow.reach")),
    *map(from_table, ("terminator.colour", "terminator.strength", "crevice")),
), "", lambda plan: ("",), only)
LAMPS = Group(tuple(map(_adding, (
    *map(from_table, ("lamp.LAMP.colour", "lamp.LAMP.strength")),
    Key("lamp.SUBJECT.kelvin", Kind(NUMBER, "K", LEAST_K, MOST_K),
        "its colour as that of a glowing body; none where no such body has it",
        _kelvin, _set_kelvin),
    Key("lamp.SUBJECT.angle", Kind(NUMBER, "° clockwise from above", 0, 360),
        "where round the picture it stands",
        lambda p, n: _angles_now(p, n).round_deg, lambda p, n, x: _with_angles(p, n, round_deg=x)),
    Key("lamp.SUBJECT.off-front", Kind(NUMBER, "° off the front", 0, MOST_DEG),
        "how far it stands from the viewer’s axis",
        lambda p, n: _angles_now(p, n).off_deg, lambda p, n, x: _with_angles(p, n, off_deg=x)),
    *map(from_table, ("lamp.LAMP.softness", "lamp.LAMP.rank", "lamp.LAMP.edge",
                      "lamp.LAMP.edge-colour", "lamp.LAMP.on")),
))), "LAMP", lambda plan: (lamp.name for lamp in rig_of(plan).lamps), _lamp_named)
POOLS = Group(tuple(map(_adding, map(_of_spot, map(from_table, (
    "lamp.LAMP.x", "lamp.LAMP.y", "lamp.LAMP.radius", "lamp.LAMP.fall-off",
))))), "LAMP", lambda plan: (x.name for x in rig_of(plan).lamps if x.pool), _lamp_named)
