"""Darks, middles and lights each hold the share of the picture that is wished."""

from umber_compass.plan.edits import Edit
from umber_compass.plan.wish_edits import set_bands
from umber_compass.steps.checks.check import CheckSpec, Fix, Result, level_over
from umber_compass.steps.checks.values.balanced import balanced
from umber_compass.steps.pipeline import Derived
from umber_compass.steps.values.bands import KEYS, band_shares
from umber_compass.words import words

NAME = "band-share"
BAND_NAMES = {
    2: ("darks", "lights"),
    3: ("darks", "middles", "lights"),
    4: ("darks", "low middles", "high middles", "lights"),
    5: ("darks", "low middles", "middles", "high middles", "lights"),
}


def _measure(derived: Derived) -> list[Result]:
    wishes = derived.wishes
    if not wishes.on("bands"):
        return []
    named = BAND_NAMES[len(wishes.bands.shares)]
    wished = [
        (abs(now - wish), now, wish, name)
        for i, (now, wish, name) in enumerate(
            zip(derived.bands, wishes.bands.shares, named, strict=True)
        )
        if wishes.on(f"bands.{i + 1}")
    ]
    if not wished:
        return []
    off, now, wish, name = max(wished)
    slack, held = wishes.number("bands"), wishes.of["bands"]
    level = level_over(100 * off, held.number, held.warning)
    side = "hold more than wished" if now > wish else "hold less than wished"
    title = (
        words("Value bands hold their shares")
        if level == "fine"
        else words(f"{{name}} {side}", name=name.capitalize())
    )
    text = words(
        "{now:.0%} of the picture, wanted {low:.0%} to {high:.0%}",
        now=now,
        low=max(wish - slack / 100, 0),
        high=min(wish + slack / 100, 1),
    )
    if level == "fine":
        text = words(
            "{name} {now:.0%}, wished {wish:.0%}: the largest difference",
            name=name,
            now=now,
            wish=wish,
        )
    return [Result(NAME, level, (), 100 * off, slack, "points", title, text, whole=True)]


def _candidates(derived: Derived, result: Result) -> list[Fix]:
    """Values moved; or, where the picture is of another key, that key wished instead."""
    count = len(derived.wishes.bands.shares)
    found = balanced(derived, result, *(f"bands.{i + 1}" for i in range(count)))
    for key in list(KEYS.values())[:3]:
        held = band_shares(
            derived.values.by_code, derived.values.histogram, derived.adjacency, key.bands.edges
        )
        off = max(abs(a - b) for a, b in zip(held, key.bands.shares, strict=True))
        if 100 * off <= derived.wishes.number("bands") and key.bands != derived.wishes.bands:
            text = words("Aim for a {key} instead", key=key.title)
            edit = Edit(text, set_bands(key.bands, text).change)
            found.append(Fix(f"key-{key.name}", text, edit))
    return found


_SAYS = (
    "Unequal shares of dark, middle and light give a picture one key that is felt before anything "
    "is seen. Measured on every pixel of the picture that is shown."
)
CHECK = CheckSpec(NAME, "values", _measure, _candidates, _SAYS, always=True)
