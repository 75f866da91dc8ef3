"""How layers of an OpenRaster file are laid on each other where they do not only lie over what is
below: the blends of W3C Compositing and Blending Level 1, and clipping to what is below."""

import numpy as np
from PIL import Image

from umber_compass.colour.blending import MODES
from umber_compass.colour.spaces import Floats, to_bytes

_BLENDS = {f"svg:{name}": name for name in MODES if name != "normal"}
CLIPPED = "svg:src-atop"
_ADDS, _ERASES, CUT = "svg:plus", "svg:dst-out", "svg:dst-in"
MIXED = frozenset((*_BLENDS, _ADDS, CLIPPED, _ERASES, CUT))
KEPT_WITHIN = frozenset((CUT,))  # what leaves nothing of what lies outside the layer
DARKENING = frozenset(("svg:multiply", "svg:darken", "svg:color-burn"))


def mixed(under: Image.Image, over: Image.Image, mode: str) -> Image.Image:
    """Two RGBA pictures of one size, the second laid on the first in one of `MIXED`."""
    below, above = (np.asarray(image, np.float32) / 255 for image in (under, over))
    cb, ab, cs, a = below[..., :3], below[..., 3:], above[..., :3], above[..., 3:]
    if mode == _ERASES:
        return _picture(cb, ab * (1 - a))
    if mode == CUT:
        return _picture(cb, ab * a)
    if mode == _ADDS:
        whole = np.minimum(a + ab, 1)
        return _picture(np.minimum(a * cs + ab * cb, 1) / np.maximum(whole, 1e-6), whole)
    if mode == CLIPPED:
        a, blended = a * ab, cs
    else:
        blended = (1 - ab) * cs + ab * MODES[_BLENDS[mode]](cb.astype(float), cs.astype(float))
    whole = a + ab * (1 - a)
    return _picture((a * blended + (1 - a) * ab * cb) / np.maximum(whole, 1e-6), whole)


def _picture(colour: Floats, alpha: Floats) -> Image.Image:
    return Image.fromarray(to_bytes(np.concatenate([colour, alpha], axis=-1)))
