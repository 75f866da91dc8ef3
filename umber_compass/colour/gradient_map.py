"""A gradient laid over values: each value takes the hue and the chroma that the gradient has there,
and keeps itself."""

import numpy as np

from umber_compass.colour.gamut import fit
from umber_compass.colour.spaces import Floats, decode, encode, oklab, value

_APART = 0.5  # L*, nearer than which two stops are one


def mapped(values: Floats, stops: Floats) -> Floats:
    """Encoded colours, (n, 3), at values L*, (n,), of a gradient through stops, encoded (k, 3), in
    any order; one stop gives its hue to all. Beyond its ends the first and last hue go on."""
    known, a, b = _sorted(stops)
    # Chroma goes down to nothing with the light at black and at white, as a screen has it.
    at_a, at_b = (np.interp(values, known, part) for part in (a, b))
    fade = np.ones_like(values)
    below, above = values < known[0], values > known[-1]
    fade[below] = values[below] / max(float(known[0]), 1e-6)
    fade[above] = (100 - values[above]) / max(100 - float(known[-1]), 1e-6)
    chroma = np.hypot(at_a, at_b) * np.clip(fade, 0, 1)
    hue = np.degrees(np.arctan2(at_b, at_a)) % 360
    return np.asarray(np.clip(encode(fit(values, chroma, hue)), 0, 1))


def _sorted(stops: Floats) -> tuple[Floats, Floats, Floats]:
    """The stops' values L*, rising, and their OKLab a and b; those of nearly one value are one."""
    light = decode(np.asarray(stops, float).reshape(-1, 3))
    own, lab = value(light), oklab(light)
    order = np.argsort(own, kind="stable")
    kept: list[int] = []
    for i in order.tolist():
        if not kept or own[i] - own[kept[-1]] >= _APART:
            kept.append(i)
    return own[kept], lab[kept, 1], lab[kept, 2]
