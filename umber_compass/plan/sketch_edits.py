"""Changes to a plan's title and regions."""

from msgspec.structs import replace

from umber_compass.plan.edits import Edit, with_region
from umber_compass.plan.terms import Form, Material, Role
from umber_compass.words import words

_LONGEST = 200
_MOST_FRONT = 65535


def _line(text: str) -> str:
    """A text on one line, no longer than a name may be."""
    return " ".join(text.split())[:_LONGEST]


def set_title(title: str) -> Edit:
    """The plan's title; an empty one is not taken."""
    kept = _line(title)
    return Edit(
        words("title the plan {title}", title=kept),
        lambda plan: replace(plan, title=kept) if kept else plan,
    )


def set_purpose(purpose: str) -> Edit:
    """What the piece is for."""
    kept = _line(purpose)
    return Edit(words("say what it is for"), lambda plan: replace(plan, purpose=kept))


def rename(region_id: str, name: str) -> Edit:
    """A region's name; an empty one is not taken."""
    kept = _line(name)
    return Edit(
        words("name a region {name}", name=kept),
        lambda plan: with_region(plan, region_id, name=kept, named=True) if kept else plan,
    )


def set_role(region_id: str, role: Role, name: str) -> Edit:
    """What part a region plays."""
    return Edit(
        words("make {name} {role}", name=name, role=role),
        lambda plan: with_region(plan, region_id, role=role),
    )


def set_material(region_id: str, material: Material, name: str) -> Edit:
    """What a region's surface is."""
    return Edit(
        words("make {name} {material}", name=name, material=material),
        lambda plan: with_region(plan, region_id, material=material),
    )


def set_form(region_id: str, form: Form, name: str) -> Edit:
    """The form a region is lit as; it is then a surface of its own."""
    return Edit(
        words("light {name} as {form}", name=name, form=form),
        lambda plan: with_region(plan, region_id, form=form, shares_form_with=None),
    )


def share_form(region_id: str, with_id: str | None, name: str, other: str) -> Edit:
    """A region made one surface with another, or on its own again."""
    text = "make {name} one surface with {other}" if with_id else "make {name} its own surface"
    return Edit(
        words(text, name=name, other=other),
        lambda plan: with_region(plan, region_id, shares_form_with=with_id),
    )


def set_front(region_id: str, front: int | None, name: str) -> Edit:
    """A region's place from back (0) to front, or None for the order of roles and areas."""
    kept = None if front is None else min(max(front, 0), _MOST_FRONT)
    return Edit(
        words("move {name} forward or back", name=name),
        lambda plan: with_region(plan, region_id, front=kept),
        f"front {region_id}",
    )
