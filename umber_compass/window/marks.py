"""Where names stand on the picture: well inside their region."""

import numpy as np

from umber_compass.steps.borders import Labels


def anchors(labels: Labels) -> dict[int, tuple[float, float]]:
    """For each label, the place in px that is furthest from its border (found at quarter size)."""
    from scipy.ndimage import distance_transform_edt, find_objects  # on the worker only

    small = labels[::4, ::4]
    found: dict[int, tuple[float, float]] = {}
    for i, box in enumerate(find_objects(small.astype("int32"))):
        if box is None:
            continue
        inside = np.pad(small[box] == i + 1, 1)
        far = distance_transform_edt(inside)
        y, x = np.unravel_index(int(far.argmax()), far.shape)
        found[i + 1] = ((box[1].start + x - 1) * 4.0 + 2, (box[0].start + y - 1) * 4.0 + 2)
    return found
