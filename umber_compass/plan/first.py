"""What is told to first colours: the light, the key, what stays (docs/first-colours.md)."""

from typing import Annotated, Literal, TypeAlias, get_args

from msgspec import Meta, field

from umber_compass.plan.terms import Hex, Id, Record

FirstLight: TypeAlias = Literal["noon", "overcast", "dusk", "night", "festive"]
FirstKey: TypeAlias = Literal["free", "high", "middle", "low", "dark-on-light", "light-on-dark"]
FirstValues: TypeAlias = Literal["auto", "free", "kept", "order"]
FirstScheme: TypeAlias = Literal["free", "wheel"]
SkinTone: TypeAlias = Literal["fair", "light", "tan", "olive", "brown", "dark"]
LIGHT_NAMES: tuple[FirstLight, ...] = get_args(FirstLight)
SKIN_TONES: tuple[SkinTone, ...] = get_args(SkinTone)


class First(Record, frozen=True, kw_only=True):
    """What the strip of questions above the study wall asks. Materials, roles and the focus stand
    with the regions; the most colours is the plan's budget."""

    lights: Annotated[tuple[FirstLight, ...], Meta(min_length=1, max_length=5)] = ("noon",)
    key: FirstKey = "free"
    values: FirstValues = "auto"  # auto: a grey sketch keeps its values, lines do not
    scheme: FirstScheme = "free"  # wheel: as the plan has it
    skin: SkinTone = "light"  # one for all proposals
    strength: Annotated[float, Meta(ge=0.3, le=1.6)] = 1.0  # times the usual chroma
    warm: Annotated[float, Meta(ge=0, le=1)] | None = None  # wished share of warm colours
    seed: Annotated[int, Meta(ge=1, le=1_000_000)] = 1
    kept: dict[Id, Hex] = field(default_factory=dict)  # colours that every proposal has
