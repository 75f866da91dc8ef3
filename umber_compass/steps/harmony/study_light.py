"""The colours of several studies at once, as light, and as what studies are told apart by."""

from collections.abc import Sequence

import numpy as np

from umber_compass.colour.gamut import fit
from umber_compass.colour.spaces import Floats, decode, oklab, parse_hex
from umber_compass.plan.edits import part
from umber_compass.plan.model import Pinned, Planned, Study
from umber_compass.steps.harmony.scheme import slot_hues


def linears_of(studies: Sequence[Study], ids: Sequence[str]) -> Floats:
    """The colours of studies of one sketch as linear light, (studies, regions, 3), gradients in
    their middle, in the order of some region ids: all worked out at once."""
    rows = []
    for one in studies:
        hues, levels = slot_hues(one.scheme), one.scheme.chroma
        for region in ids:
            colour = one.colours[region]
            rows += [(part(colour, end), levels, hues) for end in (0, 1)]
    wish = np.array(
        [
            (s.value, s.chroma * c.get(s.slot, 1.0), h.get(s.slot, h["A"]) + s.hue_offset_deg)
            if isinstance(s, Planned)
            else (0.0, 0.0, 0.0)
            for s, c, h in rows
        ]
    ).reshape(-1, 3)
    linear = fit(wish[:, 0], wish[:, 1], wish[:, 2])
    for i, (solid, _, _) in enumerate(rows):
        if isinstance(solid, Pinned):
            linear[i] = decode(parse_hex(solid.hex))
    return np.asarray(linear.reshape(len(studies), len(ids), 2, 3).mean(axis=2))


def doubled(linear: Floats) -> Floats:
    """OKLab of colours, (n, 3), a and b doubled: hue is what a study is told by."""
    return np.asarray(oklab(linear) * np.array([1.0, 2.0, 2.0]))
