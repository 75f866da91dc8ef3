"""Finishes: what a surface does with light beside taking it: shine, mirror, let it through.

Each is a row of numbers with its source; a material has one of them.
"""

from typing import NamedTuple

from umber_compass.plan.terms import Material


class Finish(NamedTuple):
    """A surface in light."""

    name: str
    says: str
    gloss: float = 0.0  # of the key's light, what its highlight gives back
    exponent: float = 1.0  # how narrow the highlight is (Blinn 1977)
    mirror: float = 0.0  # share that mirrors sky, horizon and ground instead of taking light
    through: float = 0.0  # of the light from behind, what comes through
    wrap: tuple[float, float, float] = (0.0, 0.0, 0.0)  # N.L by which red, green, blue go round
    shade: tuple[float, float, float] = (1.0, 1.0, 1.0)  # what its shade takes, by channel
    lit: bool = True  # whether any lamp reaches it
    rough: float = 0.0  # how much more evenly than N.L it takes light (Oren & Nayar 1994, fitted)


# Strengths and exponents: chosen by eye on balls and on the demo, docs/light.md.
FINISHES: dict[str, Finish] = {
    f.name: f
    for f in (
        Finish("matte", "no highlight"),
        Finish("satin", "a wide, weak highlight", gloss=0.22, exponent=24),
        Finish("wet", "a small, sharp highlight", gloss=0.55, exponent=120),
        Finish("metal", "mirrors sky and ground", gloss=0.9, exponent=40, mirror=0.7),
        Finish(
            "skin",
            "a warm edge where light turns, a shade that stays warm",
            gloss=0.10,
            exponent=18,
            wrap=(0.42, 0.14, 0.08),
            shade=(1.42, 0.87, 0.62),
        ),
        Finish("thin", "light from behind comes through", gloss=0.06, exponent=20, through=0.8),
        Finish("cloth", "light spreads over it evenly", rough=0.35),
        Finish("leather", "a soft, broad highlight", gloss=0.16, exponent=14),
        Finish("stone", "light spreads over it, nearly no highlight", gloss=0.03, exponent=6,
               rough=0.5),
        Finish("glow", "shines by itself; no light or shade falls on it", lit=False),
        Finish("sky", "far away; no lamp reaches it", lit=False),
    )
}  # fmt: skip

_OF: dict[Material, str] = {
    "fur": "cloth",
    "hair": "satin",
    "eye": "wet",
    "iris": "wet",
    "lips": "skin",
    "leaf": "thin",
    "grass": "thin",
    "water": "wet",
    "wood": "leather",
    "sand": "stone",
    "earth": "stone",
    "brick": "stone",
    "slate": "stone",
    "plaster": "stone",
    "glass": "wet",
    "brass": "metal",
    "fruit-red": "satin",
    "fruit-yellow": "satin",
}


def finish_of(material: Material) -> Finish:
    """The finish of a material: its own, that of the thing it names, or matte."""
    return FINISHES[material if material in FINISHES else _OF.get(material, "matte")]
