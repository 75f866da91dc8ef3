"""Changes to what should be met first, and to how things fall off from it."""

from msgspec.structs import replace

from umber_compass.plan.edits import Edit, study, with_study
from umber_compass.plan.model import Plan
from umber_compass.plan.wishes import Falloff, FalloffOf, Focus, Point
from umber_compass.words import Words, words

RADIUS = 0.08  # of the picture's width, of a point that is set without one
_LEAST_RADIUS = 0.005


def set_focus(regions: tuple[str, ...], name: Words) -> Edit:
    """Regions that should be met first."""
    kept = tuple(dict.fromkeys(regions))
    return Edit(name, lambda plan: _with_focus(plan, Focus(regions=kept)))


def set_point(x: float, y: float, radius: float = RADIUS) -> Edit:
    """A place that should be met first: shares of the picture's width and height, and a radius as a
    share of its width."""
    kept = Point(
        x=min(max(x, 0.0), 1.0),
        y=min(max(y, 0.0), 1.0),
        radius=min(max(radius, _LEAST_RADIUS), 1.0),
    )
    text = words("set the focus at a point")
    return Edit(text, lambda plan: _with_focus(plan, Focus(point=kept)), "focus point")


def follow_roles() -> Edit:
    """What should be met first follows the roles again."""
    return Edit(words("let the focus follow the roles"), lambda plan: _with_focus(plan, None))


def _with_focus(plan: Plan, focus: Focus | None) -> Plan:
    return with_study(plan, replace(study(plan), focus=focus))


def set_falloff(of: FalloffOf, falloff: Falloff, merge: str | None = None) -> Edit:
    """How something should fall off from the focus; lower edges never above upper ones."""
    near, far = (
        tuple(sorted(min(max(v, 0.0), 180.0) for v in s)) for s in (falloff.near, falloff.far)
    )
    kept = Falloff(near=(near[0], near[1]), far=(far[0], far[1]))

    def change(plan: Plan) -> Plan:
        now = study(plan)
        return with_study(plan, replace(now, falloff={**now.falloff, of: kept}))

    return Edit(words("shape the fall-off of {of}", of=of), change, merge)
