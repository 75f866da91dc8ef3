"""The colours a plan comes to: every region's colour as the screen shows it, with its measures."""

from collections.abc import Callable
from typing import NamedTuple

import numpy as np
import numpy.typing as npt
from msgspec.structs import replace

from umber_compass.colour.gamut import fit
from umber_compass.colour.spaces import (
    GREY_CHROMA,
    NO_HUE_CHROMA,
    Floats,
    decode,
    encode,
    oklab,
    parse_hex,
    polar,
    to_bytes,
    to_hex,
    value,
)
from umber_compass.plan.edits import (
    Edit,
    End,
    each_part,
    part,
    set_colour,
    study,
    with_colours,
    with_part,
)
from umber_compass.plan.model import Colour, Gradient, Pinned, Plan, Planned, Scheme, Solid
from umber_compass.steps.codes import GRADIENT_STEPS, Codes
from umber_compass.steps.harmony import planned_as, slot_hues
from umber_compass.words import Words, words


class Measured(NamedTuple):
    """One colour with its measures."""

    hex: str
    value: float  # L*, 0-100
    chroma: float  # OKLCh
    hue: float | None  # OKLCh degrees; None where there is none
    slot: str  # A-D, grey, or given for a pinned colour

    @property
    def is_grey(self) -> bool:
        """Whether it is called grey on screen: nearly no chroma, or nearly black or white."""
        return self.chroma < GREY_CHROMA or not 2 <= self.value <= 98.5


class RegionColour(NamedTuple):
    """A region's colour: one, or the two ends of a gradient."""

    first: Measured
    second: Measured | None

    @property
    def ends(self) -> tuple[Measured, ...]:
        """Its one or two colours."""
        return (self.first,) if self.second is None else (self.first, self.second)

    @property
    def mean_value(self) -> float:
        """Value L* in the middle of the region."""
        return sum(e.value for e in self.ends) / len(self.ends)


def end_names(colour: Colour) -> tuple[str, ...]:
    """What is added to a region's name for each of its colours: nothing for one colour, the place
    in the picture for the two ends of a gradient."""
    if not isinstance(colour, Gradient):
        return ("",)
    x0, y0, x1, y1 = colour.axis
    if abs(y1 - y0) >= abs(x1 - x0):
        return (" above", " below") if y0 <= y1 else (" below", " above")
    return (" left", " right") if x0 <= x1 else (" right", " left")


def measure(encoded: Floats, slot: str = "given") -> Measured:
    """An encoded colour, (3,), with its measures. It is measured as the file will hold it, in
    8-bit levels."""
    levels = to_bytes(np.asarray(encoded, float))
    return measured(levels[None], (slot,))[0]


def measure_hex(text: str) -> Measured:
    """A colour written as hex digits, with its measures. Raises Refusal if it is none."""
    return measure(parse_hex(text))


def measured(levels: npt.NDArray[np.uint8], slots: tuple[str, ...]) -> list[Measured]:
    """8-bit colours, (n, 3), with their measures."""
    light = decode(levels / 255)
    values, lch = value(light), polar(oklab(light))
    return [
        Measured(
            "#" + row.tobytes().hex(),
            float(v),
            float(c),
            float(h) if c >= NO_HUE_CHROMA else None,
            slot,
        )
        for row, v, (_, c, h), slot in zip(levels, values, lch, slots, strict=True)
    ]


def solid_levels(scheme: Scheme, solids: list[Planned | Pinned]) -> npt.NDArray[np.uint8]:
    """8-bit colours, (n, 3), of solid colours under a scheme."""
    hues = slot_hues(scheme)
    out = np.zeros((len(solids), 3), np.uint8)
    planned = [(i, s) for i, s in enumerate(solids) if isinstance(s, Planned)]
    for i, solid in enumerate(solids):
        if isinstance(solid, Pinned):
            out[i] = to_bytes(parse_hex(solid.hex))
    if planned:
        wish = np.array(
            [
                (s.value, s.chroma, hues.get(s.slot, hues["A"]) + s.hue_offset_deg)
                for _, s in planned
            ]
        )
        shown = to_bytes(encode(fit(wish[:, 0], wish[:, 1], wish[:, 2])))
        out[[i for i, _ in planned]] = shown
    return out


def region_colours(scheme: Scheme, colours: dict[str, Colour]) -> dict[str, RegionColour]:
    """Every region's colour under a scheme, by region id."""
    solids: list[Planned | Pinned] = []
    for colour in colours.values():
        solids += [part(colour, 0)]
        if isinstance(colour, Gradient):
            solids += [part(colour, 1)]
    slots = tuple(s.slot if isinstance(s, Planned) else "given" for s in solids)
    found = iter(measured(solid_levels(scheme, solids), slots)) if solids else iter(())
    return {
        k: RegionColour(next(found), next(found) if isinstance(c, Gradient) else None)
        for k, c in colours.items()
    }


def code_table(
    codes: Codes, labels: dict[str, int], colours: dict[str, RegionColour]
) -> npt.NDArray[np.uint8]:
    """8-bit colours by code, (codes, 3). A gradient is mixed on encoded values, as a painting
    program's gradient is, so that its two hexes are all one needs. Code 0 is white paper."""
    table = np.full((codes.size, 3), 255, np.uint8)
    for region_id, colour in colours.items():
        begin, end = codes.spans.get(labels[region_id], (0, 0))
        if end == begin:
            continue
        first = levels_of(colour.first.hex)
        table[begin:end] = first
        if colour.second is not None and end - begin > 1:
            t = np.linspace(0, 1, GRADIENT_STEPS)[:, None]
            mixed = first * (1 - t) + levels_of(colour.second.hex) * t
            table[begin:end] = (mixed + 0.5).astype(np.uint8)
    return table


def levels_of(text: str) -> npt.NDArray[np.uint8]:
    """The levels, (3,), of a hex that we wrote ourselves."""
    return np.frombuffer(bytes.fromhex(text[1:]), np.uint8)


def planned_from_hex(scheme: Scheme, text: str) -> Planned:
    """A measured colour in a scheme's terms."""
    m = measure_hex(text)
    return planned_as(scheme, m.value, m.chroma, m.hue)


def _now(plan: Plan, region_id: str, end: End) -> tuple[Colour, Planned | Pinned, Measured]:
    colour = study(plan).colours[region_id]
    shown = region_colours(study(plan).scheme, {region_id: colour})[region_id]
    return colour, part(colour, end), shown.ends[min(end, len(shown.ends) - 1)]


def _freed(plan: Plan, solid: Planned | Pinned) -> Planned:
    """A colour that can move: a pinned one is said in the scheme's terms."""
    if isinstance(solid, Planned):
        return solid
    return planned_from_hex(study(plan).scheme, solid.hex)


def set_value(region_id: str, end: End, wished: float, name: str) -> Edit:
    """A region's colour at another value; hue and chroma stay as planned, a pinned colour stays
    pinned to the moved colour."""
    kept = min(max(wished, 0.0), 100.0)
    return _changed(
        region_id,
        end,
        lambda solid: replace(solid, value=kept),
        words("set {name} to value {value:.0f}", name=name, value=kept),
        f"value {region_id} {end}",
    )


def set_chroma(region_id: str, end: End, wished: float, name: str) -> Edit:
    """A region's colour at another chroma."""
    kept = min(max(wished, 0.0), 0.4)
    return _changed(
        region_id,
        end,
        lambda solid: replace(solid, chroma=kept),
        words("set {name} to chroma {chroma:.3f}", name=name, chroma=kept),
        f"chroma {region_id} {end}",
    )


def set_hue_offset(region_id: str, end: End, offset_deg: float, text: Words) -> Edit:
    """A region's colour at another turn from its slot's hue, OKLCh degrees."""
    kept = (offset_deg + 180) % 360 - 180
    return _changed(
        region_id,
        end,
        lambda solid: replace(solid, hue_offset_deg=kept),
        text,
        f"hue {region_id} {end}",
    )


def _changed(
    region_id: str, end: End, change: Callable[[Planned], Planned], name: Words, merge: str
) -> Edit:
    def apply(plan: Plan) -> Plan:
        colour, solid, _ = _now(plan, region_id, end)
        moved: Planned | Pinned = change(_freed(plan, solid))
        if isinstance(solid, Pinned):
            scheme = study(plan).scheme
            moved = Pinned(hex=to_hex(solid_levels(scheme, [moved])[0] / 255))
        return with_colours(plan, {region_id: with_part(colour, end, moved)})

    return Edit(name, apply, merge)


def shift_values(moved: dict[str, float]) -> Callable[[Plan], Plan]:
    """A change of plan that moves the planned values of some regions, both ends of a gradient, by
    some L* each; given colours stay."""

    def shifted(by: float) -> Callable[[Solid], Solid]:
        def one(solid: Solid) -> Solid:
            if isinstance(solid, Pinned):
                return solid
            return replace(solid, value=min(max(solid.value + by, 0.0), 100.0))

        return one

    def apply(plan: Plan) -> Plan:
        colours = study(plan).colours
        return with_colours(
            plan, {r: each_part(colours[r], shifted(by)) for r, by in moved.items()}
        )

    return apply


def toggle_pin(plan: Plan, region_id: str, name: str) -> Edit:
    """A region's colour given as it is shown now; or, if it is given, following the scheme again
    from where it stands."""
    colour = study(plan).colours[region_id]
    if isinstance(part(colour, 0), Pinned):
        free = {e: _freed(plan, part(colour, e)) for e in (0, 1)}
        return set_colour(region_id, _both(colour, free), words("unpin {name}", name=name))
    shown = region_colours(study(plan).scheme, {region_id: colour})[region_id]
    pins = {e: Pinned(hex=shown.ends[min(e, len(shown.ends) - 1)].hex) for e in (0, 1)}
    return set_colour(region_id, _both(colour, pins), words("pin {name}", name=name))


def _both(colour: Colour, ends: "dict[int, Planned] | dict[int, Pinned]") -> Colour:
    if isinstance(colour, Gradient):
        return replace(colour, first=ends[0], second=ends[1])
    return ends[0]


def give_colour(region_id: str, hex_text: str, name: str) -> Edit:
    """A colour given to a region: it takes value, chroma and hue, in the scheme's terms."""

    def apply(plan: Plan) -> Plan:
        return with_colours(plan, {region_id: planned_from_hex(study(plan).scheme, hex_text)})

    return Edit(words("give {name} {hex}", name=name, hex=hex_text), apply)


def make_gradient(plan: Plan, region_id: str, name: str) -> Edit:
    """A region's colour as a gradient, its far end a little lighter; a gradient becomes one colour
    again."""
    colour = study(plan).colours[region_id]
    if isinstance(colour, Gradient):
        return set_colour(region_id, colour.first, words("make {name} one colour", name=name))
    solid = part(colour, 0)
    if isinstance(solid, Pinned):
        solid = _freed(plan, solid)
    lighter = replace(solid, value=solid.value + 12 if solid.value < 82 else solid.value - 12)
    gradient = Gradient(first=solid, second=lighter)
    return set_colour(region_id, gradient, words("make {name} a gradient", name=name))
