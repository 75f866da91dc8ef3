"""The plan's records, in the route's order. They hold decisions only; everything else follows from
them in steps/. Stored as plan.json (docs/plan-format.md); ids are stable strings.

Dictionaries in a record are never changed in place: an edit makes a new record.
"""

from typing import Annotated, Literal, TypeAlias

from msgspec import Meta, field

from umber_compass.plan.first import First
from umber_compass.plan.moods import MoodWish
from umber_compass.plan.palettes import GivenPalette, Said, Swatch
from umber_compass.plan.rig import Rig
from umber_compass.plan.scene import Scene
from umber_compass.plan.terms import (
    AmountOf,
    Angle,
    Budget,
    ChartPlace,
    Chroma,
    Darkest,
    Form,
    Front,
    GreyTint,
    HalfArc,
    Hash,
    Hex,
    Id,
    LayersOf,
    LeadAt,
    Material,
    Name,
    Purpose,
    Record,
    Role,
    Setting,
    Share,
    Slot,
    Spacing,
    Spread,
    Steps,
    StepTurn,
    Times,
    Turn,
    Use,
    Value,
    Verdict,
    Wheel,
)
from umber_compass.plan.wishes import Falloff, FalloffOf, Focus, Wishes

SCHEMA = 3


class Planned(Record, tag_field="kind", tag="planned", frozen=True, kw_only=True):
    """A colour that follows the scheme: a slot's hue, turned, at a value and chroma."""

    slot: Slot
    hue_offset_deg: Turn = 0.0  # OKLCh degrees from the slot's hue
    value: Value
    chroma: Chroma


class Pinned(Record, tag_field="kind", tag="pinned", frozen=True, kw_only=True):
    """A colour that is given and stays."""

    hex: Hex


Solid: TypeAlias = Planned | Pinned
Axis: TypeAlias = tuple[Share, Share, Share, Share]


class Gradient(Record, tag_field="kind", tag="gradient", frozen=True, kw_only=True):
    """Two colours and the axis between them: x0, y0, x1, y1 as shares of width and height."""

    first: Planned | Pinned
    second: Planned | Pinned
    axis: Axis = (0.5, 0.0, 0.5, 1.0)


Colour: TypeAlias = Planned | Pinned | Gradient


class Region(Record, frozen=True, kw_only=True):
    """An area of the sketch that takes one local colour."""

    id: Id
    label: Annotated[int, Meta(ge=1, le=65535)]  # its pixels' number in regions.png
    name: Name
    role: Role
    material: Material = "matte"
    form: Form = "auto"
    shares_form_with: Id | None = None
    front: Front | None = None
    named: bool = False  # by the artist, or by the sketch; else the name is a first guess
    edge: Share | None = None  # how soft light turns to shade on it; None: as the way has it


Place: TypeAlias = Annotated[float, Meta(ge=-1, le=32768)]  # px


class Neck(Record, frozen=True, kw_only=True):
    """A gap between two lines of a sketch, px: closed, or one that may leak."""

    x0: Place
    y0: Place
    x1: Place
    y1: Place
    closed: bool


class Sketch(Record, frozen=True, kw_only=True):
    """The picture the plan is for. Its bytes and its label pixels lie beside the plan, by hash, so
    that an edit may replace the pixels and undo has the old ones."""

    file_name: Annotated[str, Meta(max_length=255)]
    hash: Hash  # of the picture's original bytes
    labels: Hash  # of the PNG that says which region each px belongs to
    size: tuple[Annotated[int, Meta(ge=1, le=32767)], Annotated[int, Meta(ge=1, le=32767)]]  # px
    kind: Id  # how it was split, as `flats`
    settings: dict[Id, Setting] = field(default_factory=dict)  # told to that kind; else its own
    shaded: bool = False  # whether it has light and dark of its own within its regions
    necks: Annotated[tuple[Neck, ...], Meta(max_length=4096)] = ()  # of line art


class Scheme(Record, frozen=True, kw_only=True):
    """Which hue leads, which answer; angles on the chosen wheel."""

    wheel: Wheel
    name: Id
    chosen: bool = True  # by the artist; else it is what the sketch was read to follow
    lead_deg: Angle
    spread_deg: Spread
    lead_at: LeadAt = "middle"  # where the lead stands among its neighbours
    # Wished; a slot left out takes the scheme's own wish.
    shares: dict[Slot, Share] = field(default_factory=dict)
    # Of the scheme called free: where B, C, D stand from the lead, wheel degrees.
    offsets: Annotated[tuple[Angle, ...], Meta(max_length=3)] = ()
    chroma: dict[Slot, Times] = field(default_factory=dict)  # of what its colours are planned with
    arcs: dict[Slot, HalfArc] = field(default_factory=dict)  # else the practice's


class Zones(Record, frozen=True, kw_only=True):
    """Small shifts of one colour over the parts of a face or another surface, by a school."""

    school: Id
    strength: Annotated[float, Meta(ge=0, le=2)] = 1.0
    axis: Axis | None = None  # from the brow to the jaw, on the picture; None: only in the palette


class Variation(Record, frozen=True, kw_only=True):
    """A second and a third colour near a region's own, in soft patches."""

    seed: Annotated[int, Meta(ge=1, le=1_000_000)] = 1
    strength: Annotated[float, Meta(ge=0, le=2)] = 0.0
    size: Annotated[float, Meta(ge=0.01, le=1)] = 0.08  # of the picture's width, a patch


class Reading(Record, frozen=True, kw_only=True):
    """A scheme that the sketch was read to follow, kept as it was found."""

    scheme: Scheme
    fit: Share  # of what has colour, that lies near its hues
    free: bool = False  # whether it is only the nearest: the sketch follows none
    near: bool = False  # whether it is as likely as the first


class Ramp(Record, frozen=True, kw_only=True):
    """How a region's darker and lighter steps are made."""

    recipe: Id = "straight"
    darker: Steps = 3
    lighter: Steps = 2
    degrees: StepTurn | None = None  # a step; None: the practice's
    tint: Hex | None = None  # what it leans to, is tinted with or goes to; None: the recipe's own
    spread: Spacing = "even"
    same_in_grey: bool = False  # at the values of straight steps
    dark_chroma: AmountOf = 1.0  # times the recipe's own chroma, in the darkest shade
    light_chroma: AmountOf = 1.0  # in the lightest light
    grey_tint: GreyTint = 0.014
    darkest: Darkest = 10.0  # unless the base is darker
    picked: Annotated[tuple[Hex, ...], Meta(max_length=12)] = ()  # whose way it borrows
    over: Annotated[tuple[Hex, ...], Meta(max_length=32)] = ()  # laid over its own shading's values


class ShadeOf(Record, frozen=True, kw_only=True):
    """A region's colour that is a step of another's ramp."""

    of: Id
    step: Annotated[int, Meta(ge=-9, le=9)] = -1  # from that region's own colour; minus is darker


ShadingHue: TypeAlias = Literal["kept", "cool-warm", "rig", "own", "ramp", "gradient"]
Doubled: TypeAlias = Annotated[float, Meta(ge=0, le=200)]  # percent


class Shading(Record, frozen=True, kw_only=True):
    """How the sketch's own light and dark goes through the colours."""

    on: bool = True
    strength: Doubled = 100.0  # of each px's difference from its region's mean value
    hue: ShadingHue = "kept"
    shade_hex: Hex = "#3c4a8c"  # whose hue shade leans to, and light, where those are its own
    light_hex: Hex = "#ffcf80"
    stops: Annotated[tuple[Hex, ...], Meta(max_length=32)] = ()  # of a gradient over all values
    beside: bool = False  # beside the forms, where the rig is on; else instead of them


class Study(Record, frozen=True, kw_only=True):
    """One complete colour version of the plan."""

    id: Id
    title: Name
    scheme: Scheme
    colours: dict[Id, Colour]
    recipes: dict[Id, Ramp] = field(default_factory=dict)
    rig: Rig | None = None  # None until the light is thought of; the picture is then flat
    shading: Shading | None = None  # None: as it is, where the sketch has any
    wishes: Wishes = Wishes()
    focus: Focus | None = None  # None: the regions whose role is focus
    falloff: dict[FalloffOf, Falloff] = field(default_factory=dict)  # wished; else the practice's
    locked: tuple[Id, ...] = ()  # regions whose colour nothing but the artist's own hand moves
    note: Annotated[str, Meta(max_length=2000)] = ""
    readings: Annotated[tuple[Reading, ...], Meta(max_length=3)] = ()  # likeliest first
    verdict: Verdict = ""
    reason: Said = ""  # why it was kept or rejected
    grown: Said = ""  # how it was made, in words
    proposal: bool = False  # one of the first colours that wait to be chosen; others replace it
    mood: MoodWish | None = None
    palette: GivenPalette | None = None  # from outside, laid over the regions
    extras: Annotated[tuple[Swatch, ...], Meta(max_length=64)] = ()  # colours of no region
    notes: dict[Id, Said] = field(default_factory=dict)  # of regions' colours
    row_order: tuple[Id, ...] = ()  # of the palette's rows; the others follow by family
    zones: dict[Id, Zones] = field(default_factory=dict)
    variations: dict[Id, Variation] = field(default_factory=dict)
    shades: dict[Id, ShadeOf] = field(default_factory=dict)  # regions tied to others
    within_budget: bool = False  # whether the steps of ramps keep to the plan's budget
    chart: dict[Id, dict[ChartPlace, Hex]] = field(default_factory=dict)  # corrected by hand


class Candidate(Record, frozen=True, kw_only=True):
    """Another sketch for the same piece, set aside with all that was decided for it."""

    id: Id
    sketch: Sketch
    regions: tuple[Region, ...]
    studies: tuple[Study, ...]
    current_study: Id
    scene: Scene = Scene()


class Brief(Record, frozen=True, kw_only=True):
    """What the piece is for, and how it will be seen."""

    use: Use = ""
    width_cm: Annotated[float, Meta(ge=0.5, le=2000)] | None = None  # None: as its use has it
    distance_cm: Annotated[float, Meta(ge=5, le=10000)] | None = None
    notes: Annotated[str, Meta(max_length=4000)] = ""


class Layers(Record, frozen=True, kw_only=True):
    """How the layered starter file is made."""

    light: LayersOf = "pictures"
    clipped: bool = True  # the light in each material's group; else above all of them
    things: bool = False  # the materials of a thing in a group of it
    grown: Annotated[int, Meta(ge=0, le=40)] = (
        3  # px that a material goes on beneath what is before
    )


class Reference(Record, frozen=True, kw_only=True):
    """A picture kept beside the plan. Its bytes lie beside it, by hash."""

    id: Id
    title: Name
    hash: Hash


class Plan(Record, frozen=True, kw_only=True):
    """Everything the artist decided. Sketch, regions and studies are those of the sketch that was
    chosen; the others wait among the candidates."""

    schema: Literal[3] = 3
    title: Name
    purpose: Purpose = ""
    practice: Id = "general"
    overrides: dict[str, float] = field(default_factory=dict)
    current_study: Id
    sketch: Sketch
    regions: tuple[Region, ...]
    studies: tuple[Study, ...]
    scene: Scene = Scene()
    candidates: tuple[Candidate, ...] = ()
    budget: Budget | None = None  # how many colours may be used; None: as many as it takes
    brief: Brief = Brief()
    first: First = First()
    layers: Layers = Layers()
    references: Annotated[tuple[Reference, ...], Meta(max_length=24)] = ()
