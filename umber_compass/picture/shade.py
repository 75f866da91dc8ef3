"""A local colour in a light, place by place: what chart, ramps, volumes and the exact picture are
made with, and what the coded picture is held to."""

from collections.abc import Sequence

import numpy as np

from umber_compass.picture.finishing import Parts, gloss, on_key, on_rest
from umber_compass.picture.light import (
    Lights,
    Surface,
    add_key,
    beside_key,
    facing,
    key_share,
    of_key,
)
from umber_compass.picture.screen import fitted
from umber_compass.picture.tint import tinted, tinting
from umber_compass.picture.ways import Planar, Row


def arriving_on(
    surface: Surface,
    lights: Lights,
    kept: Sequence[Row] | None = None,
    share: Row | None = None,
    parts: Parts | None = None,
) -> Planar:
    """All the light that arrives, (3, n), exposed. `kept`, 0-1, is the share of each lamp's light
    that nothing keeps away; `share` the whole share of the key's, its families and all, where it
    is known; `parts` the places of each finish."""
    cosine = facing(surface.normal, lights.key.direction)
    out = beside_key(surface, lights, kept)
    taken = of_key(surface, cosine, lights)
    if parts:
        on_key(taken, cosine, parts)
        on_rest(out, surface, cosine, lights, parts)
    whole = key_share(cosine, lights, surface.turned) if share is None else share
    taken *= whole if kept is None else whole * kept[0]
    add_key(out, taken, cosine, lights, surface.turned)
    out *= np.float32(lights.exposure)
    return out


def shade(
    local: Planar,
    surface: Surface,
    lights: Lights,
    kept: Sequence[Row] | None = None,
    share: Row | None = None,
    parts: Parts | None = None,
    more: Planar | None = None,
) -> Planar:
    """What local colours (3, n), linear light, become: linear light the screen can show. `more` is
    light that arrives beside the lamps', (3, n), whatever the exposure is: what glows is seen
    as it is planned."""
    cosine = facing(surface.normal, lights.key.direction)
    out = arriving_on(surface, lights, kept, share, parts)
    if more is not None:
        out += more
    out *= local
    shine = gloss(surface, cosine, lights, parts) if parts else None
    if shine is not None:
        whole = np.ones_like(cosine) if share is None else share
        if kept is not None:
            whole = whole * kept[0]
        there = whole[shine.at] * shine.shape
        out[:, shine.at] += shine.light * (there * np.float32(lights.exposure))
    out = tinted(out, tinting(cosine, lights, surface.turned))
    for finish, at in (parts or {}).items():
        if not finish.lit:
            out[:, at] = local[:, at] if more is None else local[:, at] * (1 + more[:, at])
    return fitted(out)
