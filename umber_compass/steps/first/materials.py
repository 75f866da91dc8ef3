"""Which colours are plausible for a material, in each light, and which words in a region's name
propose it.

Ranges are OKLCh hue in degrees (from, to, the way round that rises), OKLCh chroma and L*; chosen by
us from painted pictures and everyday things (studio rule, docs/first-colours.md). A colour outside
is allowed; nothing corrects it unasked.
"""

import re
from typing import NamedTuple

from umber_compass.plan.first import FirstLight
from umber_compass.plan.model import Region


class Range(NamedTuple):
    """Plausible colours: hues from one to another, degrees; chroma; value L*."""

    from_deg: float
    to_deg: float
    low_chroma: float
    high_chroma: float
    dark: float
    light: float

    @property
    def span_deg(self) -> float:
        """How many degrees of hue it holds; 360 for any hue."""
        return (self.to_deg - self.from_deg) % 360 or 360.0

    @property
    def any_hue(self) -> bool:
        """Whether every hue is plausible."""
        return self.span_deg >= 350


class MaterialColours(NamedTuple):
    """One material: its plausible colours in white light, the words that propose it, and its
    colours in lights that change it in a way of its own."""

    noon: Range
    words: str
    own: dict[FirstLight, Range] = {}  # noqa: RUF012 - a row of a table, never changed


_R = Range
# One row is one material; the formatter would make ten lines of each.
# fmt: off
MATERIALS: dict[str, MaterialColours] = {
    "skin": MaterialColours(_R(44, 64, .032, .074, 36, 82),
        "skin face head neck hand hands arm arms ear ears cheek nose foot feet"),
    "lips": MaterialColours(_R(10, 32, .060, .105, 36, 58), "lips mouth"),
    "hair": MaterialColours(_R(38, 80, .008, .085, 18, 72), "hair brow brows fringe beard mane"),
    "eye": MaterialColours(_R(60, 110, .000, .018, 70, 90), "eye eyes"),
    "iris": MaterialColours(_R(0, 360, .020, .080, 20, 42), "iris pupil pupils"),
    "fur": MaterialColours(_R(42, 72, .045, .115, 40, 72),
        "fur fox dog cat hedgehog spines bear hare squirrel lion deer"),
    "creature": MaterialColours(_R(36, 74, .035, .090, 42, 82), ""),
    "leaf": MaterialColours(_R(108, 158, .030, .100, 28, 64),
        "leaf leaves tree trees bush hill hills crown plant fern ivy herb hedge weed forest pine"),
    "grass": MaterialColours(_R(104, 140, .035, .100, 42, 74),
        "grass meadow lawn tuft field moss"),
    "sky": MaterialColours(_R(218, 262, .022, .085, 66, 84), "sky air", {
        "overcast": _R(215, 275, .004, .022, 70, 79), "dusk": _R(18, 66, .040, .085, 54, 77),
        "night": _R(258, 290, .030, .075, 16, 32), "festive": _R(262, 300, .050, .095, 22, 44)}),
    "cloud": MaterialColours(_R(60, 280, .000, .022, 78, 91), "cloud clouds snow foam fog mist", {
        "overcast": _R(215, 275, .002, .014, 76, 86), "dusk": _R(8, 55, .025, .075, 56, 82),
        "night": _R(255, 285, .015, .045, 26, 44), "festive": _R(265, 300, .02, .05, 34, 54)}),
    "water": MaterialColours(_R(195, 250, .030, .085, 36, 72),
        "water sea wave waves river pond lake rain", {
        "dusk": _R(270, 395, .030, .075, 30, 58), "night": _R(245, 275, .030, .065, 16, 34),
        "festive": _R(250, 290, .035, .080, 24, 46)}),
    "wood": MaterialColours(_R(45, 78, .028, .080, 24, 64),
        "wood trunk door bench table shelf plank floor crate cart wheel post grip barrel fence "
        "branch frame mast chair oar"),
    "earth": MaterialColours(_R(42, 75, .025, .070, 28, 56), "earth soil ground mud clay"),
    "sand": MaterialColours(_R(72, 96, .030, .070, 64, 82), "sand path beach desert dune"),
    "brick": MaterialColours(_R(28, 50, .055, .105, 36, 56),
        "brick bricks roof pot terracotta tile", {"night": _R(262, 300, .018, .034, 22, 34)}),
    "slate": MaterialColours(_R(230, 285, .008, .035, 24, 46), "slate"),
    "stone": MaterialColours(_R(55, 275, .004, .028, 38, 78),
        "stone stones road pavement rock cliff mountain peak jug bowl wall kerb step quay"),
    "plaster": MaterialColours(_R(55, 105, .006, .050, 58, 83), "plaster house room tower",
        {"night": _R(258, 282, .014, .030, 34, 46)}),
    "glass": MaterialColours(_R(195, 255, .012, .055, 38, 76), "glass bottle pane window windows", {
        "dusk": _R(60, 90, .060, .120, 64, 82), "night": _R(68, 92, .080, .140, 64, 82),
        "festive": _R(66, 92, .080, .140, 68, 84)}),
    "metal": MaterialColours(_R(215, 280, .004, .028, 34, 80),
        "metal iron steel kettle can knife rail tin bucket armour helm sword"),
    "brass": MaterialColours(_R(72, 94, .055, .120, 52, 78),
        "brass gold brooch earring bell crown-jewel beak"),
    "leather": MaterialColours(_R(40, 72, .030, .080, 24, 54),
        "leather strap saddle belt boot boots"),
    "paper": MaterialColours(_R(70, 105, .004, .028, 80, 90), "paper page pages label sheet map"),
    "glow": MaterialColours(_R(62, 98, .070, .140, 78, 90),
        "glow lamp lantern sun moon fire flame candle light star stars", {
        "overcast": _R(70, 100, .045, .100, 78, 88), "dusk": _R(52, 85, .090, .155, 78, 90),
        "night": _R(66, 98, .075, .140, 80, 92), "festive": _R(58, 95, .100, .165, 80, 91)}),
    "fruit-red": MaterialColours(_R(18, 40, .105, .170, 40, 58),
        "apple tomato berry berries cherry"),
    "fruit-yellow": MaterialColours(_R(92, 110, .110, .160, 76, 87), "lemon banana pear"),
    "cloth": MaterialColours(_R(0, 360, .015, .150, 20, 86),
        "cloth coat apron shirt hat scarf trousers jacket sleeve dress umbrella awning collar "
        "sail flag kite cape cloak book jumper skirt bag cap tunic rug curtain"),
}
# fmt: on
FREE = ("matte", "satin", "wet", "thin", "any")  # of no particular thing: any colour
# Parts of one living thing, whose colours go together.
LIVING = ("skin", "hair", "fur", "creature", "lips", "eye", "iris")
_WORD = {word: name for name, row in MATERIALS.items() for word in row.words.split()}


def material_of(region: Region) -> str:
    """What a region is made of, as it is said, or as its name says it; empty where nothing is
    known. A name only counts where the artist or the sketch gave it."""
    if region.material not in FREE:
        return region.material
    if region.material == "any" or not region.named:
        return region.material if region.material == "any" else ""
    for word in reversed(re.split(r"[^a-z]+", region.name.lower())):
        found = _WORD.get(word) or _WORD.get(word.removesuffix("s"))
        if found:
            return found
    return ""


def range_in(material: str, light: FirstLight) -> Range | None:
    """Its own range in a light, where it has one; at noon what it is in white light; else None,
    and the light changes the range at noon."""
    row = MATERIALS[material]
    return row.noon if light == "noon" else row.own.get(light)
