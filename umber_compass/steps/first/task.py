"""What is to be coloured, all that was told resolved into numbers by thing."""

from typing import NamedTuple

import numpy as np
import numpy.typing as npt
from msgspec import structs

from umber_compass.colour.measured import measure_hex
from umber_compass.colour.spaces import Floats
from umber_compass.plan.edits import study
from umber_compass.plan.first import First, FirstLight, SkinTone
from umber_compass.plan.model import Pinned, Plan, Region, Scheme
from umber_compass.steps.first.faces import face_parts, facelike, guess_focus
from umber_compass.steps.first.lights import LIGHTS
from umber_compass.steps.first.materials import material_of
from umber_compass.steps.first.things import Things, outlines_of, things_of
from umber_compass.steps.first.value_keys import keys_of
from umber_compass.steps.focus.attention import focus_labels
from umber_compass.steps.focus.lattice import Lattice
from umber_compass.steps.harmony.colours import region_colours
from umber_compass.steps.pipeline import Derived
from umber_compass.words import Refusal, words

Flags = npt.NDArray[np.bool_]

# L*, OKLCh chroma and hue of each skin in white light (studio rule, docs/first-colours.md).
SKINS: dict[SkinTone, tuple[float, float, float]] = {
    "fair": (81.0, 0.040, 52.0),
    "light": (75.0, 0.054, 55.0),
    "tan": (67.0, 0.068, 57.0),
    "olive": (62.0, 0.058, 65.0),
    "brown": (50.0, 0.064, 54.0),
    "dark": (38.0, 0.048, 50.0),
}
FUR = (58.0, 0.088, 56.0)  # the same of fur
_THIN = 0.5  # thinness from which a line is one
_NECK = -7.0  # L* of a neck under its face
_MOST_DETAIL = 0.6  # of detail, as which a flat proposal is searched
COLOURS = 12  # that a proposal has at most before each more costs


class Task(NamedTuple):
    """Things to be coloured. Arrays are by thing, (m,), or by region, (n,), in the plan's order."""

    things: Things
    focus: int | None  # a thing
    guessed: bool  # whether the focus is only guessed
    lights: tuple[FirstLight, ...]
    keys: dict[FirstLight, list[str]]
    scheme: Scheme | None  # that must be kept; None: any
    wheel: str
    skin: tuple[float, float, float]
    strength: float
    warm: float | None
    most: int  # colours
    strict: bool  # whether the artist set that number
    values: str  # free, kept or order
    value: Floats  # (m,) L* as drawn
    locked: dict[int, tuple[float, float, float]]  # things that stay: L*, chroma, hue
    follows: dict[int, tuple[int, float]]  # things coloured as another, so much lighter, L*
    detail: Floats  # (n,)
    near: Floats  # (n, n) how much each counts for another's mean neighbour
    size: Floats  # (n,)
    is_line: Flags  # (n,) lines and outlines draw no eye
    seed: int

    @property
    def keeps_values(self) -> bool:
        """Whether values are dealt by the drawing, not by the key."""
        return self.values != "free"


def task_of(derived: Derived, kept: dict[str, str]) -> Task:
    """What first colours are asked for by a plan, its slow stages worked out; `kept` are colours,
    hexes by region, that every proposal has. Raises Refusal where nothing is left to colour."""
    plan, told = derived.plan, derived.plan.first
    lattice = derived.lattice
    assert lattice is not None
    regions = tuple(_no_line(r, lattice) for r in plan.regions)
    lying = outlines_of(regions, lattice, derived.drawing)
    materials = [material_of(r) for r in regions]
    values = _values_of(told, derived)
    each = np.array([derived.colours[r.id].mean_value for r in regions])
    apart = each if values != "free" else np.zeros(len(regions))
    things = things_of(regions, lying, [], materials, apart)
    focus, guessed = _focus(things, derived)
    things, focus, follows = _with_face(things, focus, materials, apart)
    if focus is not None:
        things.role[focus] = "focus"
    labels = np.array([r.label for r in regions])
    weight = np.bincount(things.of, lying.share, things.many)
    value = np.bincount(things.of, each * lying.share, things.many) / np.maximum(weight, 1e-9)
    locked = _locked(plan, things, kept)
    if len(locked) == things.many:
        line = words("is fixed, locked or kept; free one to have colours proposed")
        raise Refusal("every region", line)
    looked = derived.attention
    detail = np.zeros(len(regions)) if looked is None else looked.pull.parts[3][labels]
    return Task(
        things=things,
        focus=focus,
        guessed=guessed,
        lights=told.lights,
        keys={light: keys_of(told.key, LIGHTS[light].keys) for light in told.lights},
        scheme=study(plan).scheme if told.scheme == "wheel" else None,
        wheel=study(plan).scheme.wheel,
        skin=SKINS[told.skin],
        strength=told.strength,
        warm=told.warm,
        most=min(COLOURS, plan.budget or COLOURS),
        strict=plan.budget is not None,
        values=values,
        value=value,
        locked=locked,
        follows={t: f for t, f in follows.items() if t not in locked},
        detail=np.minimum(detail, _MOST_DETAIL),
        near=lattice.near[np.ix_(labels, labels)],
        size=lattice.size[labels],
        is_line=lattice.is_line[labels] | np.array([r.role == "line" for r in regions]),
        seed=told.seed,
    )


def _no_line(region: Region, lattice: Lattice) -> Region:
    """A region that was guessed to be a line, but is as wide as a thing, as that thing."""
    thin = float(lattice.thin[region.label]) >= _THIN
    return region if region.role != "line" or thin else structs.replace(region, role="figure")


def _values_of(told: First, derived: Derived) -> str:
    """Whether values are free, kept, or kept in order: as it is said, else kept where the sketch
    has greys of its own; those of a line drawing are only dealt to tell its areas apart."""
    if told.values != "auto":
        return told.values
    drawn = derived.plan.sketch.kind != "lines" and not derived.unpainted
    return "kept" if derived.uncoloured and drawn else "free"


def _focus(things: Things, derived: Derived) -> tuple[int | None, bool]:
    """The thing that should be seen first, and whether that is only a guess."""
    assert derived.lattice is not None
    own = focus_labels(derived.lattice, derived.regions, derived.focus)
    at = [i for i, r in enumerate(derived.regions) if r.label in own]
    if at:
        return int(things.of[max(at, key=lambda i: things.outlines.share[i])]), False
    return guess_focus(things), True


def _with_face(
    things: Things, focus: int | None, materials: list[str], values: Floats
) -> tuple[Things, int | None, dict[int, tuple[int, float]]]:
    """The things with the parts of a face known, where the focus is one: told as skin or fur, or
    looking like a face."""
    if focus is None:
        return things, None, {}
    material = things.material[focus]
    if not material and facelike(things, focus) > 1:
        material = "creature"
    if material not in ("skin", "fur", "creature"):
        return things, focus, {}
    lead = int(things.members(focus)[0])
    parts, alike = face_parts(things, focus, material)
    known = list(materials)
    for i in things.members(focus):
        known[i] = material
    for i, made in parts.items():
        known[i] = known[i] or made
    pairs = [(group[0], i) for group in alike[:-1] for i in group[1:]]
    whole = things_of(things.regions, things.outlines, pairs, known, values)
    face = int(whole.of[lead])
    follows = {}
    middle = whole.outlines.centre[lead, 1]
    for i in alike[-1][1:]:
        own = int(whole.of[i])
        if own != face:
            below = whole.outlines.centre[i, 1] > middle and whole.outlines.share[i] > 0.004
            follows[own] = (face, _NECK if below else 0.0)
    return whole, face, follows


def _locked(
    plan: Plan, things: Things, kept: dict[str, str]
) -> dict[int, tuple[float, float, float]]:
    """Things whose colour stays: fixed, locked, or kept from a proposal."""
    now, found = study(plan), {}
    shown = region_colours(now.scheme, now.colours)
    for i, region in enumerate(plan.regions):
        colour = now.colours[region.id]
        fixed = region.id in now.locked or isinstance(colour, Pinned)
        if region.id in kept:
            seen = measure_hex(kept[region.id])
        elif fixed:
            seen = shown[region.id].first
        else:
            continue
        found[int(things.of[i])] = (seen.value, seen.chroma, seen.hue or 0.0)
    return found
