"""How much of round forms lies between light and shade, and how wide highlights lie on things."""

import numpy as np

from umber_compass.picture.buffers import SurfaceBuffers
from umber_compass.picture.light import Lights, key_share, of_key
from umber_compass.picture.relit import Arriving, Told

# Of the key's light: with less than the first a place is in shade, with more than the second in
# the light. Nine tenths of what the light family of a painter takes at least.
_SHADE, _LIGHT = 0.06, 0.54
_RIM, _HIGHLIT = 0.25, 0.5  # of a highlight: where a place begins to lie in it, and how fast


def between_share(
    buffers: SurfaceBuffers | None, light: Arriving | None, lights: Lights, told: Told | None
) -> float | None:
    """Of the px on round forms, the share 0-1 that lies between light and shade by form alone;
    None where nothing is round or the key does not shine."""
    if buffers is None or light is None or told is None or not lights.key.light.any():
        return None
    surface, pixels = buffers.surface, buffers.adjacency.pixels
    taken = of_key(surface, light.cosine, lights)
    taken *= key_share(light.cosine, lights, surface.turned, told.edge)
    own = np.where(surface.turned, pixels, 0)
    if not own.any():
        return None
    between = (taken > _SHADE) & (taken < _LIGHT)
    return float(own[between].sum() / own.sum())


def highlight_shares(buffers: SurfaceBuffers | None, light: Arriving | None) -> dict[int, float]:
    """By label, the share 0-1 of its px that lies in a highlight; of what has one alone."""
    if buffers is None or light is None or light.gloss is None:
        return {}
    label, pixels = buffers.adjacency.label, buffers.adjacency.pixels
    most = int(label.max(initial=0)) + 1
    at = light.gloss.at
    seen = np.clip((light.gloss.shape - _RIM) / _HIGHLIT, 0, 1)  # codes are as wide as its rim
    wide = np.bincount(label[at], pixels[at] * seen, most)
    whole = np.bincount(label, pixels, most)
    return {int(n): float(wide[n] / whole[n]) for n in np.flatnonzero(wide)}
