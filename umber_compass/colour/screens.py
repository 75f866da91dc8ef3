"""Colours as poor screens and poor papers show them. None is measured on a device."""

import numpy as np

from umber_compass.colour.spaces import (
    WHITE_D65,
    XYZ_TO_LINEAR,
    Floats,
    decode,
    encode,
    luminance_of_value,
)

# A cheap laptop's screen: CIE x, y of its primaries; red is the poorest.
_PRIMARIES = ((0.575, 0.345), (0.335, 0.560), (0.155, 0.135))
_INK, _PAPER = 16.0, 84.0  # L* of an e-reader's black and of its white
_GAIN, _NEWS_PAPER, _NEWS_INK = 0.26, (0.80, 0.755, 0.645), 0.10


def _narrow_matrix() -> Floats:
    """Linear light, as it is sent, to what the poor screen shows of it."""
    columns = np.array([[x / y, 1.0, (1 - x - y) / y] for x, y in _PRIMARIES]).T
    scale = np.linalg.solve(columns, WHITE_D65)
    return np.asarray(XYZ_TO_LINEAR @ (columns * scale))


_NARROW = _narrow_matrix()


def narrow(encoded: Floats) -> Floats:
    """Encoded sRGB, (n, 3) 0-1, as a poor screen shows it, encoded too."""
    return encode(np.clip(decode(encoded) @ _NARROW.T, 0, 1))


def e_reader(values: Floats) -> Floats:
    """Values, L*, as an e-reader's grey of its 16 or a mix of them shows them; encoded, 0-1."""
    return encode(luminance_of_value(_INK + values / 100 * (_PAPER - _INK)))


def newsprint(encoded: Floats) -> Floats:
    """Ink on grey, yellowish paper: dots grow by a quarter in the middle tones."""
    cover = 1 - decode(encoded) ** (1 / 1.8)
    grown = np.clip(cover + 4 * _GAIN * cover * (1 - cover) * 0.5, 0, 1)
    return encode(np.array(_NEWS_PAPER) * (1 - grown * (1 - _NEWS_INK)))
