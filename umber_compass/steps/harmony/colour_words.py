"""Words for colours, as a painter says them: a hue word with light, dark, pale, deep, greyish or
bright, after the pattern of the ISCC-NBS method (Kelly & Judd 1976).

Some words are those of CSS Color 4; where each stands was set by eye, so a word is a proposal.
"""

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np

from umber_compass.colour.measured import Measured
from umber_compass.colour.spaces import Floats, decode, oklab, parse_hex, polar

# Word, OKLCh lightness, chroma, hue in degrees; `-` where there is none.
_TABLE = """
white .98 .003 106 | silver .83 .004 248 | grey .63 0 - | ash .73 .007 89
iron .46 .004 248 | charcoal .35 .006 258 | black .18 .002 286 | steel .66 .029 247
slate .51 .030 245 | stone .68 .023 76 | taupe .57 .024 60 | bone .89 .026 87
ivory .98 .030 92 | cream .93 .047 87 | beige .84 .039 80 | sand .83 .071 84
tan .75 .072 73 | fawn .67 .061 71 | caramel .61 .114 60 | brown .46 .078 54
umber brown .40 .043 59 | chocolate .35 .065 43 | chestnut .44 .095 36
russet .49 .101 45 | rust .52 .138 43 | brick .51 .125 30 | terracotta .62 .117 39
clay .67 .062 51 | bronze .54 .084 81 | peat .27 .016 51 | peach .87 .072 59
apricot .80 .110 57 | blush .86 .047 35 | salmon .76 .112 33 | coral .70 .159 33
orange .70 .169 54 | tangerine .77 .154 61 | pumpkin .63 .164 46 | amber .78 .159 74
gold .77 .138 87 | honey .73 .119 69 | mustard .69 .131 87 | ochre .64 .116 70
yellow .88 .172 98 | lemon .93 .142 105 | butter .92 .088 95 | straw .84 .092 95
khaki .69 .070 94 | olive .54 .087 103 | red .56 .202 27 | scarlet .62 .209 33
crimson .48 .179 19 | blood .37 .129 25 | maroon .34 .099 10 | wine .40 .107 3
rose .64 .142 9 | pink .81 .090 2 | dusty pink .71 .071 14 | raspberry .53 .178 5
magenta .57 .205 350 | fuchsia .65 .229 335 | orchid .67 .130 328 | mauve .68 .049 333
plum .42 .100 337 | aubergine .30 .062 324 | purple .44 .154 313 | violet .54 .175 300
amethyst .62 .114 307 | grape .43 .088 305 | lilac .78 .074 307 | lavender .88 .039 299
indigo .41 .157 281 | heather .60 .050 301 | midnight .23 .047 273 | navy .31 .090 271
ink .31 .032 244 | cobalt .45 .150 262 | blue .53 .184 263 | azure .64 .157 251
cornflower .71 .112 266 | sky .80 .081 238 | powder blue .84 .036 229 | ice .94 .019 222
denim .52 .074 254 | petrol .41 .060 224 | teal .54 .086 198 | turquoise .72 .110 191
cyan .78 .121 212 | aqua .81 .064 200 | duck egg .86 .032 174 | sea green .66 .082 171
verdigris .68 .051 186 | mint .87 .071 161 | jade .62 .113 165 | emerald .63 .153 154
spruce .41 .050 182 | pine .34 .040 170 | forest .40 .075 152 | green .61 .158 144
leaf .56 .126 136 | grass .69 .156 132 | lime .83 .186 125 | pistachio .84 .089 123
sage .72 .049 128 | fern .60 .084 140 | moss .55 .081 121 | drab .51 .029 95
"""
_GREY = 0.02  # chroma under which a word turns warm or cool, not to another hue
# Another hue is said by the next of these that is more than so many degrees away.
_TOWARD = (
    (28, "reddish"),
    (100, "yellowish"),
    (146, "greenish"),
    (256, "bluish"),
    (318, "purplish"),
)
_TOWARD_DEG = 14


class Words(NamedTuple):
    """Phrases and where they stand, rows of OKLCh; the price is what a longer phrase costs."""

    phrase: tuple[str, ...]
    lch: Floats  # (n, 3)
    price: Floats  # (n,)
    word: tuple[str, ...]  # the bare word of each
    rank: Floats  # (n,) from deep, the lowest, through plain, 0, to pale


def _rows() -> list[tuple[str, float, float, float]]:
    rows = []
    for entry in _TABLE.replace("\n", "|").split("|"):
        if entry.strip():
            *word, light, chroma, hue = entry.split()
            rows.append(
                (" ".join(word), float(light), float(chroma), 0.0 if hue == "-" else float(hue))
            )
    return rows


def _phrases() -> Words:
    found: list[tuple[str, float, float, float, float, str, int]] = []
    for word, light, chroma, hue in _rows():
        found.append((word, light, chroma, hue, 0.0, word, 0))
        if word in ("white", "black"):
            continue
        for said, up, times, more, price, rank in (
            ("light", 0.07, 0.92, 0.0, 0.022, 1),
            ("dark", -0.07, 0.92, 0.0, 0.022, -1),
            ("pale", 0.13, 0.7, 0.0, 0.028, 2),
            ("deep", -0.13, 0.85, 0.0, 0.028, -2),
            ("bright", 0.03, 1.25, 0.02, 0.028, 0),
            ("greyish", -0.01, 0.62, 0.0, 0.026, 0),
        ):
            there = light + up
            if _suits(said, light, chroma) and 0.12 <= there <= 0.97:
                row = (f"{said} {word}", there, chroma * times + more, hue, price, word, rank)
                found.append(row)
        found += _turned(word, light, chroma, hue)
    phrases, lights, chromas, hues, prices, words, ranks = zip(*found, strict=True)
    lch = np.stack([np.array(x, float) for x in (lights, chromas, hues)], axis=1)
    return Words(phrases, lch, np.array(prices), words, np.array(ranks, float))


def _suits(said: str, light: float, chroma: float) -> bool:
    if said == "bright":
        return chroma >= 0.08
    if said == "greyish":
        return chroma >= 0.05
    if said == "pale":
        return light <= 0.9
    if said == "light":
        return light <= 0.93
    return light >= 0.3


def _turned(
    word: str, light: float, chroma: float, hue: float
) -> list[tuple[str, float, float, float, float, str, int]]:
    """A word's neighbours in hue, or for a grey its warm and its cool."""
    if chroma < _GREY:
        return [
            (f"warm {word}", light, 0.018, 70.0, 0.024, word, 0),
            (f"cool {word}", light, 0.018, 250.0, 0.024, word, 0),
        ]
    by = min(max(0.9 / max(chroma, 0.03), 8.0), 16.0)
    found = []
    for way in (1, -1):
        away = [((pole - hue) * way % 360, said) for pole, said in _TOWARD]
        said = min(a for a in away if a[0] > _TOWARD_DEG)[1]
        found.append((f"{said} {word}", light, chroma, (hue + way * by) % 360, 0.032, word, 0))
    return found


WORDS = _phrases()


def distances(lch: Floats) -> Floats:
    """How far colours, rows of OKLCh (n, 3), are from every phrase, (n, phrases)."""
    light, chroma, hue = (lch[:, i, None] for i in range(3))
    mean = np.sqrt(chroma * WORDS.lch[:, 1])
    turn = 2 * mean * np.sin(np.radians(hue - WORDS.lch[:, 2]) / 2)
    square = (0.8 * (light - WORDS.lch[:, 0])) ** 2
    square += (1.3 * (chroma - WORDS.lch[:, 1]) / (1 + 6 * mean)) ** 2 + (
        2 * turn / (1 + 3 * mean)
    ) ** 2
    return np.asarray(np.sqrt(square))


def colour_name(colour: Measured) -> str:
    """A colour in words, as `deep teal`."""
    return WORDS.phrase[int((distances(lch_of([colour])) + WORDS.price)[0].argmin())]


def lch_of(colours: Sequence[Measured]) -> Floats:
    """OKLCh, (n, 3), of some colours."""
    return polar(oklab(decode(np.array([parse_hex(c.hex) for c in colours]))))
