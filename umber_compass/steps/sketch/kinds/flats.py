"""A flats picture becomes regions: its main colours, and every smoothed border pixel given to the
colour it holds most of (docs/sketch.md)."""

from typing import TYPE_CHECKING

import numpy as np

from umber_compass.colour.packed import CLEAR, Packed, pack, unpack
from umber_compass.picture.mixes import Labels, areas
from umber_compass.steps.sketch.flats.lossy import (
    Bytes,
    enlarged,
    is_restless,
    lossy_regions,
    smaller,
)
from umber_compass.steps.sketch.flats.palette import SPRITE_PX, is_lossy, is_shaded, palette_of
from umber_compass.steps.sketch.kinds.kind import KindSpec, Settings, Split
from umber_compass.words import Refusal, words
from umber_compass.work import Tick, idle

if TYPE_CHECKING:
    from umber_compass.steps.sketch.flats.uniting import United

MOST_COLOURS = 512
_MOST_ASKED = 8192  # colours that own blocks, beyond which none is looked at
_SHADE_EXACT, _SHADE_LOSSY = 3, 8  # levels within which colours lie a shade apart
_HELD = 0.70  # of a picture stored with loss that must lie near its colours
_COUNTED_PX = 2_000_000
_SPRITE_COLOURS = 64  # of a picture so small that it is drawn px by px
_MOST_LOSSY_PX = 3_000_000  # beyond it colours are found on a smaller copy


def split(
    packed: Packed, subject: str, settings: Settings | None = None, tick: Tick = idle
) -> Split:
    """The regions of a flats picture, (h, w) 0x00RRGGBB. Raises Refusal if its colours are not
    flat, or nothing is painted: it says how many colours were found and what to do."""
    palette = palette_of(packed)
    if not palette.painted:
        line = words("nothing is painted in it; bring in a picture with one flat colour a material")
        raise Refusal(subject, line)
    if packed.size <= SPRITE_PX and len(palette.distinct) <= _SPRITE_COLOURS:
        return _px_by_px(packed)
    if is_lossy(palette):
        return _lossy(packed, subject)
    if len(palette.colours) > _MOST_ASKED:
        raise _not_flat(packed, subject)
    # A start that reads no picture does without these.
    from umber_compass.steps.sketch.flats.exact import exact_regions
    from umber_compass.steps.sketch.flats.known import FIRST
    from umber_compass.steps.sketch.flats.uniting import united

    known = exact_regions(packed, palette)
    found = united(known.labels, np.ascontiguousarray(unpack(known.colours)), FIRST)
    return _unless_shaded(packed, subject, found, FIRST, _SHADE_EXACT)


def _unless_shaded(packed: Packed, subject: str, found: "United", first: int, levels: int) -> Split:
    """The regions of flats, unless there are too many or most lie a shade apart."""
    held = np.bincount(found.labels.reshape(-1), minlength=len(found.colours) + first)[first:] > 0
    if not 0 < np.count_nonzero(held) <= MOST_COLOURS or is_shaded(
        pack(found.colours[held]), levels
    ):
        raise _not_flat(packed, subject)
    return _by_area(found.labels, found.colours, first, found.joined > 0)


def _px_by_px(packed: Packed) -> Split:
    """Every colour of a picture of a few px, each px by itself: none is the smoothing of others."""
    colours = np.unique(packed[packed != CLEAR])
    number = np.searchsorted(colours, np.where(packed == CLEAR, colours[0], packed)) + 1
    labels = np.where(packed == CLEAR, 0, number).astype(np.uint16)
    return _by_area(labels, np.ascontiguousarray(unpack(colours)), 1)


def _lossy(packed: Packed, subject: str) -> Split:
    from umber_compass.steps.sketch.flats.uniting import united

    if is_restless(packed):
        raise _not_flat(packed, subject)
    step = int(np.ceil(np.sqrt(packed.size / _MOST_LOSSY_PX)))
    found = lossy_regions(packed if step == 1 else smaller(packed, step))
    if found is None or len(found.colours) > MOST_COLOURS or found.held < _HELD:
        raise _not_flat(packed, subject)
    labels = found.labels if step == 1 else enlarged(packed, found, step)
    return _unless_shaded(packed, subject, united(labels, found.colours, 1), 1, _SHADE_LOSSY)


def _by_area(labels: Labels, main: Bytes, first: int, shaded: bool = False) -> Split:
    """Labels numbered by area, largest first; colours that hold no pixel are dropped. `first` is
    the label of the first colour; lower ones are no region."""
    area = areas(labels, len(main) + first - 1)[first:]
    order = np.argsort(-area, kind="stable")
    order = order[area[order] > 0]
    number = np.zeros(len(area) + first, np.uint16)
    number[order + first] = np.arange(1, len(order) + 1)
    return Split(number[labels], main[order], shaded)


def _not_flat(packed: Packed, subject: str) -> Refusal:
    """Refused, with how many colours there are; in a large picture, among a part of its px."""
    flat = packed.reshape(-1)
    found = len(np.unique(flat[:: max(1, packed.size // _COUNTED_PX)]))
    return Refusal(
        subject,
        words(
            "{found:,} colours found, but flats need areas of one colour each (at most {most} "
            "colours); fill each material with one flat colour and bring that in",
            found=found,
            most=MOST_COLOURS,
        ),
    )


KIND = KindSpec("flats", "Flats", "one colour for each material", split)
