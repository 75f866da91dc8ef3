"""The colours of a picture as a palette: those of a swatch screenshot exactly, those of a painting
as the few that hold most of it."""

import numpy as np

from umber_compass.colour.packed import CLEAR, Packed, unpack
from umber_compass.colour.spaces import Floats, decode, oklab, parse_hex
from umber_compass.picture.mixes import Ints
from umber_compass.plan.palettes import MOST_SWATCHES, GivenPalette, Swatch
from umber_compass.steps.harmony.picture_palette import palette_of

_FLAT = 0.94  # of the picture in the colours of its flat areas, from which it is swatches
_LEAST = 0.001  # of the picture that a swatch holds
_GROUND = 0.5  # of the frame; a colour that holds as much is the ground swatches lie on
_MOST_PX = 400_000


def colours_of(packed: Packed) -> tuple[list[str], bool]:
    """The colours of a picture, (h, w) 0x00RRGGBB, as hexes, and whether they are swatches that
    were read exactly."""
    swatches = _swatches(packed)
    if swatches:
        return swatches, True
    flat = packed.reshape(-1)
    px = flat[flat != CLEAR] & np.uint32(0xFFFFFF)
    px = px[:: max(1, len(px) // _MOST_PX)] if len(px) else np.array([0xFFFFFF], np.uint32)
    return [c.hex for c in palette_of(px)], False


def _swatches(packed: Packed) -> list[str]:
    """The exact colours of flat areas, left to right and down, without the ground round them; none
    where the picture is not made of such."""
    px = packed & np.uint32(0xFFFFFF)
    if min(px.shape) < 4:
        return []
    inner = px[1:-1, 1:-1]
    flat = np.ones(inner.shape, bool)
    for dy, dx in ((0, 1), (2, 1), (1, 0), (1, 2)):
        flat &= px[dy : dy + inner.shape[0], dx : dx + inner.shape[1]] == inner
    where = np.flatnonzero(flat.reshape(-1))
    colours, first, count = np.unique(
        inner.reshape(-1)[where], return_index=True, return_counts=True
    )
    kept = count >= _LEAST * px.size
    if not 2 <= kept.sum() <= MOST_SWATCHES or np.isin(px, colours[kept]).mean() < _FLAT:
        return []
    frame = np.concatenate([px[0], px[-1], px[1:-1, 0], px[1:-1, -1]])
    order = np.argsort(_reading_order(where[first[kept]], inner.shape[1]))
    found = colours[kept][order]
    swatches = [c for c in found if (frame == c).mean() < _GROUND]
    levels = unpack(np.array(swatches or found, np.uint32))
    return [f"#{row.tobytes().hex()}" for row in np.ascontiguousarray(levels)]


def _reading_order(place: Ints, width: int) -> Ints:
    y, x = np.divmod(place, width)
    return np.asarray(y // 8 * width + x)


def kept_palette(
    title: str, source: str, colours: list[tuple[str, str]] | tuple[tuple[str, str], ...]
) -> GivenPalette:
    """A palette as a plan keeps it; of more colours than that, those that lie farthest apart."""
    unique = dict.fromkeys(colours)
    rows = list(unique)
    if len(rows) > MOST_SWATCHES:
        rows = [rows[i] for i in sorted(_spread([c for c, _ in rows], MOST_SWATCHES))]
    swatches = tuple(Swatch(hex=c, name=n[:400]) for c, n in rows)
    return GivenPalette(title=title[:400], source=source[:400], colours=swatches)


def _spread(hexes: list[str], many: int) -> list[int]:
    """Which of some colours lie farthest from each other, the first among them."""
    lab: Floats = oklab(decode(np.array([parse_hex(h) for h in hexes])))
    taken, near = [0], np.linalg.norm(lab - lab[0], axis=1)
    while len(taken) < many:
        taken.append(int(near.argmax()))
        near = np.minimum(near, np.linalg.norm(lab - lab[taken[-1]], axis=1))
    return taken
