"""From screen colours to the axes an artist judges by, and back.

Arrays are (..., 3) unless said otherwise and keep their float type. *Encoded* is sRGB as files and
screens hold it, 0 to 1; *linear* is light, 0 to 1. Value is CIE L* with white D65, 0 to 100.
Sources: IEC 61966-2-1 (sRGB); W3C CSS Color 4 (matrices to XYZ and OKLab); CIE 15 (L*a*b*).
"""

import re
from typing import Any, TypeAlias

import numpy as np
import numpy.typing as npt

from umber_compass.words import Refusal, words

Floats: TypeAlias = npt.NDArray[np.floating[Any]]

# W3C CSS Color 4, "lin_sRGB_to_XYZ", exact fractions of the sRGB primaries and D65.
LINEAR_TO_XYZ = np.array(
    [
        [506752 / 1228815, 87881 / 245763, 12673 / 70218],
        [87098 / 409605, 175762 / 245763, 12673 / 175545],
        [7918 / 409605, 87881 / 737289, 1001167 / 1053270],
    ]
)
# W3C CSS Color 4, "XYZ_to_OKLab".
XYZ_TO_LMS = np.array(
    [
        [0.8190224379967030, 0.3619062600528904, -0.1288737815209879],
        [0.0329836539323885, 0.9292868615863434, 0.0361446663506424],
        [0.0481771893596242, 0.2642395317527308, 0.6335478284694309],
    ]
)
LMS_TO_OKLAB = np.array(
    [
        [0.2104542683093140, 0.7936177747023054, -0.0040720430116193],
        [1.9779985324311684, -2.4285922420485799, 0.4505937096174110],
        [0.0259040424655478, 0.7827717124575296, -0.8086757549230774],
    ]
)
LINEAR_TO_LMS = XYZ_TO_LMS @ LINEAR_TO_XYZ
LMS_TO_LINEAR = np.linalg.inv(LINEAR_TO_LMS)
OKLAB_TO_LMS = np.linalg.inv(LMS_TO_OKLAB)
LUMINANCE = LINEAR_TO_XYZ[1]
XYZ_TO_LINEAR = np.linalg.inv(LINEAR_TO_XYZ)
WHITE_D65 = LINEAR_TO_XYZ.sum(axis=1)
CIE_EPSILON, CIE_KAPPA = 216 / 24389, 24389 / 27

NO_HUE_CHROMA = 0.002  # below this OKLCh chroma a colour has no hue (docs/harmony.md)
GREY_CHROMA = 0.02  # below this it is called grey, though a tinted grey keeps its hue

_HEX = re.compile(r"#?([0-9a-fA-F]{6}|[0-9a-fA-F]{3})")


def _times(colours: Floats, matrix: Floats) -> Floats:
    return colours @ matrix.T.astype(colours.dtype, copy=False)


def parse_hex(text: str) -> Floats:
    """The encoded colour, (3,), that `#rrggbb` or `#rgb` says. Raises Refusal for anything else."""
    found = _HEX.fullmatch(text.strip())
    if found is None:
        raise Refusal(text[:40], words("not a colour; write six hex digits, as in #7a4fa0"))
    digits = found.group(1)
    if len(digits) == 3:
        digits = "".join(d * 2 for d in digits)
    return np.frombuffer(bytes.fromhex(digits), np.uint8).astype(float) / 255


def to_bytes(encoded: Floats) -> npt.NDArray[np.uint8]:
    """Encoded colours as 8-bit levels, rounded to the nearest."""
    return np.asarray(np.clip(encoded, 0, 1) * 255 + 0.5).astype(np.uint8)


def to_hex(encoded: Floats) -> str:
    """One encoded colour, (3,), as `#rrggbb`."""
    return "#" + to_bytes(np.asarray(encoded)).tobytes().hex()


def decode(encoded: Floats) -> Floats:
    """Encoded sRGB to linear light."""
    e = np.asarray(encoded)
    return np.asarray(
        np.where(e <= 0.04045, e / 12.92, ((np.maximum(e, 0) + 0.055) / 1.055) ** 2.4)
    )


def encode(linear: Floats) -> Floats:
    """Linear light to encoded sRGB."""
    v = np.asarray(linear)
    curve = 1.055 * np.maximum(v, 0.0031308) ** (1 / 2.4) - 0.055
    return np.asarray(np.where(v <= 0.0031308, v * 12.92, curve))


def oklab(linear: Floats) -> Floats:
    """OKLab (l 0-1, a, b) of linear light."""
    return _times(np.cbrt(_times(np.asarray(linear), LINEAR_TO_LMS)), LMS_TO_OKLAB)


def oklab_to_linear(lab: Floats) -> Floats:
    """Linear light of OKLab; outside what the screen shows it leaves 0 to 1."""
    return _times(_times(np.asarray(lab), OKLAB_TO_LMS) ** 3, LMS_TO_LINEAR)


def polar(lab: Floats) -> Floats:
    """Lightness, chroma and hue in degrees 0-360 of OKLab; a hue only means something where
    chroma is at least NO_HUE_CHROMA."""
    lab = np.asarray(lab)
    hue = np.degrees(np.arctan2(lab[..., 2], lab[..., 1])) % 360
    return np.stack([lab[..., 0], np.hypot(lab[..., 1], lab[..., 2]), hue], axis=-1)


def luminance(linear: Floats) -> Floats:
    """Relative luminance Y, 0-1, shape (...)."""
    return np.asarray(linear @ LUMINANCE.astype(np.asarray(linear).dtype, copy=False))


def _cie_curve(ratio: Floats) -> Floats:
    return np.asarray(np.where(ratio > CIE_EPSILON, np.cbrt(ratio), (CIE_KAPPA * ratio + 16) / 116))


def value(linear: Floats) -> Floats:
    """Value L* 0-100 of linear light, shape (...)."""
    return value_of_luminance(luminance(linear))


def value_of_luminance(lum: Floats) -> Floats:
    """Value L* 0-100 of relative luminance Y."""
    return np.asarray(116 * _cie_curve(lum) - 16)


def luminance_of_value(lightness: Floats | float) -> Floats:
    """Relative luminance Y of a value L* 0-100."""
    f = (np.asarray(lightness, dtype=float) + 16) / 116
    return np.asarray(np.where(f**3 > CIE_EPSILON, f**3, (116 * f - 16) / CIE_KAPPA))


def cielab(linear: Floats) -> Floats:
    """CIELAB (L* 0-100, a*, b*), white D65."""
    xyz = _times(np.asarray(linear), LINEAR_TO_XYZ) / WHITE_D65.astype(np.asarray(linear).dtype)
    f = _cie_curve(xyz)
    return np.stack(
        [116 * f[..., 1] - 16, 500 * (f[..., 0] - f[..., 1]), 200 * (f[..., 1] - f[..., 2])],
        axis=-1,
    )


def hsb(encoded: Floats) -> Floats:
    """Hexcone hue in degrees, saturation and brightness 0-100; hue 0 where there is none."""
    rgb = np.asarray(encoded)
    top, low = rgb.max(axis=-1), rgb.min(axis=-1)
    span = top - low
    safe = np.where(span == 0, 1, span)
    r, g, b = rgb[..., 0], rgb[..., 1], rgb[..., 2]
    sixth = np.where(
        top == r, (g - b) / safe % 6, np.where(top == g, (b - r) / safe + 2, (r - g) / safe + 4)
    )
    saturation = np.where(top == 0, 0, span / np.where(top == 0, 1, top))
    hue = np.where(span == 0, 0, sixth * 60 % 360)
    return np.stack([hue, saturation * 100, top * 100], axis=-1)


def hsb_to_encoded(colours: Floats) -> Floats:
    """Encoded sRGB of hexcone hue (degrees), saturation and brightness (0-100)."""
    h, s, b = (np.asarray(colours)[..., i] for i in range(3))
    k = (np.array([5.0, 3.0, 1.0]) + h[..., None] / 60) % 6
    dip = np.clip(np.minimum(k, 4 - k), 0, 1)
    return np.asarray(b[..., None] / 100 * (1 - s[..., None] / 100 * dip))


def hue_distance(a: Floats | float, b: Floats | float) -> Floats:
    """The turn from a to b by the shorter way, degrees -180 to 180."""
    return np.asarray((np.asarray(b) - np.asarray(a) + 180) % 360 - 180)
