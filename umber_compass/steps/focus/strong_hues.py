"""How much strong colour of each hue a picture holds."""

import numpy as np
import numpy.typing as npt

from umber_compass.colour.spaces import Floats

STRONG, DARK, LIGHT = 0.12, 10.0, 95.0  # OKLCh chroma; L* beyond which no colour is strong
# OKLCh degrees at the middle of each family of hues (sRGB's own primaries and mixes lie near them).
HUES: tuple[tuple[str, float], ...] = (
    ("pink", 350),
    ("red", 25),
    ("orange", 58),
    ("yellow", 100),
    ("green", 142),
    ("teal", 195),
    ("blue", 255),
    ("violet", 305),
)


def is_strong(values: Floats, lch: Floats) -> npt.NDArray[np.bool_]:
    """Which px, of value L* and OKLCh (n, 3), have a strong colour."""
    return np.asarray((lch[:, 1] >= STRONG) & (values >= DARK) & (values <= LIGHT))


def strong_by_hue(values: Floats, lch: Floats) -> dict[str, float]:
    """The share of all px that has strong colour of each family of hues, 0-1."""
    strong = is_strong(values, lch)
    middles = np.array([m for _, m in HUES])
    hue = lch[strong, 2]
    away = np.abs((hue[:, None] - middles + 180) % 360 - 180)
    held = np.bincount(away.argmin(axis=1), minlength=len(HUES)) if len(hue) else np.zeros(8)
    return {name: float(held[i] / max(len(values), 1)) for i, (name, _) in enumerate(HUES)}
