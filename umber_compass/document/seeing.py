"""What views are told of a plan's picture, at whatever size it is shown."""

import numpy as np
import numpy.typing as npt
from PIL import Image

from umber_compass.colour.measured import levels_of
from umber_compass.colour.packed import Packed
from umber_compass.document.own_press import own_press
from umber_compass.plan.uses import blur_share, seen_as, seen_share
from umber_compass.steps.pipeline import Derived
from umber_compass.views import About


def about(
    derived: Derived, shape: tuple[int, ...], labels: npt.NDArray[np.uint16] | None = None
) -> About:
    """What views are told of a picture of this height and width; what draws the eye only where it
    is known. `labels` are the regions' px, (h, w), where they are not those of the drawing."""
    whole = derived.drawing.labels if labels is None else labels
    height, width = shape[:2]
    rows = ((np.arange(height) + 0.5) * whole.shape[0] / height).astype(np.intp)
    columns = ((np.arange(width) + 0.5) * whole.shape[1] / width).astype(np.intp)
    small = whole if whole.shape == (height, width) else whole[rows[:, None], columns]
    seen = derived.attention
    pull = None
    if seen is not None:
        pull = np.zeros(max(int(whole.max(initial=0)) + 1, len(seen.total)))
        pull[: len(seen.total)] = seen.total
    rules = derived.rules
    width_cm, distance_cm = seen_as(derived.plan.brief)
    return About(
        small,
        derived.wishes.bands.edges,
        rules["extremes.dark"],
        rules["extremes.light"],
        pull,
        _steps(derived),
        seen_share(width_cm, distance_cm),
        blur_share(width_cm, distance_cm),
        own_press(),
    )


def _steps(derived: Derived) -> dict[int, npt.NDArray[np.uint8]] | None:
    """The steps of every region's ramp, by label, both ends of a gradient; None until they are
    known."""
    ramps = derived.ramps
    if ramps is None:
        return None
    return {
        r.label: np.array([levels_of(s.hex) for ramp in ramps[r.id] for s in ramp.steps], np.uint8)
        for r in derived.regions
        if r.id in ramps
    }


SMALL_PX = 360


def small_of(packed: Packed, longer_px: int = SMALL_PX) -> Packed:
    """A picture, (h, w) 0x00RRGGBB, no larger than it is shown: each px the mean of those it
    covers."""
    if max(packed.shape) <= longer_px:
        return packed
    height, width = packed.shape
    # As it lies in memory, blue first: a large picture is not copied to be turned round.
    own = np.ascontiguousarray(packed)
    image = Image.frombuffer("RGBX", (width, height), own, "raw", "RGBX", 0, 1)
    image.thumbnail((longer_px, longer_px), Image.Resampling.BOX)
    found = np.frombuffer(image.tobytes(), "<u4").reshape(image.height, image.width)
    return found & np.uint32(0xFFFFFF)
