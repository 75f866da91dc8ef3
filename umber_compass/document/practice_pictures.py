"""The picture as each practice looks at it first, small."""

import numpy as np
from PIL import Image

from umber_compass.colour.packed import Packed, pack, unpack
from umber_compass.document.seeing import about, small_of
from umber_compass.steps.pictures import picture
from umber_compass.steps.pipeline import Derived
from umber_compass.views import VIEWS
from umber_compass.views.view import Picture
from umber_compass.work import Tick, idle

_SPRITE_PX, _SPRITE_COLOURS = 44, 16
_PALER = 0.55  # how far colour under ink is lightened
_DRAWN = 40  # levels of the borders’ view, from which a border is drawn as a line


def practice_pictures(derived: Derived, longer_px: int, tick: Tick = idle) -> dict[str, Packed]:
    """By practice, the picture so many px wide or high: as it is; in grey; at one value; as a
    sprite; as lines with colour under them."""
    small = np.ascontiguousarray(unpack(small_of(picture(derived), longer_px)))
    more = max(1, longer_px // (2 * max(small.shape)))  # a sprite’s px are drawn larger
    small = np.ascontiguousarray(small.repeat(more, 0).repeat(more, 1))
    told = about(derived, small.shape)
    tick(-1.0)  # no share, but a chance to stop
    return {
        "general": pack(small),
        "grey-first": pack(VIEWS["grey"].see(small, told)),
        "colour-first": pack(VIEWS["colour-only"].see(small, told)),
        "sprite": pack(_as_sprite(small)),
        "ink-and-colour": pack(_as_ink(small, VIEWS["borders"].see(small, told))),
    }


def _as_sprite(small: Picture) -> Picture:
    """Few px in few colours, none mixed."""
    image = Image.fromarray(small)
    image.thumbnail((_SPRITE_PX, _SPRITE_PX), Image.Resampling.BOX)
    few = image.quantize(_SPRITE_COLOURS, dither=Image.Dither.NONE).convert("RGB")
    return np.asarray(few)


def _as_ink(small: Picture, borders: Picture) -> Picture:
    """Dark lines where regions part, over lighter colour."""
    pale = small + (255 - small.astype(np.float32)) * _PALER
    line = np.minimum(borders[..., :1].astype(np.float32) / _DRAWN, 1)
    return np.asarray(pale * (1 - line) + 25 * line, np.uint8)
