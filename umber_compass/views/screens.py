"""As other screens and papers show the picture. Each says what it assumes; none is measured on a
device."""

import numpy as np
from PIL import Image

from umber_compass.colour.spaces import (
    LUMINANCE,
    WHITE_D65,
    XYZ_TO_LINEAR,
    Floats,
    decode,
    encode,
    luminance_of_value,
    parse_hex,
)
from umber_compass.views.colour_only import each_colour
from umber_compass.views.dither import thresholds
from umber_compass.views.grey import as_grey, values_of
from umber_compass.views.view import About, Picture, ViewSpec

# A cheap laptop's screen: CIE x, y of its primaries; red is the poorest.
_PRIMARIES = ((0.575, 0.345), (0.335, 0.560), (0.155, 0.135))
_INK, _PAPER = 16.0, 84.0  # L* of an e-reader's black and of its white
_LEVELS = 15  # steps between its 16 greys
_GAIN, _NEWS_PAPER, _NEWS_INK = 0.26, (0.80, 0.755, 0.645), 0.10
_YULE_NIELSEN = 1.7
_PHONE_CM, _ARM_CM, _GLARE = 7.0, 45.0, 0.012  # width, distance, light mirrored by the glass
_WALL = 158


def _narrow_matrix() -> Floats:
    """Linear light, as it is sent, to what the poor screen shows of it."""
    columns = np.array([[x / y, 1.0, (1 - x - y) / y] for x, y in _PRIMARIES]).T
    scale = np.linalg.solve(columns, WHITE_D65)
    return np.asarray(XYZ_TO_LINEAR @ (columns * scale))


_NARROW = _narrow_matrix()


def _narrow(mean: Floats, _: Floats) -> Floats:
    return encode(np.clip(decode(mean / 255) @ _NARROW.T, 0, 1))


def _e_reader(picture: Picture, about: About) -> Picture:
    values = values_of(picture) / 100
    step = np.floor(values * _LEVELS + thresholds(*values.shape)).clip(0, _LEVELS) / _LEVELS
    shown = encode(luminance_of_value(_INK + step * (_PAPER - _INK)))
    return as_grey(np.asarray(shown * 255 + 0.5).astype(np.uint8))


def _newsprint(mean: Floats, _: Floats) -> Floats:
    """Ink on grey, yellowish paper: dots grow by a quarter in the middle tones."""
    cover = 1 - decode(mean / 255) ** (1 / 1.8)
    grown = np.clip(cover + 4 * _GAIN * cover * (1 - cover) * 0.5, 0, 1)
    return encode(np.array(_NEWS_PAPER) * (1 - grown * (1 - _NEWS_INK)))


# Linear sRGB of paper and inks one over the other on coated stock, about as offset shows them: by
# cyan, magenta, yellow. Black is added as an ink of its own.
_SOLIDS = {
    (0, 0, 0): "#f8f7f3", (1, 0, 0): "#0093d3", (0, 1, 0): "#cc006b", (0, 0, 1): "#fff10d",
    (1, 1, 0): "#2c2c83", (1, 0, 1): "#00974d", (0, 1, 1): "#d9251c", (1, 1, 1): "#2f2b28",
}  # fmt: skip
_BLACK = 0.011  # linear light of solid black


def _print(mean: Floats, _: Floats) -> Floats:
    """What three inks and black show: the paper's parts by chance, mixed with the light that
    strays in it."""
    level = mean / 255
    cover = 1 - level
    black = np.clip((cover.min(axis=1) - 0.3) / 0.7, 0, 1) ** 1.5 * 0.85
    inks = np.clip((cover - black[:, None]) / np.maximum(1 - black[:, None], 1e-6), 0, 1)
    inks = np.clip(inks + 4 * 0.14 * inks * (1 - inks) * 0.25, 0, 1)
    total = np.zeros_like(level)
    for on, hex_ in _SOLIDS.items():
        part = np.prod(np.where(np.array(on) == 1, inks, 1 - inks), axis=1)
        light = decode(parse_hex(hex_))
        total += part[:, None] * light ** (1 / _YULE_NIELSEN)
    dark = _BLACK ** (1 / _YULE_NIELSEN)
    mixed = total * (1 - black[:, None]) + np.minimum(total, dark) * black[:, None]
    return encode(np.clip(mixed**_YULE_NIELSEN, 0, 1))


def _tube(picture: Picture, about: About) -> Picture:
    """Each px a soft spot, wider where it is bright, and a darker line between lines."""
    light = decode(picture / 255)
    beside = np.concatenate([light[:, :1], light, light[:, -1:]], axis=1)
    soft = beside[:, :-2] * 0.22 + light * 0.56 + beside[:, 2:] * 0.22
    lum = (soft @ LUMINANCE)[..., None]
    between = (np.arange(picture.shape[0]) % 2 == 1)[:, None, None]
    seen = soft * np.where(between, 0.45 + 0.4 * lum, 1.12)
    return np.asarray(encode(np.clip(seen, 0, 1)) * 255 + 0.5).astype(np.uint8)


def _phone(picture: Picture, about: About) -> Picture:
    """As wide as a phone at arm's length, if the screen here is 50 cm wide at 60 cm."""
    height, width = picture.shape[:2]
    share = _PHONE_CM / _ARM_CM / (50.0 / 60.0)
    size = max(1, round(width * share)), max(1, round(height * share))
    light = decode(np.asarray(Image.fromarray(picture).resize(size, Image.Resampling.BOX)) / 255)
    shown = np.asarray(encode(np.clip(light * (1 - _GLARE) + _GLARE, 0, 1)) * 255 + 0.5)
    wall = np.full_like(picture, _WALL)
    top, left = (height - size[1]) // 2, (width - size[0]) // 2
    wall[top : top + size[1], left : left + size[0]] = shown.astype(np.uint8)
    return wall


VIEWS = (
    ViewSpec("narrow-gamut", "Poor screen",
             "a cheap laptop’s screen, much red lost: primaries .575 .345, .335 .560, .155 .135",
             lambda p, _: each_colour(p, _narrow)),
    ViewSpec("e-reader", "E-reader",
             "16 greys in an ordered dither, black at L* 16, paper at 84", _e_reader),
    ViewSpec("newsprint", "Newsprint",
             "yellowish paper, thin ink, dots grown by 26 % in the middle",
             lambda p, _: each_colour(p, _newsprint)),
    ViewSpec("print", "Print",
             "four inks on coated paper by Neugebauer’s equations, no press’s own profile",
             lambda p, _: each_colour(p, _print)),
    ViewSpec("tube", "Tube", "a picture tube: soft spots, a dark line between lines", _tube),
    ViewSpec("phone", "Phone",
             "7 cm wide at arm’s length, light mirrored by its glass", _phone),
)  # fmt: skip
