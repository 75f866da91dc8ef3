"""Changes to which colour version a plan shows."""

from msgspec.structs import replace

from umber_compass.plan.edits import Edit
from umber_compass.plan.model import Plan
from umber_compass.words import Refusal, words


def choose_study(plan: Plan, study_id: str) -> Edit:
    """Another study shown. Raises Refusal where the plan has none of that id."""
    known = {s.id: s.title for s in plan.studies}
    if study_id not in known:
        raise Refusal(study_id[:60], words("is no study; take {known}", known=", ".join(known)))
    text = words("show the study {title}", title=known[study_id])
    return Edit(text, lambda now: replace(now, current_study=study_id))
