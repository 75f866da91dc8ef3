"""What the colour field shows: a plane of chroma and value at one hue, and colours mixed."""

from functools import lru_cache

import numpy as np

from umber_compass.colour.gamut import fit
from umber_compass.colour.measured import measure_hex
from umber_compass.colour.packed import Packed, pack
from umber_compass.colour.spaces import (
    decode,
    encode,
    hsb,
    hsb_to_encoded,
    oklab,
    oklab_to_linear,
    parse_hex,
    to_bytes,
    to_hex,
)

_STEPS = 101  # of value, at which the greatest chroma is looked for
BEYOND = 0xFF000000  # marks px of the plane that no screen shows


@lru_cache(360)
def most_chroma(hue_deg: int) -> float:
    """The most OKLCh chroma that any value has at a hue, whole degrees."""
    value = np.linspace(0, 100, _STEPS)
    linear = fit(value, np.full(_STEPS, 0.4), np.full(_STEPS, float(hue_deg)))
    return float(np.hypot(*oklab(linear)[:, 1:].T).max())


@lru_cache(24)
def plane(hue_deg: int, width: int, height: int) -> Packed:
    """The colours of a hue, (height, width), 0x00RRGGBB: value L* from 100 at the top to 0, chroma
    from 0 at the left to the most the hue has; px that no screen shows are BEYOND."""
    value = np.linspace(100, 0, height)[:, None]
    chroma = np.linspace(0, most_chroma(hue_deg), width)[None]
    both = np.broadcast_arrays(value, chroma)
    linear = fit(both[0], both[1], np.full(both[0].shape, float(hue_deg)))
    lab = oklab(linear)
    shown = np.hypot(lab[..., 1], lab[..., 2]) >= both[1] - 0.004
    packed = pack(to_bytes(encode(linear)))
    return np.where(shown, packed, np.uint32(BEYOND))


def colour_at(value: float, chroma: float, hue_deg: float) -> str:
    """The hex of a value L*, an OKLCh chroma as far as the screen shows it, and a hue, degrees."""
    return to_hex(encode(fit(np.array(value), np.array(chroma), np.array(hue_deg))))


def mixed(one: str, other: str, share: float) -> str:
    """Two colours mixed in OKLab: a share, 0-1, of the other."""
    both = oklab(decode(np.array([parse_hex(one), parse_hex(other)])))
    linear = oklab_to_linear(both[0] * (1 - share) + both[1] * share)
    return to_hex(encode(np.clip(linear, 0, 1)))


def saturation_of(colour: str) -> float:
    """HSB saturation, percent."""
    return float(hsb(parse_hex(colour))[1])


def with_saturation(colour: str, percent: float) -> str:
    """A colour at another HSB saturation, its value L* and OKLCh hue as they were."""
    hue, _, bright = (float(v) for v in hsb(parse_hex(colour)))
    kept = min(max(percent, 0.0), 100.0)
    moved = measure_hex(to_hex(hsb_to_encoded(np.array([hue, kept, bright]))))
    was = measure_hex(colour)
    return colour_at(was.value, moved.chroma, was.hue if was.hue is not None else hue)
