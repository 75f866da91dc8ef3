"""How far a proposal's colours may go: chroma by area, hue by the scheme, value by the light."""

import numpy as np

from umber_compass.colour.spaces import Floats, hue_distance
from umber_compass.picture.mixes import Ints
from umber_compass.plan.first import FirstLight
from umber_compass.steps.first.chains import Chain
from umber_compass.steps.first.lights import LIGHTS
from umber_compass.steps.first.materials import MATERIALS, range_in
from umber_compass.steps.first.paints import caps
from umber_compass.steps.first.search import Limits
from umber_compass.steps.first.task import FUR, Task
from umber_compass.steps.harmony.living import FLESH
from umber_compass.steps.harmony.scheme import slot_hues

_ARC = 26.0  # OKLCh degrees from a hue of the scheme, beyond which a colour is turned back
_LINE_CHROMA = 0.03
# L* below and above its base, that skin and fur may go in a light.
_BASES = {"skin": (14.0, 7.0), "fur": (17.0, 12.0)}
_LEAST = 0.5  # of the least chroma of a material, that the search leaves it
_MATERIAL_TURN, _FLESH_TURN = 14.0, 6.0  # degrees by which such a hue is turned at most


def keep_chroma(task: Task, paint: Ints, chroma: Floats) -> None:
    """Chroma under what the area of all that has a paint may have. In place."""
    area = task.things.area
    held = np.bincount(paint, area)[paint].astype(float)
    if task.focus is not None:
        held[task.focus] = area[task.focus]
    for q in [q for q in range(len(area)) if task.things.role[q] == "line"]:
        if q not in task.locked:
            chroma[q] = min(chroma[q], _LINE_CHROMA)
    free = np.ones(len(area), bool)
    free[list(task.locked)] = False
    top = caps(held, task.strength) * 1.05
    chroma[free] = np.minimum(chroma, top)[free]


def keep_hue(task: Task, chain: Chain, chroma: Floats, hue: Floats) -> None:
    """Hues that stray far from the scheme turned back as far as their material lets them; what
    still strays loses chroma where it may. In place."""
    hues = [h for s, h in slot_hues(chain.scheme).items() if s != "grey"]
    for thing in range(task.things.many):
        small = task.things.area[thing] < 0.004 or chroma[thing] < 0.03
        if small or thing in task.locked:
            continue
        far = min((float(hue_distance(hue[thing], h)) for h in hues), key=abs)
        over = abs(far) - _ARC
        if over <= 0:
            continue
        material = task.things.material[thing]
        bound = material in MATERIALS and not MATERIALS[material].noon.any_hue
        by = min(over, _FLESH_TURN if material in FLESH else _MATERIAL_TURN if bound else 180.0)
        hue[thing] = (hue[thing] + np.sign(far) * by) % 360
        if over - by > 1 and (not bound or MATERIALS[material].noon.low_chroma <= 0.036):
            chroma[thing] = min(chroma[thing], 0.029) if material not in FLESH else chroma[thing]


def limits_of(task: Task, chain: Chain) -> Limits:
    """How far each thing may go in a light."""
    things = task.things
    count = things.many
    value, chroma = np.zeros((count, 2)), np.zeros((count, 2))
    for q in range(count):
        value[q], chroma[q] = _limits_of(task, q, chain.light)
    if task.keeps_values:
        value[:] = (0.0, 100.0)
    cap = np.minimum(caps(things.area, task.strength) * 1.1, chroma[:, 1])
    for q, material in enumerate(things.material):
        if material in FLESH or (material in MATERIALS and material != "cloth"):
            cap[q] = chroma[q, 1]
    return Limits(value, chroma, cap)


def _limits_of(
    task: Task, q: int, light: FirstLight
) -> tuple[tuple[float, float], tuple[float, float]]:
    material, role = task.things.material[q], task.things.role[q]
    if role == "line":
        return (12.0, 20.0), (0.01, _LINE_CHROMA)
    if material not in MATERIALS or material == "cloth":
        low = 26.0 if role in ("figure", "focus") else 20.5
        high = 79.5 if task.things.area[q] > 0.08 else 88.0
        if light == "night":
            high = min(high, 70.0)
        wide = 8.0 if q == task.focus else 0.0
        return (max(low - wide, 20.5), high), (0.0, 0.2)
    own = range_in(material, light)
    span = own or MATERIALS[material].noon
    how = LIGHTS[light]
    dark, bright = span.dark, span.light
    if own is None:
        dark, bright = how.offset + how.slope * dark, how.offset + how.slope * bright
    if material in _BASES:  # one for all proposals
        base = task.skin if material == "skin" else FUR
        middle, (down, up) = how.offset + how.slope * base[0], _BASES[material]
        dark, bright = middle - down, middle + up
    wide = 8.0 if q == task.focus and material not in FLESH else 2.0
    loud = span.high_chroma * (1.4 if light == "festive" else 1.1)
    least = _LEAST * span.low_chroma * (1.0 if own is not None else how.chroma)
    return (max(dark - wide, 15.0), min(bright + wide, 93.0)), (least, loud)
