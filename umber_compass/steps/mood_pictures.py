"""The picture in each mood, small."""

from umber_compass.colour.packed import Packed
from umber_compass.picture.seen import whole
from umber_compass.plan.edits import Edit
from umber_compass.plan.moods import MOODS
from umber_compass.steps.harmony.moody import moody
from umber_compass.steps.pictures import seen_on, seen_picture
from umber_compass.steps.pipeline import Derived
from umber_compass.words import words
from umber_compass.work import Tick, idle

SHOWN = tuple(name for name, mood in MOODS.items() if mood.wishes)


def take_mood(derived: Derived, name: str) -> Edit:
    """The palette brought into a mood, and held to it from now on."""
    shares = dict(derived.shares)
    text = words("bring it into the mood {title}", title=MOODS[name].title.lower())
    return Edit(text, lambda plan: moody(plan, name, shares))


def mood_pictures(derived: Derived, columns: int, tick: Tick = idle) -> dict[str, Packed]:
    """The picture, so many px across, as each mood would have it, by name."""
    seen = seen_on(derived, whole(derived.drawing.labels.shape, columns))
    found = {}
    for i, name in enumerate(SHOWN):
        tick(i / len(SHOWN))
        then = derived.of(take_mood(derived, name).apply(derived.plan))
        found[name] = seen_picture(then, seen)
    return found
