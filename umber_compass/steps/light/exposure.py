"""One exposure for the plan's light, and what it could not hold."""

from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from umber_compass.colour.packed import Levels
from umber_compass.colour.spaces import (
    Floats,
    luminance,
    luminance_of_value,
    value,
    value_of_luminance,
)
from umber_compass.picture.codes import Codes
from umber_compass.picture.light import (
    Lights,
    facings,
    illumination,
    lights_of,
    normal_at,
    shouldered,
)
from umber_compass.picture.relief import Relief
from umber_compass.picture.relit import Arriving, Lit, arriving, light_up, local_light
from umber_compass.plan.model import Anchor, Region, Rig

HALFTONE = 0.5  # N.L of the key
_ROUNDS = 5  # of the exposure’s solution; it settles in three or four


class Held(NamedTuple):
    """Where the regions' colours stand among the codes, and what each region holds."""

    ids: tuple[str, ...]
    label: npt.NDArray[np.intp]
    first: npt.NDArray[np.intp]  # flat codes of both ends of a gradient, or twice the only one
    last: npt.NDArray[np.intp]
    share: npt.NDArray[np.float64]


def held_by_regions(
    relief: Relief | None, codes: Codes, regions: tuple[Region, ...]
) -> Held | None:
    """What each region holds among a relief's codes; None where there is no relief."""
    if relief is None:
        return None
    label = np.array([r.label for r in regions])
    spans = np.array([codes.spans.get(r.label, (0, 1)) for r in regions])
    held = np.bincount(relief.grain.label, relief.grain.pixels, int(label.max()) + 1)[label]
    ids = tuple(r.id for r in regions)
    return Held(ids, label, spans[:, 0], spans[:, 1] - 1, held / max(held.sum(), 1))


def light_arriving(relief: Relief | None, rig: Rig) -> Arriving | None:
    """The light that arrives on a relief in a rig, at exposure 1; None where there is none."""
    return None if relief is None else arriving(relief, lights_of(rig))


def in_light(
    relief: Relief | None, held: Held | None, table: Levels, light: Arriving | None, rig: Rig
) -> Lit | None:
    """The colours of every code in the rig's light, at the one exposure that suits the plan; None
    where the picture is flat. `table` is by flat code."""
    if relief is None or held is None or light is None:
        return None
    lights = lights_of(rig)
    local = local_light(table)
    own = (local[:, held.first] + local[:, held.last]).T / 2  # the mean of a gradient's ends
    if rig.anchor == "mean":
        there = light.means[np.minimum(held.label, len(light.means) - 1)]
    else:
        there = np.tile(anchor_light(rig.anchor, lights), (len(own), 1))
    exposed, rest = expose(own, there, held.share, lights)
    packed = light_up(relief, local, light.light, exposed.exposure)
    return Lit(exposed, packed, dict(zip(held.ids, rest.tolist(), strict=True)))


def anchor_light(anchor: Anchor, lights: Lights) -> Floats:
    """The light, (3,), on a material's lit side or its halftone, at the lights' exposure."""
    turn = 1.0 if anchor == "lit" else HALFTONE
    return np.asarray(light_at(np.array([turn]), np.ones(1), lights)[:, 0], float)


def light_at(turn: Floats, openness: Floats, lights: Lights) -> npt.NDArray[np.float32]:
    """The light, (3, n), where a form turns to the key by N.L and lies open, each (n,): the other
    lamps meet it at the normal that is seen best of those."""
    turns = turns_at(turn, lights)
    return illumination(turns, openness.astype(np.float32), lights)


def turns_at(turn: Floats, lights: Lights) -> list[npt.NDArray[np.float32]]:
    """N.L of every lamp, the key first, where a form turns to the key by N.L, (n,)."""
    if not lights.others:
        return [turn.astype(np.float32)]
    normals = np.array([normal_at(float(t), lights.key.direction) for t in turn], np.float32).T
    return [turn.astype(np.float32), *facings(normals, lights)[1:]]


def expose(local: Floats, light: Floats, share: Floats, lights: Lights) -> tuple[Lights, Floats]:
    """The lights with the one exposure that brings the anchored values nearest to the planned
    ones, and what remains of each, L* (regions,). `local` and `light` are linear, (regions, 3):
    each region's colour and the light on its anchor. Least squares in L*, weighted by share."""
    wished = value(local)
    there = np.maximum(luminance(local * light), 0)
    seen = there > 1e-9
    if not seen.any() or lights.is_dark:
        return lights, -wished
    weight = np.where(seen, np.maximum(share, 1e-6), 0)
    ratio = np.log(np.maximum(luminance_of_value(wished), 1e-6) / np.maximum(there, 1e-9))
    log = float((ratio * weight).sum() / weight.sum())
    for _ in range(_ROUNDS):
        y = there * np.exp(log)
        got = value_of_luminance(y)
        slope = np.where(y > 216 / 24389, (got + 16) / 3, got)
        step = (weight * slope * (wished - got)).sum() / max((weight * slope**2).sum(), 1e-9)
        log += float(np.clip(step, -2, 2))
    rest = value_of_luminance(shouldered(there * np.exp(log))) - wished
    return lights._replace(exposure=float(np.exp(log))), rest
