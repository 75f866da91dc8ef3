"""A region that draws the eye nearly as much as the focus, and by what."""

import numpy as np

from umber_compass.colour.spaces import Floats
from umber_compass.steps.checks.check import (
    RIVALS,
    CheckSpec,
    Fix,
    Result,
    level_over,
    names,
    upper,
)
from umber_compass.steps.checks.focus.giving_way import fix_until
from umber_compass.steps.mending.focus import (
    CHANNELS,
    MARGIN,
    cause,
    give_way_and_gain,
    passes,
    quieten,
)
from umber_compass.steps.mending.scene import Scene, scene_of
from umber_compass.steps.pipeline import Derived
from umber_compass.words import words

NAME = "competes"


def _measure(derived: Derived) -> list[Result]:
    seen = derived.attention
    if seen is None or not derived.wishes.on("lead") or not seen.focus or seen.rival is None:
        return []
    own = float(seen.total[list(seen.focus)].max())
    by_label = {r.label: r for r in derived.regions}
    most = 100 / derived.wishes.number("lead")
    warning = max(derived.rules["competes.warning"], most)
    scene, found = scene_of(derived), list[Result]()
    for label in np.argsort(-seen.total, kind="stable").tolist():
        share = 100 * float(seen.total[label]) / max(own, 1e-9)
        if label in seen.focus or label not in by_label:
            continue
        if share <= most or scene is None:
            if not found:
                found.append(_fine(by_label[label].name, share, most))
            break
        level = level_over(share, most, warning)
        found.append(_result(scene, label, share, most)._replace(level=level))
    return found


def _fine(name: str, share: float, most: float) -> Result:
    text = words(
        "{name} is next with {share:.0f} % of the focus’s pull, wanted {most:.0f} % or less",
        name=name,
        share=share,
        most=most,
    )
    title = words("Nothing competes with the focus")
    return Result(NAME, "fine", (), share, most, "%", title, text)


def _result(scene: Scene, label: int, share: float, most: float) -> Result:
    named = names(scene.derived)
    region = scene.by_label[label]
    title = "{name} outshouts the focus" if share >= 100 else "{name} is a second focus"
    text = words(
        "{share:.0f} % of its pull, mostly by {cause}; wanted {most:.0f} % or less",
        share=share,
        cause=cause(scene, label),
        most=most,
    )
    said = words(title, name=upper(named[region]))
    return Result(NAME, "fine", (region,), share, most, "%", said, text, rank=RIVALS)


def _candidates(derived: Derived, result: Result) -> list[Fix]:
    """The region brought toward its neighbours: in what carries it, in one thing more, or in all;
    where that is not enough, the focus made stronger too."""
    scene = scene_of(derived)
    if scene is None or not result.regions:
        return []
    label = next(r.label for r in derived.regions if r.id == result.regions[0])
    most = result.wanted / 100

    def good(after: Derived) -> bool:
        seen = after.attention
        own = 0.0 if seen is None else float(seen.total[list(seen.focus)].max())
        return seen is not None and float(seen.total[label]) <= most * own

    fixes: list[Fix] = []
    for channel in CHANNELS if scene.is_free(label) else ():

        def quiet(now: Scene, channel: str = channel) -> Floats | None:
            return quieten(
                now,
                now.local,
                label,
                channel,
                passes(now, label, MARGIN / most),
            )

        fixes += fix_until(derived, channel, quiet, good)
    if not fixes:
        wish = MARGIN / most
        fixes = fix_until(derived, "both", lambda now: give_way_and_gain(now, label, wish), good)
    return fixes


_SAYS = (
    "Nothing else should draw the eye nearly as much as the focus. The word after “by” is the "
    "channel that carries it: muted, it would take most of the pull away."
)
CHECK = CheckSpec(
    NAME,
    "focus",
    _measure,
    _candidates,
    _SAYS,
    "{count} regions compete with the focus",
    looks=True,
    always=True,
)
