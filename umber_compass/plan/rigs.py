"""Rigs to begin from: eight scenes of our own, each a light from everywhere, a key, and what else
it takes. A rig taken over brings its lights; how they are drawn, shadows and exposure stay.

Colours and strengths were set by eye on the demos and on a head (docs/light.md).
"""

from typing import NamedTuple

from umber_compass.plan.rig import Ambient, Lamp, Pool, Terminator


class RigSpec(NamedTuple):
    """A rig with its name and what it is like."""

    name: str
    title: str
    says: str
    ambient: Ambient
    lamps: tuple[Lamp, ...]
    terminator: Terminator = Terminator()


def _key(hex_: str, strength: float, direction: tuple[float, float, float], soft: float) -> Lamp:
    return Lamp(name="key", hex=hex_, strength=strength, direction=direction, softness=soft)


RIGS = {
    r.name: r
    for r in (
        RigSpec(
            "harbour-noon",
            "Harbour noon",
            "a high white sun, a blue sky, the ground thrown back",
            Ambient(hex="#a9c8ea", strength=46, bounce=1.2),
            (_key("#fff4df", 128, (-0.34, -0.8, 0.495), 0.12),),
        ),
        RigSpec(
            "late-orchard",
            "Late orchard",
            "a low golden sun from the side, cool shade",
            Ambient(hex="#8fa6d6", strength=40, bounce=1.0),
            (_key("#ffb765", 134, (-0.82, -0.3, 0.487), 0.25),),
            Terminator(hex="#d0563f", strength=10),
        ),
        RigSpec(
            "milk-sky",
            "Milk sky",
            "an overcast day: light from all over, hardly a shadow",
            Ambient(hex="#d3dbe2", strength=84, bounce=0.8),
            (_key("#eef2f5", 62, (-0.2, -0.86, 0.469), 1.0),),
        ),
        RigSpec(
            "north-room",
            "North room",
            "a tall window at the left, a warm room behind it",
            Ambient(hex="#c9ab8b", strength=34, bounce=0.8),
            (
                _key("#cfe0f2", 118, (-0.74, -0.34, 0.58), 0.6),
                Lamp(name="second", rank=2, hex="#e7a56b", strength=26,
                     direction=(0.86, -0.1, 0.5), softness=0.7),
            ),
        ),
        RigSpec(
            "lamp-supper",
            "Lamp at supper",
            "one warm lamp above, a dark blue evening round it",
            Ambient(hex="#5d6b9e", strength=36, bounce=1.4),
            (_key("#ffb45e", 132, (0.16, -0.84, 0.518), 0.35),),
            Terminator(hex="#b8432f", strength=12),
        ),
        RigSpec(
            "ferry-moon",
            "Ferry by moon",
            "a cold moon from behind, a faint warm fill",
            Ambient(hex="#4a6294", strength=104, bounce=0.7),
            (
                _key("#c6dcff", 62, (0.52, -0.55, -0.653), 0.15),
                Lamp(name="fill", rank=2, hex="#c8906a", strength=20,
                     direction=(-0.5, 0.2, 0.843), softness=1.0),
            ),
        ),
        RigSpec(
            "footlights",
            "Footlights",
            "warm from below, a cool rim from behind",
            Ambient(hex="#59628c", strength=58, bounce=0.5),
            (
                _key("#ffab57", 122, (-0.22, 0.66, 0.718), 0.4),
                Lamp(name="rim", rank=2, hex="#7fb6ff", strength=96,
                     direction=(0.6, -0.4, -0.693), softness=0.15),
            ),
        ),
        RigSpec(
            "two-doors",
            "Two doors",
            "a warm lamp against a cool one, from either side",
            Ambient(hex="#6a6478", strength=30, bounce=0.7),
            (
                _key("#ffa66b", 116, (-0.84, -0.22, 0.496), 0.3),
                Lamp(name="second", rank=2, hex="#5fa8e8", strength=78,
                     direction=(0.88, -0.16, 0.447), softness=0.3),
            ),
        ),
    )
}  # fmt: skip

# Lamps that can be added, by name: where each stands to begin with, and how strong it is.
KINDS = {
    lamp.name: lamp
    for lamp in (
        Lamp(name="second", hex="#8fb0e6", strength=40, direction=(0.78, -0.2, 0.593),
             softness=0.5),
        Lamp(name="rim", hex="#fff0d4", strength=110, direction=(0.5, -0.42, -0.757), softness=0.2),
        Lamp(name="fill", hex="#dfe6f2", strength=18, direction=(-0.46, 0.2, 0.865), softness=1.0),
        Lamp(name="spot", hex="#ffdca8", strength=50, direction=(-0.2, -0.56, 0.804), softness=0.4,
             pool=Pool()),
    )
}  # fmt: skip
