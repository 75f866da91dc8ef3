"""What the plan's records are made of: numbers with their ranges, words with their choices."""

from typing import Annotated, Literal, TypeAlias

from msgspec import Meta, Struct

ROLES = ("ground", "middle ground", "figure", "focus", "line")

Role: TypeAlias = Literal["ground", "middle ground", "figure", "focus", "line"]
Material: TypeAlias = Literal[
    "matte", "satin", "metal", "wet", "thin", "skin", "glow", "fur", "hair", "eye", "iris", "lips",
    "creature", "leaf", "grass", "sky", "cloud", "water", "wood", "earth", "sand", "brick", "slate",
    "stone", "plaster", "glass", "brass", "leather", "paper", "fruit-red", "fruit-yellow", "cloth",
    "any",
]  # fmt: skip
Form: TypeAlias = Literal[
    "auto", "flat", "round", "slope", "cylinder", "slab", "membrane", "faceted"
]
Way: TypeAlias = Literal["soft", "painter", "two-tones", "three-tones"]  # of lighting
ChartPlace: TypeAlias = Literal[
    "highlight", "lit", "halftone", "terminator", "core-shadow", "cast-shadow", "bounce", "crevice"
]  # a named place on a form, as the paint chart has it
AmountOf: TypeAlias = Annotated[float, Meta(ge=0, le=2)]
Darkest: TypeAlias = Annotated[float, Meta(ge=0, le=40)]  # L* that shades of a ramp end at
GreyTint: TypeAlias = Annotated[float, Meta(ge=0, le=0.04)]  # OKLCh chroma that greys take
LayersOf: TypeAlias = Literal["pictures", "repaintable"]  # how layers hold the light
Spacing: TypeAlias = Literal["even", "shade", "light"]  # where steps of a ramp lie closer
Ground: TypeAlias = Literal["floor", "wall", "sky"]
Standing: TypeAlias = Literal["floor", "wall", "air"]  # what a thing casts its shadow on
Value: TypeAlias = Annotated[float, Meta(ge=0, le=100)]  # L*, white D65
Chroma: TypeAlias = Annotated[float, Meta(ge=0, le=0.5)]  # OKLCh
Turn: TypeAlias = Annotated[float, Meta(ge=-360, le=360)]  # degrees
Angle: TypeAlias = Annotated[float, Meta(ge=0, lt=360)]  # degrees
Spread: TypeAlias = Annotated[float, Meta(ge=0, le=180)]  # degrees
Steps: TypeAlias = Annotated[int, Meta(ge=0, le=9)]
StepTurn: TypeAlias = Annotated[float, Meta(ge=0, le=60)]  # degrees
Share: TypeAlias = Annotated[float, Meta(ge=0, le=1)]
Hex: TypeAlias = Annotated[str, Meta(pattern=r"\A#[0-9a-f]{6}\Z")]
Purpose: TypeAlias = Annotated[str, Meta(max_length=200)]
Name: TypeAlias = Annotated[str, Meta(min_length=1, max_length=200)]
Id: TypeAlias = Annotated[str, Meta(pattern=r"\A[A-Za-z0-9_-]{1,40}\Z")]
Hash: TypeAlias = Annotated[str, Meta(pattern=r"\A[0-9a-f]{64}\Z")]  # SHA-256
Slot: TypeAlias = Literal["A", "B", "C", "D", "grey"]
Wheel: TypeAlias = Literal["painter", "light", "perceptual"]
LeadAt: TypeAlias = Literal["middle", "low", "high"]  # the end of the lower or higher angle
Times: TypeAlias = Annotated[float, Meta(ge=0, le=3)]
HalfArc: TypeAlias = Annotated[float, Meta(ge=1, le=90)]  # OKLCh degrees
Verdict: TypeAlias = Literal["", "kept", "rejected"]
Budget: TypeAlias = Annotated[int, Meta(ge=1, le=256)]  # colours
Setting: TypeAlias = Annotated[float, Meta(ge=0, le=100_000)]
Use: TypeAlias = Literal["", "spread", "cover", "poster", "card", "screen", "sprite"]
Front: TypeAlias = Annotated[int, Meta(ge=0, le=65535)]


class Record(Struct, frozen=True):
    """A part of the plan; never changed, only replaced."""
