"""A plan begun without a sketch, from one of our compositions."""

import numpy as np
from msgspec.structs import replace

from umber_compass.colour.packed import pack
from umber_compass.document.opening import Opened
from umber_compass.document.pixels import Pixels, at_working_size
from umber_compass.formats import picture
from umber_compass.plan.model import Sketch
from umber_compass.steps.sketch.compositions import COMPOSITIONS, drawn
from umber_compass.steps.sketch.compositions.composition import levels_of
from umber_compass.steps.sketch.kinds import NONE, Split
from umber_compass.steps.sketch.start import start_plan
from umber_compass.words import Refusal, words


def compose(name: str) -> Opened:
    """A new plan from a composition. Raises Refusal for a name that is none."""
    composition = COMPOSITIONS.get(name)
    if composition is None:
        known = ", ".join(COMPOSITIONS)
        raise Refusal(name[:60], words("is no composition; choose from {known}", known=known))
    made = drawn(composition)
    pixels, data = Pixels(), picture.png_bytes(made.rgb)
    colours = np.stack([levels_of(r.colour) for r in made.regions])
    split = Split(
        made.labels,
        colours,
        names=tuple(r.name for r in made.regions),
        roles=tuple(r.role for r in made.regions),
    )
    height, width = made.labels.shape
    sketch = Sketch(
        file_name=f"{name}.png",
        hash=pixels.add_sketch(data),
        labels=pixels.add_labels(made.labels),
        size=(width, height),
        kind=NONE,
    )
    plan = start_plan(split, sketch)
    pixels.drawings[sketch.labels] = at_working_size(pack(made.rgb), made.labels)
    says = str(words("{count} regions, a composition of ours", count=len(colours)))
    return Opened(replace(plan, title=composition.title), pixels, says=says)
