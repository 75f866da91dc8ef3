"""Which kind a picture is, and why: what is guessed where nobody said."""

from types import MappingProxyType
from typing import TYPE_CHECKING, NamedTuple

import numpy as np
import numpy.typing as npt

from umber_compass.colour.packed import CLEAR, Packed, unpack
from umber_compass.steps.sketch.flats.lossy import is_restless, smaller
from umber_compass.steps.sketch.flats.palette import SPRITE_PX, is_lossy, palette_of
from umber_compass.steps.sketch.kinds.grey import SURFACES
from umber_compass.steps.sketch.kinds.kind import Settings
from umber_compass.steps.sketch.lines.ink import distance_to, inked
from umber_compass.steps.sketch.lines.paper import darkness, drawn_dark
from umber_compass.words import Words, words

if TYPE_CHECKING:
    from umber_compass.steps.sketch.kinds.calm import Calm

_LOOKED_AT = 1_500_000  # px
_EVERY = 5  # px of paper, looked at for its tint
_BANDS, _BANDS_PX = 12, 2_000_000  # of a large picture, that flat areas are looked for in
_TINTED = 14  # levels between channels
_PAPER, _AT_ENDS, _THIN, _MOST_INK = 0.5, 0.85, 0.5, 0.4  # shares
_NEAR_PAPER, _NEAR_INK = 0.18, 0.64  # of the way from paper to ink
_ONE_TINT, _MOSTLY = 0.03, 0.9  # of a px's light, by which a channel may be off; share of paper
_THIN_PX2 = 30  # px²; ink further from paper is no line
_SPRITE_TINTED = 0.05  # of what is painted; line art on white has less
_SEVERAL_PX = 200_000  # from which a picture without calm places is restless
_EXACT = 64  # colours that a picture of few colours has at most
_FLAT = 0.6  # of px that lie within areas of one colour
# Of a picture, that grows steadily lighter one way: no flats, and of greys no few values.
_SLOPED, _MODELLED = 0.1, 0.12
# Shares of calm places: without a step to those beside them beyond the grain, without any; share of
# all places that are calm where a picture was stored with loss.
_STILL, _SAME, _CALM = 0.95, 0.5, 0.3


class Guess(NamedTuple):
    """A kind by name, what speaks for it, and the next likely kind."""

    kind: str
    why: Words
    otherwise: str = ""
    told: Settings = MappingProxyType({})  # what the kind is told, where the picture asks for it


def guess_kind(packed: Packed) -> Guess:
    """The likeliest kind of a picture, (h, w) 0x00RRGGBB or CLEAR."""
    if _is_sprite(packed):
        return Guess("flats", words("few colours in a small picture"), "lines")
    step = int(np.ceil(np.sqrt(packed.size / _LOOKED_AT)))
    seen = packed[::step, ::step] if step > 1 else packed
    if _is_lines(seen):
        return Guess("lines", words("thin lines on an even ground"), "grey")
    from umber_compass.steps.sketch.kinds.calm import calm_of, is_grey

    # What was enlarged is soft over many px; on a smaller copy its places are what they were.
    by = int(np.ceil(np.sqrt(packed.size / _BANDS_PX)))
    small = smaller(packed, by) if by > 1 else packed
    calm = calm_of(small)
    shaded = "grey" if is_grey(small) else "painting"
    if _is_flat(_bands(packed), calm):
        return Guess("flats", words("areas of one colour each"), shaded)
    if shaded == "grey":
        if calm.sloped >= _MODELLED:
            told = {SURFACES.key: 1.0}
            return Guess("grey", words("light and dark that pass into each other"), told=told)
        return Guess("grey", words("greys that change within their areas"))
    return Guess("painting", words("colours that change within their areas"))


def _is_sprite(packed: Packed) -> bool:
    """Whether a picture is small, of few colours, and not of greys alone: its px are what it is
    drawn of, and its outline is no line art."""
    if packed.size > SPRITE_PX:
        return False
    shown = packed[packed != CLEAR]
    colours = unpack(np.unique(shown)).astype(np.int16)
    spread = unpack(shown).astype(np.int16)
    tinted = (spread.max(axis=1) - spread.min(axis=1) > _TINTED).mean() if len(shown) else 0.0
    return 2 < len(colours) <= _EXACT and bool(tinted > _SPRITE_TINTED)


def _is_lines(seen: Packed) -> bool:
    dark = darkness(drawn_dark(seen))
    if dark is None:
        return False
    ink = inked(dark)
    if ink.mean() > _MOST_INK:
        return False
    is_paper, is_dark = dark <= _NEAR_PAPER, dark >= _NEAR_INK
    if is_paper.mean() < _PAPER or (is_paper | is_dark).mean() < _AT_ENDS:
        return False
    if not _is_one_paper(seen, is_paper):
        return False
    # Of ink nearly all is near paper: lines, not shapes.
    return bool((distance_to(~ink)[ink] <= _THIN_PX2).mean() >= _THIN)


def _is_one_paper(seen: Packed, paper: npt.NDArray[np.bool_]) -> bool:
    """Whether the px of paper are of one tint, however they are lit."""
    rgb = unpack(seen[paper & (seen != CLEAR)][::_EVERY]).astype(np.float32)
    if not len(rgb):
        return True
    share = rgb / np.maximum(rgb.sum(axis=1, keepdims=True), 1)
    off = np.abs(share - np.median(share, axis=0)).max(axis=1)
    return bool((off <= _ONE_TINT).mean() >= _MOSTLY)


def _bands(packed: Packed) -> Packed:
    """A large picture by some bands of its rows, one below the other; px beside each other stay
    so, which colours of areas are known by."""
    height, width = packed.shape
    each = max(2, _BANDS_PX // (_BANDS * width))
    if packed.size <= _BANDS_PX or height < _BANDS * each:
        return packed
    tops = np.linspace(0, height - each, _BANDS).astype(int)
    return np.concatenate([packed[top : top + each] for top in tops])


def _is_flat(packed: Packed, calm: "Calm") -> bool:
    palette = palette_of(packed)
    if not palette.painted:
        return True
    modelled = calm.sloped >= _SLOPED
    if is_lossy(palette):
        if not calm.tells:
            return packed.size < _SEVERAL_PX and not is_restless(packed)
        return calm.still >= _STILL and calm.calm >= _CALM and not modelled
    same = np.count_nonzero(packed[:, 1:] == packed[:, :-1]) / max(packed[:, 1:].size, 1)
    if len(palette.colours) <= _EXACT or not calm.tells:
        return len(palette.colours) <= _EXACT or bool(same >= _FLAT)
    return calm.still >= _STILL or (calm.same >= _SAME and bool(same >= _FLAT))
