"""How far apart two colours look."""

import numpy as np

from umber_compass.colour.spaces import Floats

_SEVEN = 25.0**7


def ciede2000(lab1: Floats, lab2: Floats) -> Floats:
    """CIEDE2000 of CIELAB colours (..., 3), shape (...); 1 is about just noticeable.

    Source: CIE 142-2001; the hue cases as Sharma, Wu & Dalal 2005 write them out."""
    l1, a1, b1 = (np.asarray(lab1, float)[..., i] for i in range(3))
    l2, a2, b2 = (np.asarray(lab2, float)[..., i] for i in range(3))
    mean_c7 = ((np.hypot(a1, b1) + np.hypot(a2, b2)) / 2) ** 7
    g = 1.5 - 0.5 * np.sqrt(mean_c7 / (mean_c7 + _SEVEN))
    c1, c2 = np.hypot(a1 * g, b1), np.hypot(a2 * g, b2)
    h1 = np.degrees(np.arctan2(b1, a1 * g)) % 360
    h2 = np.degrees(np.arctan2(b2, a2 * g)) % 360
    hueless = c1 * c2 == 0
    turn = np.where(hueless, 0, h2 - h1)
    turn = np.where(turn > 180, turn - 360, np.where(turn < -180, turn + 360, turn))
    d_hue = 2 * np.sqrt(c1 * c2) * np.sin(np.radians(turn) / 2)
    mean_l, mean_c = (l1 + l2) / 2, (c1 + c2) / 2
    mean_h = np.where(hueless, h1 + h2, _mean_hue(h1, h2))
    return _weighted(l2 - l1, c2 - c1, d_hue, (mean_l, mean_c, mean_h))


def _mean_hue(h1: Floats, h2: Floats) -> Floats:
    total = h1 + h2
    wrapped = np.where(total < 360, (total + 360) / 2, (total - 360) / 2)
    return np.where(np.abs(h1 - h2) <= 180, total / 2, wrapped)


def _weighted(d_l: Floats, d_c: Floats, d_h: Floats, mean: tuple[Floats, Floats, Floats]) -> Floats:
    """The three differences weighted by where they stand in the solid."""
    ml, mc, mh = mean
    t = (
        1
        - 0.17 * np.cos(np.radians(mh - 30))
        + 0.24 * np.cos(np.radians(2 * mh))
        + 0.32 * np.cos(np.radians(3 * mh + 6))
        - 0.20 * np.cos(np.radians(4 * mh - 63))
    )
    s_l = 1 + 0.015 * (ml - 50) ** 2 / np.sqrt(20 + (ml - 50) ** 2)
    s_c, s_h = 1 + 0.045 * mc, 1 + 0.015 * mc * t
    turn = 60 * np.exp(-(((mh - 275) / 25) ** 2))
    r_t = -2 * np.sqrt(mc**7 / (mc**7 + _SEVEN)) * np.sin(np.radians(turn))
    lv, ch, hu = d_l / s_l, d_c / s_c, d_h / s_h
    return np.asarray(np.sqrt(np.maximum(lv**2 + ch**2 + hu**2 + r_t * ch * hu, 0)))
