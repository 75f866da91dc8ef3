"""The colours a plan comes to: every region's colour as the screen shows it, with its measures."""

from collections.abc import Iterable
from typing import Any, NamedTuple, TypeAlias

import numpy as np
import numpy.typing as npt

from umber_compass.colour.gamut import fit
from umber_compass.colour.measured import Measured, levels_of, measured
from umber_compass.colour.shaded import TwoLights, shaded
from umber_compass.colour.spaces import encode, parse_hex, to_bytes
from umber_compass.picture.indexed import IndexedPicture
from umber_compass.picture.light import lights_of
from umber_compass.plan.edits import part
from umber_compass.plan.model import (
    Colour,
    Gradient,
    Pinned,
    Planned,
    Region,
    Rig,
    Scheme,
    Shading,
)
from umber_compass.steps.harmony.scheme import slot_hues


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
                (
                    s.value,
                    s.chroma * scheme.chroma.get(s.slot, 1.0),
                    hues.get(s.slot, hues["A"]) + s.hue_offset_deg,
                )
                for _, s in planned
            ]
        )
        shown = to_bytes(encode(fit(wish[:, 0], wish[:, 1], wish[:, 2])))
        out[[i for i, _ in planned]] = shown
    return out


_Before: TypeAlias = tuple[tuple[Any, ...], dict[str, RegionColour]]


def region_colours(
    scheme: Scheme, colours: dict[str, Colour], before: _Before | None = None
) -> dict[str, RegionColour]:
    """Every region's colour under a scheme, by region id. `before` is the scheme and the colours of
    an earlier call with what it gave: under the same scheme only the colours that changed are
    worked out."""
    if before is None or before[0][0] is not scheme:
        return _worked_out(scheme, colours)
    (_, planned), found = before
    changed = {k: c for k, c in colours.items() if planned.get(k) is not c}
    fresh = _worked_out(scheme, changed)
    return {k: fresh[k] if k in fresh else found[k] for k in colours}


def _worked_out(scheme: Scheme, colours: dict[str, Colour]) -> dict[str, RegionColour]:
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


def shading_told(told: Shading | None, percent: float) -> Shading:
    """How the sketch's own shading goes through: as the study says, else at the practice's
    strength."""
    return Shading(strength=min(max(percent, 0.0), 200.0)) if told is None else told


def code_table(
    indexed: IndexedPicture,
    regions: Iterable[Region],
    colours: dict[str, RegionColour],
    shading: Shading | None = None,
    rig: Rig | None = None,
) -> npt.NDArray[np.uint8]:
    """8-bit colours by code, (codes, 3). A gradient is mixed on encoded values, as a painting
    program's gradient is, so that its two hexes are all one needs. Code 0 is white paper. The
    artist's own shading goes through them where the sketch has any; `rig` gives its hues where it
    is to."""
    table = np.full((indexed.size, 3), 255, np.uint8)
    held = [(colours[r.id], *indexed.spans.get(r.label, (0, 0))) for r in regions]
    held = [h for h in held if h[2] > h[1]]
    firsts = np.frombuffer(bytes.fromhex("".join([c.first.hex[1:] for c, _, _ in held])), np.uint8)
    begins, ends = np.array([h[1] for h in held], np.intp), np.array([h[2] for h in held], np.intp)
    length = ends - begins
    at = np.repeat(begins - np.cumsum(length) + length, length) + np.arange(int(length.sum()))
    table[at] = np.repeat(firsts.reshape(-1, 3), length, axis=0)
    for n, (colour, begin, end) in enumerate(held):
        if colour.second is not None and end - begin > 1:
            first = firsts[3 * n : 3 * n + 3]
            t = indexed.along[begin:end, None]
            mixed = first * (1 - t) + levels_of(colour.second.hex) * t
            table[begin:end] = (mixed + 0.5).astype(np.uint8)
    if indexed.off is not None and shading is not None and shading.on:
        return _through(table, indexed.off, shading, rig)
    return table


def _through(
    table: npt.NDArray[np.uint8], off: npt.NDArray[np.float32], shading: Shading, rig: Rig | None
) -> npt.NDArray[np.uint8]:
    """Local colours by code with the sketch's own shading."""
    moved = off.astype(float) * (shading.strength / 100)
    lights = lights_of(rig) if rig is not None else None
    two = None
    if lights is not None and not lights.is_dark:
        two = TwoLights(lights.ambient, lights.key.light)
    hue = "kept" if shading.hue == "rig" and two is None else shading.hue
    shown = to_bytes(shaded(table / 255, moved, hue, two))
    shown[0] = table[0]
    return shown
