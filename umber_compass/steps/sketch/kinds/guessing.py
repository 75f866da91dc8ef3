"""Which kind a picture is, and why: what is guessed where nobody said."""

from typing import NamedTuple

import numpy as np

from umber_compass.colour.packed import CLEAR, Packed, unpack
from umber_compass.steps.sketch.flats.lossy import is_restless
from umber_compass.steps.sketch.flats.palette import SPRITE_PX, is_lossy, palette_of
from umber_compass.steps.sketch.lines.ink import distance_to, grey_of, ink_of
from umber_compass.words import Words, words

_LOOKED_AT = 1_500_000  # px
_BANDS, _BANDS_PX = 12, 3_000_000  # of a large picture, that flat areas are looked for in
_TINTED, _FEW = 14, 0.01  # levels between channels; share of px that may be further apart
_PAPER, _AT_ENDS, _THIN = 0.5, 0.85, 0.5  # shares
_THIN_PX2 = 30  # px²; ink further from paper is no line
_SPRITE_TINTED = 0.05  # of what is painted; line art on white has less
_EXACT = 64  # colours that a picture of few colours has at most
_FLAT = 0.6  # of px that lie within areas of one colour


class Guess(NamedTuple):
    """A kind by name, what speaks for it, and the next likely kind."""

    kind: str
    why: Words
    otherwise: str = ""


def guess_kind(packed: Packed) -> Guess:
    """The likeliest kind of a picture, (h, w) 0x00RRGGBB or CLEAR."""
    if _is_sprite(packed):
        return Guess("flats", words("few colours in a small picture"), "lines")
    step = int(np.ceil(np.sqrt(packed.size / _LOOKED_AT)))
    seen = packed[::step, ::step] if step > 1 else packed
    if _is_lines(seen):
        return Guess("lines", words("thin dark lines on a light ground"), "grey")
    rgb = unpack(seen).astype(np.int16)
    spread = rgb.max(axis=2) - rgb.min(axis=2)
    is_grey = (
        bool((spread[seen != CLEAR] > _TINTED).mean() <= _FEW) if (seen != CLEAR).any() else False
    )
    shaded = "grey" if is_grey else "painting"
    if _is_flat(packed):
        return Guess("flats", words("areas of one colour each"), shaded)
    if is_grey:
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
    grey = grey_of(seen)
    ink = ink_of(grey)
    if ink is None or ink.mean() > 0.4:
        return False
    paper, dark = float(np.percentile(grey, 90)), float(np.percentile(grey, 1))
    dark = min(dark, float(grey.min()) + 20)
    band = 0.18 * (paper - dark)
    is_paper, is_dark = grey >= paper - band, grey <= dark + 2 * band
    if paper < 150 or is_paper.mean() < _PAPER or (is_paper | is_dark).mean() < _AT_ENDS:
        return False
    # Of ink nearly all is near paper: lines, not shapes.
    return bool((distance_to(~ink)[ink] <= _THIN_PX2).mean() >= _THIN)


def _bands(packed: Packed) -> Packed:
    """A large picture by some bands of its rows, one below the other; px beside each other stay
    so, which colours of areas are known by."""
    height, width = packed.shape
    each = max(2, _BANDS_PX // (_BANDS * width))
    if packed.size <= _BANDS_PX or height < _BANDS * each:
        return packed
    tops = np.linspace(0, height - each, _BANDS).astype(int)
    return np.concatenate([packed[top : top + each] for top in tops])


def _is_flat(packed: Packed) -> bool:
    packed = _bands(packed)
    palette = palette_of(packed)
    if not palette.painted:
        return True
    if is_lossy(palette):
        return not is_restless(packed)
    same = np.count_nonzero(packed[:, 1:] == packed[:, :-1]) / max(packed[:, 1:].size, 1)
    return len(palette.colours) <= _EXACT or bool(same >= _FLAT)
