"""Keys about what is wished of values and of what is met first."""

import math

from umber_compass.plan.edits import Edit, region, study
from umber_compass.plan.focus_edits import follow_roles, set_focus, set_point
from umber_compass.plan.model import Plan
from umber_compass.plan.practices import numbers_of
from umber_compass.plan.setting import TEXT, Kind
from umber_compass.plan.wish_edits import (
    check_count,
    lock_wish,
    set_bands,
    set_order,
    set_wish,
    start_from,
    switch_wish,
)
from umber_compass.plan.wishes import Bands
from umber_compass.steps.focus.attention import focus_regions
from umber_compass.steps.keys.key import Group, Key, Setting, only
from umber_compass.steps.keys.regions import named as region_named
from umber_compass.steps.values.bands import KEYS
from umber_compass.steps.values.wishes import SPECS, HeldWishes, held_wishes
from umber_compass.words import Refusal, words

_ROLES, _NONE = "roles", "none"


def _wishes(plan: Plan) -> HeldWishes:
    return held_wishes(study(plan).wishes, numbers_of(plan.practice, plan.overrides))


def _focus_now(plan: Plan) -> str:
    focus = study(plan).focus
    if focus is not None and focus.point is not None:
        return f"{focus.point.x:g},{focus.point.y:g},{focus.point.radius:g}"
    return ",".join(focus_regions(plan.regions, focus)) or _NONE


def _focus(plan: Plan, text: str) -> Edit:
    """Regions by id or name, or a point and its radius; `roles` for those whose role is focus."""
    if text == _ROLES:
        return follow_roles()
    if text == _NONE:
        return set_focus((), words("set no focus"))
    parts = [p.strip() for p in text.split(",")]
    try:
        x, y, radius = (float(p) for p in parts)
    except ValueError:
        ids = tuple(region_named(plan, p) for p in parts)
        which = ", ".join(region(plan, r).name for r in ids)
        return set_focus(ids, words("set the focus on {which}", which=which))
    if not all(math.isfinite(v) and 0 <= v <= 1 for v in (x, y, radius)) or radius <= 0:
        raise Refusal(
            "focus", words("{text} is no place; x, y and radius are 0 to 1", text=text[:40])
        )
    return set_point(x, y, radius)


def _numbers(key: str, text: str, low: float, high: float) -> list[float]:
    try:
        found = [float(p) for p in text.split(",")]
    except ValueError:
        raise Refusal(key, words("{text} are no numbers", text=text[:40])) from None
    if not all(math.isfinite(v) and low <= v <= high for v in found):
        raise Refusal(
            key, words("{text} are not all {low:g} to {high:g}", text=text[:40], low=low, high=high)
        )
    return found


def _bands(plan: Plan, edges: list[float] | None, shares: list[float] | None) -> Edit:
    """Bands with other edges or shares; where their number changes, the rest is spread evenly."""
    now = _wishes(plan).bands
    count = check_count(len(edges) + 1 if edges is not None else len(shares or ()))
    same = count == len(now.shares)
    made = Bands(
        edges=tuple(edges)
        if edges is not None
        else now.edges
        if same
        else tuple(100 * (i + 1) / count for i in range(count - 1)),
        shares=tuple(shares)
        if shares is not None
        else now.shares
        if same
        else (1 / count,) * count,
    )
    if made.fault():
        raise Refusal("wish.bands", words("{fault}; change them", fault=made.fault()))
    return set_bands(made, words("set the value bands"))


def _edges(plan: Plan, text: str) -> Edit:
    return _bands(plan, _numbers("wish.bands.edges", text, 0, 100), None)


def _shares(plan: Plan, text: str) -> Edit:
    return _bands(plan, None, _numbers("wish.bands.shares", text, 0, 1))


def _key(plan: Plan, text: str) -> Edit:
    if text not in KEYS:
        raise Refusal(
            "wish.key", words("{text} is no key; take {k}", text=text[:40], k=", ".join(KEYS))
        )
    key = KEYS[text]
    return start_from(key.bands, key.figure, key.title)


def _key_now(plan: Plan) -> str | None:
    """The key that the plan's bands are of, if any."""
    wishes = _wishes(plan)
    same = (
        k for k in KEYS.values() if k.bands == wishes.bands and k.figure == wishes.number("figure")
    )
    return next((k.name for k in same if wishes.on("bands")), None)


def _order(plan: Plan, text: str) -> Edit:
    parts = [] if text == _NONE else [p.strip() for p in text.split(",")]
    ids = tuple(region_named(plan, p) for p in parts)
    if len(set(ids)) != len(ids):
        raise Refusal("wish.order", words("names a region twice"))
    return set_order(ids)


def _now(plan: Plan, name: str) -> Setting:
    wishes = _wishes(plan)
    if not wishes.on(name):
        return "off"
    return wishes.number(name) if SPECS[name].rule or SPECS[name].unit else "on"


def _wish_named(plan: Plan, text: str) -> str:
    """A wish, or one part of it, whose first part is a wish."""
    if (
        text.partition(".")[0] not in SPECS
        or not text.replace(".", "").replace("-", "").replace("_", "").isalnum()
    ):
        known = ", ".join(SPECS)
        raise Refusal(f"wish.{text}"[:60], words("is no wish; take {known}", known=known))
    return text


def _wish(plan: Plan, name: str, text: str) -> Edit:
    """A wish switched, locked, or given a number."""
    spec = SPECS[name.partition(".")[0]]
    title, switch = spec.title, {"off": False, "on": True}
    if text in switch:
        return switch_wish(name, switch[text], title)
    if text in ("lock", "unlock"):
        return lock_wish(name, text == "lock", title, _wishes(plan).on(name))
    (number, *more) = _numbers(f"wish.{name}"[:60], text, spec.low, spec.high)
    if more or name != spec.name or not (spec.rule or spec.unit):
        raise Refusal(f"wish.{name}"[:60], words("takes on, off, lock or unlock"))
    return set_wish(name, number, title)


# fmt: off
FOCUS = Group((
    Key("focus", Kind(TEXT, "regions, or x,y,radius as shares; roles; none"),
        "what should be met first", lambda p, _: _focus_now(p), lambda p, _, x: _focus(p, x)),
    Key("wish.key", Kind("choice", choices=tuple(KEYS)), "a distribution of values to start from",
        lambda p, _: _key_now(p), lambda p, _, x: _key(p, x)),
    Key("wish.bands.edges", Kind(TEXT, "L*, rising, by comma"), "where value bands end",
        lambda p, _: ",".join(f"{e:g}" for e in _wishes(p).bands.edges),
        lambda p, _, x: _edges(p, x)),
    Key("wish.bands.shares", Kind(TEXT, "shares from dark to light, by comma"),
        "what value bands should hold",
        lambda p, _: ",".join(f"{s:g}" for s in _wishes(p).bands.shares),
        lambda p, _, x: _shares(p, x)),
    Key("wish.order.regions", Kind(TEXT, "regions from dark to light, by comma; none"),
        "the order of materials",
        lambda p, _: ",".join(study(p).wishes.order) or _NONE, lambda p, _, x: _order(p, x)),
), "", lambda plan: ("",), only)
WISHES = Group((
    Key("wish.SUBJECT", Kind(TEXT, "a number, on, off, lock or unlock"),
        "what is wished of values and focus", _now, _wish),
), "WISH", lambda plan: iter(SPECS), _wish_named)
