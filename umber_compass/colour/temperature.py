"""Colour temperature: the colour of a body that glows at so many kelvin, and the nearest one."""

from functools import lru_cache

import numpy as np
import numpy.typing as npt

from umber_compass.colour.spaces import (
    LINEAR_TO_XYZ,
    XYZ_TO_LINEAR,
    Floats,
    decode,
    encode,
    parse_hex,
    to_hex,
)

LEAST, MOST = 1500.0, 15000.0  # K
_FAR = 0.02  # in CIE 1960 u, v: beyond it a colour has no temperature to speak of


def locus(kelvin: Floats) -> Floats:
    """CIE 1960 u and v, (2, n), of a black body at temperatures of 1000 to 15,000 K, (n,), within
    9e-5 (Krystek 1985)."""
    t = np.asarray(kelvin, float)
    u = (0.860117757 + 1.54118254e-4 * t + 1.28641212e-7 * t**2) / (
        1 + 8.42420235e-4 * t + 7.08145163e-7 * t**2
    )
    v = (0.317398726 + 4.22806245e-5 * t + 4.20481691e-8 * t**2) / (
        1 - 2.89741816e-5 * t + 1.61456053e-7 * t**2
    )
    return np.stack([u, v])


def hex_of_kelvin(kelvin: float) -> str:
    """The colour of a lamp at a temperature, brought within `LEAST` and `MOST`, as bright as the
    screen has it."""
    return to_hex(encode(_lamp(np.array([min(max(kelvin, LEAST), MOST)]))[0]))


def kelvin_of(hex_: str) -> float | None:
    """The temperature, K, whose colour on the screen is nearest to a lamp's, the roundest where
    several have the same hex; None for black, and for a colour that no glowing body has, as a
    green or a violet."""
    linear = decode(parse_hex(hex_))
    if linear.max() <= 0:
        return None
    at, known = _table()
    far = np.hypot(*(known - _uv(linear[None])))
    nearest = int(far.argmin())
    if far[nearest] > _FAR:
        return None
    found = float(at[nearest])
    round_ = (step * round(found / step) for step in (1000, 500, 100, 50, 10))
    return next((kelvin for kelvin in round_ if hex_of_kelvin(kelvin) == hex_.lower()), found)


def _lamp(kelvin: Floats) -> Floats:
    """Linear sRGB, (n, 3), of black bodies with what the screen lacks cut off and the greatest
    part 1."""
    u, v = locus(kelvin)
    x, y = 3 * u / (2 * u - 8 * v + 4), 2 * v / (2 * u - 8 * v + 4)
    linear = np.maximum(np.stack([x / y, np.ones_like(x), (1 - x - y) / y], 1) @ XYZ_TO_LINEAR.T, 0)
    return np.asarray(linear / linear.max(1, keepdims=True))


def _uv(linear: Floats) -> Floats:
    """CIE 1960 u and v, (2, n), of linear sRGB, (n, 3)."""
    x, y, z = LINEAR_TO_XYZ @ linear.T
    return np.asarray(np.stack([4 * x, 6 * y]) / (x + 15 * y + 3 * z))


@lru_cache(1)
def _table() -> tuple[npt.NDArray[np.float64], Floats]:
    at = 1e6 / np.linspace(1e6 / LEAST, 1e6 / MOST, 1200)  # evenly in mired, as eyes see them
    return at, _uv(_lamp(at))
