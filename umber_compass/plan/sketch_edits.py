"""Changes to a plan's title and regions."""

from umber_compass.plan.edits import Edit, with_region
from umber_compass.words import words


def share_form(region_id: str, with_id: str | None, name: str, other: str) -> Edit:
    """A region made one surface with another, or on its own again."""
    text = "make {name} one surface with {other}" if with_id else "make {name} its own surface"
    return Edit(
        words(text, name=name, other=other),
        lambda plan: with_region(plan, region_id, shares_form_with=with_id),
    )
