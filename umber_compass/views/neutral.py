"""One of hue, chroma and detail made neutral, to see which of them carries a place. Value made
neutral is the view of colour only."""

from collections.abc import Callable

import numpy as np

from umber_compass.colour.gamut import fit
from umber_compass.colour.spaces import Floats, decode, encode, oklab, polar, value
from umber_compass.views.colour_only import each_colour
from umber_compass.views.view import About, Picture, ViewSpec


def _changed(picture: Picture, change: Callable[[Floats, Floats], Floats]) -> Picture:
    """A picture whose colours' value, chroma and hue, (n, 3), were changed; the change is told how
    many px each colour has."""

    def one(mean: Floats, count: Floats) -> Floats:
        light = decode(mean / 255)
        lch = polar(oklab(light))
        lch[:, 0] = value(light)
        new = change(lch, count)
        return encode(fit(new[:, 0], new[:, 1], new[:, 2]))

    return each_colour(picture, one)


def _one_hue(lch: Floats, count: Floats) -> Floats:
    weight = count * lch[:, 1]
    angle = np.radians(lch[:, 2])
    middle = np.degrees(np.arctan2((np.sin(angle) * weight).sum(), (np.cos(angle) * weight).sum()))
    return np.stack([lch[:, 0], lch[:, 1], np.full(len(lch), middle)], axis=1)


def _one_chroma(lch: Floats, count: Floats) -> Floats:
    mean = float((lch[:, 1] * count).sum() / max(float(count.sum()), 1.0))
    return np.stack([lch[:, 0], np.full(len(lch), mean), lch[:, 2]], axis=1)


def _no_detail(picture: Picture, about: About) -> Picture:
    if about.labels is None:
        return picture
    flat = about.labels.reshape(-1).astype(np.intp)
    count = np.maximum(np.bincount(flat), 1)
    mean = [np.bincount(flat, picture[..., i].reshape(-1)) / count for i in range(3)]
    return np.ascontiguousarray(
        np.asarray(np.stack(mean, axis=1) + 0.5).astype(np.uint8)[about.labels]
    )


VIEWS = (
    ViewSpec("one-hue", "One hue", "hue made neutral", lambda p, _: _changed(p, _one_hue)),
    ViewSpec(
        "one-chroma", "One chroma", "chroma made neutral", lambda p, _: _changed(p, _one_chroma)
    ),
    ViewSpec("no-detail", "No detail", "every shape flat, in its mean colour", _no_detail),
)
