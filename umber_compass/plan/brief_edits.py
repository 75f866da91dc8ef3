"""Changes to the brief, and to the pictures kept beside a plan."""

from msgspec.structs import replace

from umber_compass.plan.edits import Edit
from umber_compass.plan.model import Plan, Reference
from umber_compass.plan.terms import Id
from umber_compass.words import Refusal, plain, words

MOST_REFERENCES = 24


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
