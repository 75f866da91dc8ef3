"""What should be met first draws the eye clearly more than anything else."""

from umber_compass.colour.spaces import Floats
from umber_compass.steps.checks.check import (
    FOCUS,
    WHOLE_PICTURE,
    CheckSpec,
    Fix,
    Result,
    level_under,
    listed,
    upper,
)
from umber_compass.steps.checks.focus.giving_way import fix_until
from umber_compass.steps.focus.attention import Attention
from umber_compass.steps.mending.focus import GAINS, MARGIN, lead_by, strengthen
from umber_compass.steps.mending.room import is_movable
from umber_compass.steps.mending.scene import Scene
from umber_compass.steps.pipeline import Derived
from umber_compass.words import words

NAME = "focus-leads"


def _measure(derived: Derived) -> list[Result]:
    seen, held = derived.attention, derived.wishes.of["lead"]
    if seen is None or not derived.wishes.on("lead"):
        return []
    if not seen.focus:
        return [_without(derived, seen)]
    if seen.rival is None:
        text = words("it is all there is, so nothing can be met after it")
        title = words("The focus is the whole picture")
        return [Result(NAME, "note", (), 0.0, held.number, "times", title, text, whole=True)]
    level = level_under(seen.lead, held.number, held.warning)
    return [_result(derived, seen)._replace(level=level)]


def _without(derived: Derived, seen: Attention) -> Result:
    """What is said where no focus is set: whether anything leads by itself."""
    first = _named(derived, seen.places.order[:1])
    text = words(
        "{first} is met first; choose what should be and press E", first=first or "nothing"
    )
    title, rank = words("No focus is set"), FOCUS
    if not seen.places.is_met:
        title, rank = words("Nothing leads"), WHOLE_PICTURE
        text = words("choose what should, and press E on the stage")
    wish = derived.wishes.number("lead")
    return Result(NAME, "note", (), 0.0, wish, "times", title, text, whole=True, rank=rank)


def _named(derived: Derived, labels: tuple[int, ...]) -> str:
    by_label = {r.label: r.name for r in derived.regions}
    return listed([by_label[i] for i in labels if i in by_label])


def _result(derived: Derived, seen: Attention) -> Result:
    focus = _named(derived, seen.focus)
    rival = _named(derived, (seen.rival,) if seen.rival else ())
    called = upper(focus) if len(seen.focus) == 1 else "The focus"
    title = words("{focus} leads" if seen.lead >= 1 else "{focus} does not lead", focus=called)
    text = words(
        "{focus} stand out {lead:.2f} times as much as {rival}, wanted {wanted:g} or more"
        if len(seen.focus) > 1
        else "stands out {lead:.2f} times as much as {rival}, wanted {wanted:g} or more",
        focus=focus,
        lead=seen.lead,
        rival=rival,
        wanted=derived.wishes.number("lead"),
    )
    held = _held(derived, seen)
    if held:
        text = words("{text}; {held} cannot give way", text=str(text), held=held)
    if 1 <= seen.lead < derived.wishes.of["lead"].warning:
        title = words("{focus} hardly leads", focus=called)
    ids = {r.label: r.id for r in derived.regions}
    own = tuple(ids[i] for i in seen.focus if i in ids)
    wish = derived.wishes.number("lead")
    return Result(NAME, "fine", own, seen.lead, wish, "times", title, text, whole=True, rank=FOCUS)


def _held(derived: Derived, seen: Attention) -> str:
    """Which regions draw more than they should and are given or locked."""
    own = float(seen.total[list(seen.focus)].max())
    most = own / derived.wishes.number("lead")
    over = [
        r.name
        for r in derived.regions
        if r.label < len(seen.total)
        and r.label not in seen.focus
        and seen.total[r.label] > most
        and not is_movable(derived, r.id)
    ]
    return listed(over)


def _candidates(derived: Derived, result: Result) -> list[Fix]:
    """The others give way until the focus leads; or the focus alone is made stronger."""
    wish = result.wanted
    if derived.attention is None or not derived.attention.focus:
        return []

    def good(after: Derived) -> bool:
        return after.attention is not None and after.attention.lead >= wish

    fixes = fix_until(derived, "others", lambda scene: lead_by(scene, wish * MARGIN), good)
    for way in GAINS:

        def gained(scene: Scene, way: str = way) -> Floats | None:
            def passes(pull: Floats) -> bool:
                others = pull.copy()
                others[[0, *scene.focus]] = 0
                return bool(pull[list(scene.focus)].max() >= wish * MARGIN * others.max())

            return strengthen(scene, scene.local, way, passes)

        fixes += fix_until(derived, f"focus-{way.replace(' ', '-')}", gained, good)
    return fixes


_SAYS = (
    "The pull of a region is how much its value, hue, chroma and detail differ from what lies "
    "round it and from the whole. It is predicted, not measured on eyes: your word stands."
)
CHECK = CheckSpec(NAME, "focus", _measure, _candidates, _SAYS, looks=True, always=True)
