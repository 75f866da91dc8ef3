"""A plan with its pixels: opening, what is kept of it, handing off. Under the command line and the
window, which use it alike."""

from umber_compass.document.composing import compose
from umber_compass.document.handing_off import (
    full_picture,
    hand_off,
    handoff_paths,
    others_files,
)
from umber_compass.document.kept import Kept, built_buffers
from umber_compass.document.opening import (
    Opened,
    bring_in,
    from_file,
    open_plan,
    plain_name,
    save,
    take_in,
    thumbnail_of,
)
from umber_compass.document.pixels import Pixels
from umber_compass.document.ready import Ready, ready
from umber_compass.document.seeing import about

__all__ = [
    "Kept",
    "Opened",
    "Pixels",
    "Ready",
    "about",
    "bring_in",
    "built_buffers",
    "compose",
    "from_file",
    "full_picture",
    "hand_off",
    "handoff_paths",
    "open_plan",
    "others_files",
    "plain_name",
    "ready",
    "save",
    "take_in",
    "thumbnail_of",
]
