"""The three wheels: an angle on each is a hue, and every hue has its angle.

Hues are OKLCh degrees, 0-360; angles are degrees on the wheel. The light wheel turns by the hue of
the hexcone model, read off its full colours: a muted colour stands where the full one of its OKLCh
hue does (docs/harmony.md).
"""

import numpy as np

from umber_compass.colour.spaces import Floats, decode, hsb_to_encoded, oklab, polar

# OKLCh hue at every 30 degrees of the painter's wheel: the median of the red-yellow-blue cube of
# Gossett & Chen 2004, Itten's circle, the CSS names, the Munsell renotation and a 24-patch chart.
PAINTER_ANCHORS = np.array([28, 37, 56, 84, 105, 126, 146, 189, 256, 290, 318, 352], float)
_GRID = np.linspace(0, 360, 1441)


def _monotone_cubic() -> Floats:
    """The anchors joined by a monotone cubic on the unwrapped circle, at every quarter degree.

    Source: Fritsch & Carlson 1980 with the harmonic mean of Fritsch & Butland 1984 as slope;
    written out here because scipy.interpolate costs most of a second to import."""
    closed = np.append(PAINTER_ANCHORS, PAINTER_ANCHORS[0] + 360)
    step = np.diff(closed)
    slope = 2 * step * np.roll(step, 1) / (step + np.roll(step, 1))
    slope = np.append(slope, slope[0])
    k = np.minimum((_GRID // 30).astype(int), 11)
    t = _GRID / 30 - k
    rise = (3 - 2 * t) * t**2
    return np.asarray(
        closed[k] * (1 - rise)
        + closed[k + 1] * rise
        + slope[k] * t * (1 - t) ** 2
        - slope[k + 1] * t**2 * (1 - t)
    )


def _light_hues() -> Floats:
    full = np.stack([_GRID, np.full_like(_GRID, 100), np.full_like(_GRID, 100)], axis=-1)
    hue = polar(oklab(decode(hsb_to_encoded(full))))[:, 2]
    # OKLCh stands still, and turns back by 0.3 degrees, before full blue; an angle needs one hue,
    # so it rises evenly by a thousandth there, which is off by 0.16 degrees at most.
    rising = np.maximum.accumulate(np.unwrap(hue, period=360))
    return np.asarray(rising * 0.999 + (rising[0] + _GRID) * 0.001)


_HUES = {"painter": _monotone_cubic(), "light": _light_hues(), "perceptual": _GRID}
WHEELS = tuple(_HUES)


def hue_at(wheel: str, angle: Floats | float) -> Floats:
    """OKLCh hue, degrees 0-360, at an angle of the wheel."""
    return np.asarray(np.interp(np.asarray(angle) % 360, _GRID, _HUES[wheel]) % 360)


def angle_of(wheel: str, hue_deg: Floats | float) -> Floats:
    """Angle on the wheel, degrees 0-360, where an OKLCh hue stands."""
    hues = _HUES[wheel]
    return np.asarray(np.interp((hue_deg - hues[0]) % 360 + hues[0], hues, _GRID) % 360)
