"""Changes to the brief, and to the pictures kept beside a plan."""

from msgspec.structs import replace

from umber_compass.plan.edits import Edit
from umber_compass.plan.model import Plan, Reference
from umber_compass.plan.terms import Id, Use
from umber_compass.plan.uses import USES
from umber_compass.words import Refusal, plain, words

MOST_REFERENCES = 24


def set_use(use: Use) -> Edit:
    """What the piece is for; size and distance follow it again."""
    title = USES[use].title if use else "nothing in particular"

    def change(plan: Plan) -> Plan:
        brief = replace(plan.brief, use=use, width_cm=None, distance_cm=None)
        return replace(plan, brief=brief)

    return Edit(words("plan it for {use}", use=title.lower()), change)


def set_width(cm: float | None) -> Edit:
    """How wide the piece will be, cm; None: as its use has it."""
    kept = None if cm is None else min(max(cm, 0.5), 2000.0)
    return Edit(
        words("set the width of the piece"),
        lambda plan: replace(plan, brief=replace(plan.brief, width_cm=kept)),
        "brief width",
    )


def set_distance(cm: float | None) -> Edit:
    """From how far it will be seen, cm; None: as its use has it."""
    kept = None if cm is None else min(max(cm, 5.0), 10000.0)
    return Edit(
        words("set how far off it is seen"),
        lambda plan: replace(plan, brief=replace(plan.brief, distance_cm=kept)),
        "brief distance",
    )


def set_notes(notes: str) -> Edit:
    """What else was agreed."""
    kept = notes[:4000]
    return Edit(
        words("note in the brief"),
        lambda plan: replace(plan, brief=replace(plan.brief, notes=kept)),
        "brief notes",
    )


def add_reference(title: str, key: str) -> Edit:
    """A picture kept beside the plan, by the hash of its bytes. Raises Refusal where there are too
    many; one that is there already is not taken twice."""
    kept = " ".join(plain(title).split())[:200] or "picture"

    def change(plan: Plan) -> Plan:
        if any(r.hash == key for r in plan.references):
            return plan
        if len(plan.references) >= MOST_REFERENCES:
            line = words("are as many as a plan keeps; remove one first")
            raise Refusal(f"{len(plan.references)} references", line)
        taken = {r.id for r in plan.references}
        number = next(n for n in range(1, 1000) if f"p{n}" not in taken)
        made = Reference(id=f"p{number}", title=kept, hash=key)
        return replace(plan, references=(*plan.references, made))

    return Edit(words("keep the picture {title}", title=kept), change)


def remove_reference(reference_id: Id, title: str) -> Edit:
    """A picture taken away from beside the plan."""
    return Edit(
        words("take the picture {title} away", title=title),
        lambda plan: replace(
            plan, references=tuple(r for r in plan.references if r.id != reference_id)
        ),
    )
