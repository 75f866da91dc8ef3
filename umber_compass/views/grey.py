"""Value alone: CIE L* of every pixel, shown as the grey of that value."""

import numpy as np

from umber_compass.colour.spaces import LUMINANCE, decode, encode
from umber_compass.views.spec import Picture, ViewSpec

_LIGHT = decode(np.arange(256) / 255).astype(np.float32)
_GREY = np.asarray(encode(np.linspace(0, 1, 4097)) * 255 + 0.5).astype(np.uint8)


def _see(picture: Picture) -> Picture:
    lum = sum(_LIGHT[picture[..., i]] * np.float32(LUMINANCE[i]) for i in range(3))
    level = _GREY[np.asarray(lum * 4096 + 0.5).astype(np.intp)]
    return np.repeat(level[..., None], 3, axis=2)


VIEW = ViewSpec("grey", "Grey", "value alone (L*)", _see)
