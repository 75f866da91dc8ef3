"""As other screens and papers show the picture. Each says what it assumes; none but the print proof
is measured on a device."""

import numpy as np
from PIL import Image

from umber_compass.colour import screens
from umber_compass.colour.press import printed
from umber_compass.colour.spaces import LUMINANCE, decode, encode
from umber_compass.views.colour_only import each_colour
from umber_compass.views.dither import thresholds
from umber_compass.views.grey import as_grey, values_of
from umber_compass.views.view import About, Picture, ViewSpec

_LEVELS = 15  # steps between an e-reader's 16 greys
_PHONE_CM, _ARM_CM, _GLARE = 7.0, 45.0, 0.012  # width, distance, light mirrored by the glass
_WALL = 158


def _e_reader(picture: Picture, about: About) -> Picture:
    values = values_of(picture) / 100
    step = np.floor(values * _LEVELS + thresholds(*values.shape)).clip(0, _LEVELS) / _LEVELS
    return as_grey(np.asarray(screens.e_reader(step * 100) * 255 + 0.5).astype(np.uint8))


def _print(picture: Picture, about: About) -> Picture:
    return each_colour(
        picture, lambda mean, _: printed((mean + 0.5).astype(np.uint8), about.press) / 255
    )


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
             lambda p, _: each_colour(p, lambda mean, _: screens.narrow(mean / 255))),
    ViewSpec("e-reader", "E-reader",
             "16 greys in an ordered dither, black at L* 16, paper at 84", _e_reader),
    ViewSpec("newsprint", "Newsprint",
             "yellowish paper, thin ink, dots grown by 26 % in the middle",
             lambda p, _: each_colour(p, lambda mean, _: screens.newsprint(mean / 255))),
    ViewSpec("print", "Print",
             "as a press prints it, by its ICC profile: offset on coated paper, or your printer’s "
             "own (Brief); paper white is shown as it is", _print),
    ViewSpec("tube", "Tube", "a picture tube: soft spots, a dark line between lines", _tube),
    ViewSpec("phone", "Phone",
             "7 cm wide at arm’s length, light mirrored by its glass", _phone),
)  # fmt: skip
