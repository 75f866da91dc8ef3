"""Colours with their measures, and greys by value."""

from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from umber_compass.colour.spaces import (
    GREY_CHROMA,
    NO_HUE_CHROMA,
    Floats,
    decode,
    encode,
    luminance_of_value,
    oklab,
    parse_hex,
    polar,
    to_bytes,
    to_hex,
    value,
)


class Measured(NamedTuple):
    """One colour with its measures."""

    hex: str
    value: float  # L*, 0-100
    chroma: float  # OKLCh
    hue: float | None  # OKLCh degrees; None where there is none
    slot: str  # A-D, grey, or given for a pinned colour

    @property
    def is_grey(self) -> bool:
        """Whether it is called grey on screen: nearly no chroma, or nearly black or white."""
        return self.chroma < GREY_CHROMA or not 2 <= self.value <= 98.5


def measure(encoded: Floats, slot: str = "given") -> Measured:
    """An encoded colour, (3,), with its measures. It is measured as the file will hold it, in
    8-bit levels."""
    levels = to_bytes(np.asarray(encoded, float))
    return measured(levels[None], (slot,))[0]


def measure_hex(text: str) -> Measured:
    """A colour written as hex digits, with its measures. Raises Refusal if it is none."""
    return measure(parse_hex(text))


def listed_hexes(text: str) -> list[str]:
    """The hexes of a list by comma; none for `off` or nothing. Raises Refusal for what is no
    hex."""
    parts = [part.strip() for part in text.split(",")]
    return [to_hex(parse_hex(part)) for part in parts if part not in ("", "off")]


def measured(levels: npt.NDArray[np.uint8], slots: tuple[str, ...]) -> list[Measured]:
    """8-bit colours, (n, 3), with their measures."""
    light = decode(levels / 255)
    values, lch = value(light), polar(oklab(light))
    return [
        Measured(
            "#" + row.tobytes().hex(),
            float(v),
            float(c),
            float(h) if c >= NO_HUE_CHROMA else None,
            slot,
        )
        for row, v, (_, c, h), slot in zip(levels, values, lch, slots, strict=True)
    ]


def levels_of(text: str) -> npt.NDArray[np.uint8]:
    """The levels, (3,), of a hex that we wrote ourselves."""
    return np.frombuffer(bytes.fromhex(text[1:]), np.uint8)


def grey_scale(count: int) -> tuple[str, ...]:
    """Greys at equal steps of value from black to white, as hexes."""
    return greys_of(np.linspace(0, 100, count).tolist())


def greys_of(values: list[float]) -> tuple[str, ...]:
    """The greys of some values L*, as hexes."""
    levels = to_bytes(encode(luminance_of_value(np.array(values)))).tolist()
    return tuple(f"#{level:02x}{level:02x}{level:02x}" for level in levels)
