"""Pictures of known scheme, made by chance: what each region's hue, chroma and share are."""

from typing import NamedTuple

import numpy as np

from umber_compass.colour.spaces import Floats, hue_distance
from umber_compass.colour.wheels import hue_at
from umber_compass.plan.terms import Wheel
from umber_compass.steps.harmony.schemes import SCHEMES, SchemeSpec

_JITTER = 3.5  # OKLCh degrees of a region beside its needle
_LEADS = (0.42, 0.62)  # of the colour that the lead holds
_TOLD = 14.0  # OKLCh degrees between two needles
_ACCENT = 0.02  # of the picture that an answer holds at least

_WHEELS: tuple[Wheel, ...] = ("painter", "light", "perceptual")


class Made(NamedTuple):
    """One picture: (n,) each, and what it follows."""

    hues: Floats  # OKLCh degrees
    chromas: Floats
    areas: Floats
    wheel: Wheel
    scheme: str
    lead_hue: float


def _needles(rng: np.random.Generator, spec: SchemeSpec, wheel: Wheel) -> Floats:
    """A scheme's hues from a lead by chance, OKLCh degrees, the lead first."""
    for _ in range(1000):
        lead = rng.uniform(0, 360)
        angles = np.array([lead + n.at(float(spec.spread_deg)) for n in spec.needles])
        needles = hue_at(wheel, angles)
        apart = np.abs(hue_distance(needles[:, None], needles)) + 360 * np.eye(len(needles))
        if apart.min() >= _TOLD:
            return np.asarray(needles)
    raise AssertionError("no lead parts this scheme on this wheel")


def picture(seed: int) -> Made:
    """The picture of a seed; kinds and wheels take turns, greys hold up to 60 %. The lead holds
    most, and no two needles fall together: where a wheel is that narrow nobody could tell."""
    rng = np.random.default_rng(seed)
    spec = list(SCHEMES.values())[seed % len(SCHEMES)]
    wheel = _WHEELS[seed // len(SCHEMES) % len(_WHEELS)]
    needles = _needles(rng, spec, wheel)
    grey = rng.uniform(0, 0.6)
    coloured = 1 - grey
    first = rng.uniform(*_LEADS) if len(needles) > 1 else 1.0
    rest = rng.dirichlet(np.full(len(needles) - 1, 2.5)) if len(needles) > 1 else np.zeros(0)
    held = coloured * np.concatenate([[first], (1 - first) * rest])
    held[1:] = np.maximum(held[1:], _ACCENT)
    rows = []
    for needle, share in zip(needles, held, strict=True):
        parts = rng.dirichlet(np.full(rng.integers(1, 5), 3.0))
        for part in parts:
            chroma = rng.uniform(0.06, 0.15)
            rows.append((needle + rng.normal(0, _JITTER), chroma, share * part, needle))
    for part in rng.dirichlet(np.full(3, 3.0)):
        rows.append((rng.uniform(0, 360), rng.uniform(0, 0.015), grey * part, -1.0))
    hues, chromas, areas, of = np.array(rows).T
    holds = [float((chromas * areas)[of == n].sum()) for n in needles]
    for needle, own in zip(needles[1:], holds[1:], strict=True):
        if own > 0.85 * holds[0]:
            chromas[of == needle] *= 0.85 * holds[0] / own
    return Made(hues % 360, chromas, areas, wheel, spec.name, float(needles[0]))
