"""One colour and a mask that do nearly what a picture does, so that a layer can be painted anew:
what a layer does to a px is a multiple of what its colour does, and the mask is how often."""

from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from umber_compass.colour.spaces import Floats

_SAMPLE = 200_000  # px that are asked for the colour
_PEAK = 99.8  # percentile of what is done to px, at which the mask is whole
_LEAST = 1e-4
_LEVELS = 4  # of a mask, over which its curve is smoothed
Picture8 = npt.NDArray[np.uint8]
Floats32 = npt.NDArray[np.float32]


def one_colour(share: Floats32, mode: str) -> tuple[Picture8, Picture8]:
    """The colour, levels (1, 1, 3), and the mask, (h, w) of 255, of the layer that comes nearest to
    one whose picture is `share`, (h, w, 3) encoded 0-1, laid on as `mode` says."""
    flat = share.reshape(-1, 3)
    some = _does(flat[:: max(1, len(flat) // _SAMPLE)], mode)
    toward = _direction(some)
    peak = max(float(np.percentile(some @ toward, _PEAK)), _LEAST)
    colour = _undone(toward * peak, mode)
    levels = np.clip(np.round(colour * 255), 0, 255).astype(np.uint8)
    full = _does(levels[None].astype(np.float32) / np.float32(255), mode)[0]
    weight = (full / max(float(full @ full), _LEAST**2)).astype(np.float32)
    mask = np.empty(len(flat), np.uint8)
    for begin in range(0, len(flat), _SAMPLE):
        part = slice(begin, begin + _SAMPLE)
        held = np.clip(_does(flat[part], mode) @ weight, 0, 1)
        mask[part] = np.asarray(held * 255 + 0.5).astype(np.uint8)
    return levels.reshape(1, 1, 3), mask.reshape(share.shape[:2])


class Fitted(NamedTuple):
    """A colour, levels (3,), and the mask's level for each level of a mask that was made without
    it, (256,)."""

    colour: Picture8
    levels: Picture8


def fitted_to(mask: Picture8, before: Floats32, after: Floats32, mode: str) -> Fitted:
    """The colour and the mask's levels that come nearest to what some px, (n, 3) encoded, look like
    before and after a layer, where a mask has so many levels, (n,)."""
    does = _does(_picture_of(before, after, mode), mode)
    toward = _direction(does)
    amount = does @ toward
    peak = max(float(np.percentile(amount, _PEAK)), _LEAST)
    colour = np.clip(np.round(_undone(toward * peak, mode) * 255), 0, 255).astype(np.uint8)
    full = _does(colour[None].astype(np.float32) / np.float32(255), mode)[0]
    held = np.clip(does @ (full / max(float(full @ full), _LEAST**2)), 0, 1)
    means = _smooth_means(mask, held)
    return Fitted(colour, np.asarray(means * 255 + 0.5).astype(np.uint8))


def _smooth_means(mask: Picture8, held: Floats32) -> Floats:
    """What px of each level hold on the mean, (256,), without jumps from one level to the next."""
    count = _blurred(np.bincount(mask, minlength=256))
    total = _blurred(np.bincount(mask, held, 256))
    known = np.flatnonzero(count > _LEAST)
    return np.interp(np.arange(256), known, total[known] / count[known])


def _blurred(counts: npt.NDArray[np.generic]) -> Floats:
    near = np.arange(-3 * _LEVELS, 3 * _LEVELS + 1)
    return np.convolve(counts.astype(float), np.exp(-0.5 * (near / _LEVELS) ** 2), "same")


def _picture_of(before: Floats32, after: Floats32, mode: str) -> Floats32:
    """The picture, encoded (n, 3), that makes the second of the first."""
    if mode == "multiply":
        found = after / np.maximum(before, np.float32(1e-3))
    elif mode == "color-dodge":
        found = 1 - before / np.maximum(after, np.float32(1e-3))
    else:
        found = 1 - (1 - after) / np.maximum(1 - before, np.float32(1e-3))
    return np.clip(found, 0, 1)


def _does(share: Floats32, mode: str) -> Floats32:
    """How far from nothing a layer's picture changes px, (n, 3), in what a mask goes with: a mask
    of a half does half as much."""
    if mode == "multiply":
        return np.asarray(1 - share, np.float32)
    if mode == "color-dodge":
        return np.asarray(1 / np.maximum(1 - share, np.float32(1 / 255)) - 1, np.float32)
    return share


def _undone(does: Floats, mode: str) -> Floats:
    """The picture, encoded, that changes px so."""
    if mode == "multiply":
        return np.clip(1 - does, 0, 1)
    if mode == "color-dodge":
        return np.asarray(1 - 1 / (1 + np.maximum(does, 0)))
    return np.clip(does, 0, 1)


def _direction(does: Floats32) -> Floats:
    """The one direction, (3,) of length 1, along which most of what is done lies."""
    square = does.astype(float).T @ does.astype(float)
    _, vectors = np.linalg.eigh(square)
    found = np.maximum(vectors[:, -1] * np.sign(vectors[:, -1].sum() or 1), 0)
    length = float(np.linalg.norm(found))
    return found / length if length > _LEAST else np.full(3, 3**-0.5)
