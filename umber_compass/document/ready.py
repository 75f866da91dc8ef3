"""What a document's first picture needs, worked out before it is laid on the desk: it takes a
twentieth of a second for a small picture and much longer for a large one, in which the window
would answer nobody."""

from typing import NamedTuple

from umber_compass.document.kept import Kept
from umber_compass.document.opening import Opened
from umber_compass.steps.pictures import picture
from umber_compass.steps.pipeline import Derived, Pipeline


class Ready(NamedTuple):
    """A document, and a pipeline that remembers what its first picture is made from."""

    opened: Opened
    pipeline: Pipeline


def ready(opened: Opened, kept: Kept | None = None) -> Ready:
    """A document as the window takes it; forms only where they were kept from an earlier
    opening."""
    pipeline = Pipeline(opened.pixels.drawings, works=False)
    derived = pipeline.derive(opened.plan)
    if kept is not None and derived.rig.on:
        buffers = kept.buffers(derived)
        if buffers is not None:
            derived.take(Derived.built, buffers)
    picture(derived)  # what it works out by the way is remembered
    return Ready(opened, pipeline)
