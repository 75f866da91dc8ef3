"""What the plan's own light makes of a colour: from crevice and shadow through halftone to lit and
beyond, at the values that straight steps have. The base stays as it is: the light is balanced so
that it leaves the base alone, and turns what is darker and lighter."""

import numpy as np

from umber_compass.colour.gamut import fit
from umber_compass.colour.spaces import (
    Floats,
    decode,
    encode,
    luminance,
    oklab,
    polar,
    value_of_luminance,
)
from umber_compass.picture.light import Lights, lights_of
from umber_compass.picture.tint import Tint, tinted, tinting
from umber_compass.plan.rig import Rig
from umber_compass.steps.light.exposure import light_at
from umber_compass.steps.ramps.recipes.recipe import (
    Ask,
    RecipeSpec,
    base_lch,
    colourfulness,
    ladder,
    with_base,
)


def _steps(ask: Ask) -> Floats:
    lights = ask.lights if ask.lights is not None else lights_of(Rig())
    base, chroma, _ = base_lch(ask)
    local = decode(ask.base)
    light, tint = _from_dark_to_light(lights)
    reached = np.maximum.accumulate(luminance(local * light))
    if lights.is_dark or reached[-1] <= 0:
        return with_base(encode(fit(ladder(base, ask), chroma, base_lch(ask)[2])), ask)
    # What stands at the base's place among these lights is taken as white.
    there = np.array([np.interp(0.6, _along(light), light[:, i]) for i in range(3)])
    balanced = local * light / np.maximum(there, 1e-9)
    balanced = tinted(balanced.T.astype(np.float32), tint).T.astype(float)
    seen = value_of_luminance(np.maximum.accumulate(luminance(balanced)))
    _, chromas, hues = polar(oklab(balanced)).T
    wished = ladder(base, ask)
    hue = np.interp(wished, seen, np.unwrap(hues, period=360))
    kept = np.interp(wished, seen, chromas)
    kept = chroma + (kept - chroma) * colourfulness(ask)
    return with_base(encode(fit(wished, kept, hue)), ask)


def _along(light: Floats) -> Floats:
    """How far each light stands between the least and the light of a lit side, 0-1 and beyond."""
    lum = np.maximum.accumulate(luminance(light))
    span = max(float(lum[_LIT_SIDE] - lum[0]), 1e-9)
    return np.asarray((lum - lum[0]) / span)


_LIT_SIDE = 8 + 40  # where the lit side stands among the lights below


def _from_dark_to_light(lights: Lights) -> tuple[Floats, Tint | None]:
    """The light, (n, 3), in ever less closed crevices, round a form to its lit side, and beyond;
    and the terminator's tint in them."""
    crevices = np.linspace(0.1, 1, 8, endpoint=False)
    cosine = np.concatenate([np.full(8, -1.0), np.linspace(-1, 1, 41)]).astype(np.float32)
    occlusion = np.concatenate([crevices, np.ones(41)]).astype(np.float32)
    found = light_at(cosine, occlusion, lights._replace(exposure=1.0)).T.astype(float)
    beyond = found[-1] + lights.key.light * np.linspace(0.1, 4, 30)[:, None]
    every = np.concatenate([cosine, np.ones(len(beyond), np.float32)])
    return np.concatenate([found, beyond]), tinting(every, lights)


RECIPE = RecipeSpec("rig", "from the rig", "what the plan’s light makes of it", False, _steps, True)
