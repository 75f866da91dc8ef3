"""Colour vision in which one kind of cone is missing."""

import numpy as np

from umber_compass.colour.spaces import Floats

# Linear sRGB to linear sRGB where one kind of cone is missing (Machado, Oliveira & Fernandes 2009,
# severity 1).
KINDS = {
    "deutan": (
        (0.367322, 0.860646, -0.227968),
        (0.280085, 0.672501, 0.047413),
        (-0.011820, 0.042940, 0.968881),
    ),
    "protan": (
        (0.152286, 1.052583, -0.204868),
        (0.114503, 0.786281, 0.099216),
        (-0.003882, -0.048116, 1.051998),
    ),
    "tritan": (
        (1.255528, -0.076749, -0.178779),
        (-0.078411, 0.930809, 0.147602),
        (0.004733, 0.691367, 0.303900),
    ),
}


def as_seen(linear: Floats, kind: str) -> Floats:
    """Linear light, (..., 3), as eyes of a kind see it."""
    return np.asarray(np.clip(linear @ np.array(KINDS[kind]).T, 0, 1))
