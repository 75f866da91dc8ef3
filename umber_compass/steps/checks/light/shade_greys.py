"""Shade keeps its colour: a warm skin under a blue sky goes grey where the key does not reach."""

import numpy as np

from umber_compass.colour.spaces import decode, encode, parse_hex, to_hex
from umber_compass.plan.edits import Edit
from umber_compass.plan.light_edits import set_ambient
from umber_compass.plan.settings import change_setting
from umber_compass.steps.checks.check import CheckSpec, Fix, Result, level_under, upper
from umber_compass.steps.checks.light.solving import least_share, rig
from umber_compass.steps.light.two_sides import Sides
from umber_compass.steps.pipeline import Derived
from umber_compass.words import words

NAME = "shade-greys"
_COLOURED = 0.06  # OKLCh chroma from which a material has a colour to lose
_MOST_BOUNCE = 2.0
_MOST_KEY = 0.9  # of the key's colour that a sky is given


def _worst(derived: Derived) -> Sides | None:
    own = [
        s
        for s in derived.two_sides
        if s.role in ("figure", "focus") and s.local.chroma >= _COLOURED
    ]
    return min(own, key=Sides.kept_share, default=None)


def _measure(derived: Derived) -> list[Result]:
    worst = _worst(derived)
    if worst is None:
        return []
    kept, wanted = 100 * worst.kept_share(), derived.rules["shade-greys.note"]
    level = level_under(kept, wanted, derived.rules["shade-greys.warning"])
    title = words(
        "Shade keeps its colour" if level == "fine" else "{name} goes grey in shade",
        **({} if level == "fine" else {"name": upper(worst.name)}),
    )
    text = words(
        "{name} keeps {measured:.0f} % of its chroma there, wanted {wanted:g} % or more",
        name=worst.name, measured=kept, wanted=wanted,
    )  # fmt: skip
    return [Result(NAME, level, (worst.region,), kept, wanted, "%", title, text)]


def _candidates(derived: Derived, result: Result) -> list[Fix]:
    """The sky drawn toward the key's colour, or more thrown back from the ground."""
    now, wanted = rig(derived), result.wanted + 1

    def good(then: Derived) -> bool:
        worst = next((s for s in then.two_sides if s.region in result.regions), None)
        return worst is not None and 100 * worst.kept_share() >= wanted

    def warmed(share: float) -> Edit:
        sky, key = (decode(parse_hex(h)) for h in (now.ambient.hex, now.key.hex))
        hex_ = to_hex(encode(sky + (key - sky) * share * _MOST_KEY))
        return set_ambient(words("Warm the sky to {hex}", hex=hex_), hex=hex_)

    def thrown(share: float) -> Edit:
        bounce = now.ambient.bounce + share * (_MOST_BOUNCE - now.ambient.bounce)
        edit = change_setting("bounce", float(np.round(bounce, 2)))
        return edit._replace(name=words("Throw back {n:.0f} % from the ground", n=100 * bounce))

    found = []
    for kind, edit in (("warm-sky", warmed), ("bounce", thrown)):
        share = least_share(derived, edit, good)
        if share is not None:
            made = edit(share)
            found.append(Fix(kind, made.name, made))
    return found


_SAYS = (
    "A colour that the key flatters may turn grey where only the sky reaches it: skin under a blue "
    "sky is the usual case. A warmer sky, or light thrown back from a warm ground, keeps it alive."
)
CHECK = CheckSpec(NAME, "light", _measure, _candidates, _SAYS, coloured=True)
