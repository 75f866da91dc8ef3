"""Pictures of plans that are not on: after an edit that is only looked at, before the last change,
as the plan was opened."""

from umber_compass.plan.edits import Edit
from umber_compass.window.desk.desk import Desk
from umber_compass.window.widgets.bitmap import Bitmap
from umber_compass.words import Refusal


def preview(desk: Desk, edit: Edit) -> Bitmap | None:
    """The picture after an edit that is not made; None where it cannot be."""
    if desk.history is None:
        return None
    try:
        return desk.live.picture_of(edit.apply(desk.history.now))
    except Refusal:
        return None


def moment(desk: Desk, name: str) -> Bitmap | None:
    """The picture `before` the last change, or as the plan was `opened`."""
    past = desk.history.past if desk.history is not None else ()
    plan = desk.first if name == "opened" else past[-1].plan if past else None
    return None if plan is None else desk.live.picture_of(plan)
