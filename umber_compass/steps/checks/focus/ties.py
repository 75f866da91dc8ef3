"""Two places that draw the eye alike: neither is met first."""

from umber_compass.colour.spaces import Floats
from umber_compass.steps.checks.check import FOCUS, CheckSpec, Fix, Result, upper
from umber_compass.steps.checks.focus.giving_way import fix_until
from umber_compass.steps.mending.focus import MARGIN, quieten
from umber_compass.steps.mending.scene import Scene, scene_of
from umber_compass.steps.pipeline import Derived
from umber_compass.words import words

NAME = "ties"


def _measure(derived: Derived) -> list[Result]:
    seen = derived.attention
    if seen is None:
        return []
    by_label, wanted = {r.label: r for r in derived.regions}, derived.rules["ties.share"]
    order = [i for i in seen.places.order if i in by_label]
    if len(order) < 2:
        return []
    first, second = order[:2]
    share = 100 * seen.places.second
    # Where a focus is wished, what competes with it is said by that check.
    tied = seen.places.tie(wanted)
    level = "fine" if not tied else "note" if seen.focus else "warning"
    title = words("One place is met first")
    if tied:
        title = words(
            "{one} and {other} tie", one=upper(by_label[first].name), other=by_label[second].name
        )
    text = words(
        "the second draws {share:.0f} % of the first, wanted under {wanted:g} %",
        share=share,
        wanted=wanted,
    )
    pair = (by_label[first].id, by_label[second].id) if tied else ()
    return [Result(NAME, level, pair, share, wanted, "%", title, text, whole=True, rank=FOCUS)]  # type: ignore[arg-type]  # a level


def _candidates(derived: Derived, result: Result) -> list[Fix]:
    """One of the two gives way: never the focus, where it is one of them."""
    scene = scene_of(derived)
    if scene is None or len(result.regions) < 2:
        return []
    labels = {r.id: r.label for r in derived.regions}
    first, second = (labels[r] for r in result.regions)
    most = result.wanted / 100
    fixes: list[Fix] = []
    for weak, strong in ((second, first), (first, second)):
        if weak in scene.focus or not scene.is_free(weak):
            continue

        def quiet(now: Scene, weak: int = weak, strong: int = strong) -> Floats | None:
            return quieten(
                now,
                now.local,
                weak,
                "all",
                lambda pull: bool(pull[weak] <= most / MARGIN * pull[strong]),
            )

        fixes += fix_until(derived, f"sink-{weak}", quiet, _is_untied)
    return fixes


def _is_untied(after: Derived) -> bool:
    seen = after.attention
    return seen is not None and not seen.places.tie(after.rules["ties.share"])


_SAYS = (
    "Two places that pull alike send the eye to and fro. Places near each other, or that touch and "
    "look alike, count as one."
)
CHECK = CheckSpec(NAME, "focus", _measure, _candidates, _SAYS, looks=True)
