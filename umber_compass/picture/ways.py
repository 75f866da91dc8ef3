"""Ways of lighting: how much of a lamp's light a form takes as it turns away from it.

A way says two things of N.L, the cosine to the lamp: how strongly what is in the light is lit, and
which share of it the light reaches: 1 in the light family, 0 in the shade family, between them an
edge. The share is found px by px, the strength by code (docs/light.md).
"""

from typing import NamedTuple, TypeAlias

import numpy as np
import numpy.typing as npt

from umber_compass.plan.terms import Way

Row: TypeAlias = npt.NDArray[np.float32]  # (n,)
Planar: TypeAlias = npt.NDArray[np.float32]  # (3, n), a row for each channel

_HARD, _SOFT = 0.10, 0.30  # width of the painter's edge in N.L, by the lamp's softness
_TONE_EDGE = 0.03


class WaySpec(NamedTuple):
    """A way of lighting. `steps` are where an edge lies, N.L, and the share that it parts."""

    name: Way
    title: str
    says: str
    steps: tuple[tuple[float, float], ...]  # none: no families, the light gives way softly
    even: float  # of its strength, what all of the light family takes; the rest follows N.L
    edge: float | None  # how wide the edge is; None: as soft as the lamp
    sharper: float  # how much the colour gains in saturation where light turns


# Edges and shares: studio rules, chosen by the share of round px between the families
# (docs/light.md has the figures).
WAYS: dict[Way, WaySpec] = {
    w.name: w
    for w in (
        WaySpec("soft", "soft", "light gives way gradually round every form", (), 0.0, None, 0.0),
        WaySpec(
            "painter",
            "painter",
            "a light family and a shade family, with a narrow edge between them",
            ((0.0, 1.0),),
            0.6,
            None,
            0.2,
        ),
        WaySpec(
            "two-tones",
            "two tones",
            "one light and one shade colour, with a clear edge",
            ((0.1, 1.0),),
            1.0,
            _TONE_EDGE,
            0.12,
        ),
        WaySpec(
            "three-tones",
            "three tones",
            "light, halftone and shade, each with a clear edge",
            ((0.06, 0.62), (0.62, 0.38)),
            1.0,
            _TONE_EDGE,
            0.12,
        ),
    )
}


def edge_of(way: Way, softness: float) -> float:
    """How wide the edge between light and shade is, in N.L, for a lamp of this softness."""
    told = WAYS[way].edge
    return _HARD + (_SOFT - _HARD) * softness if told is None else told


def reached(cosine: Row, wrap: float) -> Row:
    """How much of a lamp's light a surface takes, 0-1, at N.L (n,), where there are no families.
    Within the wrap it gives way as a parabola, so that the terminator is soft; outside it is the
    cosine."""
    if wrap < 1e-3:
        return np.maximum(cosine, 0)
    w = np.float32(wrap)
    soft = np.clip(cosine, -w, w)
    soft += w
    soft *= soft
    soft *= np.float32(1 / (4 * wrap))
    return np.where(cosine > w, cosine, soft)


def strength_of(cosine: Row, way: Way, wrap: float, turned: npt.NDArray[np.bool_]) -> Row:
    """How strongly what the light reaches is lit, 0-1, at N.L (n,). What is not `turned`, a flat
    wall or a floor, has no families: it takes the cosine."""
    spec = WAYS[way]
    if not spec.steps:
        return reached(cosine, wrap)
    faced = np.maximum(cosine, 0)
    drawn = np.float32(spec.even) + np.float32(1 - spec.even) * faced
    return np.where(turned, drawn, faced)


def share_of(cosine: Row, way: Way, edge: Row | float) -> Row:
    """The share of its light, 0-1, that reaches what turns to a lamp by N.L (n,)."""
    spec = WAYS[way]
    found = np.zeros_like(cosine)
    if not spec.steps:
        found += 1
        return found
    for at, share in spec.steps:
        # A soft edge lies a little more in the light than in the shade.
        begin = at - (0.35 * edge if spec.edge is None else 0.5 * edge)
        step = np.clip((cosine - begin) / edge, 0, 1)
        found += np.float32(share) * (step * step * (3 - 2 * step))
    return found
