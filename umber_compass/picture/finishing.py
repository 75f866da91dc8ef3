"""What surfaces' finishes do with the light that arrives on them (finish.py has their numbers)."""

from collections.abc import Mapping
from typing import NamedTuple, TypeAlias

import numpy as np

from umber_compass.picture.finish import Finish
from umber_compass.picture.light import Lights, Surface, unit
from umber_compass.picture.mixes import Ints, Labels
from umber_compass.picture.ways import WAYS, Planar, Row, reached

Parts: TypeAlias = Mapping[Finish, Ints]  # which places have which finish, matte ones left out

_THROUGH = (1.15, 1.1, 0.6)  # what comes through a leaf or a wing is warmer (studio rule)
_EVEN = 0.8  # what a wholly rough surface takes of a lamp, whichever way it turns
_HORIZON, _BROAD = 0.12, (0.80, 0.14)  # of a mirror: width in r_y; where its highlight begins
_VIEW = (0.0, 0.0, 1.0)
_TURNED = -0.08  # N.L, beyond which no highlight can lie


class Gloss(NamedTuple):
    """Highlights: light that is added whatever the local colour is."""

    at: Ints  # (k,) places that can have one
    light: Planar  # (3, k) that is added in the middle of it, at exposure 1
    shape: Row  # (k,) how much of it is there, 0-1


def on_key(taken: Row, cosine: Row, parts: Parts) -> Row:
    """How much of the key's light surfaces take, (n,), as their finishes have it. In place."""
    for finish, at in parts.items():
        if finish.rough:
            even = np.minimum(np.maximum(cosine[at], 0) * 4, np.float32(_EVEN))
            taken[at] += np.float32(finish.rough) * (np.maximum(even, taken[at]) - taken[at])
        if finish.mirror:
            taken[at] *= np.float32(1 - finish.mirror)
    return taken


def on_rest(rest: Planar, surface: Surface, cosine: Row, lights: Lights, parts: Parts) -> Planar:
    """The light beside the key's, (3, n), as finishes have it: what goes round the edge of skin,
    what comes through thin things, what metal mirrors. In place."""
    key = lights.key.light
    for finish, at in parts.items():
        t = cosine[at]
        if any(finish.wrap):
            away = np.clip(1 - 2 * np.maximum(t, 0), 0, 1)
            for i, (wrap, shade) in enumerate(zip(finish.wrap, finish.shade, strict=True)):
                rest[i, at] *= 1 + np.float32(shade - 1) * away
                rest[i, at] += np.float32(key[i]) * (reached(t, wrap) - np.maximum(t, 0))
        if finish.through:
            behind = np.maximum(-t, 0) * np.float32(finish.through)
            for i, tint in enumerate(_THROUGH):
                rest[i, at] += behind * np.float32(key[i] * tint)
        if finish.mirror:
            _mirror(rest, surface, lights, finish, at)
    return rest


def _mirror(rest: Planar, surface: Surface, lights: Lights, finish: Finish, at: Ints) -> None:
    """Sky above, ground below, a dark horizon between them, by where the mirrored view goes."""
    down = 2 * surface.normal[2, at] * surface.normal[1, at]
    above = _smooth((-down - np.float32(0.02)) / np.float32(_HORIZON))
    below = (1 - above) * _smooth((down + np.float32(0.05)) / np.float32(0.5))
    ground = lights.ambient if lights.ground is None else lights.ground
    high = above * (np.float32(0.55) + np.float32(0.6) * np.clip(-down, 0, 1))
    share, open_ = np.float32(finish.mirror), surface.occlusion[at]
    for i in range(3):
        seen = high * np.float32(1.5 * lights.ambient[i]) + below * np.float32(0.75 * ground[i])
        rest[i, at] = (1 - share) * rest[i, at] + share * np.float32(1.5) * seen * open_


def gloss(surface: Surface, cosine: Row, lights: Lights, parts: Parts) -> Gloss | None:
    """The key's highlights on what is shiny; None where there are none."""
    found = []
    for finish, at in parts.items():
        if finish.gloss and lights.highlights and lights.key.light.any():
            faced = at[(cosine[at] > _TURNED) & surface.turned[at]]
            shape = shine(surface.normal[:, faced], lights, finish)
            found.append((faced, shape, np.full(len(faced), finish.gloss, np.float32)))
    if not found:
        return None
    at, shape, strength = (np.concatenate(column) for column in zip(*found, strict=True))
    light = strength * lights.key.light.astype(np.float32)[:, None]
    return Gloss(at, np.asarray(light, np.float32), shape)


def shine(normal: Planar, lights: Lights, finish: Finish) -> Row:
    """How much of the key's highlight lies where surfaces of a finish turn so, (n,), 0-1."""
    if finish.mirror:
        mirrored = [2 * normal[2] * normal[i] - _VIEW[i] for i in range(3)]
        along = sum(m * np.float32(d) for m, d in zip(mirrored, lights.key.direction, strict=True))
        begin, wide = _BROAD
        return _smooth(np.asarray((along - begin) / wide, np.float32))
    x, y, z = lights.key.direction
    half = unit((x, y, z + 1.0))
    turn = np.clip(sum(n * np.float32(h) for n, h in zip(normal, half, strict=True)), 0, 1)
    found = np.asarray(turn ** np.float32(finish.exponent), np.float32)
    if WAYS[lights.way].steps:  # a shape of its own, as a painter sets it
        found = _smooth((found - np.float32(0.35)) / np.float32(0.3))
    return found


def _smooth(step: Row) -> Row:
    step = np.clip(step, 0, 1)
    return np.asarray(step * step * (3 - 2 * step), np.float32)


def parts_of(finishes: Mapping[int, Finish], label: Labels | Ints) -> Parts:
    """The places of labels, (n,), by their finish."""
    if not finishes:
        return {}
    found: dict[Finish, list[int]] = {}
    for one, finish in finishes.items():
        found.setdefault(finish, []).append(one)
    return {f: np.flatnonzero(np.isin(label, many)) for f, many in found.items()}
