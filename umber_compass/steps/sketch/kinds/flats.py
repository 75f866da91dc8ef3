"""A flats picture becomes regions: its main colours, and every smoothed border pixel given to the
colour it holds most of (docs/sketch.md)."""

from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from umber_compass.colour.packed import pack, unpack
from umber_compass.colour.spaces import Floats
from umber_compass.picture.borders import Bytes, Labels, explain, near_labels
from umber_compass.steps.sketch.kinds.spec import KindSpec, Split
from umber_compass.words import Refusal, words

MOST_COLOURS = 512
_FLAT_SHARE = 0.6  # of the picture that must be plain main colour
_LOSSY_REACH = 12  # levels within which a lossy picture's flat area stays
_MIX_RESIDUAL = 12  # levels; a frequent colour further from every mix nearby is a colour itself


class _Runs(NamedTuple):
    """The picture as runs of equal pixels along rows."""

    start: npt.NDArray[np.intp]
    length: npt.NDArray[np.intp]
    kind: npt.NDArray[np.intp]  # index into the colours
    colours: npt.NDArray[np.uint32]  # packed, sorted


def split(rgb: Bytes, clear: npt.NDArray[np.bool_] | None, subject: str) -> Split:
    """The regions of a flats picture, (h, w, 3) 8-bit. Raises Refusal if its colours are not
    flat: it says how many were found and what to do."""
    packed = pack(rgb)
    runs = _runs(packed)
    main = None if _is_lossy(runs) else _exact_main(packed, runs)
    if main is None:
        main = _lossy_main(rgb)
        if main is None:
            raise _not_flat(len(runs.colours), subject)
        pure = _nearest_inside(rgb, main)
        main = _refined(rgb, pure, main)
    else:
        pure = _labels_of_runs(runs, main, rgb.shape[:2])
        main, pure = _with_thin_colours(rgb, runs, main, pure)
    if clear is not None:
        pure[clear] = 0
    labels = _snapped(rgb, pure, main)
    if clear is not None:
        labels[clear] = 0
    return _by_area(labels, main)


def _runs(packed: npt.NDArray[np.uint32]) -> _Runs:
    change = np.ones(packed.shape, bool)
    change[:, 1:] = packed[:, 1:] != packed[:, :-1]
    start = np.flatnonzero(change)
    length = np.diff(np.append(start, packed.size))
    colours, kind = np.unique(packed.reshape(-1)[start], return_inverse=True)
    return _Runs(start, length, kind.astype(np.intp), colours)


def _is_lossy(runs: _Runs) -> bool:
    """Whether the flat areas are speckled by a few levels, as lossy storage leaves them. Smoothing
    also makes colours near a main one, but very few of them."""
    total = np.bincount(runs.kind, runs.length, len(runs.colours))
    colours = unpack(runs.colours).astype(np.int16)
    most = np.argsort(-total, kind="stable")[:8]
    off = np.abs(colours[:, None] - colours[None, most]).max(axis=2).min(axis=1)
    speckled = total[(off > 0) & (off <= 4) & (total < total[most].min())].sum()
    return bool(speckled > 0.01 * total[off <= 4].sum())


def _exact_main(packed: npt.NDArray[np.uint32], runs: _Runs) -> Bytes | None:
    """Colours that somewhere fill a cross of 3 x 3 px; None if they hold too little of the picture
    or are too many or too alike to be flats."""
    height, width = packed.shape
    small = min(height, width) < 3
    row, column = np.divmod(runs.start + runs.length // 2, width)
    up = packed[np.maximum(row - 1, 0), column]
    down = packed[np.minimum(row + 1, height - 1), column]
    here = runs.colours[runs.kind]
    solid = small | ((runs.length >= 3) & (up == here) & (down == here))
    is_main = np.bincount(runs.kind, solid, len(runs.colours)) > 0
    held = np.bincount(runs.kind, runs.length, len(runs.colours))[is_main].sum() / packed.size
    colours = unpack(runs.colours[is_main])
    if held < _FLAT_SHARE or not 0 < len(colours) <= MOST_COLOURS or _is_shaded(colours):
        return None
    return colours


def _is_shaded(colours: Bytes) -> bool:
    """Whether most of many colours lie a shade apart: a gradient or a photograph, not flats."""
    if len(colours) <= 24:
        return False
    wide = colours.astype(np.int16)
    gaps = np.abs(wide[:, None] - wide[None]).max(axis=2)
    np.fill_diagonal(gaps, 255)
    return float((gaps.min(axis=1) <= 3).mean()) > 0.5


def _labels_of_runs(runs: _Runs, main: Bytes, shape: tuple[int, ...]) -> Labels:
    number = np.zeros(len(runs.colours), np.uint16)
    number[np.searchsorted(runs.colours, pack(main))] = np.arange(1, len(main) + 1)
    return np.repeat(number[runs.kind], runs.length).reshape(shape)


def _with_thin_colours(rgb: Bytes, runs: _Runs, main: Bytes, pure: Labels) -> tuple[Bytes, Labels]:
    """Main colours together with those of thin lines: frequent, nowhere 3 px wide, and no mix of
    the colours beside them."""
    total = np.bincount(runs.kind, runs.length, len(runs.colours))
    total[np.searchsorted(runs.colours, pack(main))] = 0
    frequent = np.flatnonzero(total >= max(24, 2e-5 * pure.size))
    most_first = frequent[np.argsort(-total[frequent], kind="stable")][:64]
    extra: list[Bytes] = []
    for kind in most_first:
        place = runs.start[runs.kind == kind][:60]
        levels = _levels(np.concatenate([main, *extra]) if extra else main)
        mixes = explain(rgb.reshape(-1, 3)[place], near_labels(pure, place), levels)
        if np.median(mixes.residual) > _MIX_RESIDUAL:
            extra.append(unpack(runs.colours[kind : kind + 1]))
    if not extra:
        return main, pure
    every = np.concatenate([main, *extra])
    return every, _labels_of_runs(runs, every, pure.shape)


def _levels(main: Bytes) -> Floats:
    """Main colours by label, with one unused row for label 0."""
    return np.concatenate([np.zeros((1, 3)), main]).astype(np.float32)


def _snapped(rgb: Bytes, pure: Labels, main: Bytes) -> Labels:
    """Every pixel labelled: what is not a main colour goes to the one it holds most of; the pixels
    of blurred borders, far from any, to the nearest colour."""
    place = np.flatnonzero(pure == 0)
    labels = pure.copy()
    if not len(place):
        return labels
    near = near_labels(pure, place)
    mixes = explain(rgb.reshape(-1, 3)[place], near, _levels(main))
    own = mixes.own.copy()
    lost = near[:, 0] == 0
    own[lost] = _nearest(rgb.reshape(-1, 3)[place[lost]][None], main)[0]
    labels.reshape(-1)[place] = own
    return labels


def _lossy_main(rgb: Bytes) -> Bytes | None:
    """Main colours of flats stored with loss: the peaks of the colour histogram; None if the
    pixels do not gather round them."""
    coarse = pack(np.asarray(rgb >> 2, np.uint8)).reshape(-1)
    bins, count = np.unique(coarse, return_counts=True)
    colours = unpack(bins).astype(np.float32) * 4 + 2
    left = count.astype(float)
    main: list[Floats] = []
    while len(main) < MOST_COLOURS and left.max() >= max(9, 4e-4 * coarse.size):
        centre = colours[left.argmax()]
        close = np.abs(colours - centre).max(axis=1) <= _LOSSY_REACH
        weight = np.where(close, left, 0)
        main.append((colours * weight[:, None]).sum(axis=0) / weight.sum())
        left[close] = 0
    if not main:
        return None
    rounded = _with_inside(rgb, np.array(main).round().astype(np.uint8))
    off = np.abs(rgb.astype(np.int16) - rounded[_nearest(rgb, rounded) - 1]).max(axis=2)
    return rounded if float((off <= 5).mean()) >= 0.75 else None


def _with_inside(rgb: Bytes, main: Bytes) -> Bytes:
    """Those main colours that fill areas: the mixes and ripples along borders have no inside."""
    labels = _nearest(rgb, main)
    inside = np.ones(labels.shape, bool)
    for axis in (0, 1):
        for shift in (1, -1):
            inside &= np.roll(labels, shift, axis) == labels
    area = np.bincount(labels.reshape(-1), minlength=len(main) + 1)[1:]
    inner = np.bincount(labels[inside], minlength=len(main) + 1)[1:]
    filling = inner > 0.35 * area
    return main[filling] if filling.any() else main


def _nearest(rgb: Bytes, main: Bytes) -> Labels:
    """The label of the main colour nearest to each pixel, (h, w)."""
    packed = pack(rgb).reshape(-1)
    kinds, where = np.unique(packed, return_inverse=True)
    shades = unpack(kinds).astype(np.float32)
    label = np.empty(len(kinds), np.uint16)
    for at in range(0, len(kinds), 4096):
        part = shades[at : at + 4096, None] - main[None].astype(np.float32)
        label[at : at + 4096] = (part * part).sum(axis=2).argmin(axis=1) + 1
    return label[where].reshape(rgb.shape[:2])


def _nearest_inside(rgb: Bytes, main: Bytes) -> Labels:
    """The label of the main colour nearest to each pixel; 0 where that is no plain pixel of it: too
    far off, or alone, as a mix along a border is that happens to look like some other colour."""
    label = _nearest(rgb, main)
    far = np.abs(rgb.astype(np.int16) - main[label - 1].astype(np.int16)).max(axis=2)
    label[far > _LOSSY_REACH] = 0
    padded = np.pad(label, 1)
    alike = np.zeros(label.shape, np.int8)
    for dy in (0, 1, 2):
        for dx in (0, 1, 2):
            alike += padded[dy : dy + label.shape[0], dx : dx + label.shape[1]] == label
    label[alike < 5] = 0
    return label


def _refined(rgb: Bytes, pure: Labels, main: Bytes) -> Bytes:
    """Main colours as the middle one of their plain pixels, which loss has scattered round it."""
    order = np.argsort(pure.reshape(-1), kind="stable")
    ends = np.cumsum(np.bincount(pure.reshape(-1), minlength=len(main) + 1))
    pixels, found = rgb.reshape(-1, 3)[order], main.copy()
    for i in range(len(main)):
        own = pixels[ends[i] : ends[i + 1]]
        if len(own):
            found[i] = np.median(own, axis=0).round()
    return found


def _by_area(labels: Labels, main: Bytes) -> Split:
    """Labels numbered by area, largest first; colours that hold no pixel are dropped."""
    area = np.bincount(labels.reshape(-1), minlength=len(main) + 1)[1:]
    order = np.argsort(-area, kind="stable")
    order = order[area[order] > 0]
    number = np.zeros(len(main) + 1, np.uint16)
    number[order + 1] = np.arange(1, len(order) + 1)
    return Split(number[labels], main[order])


def _not_flat(found: int, subject: str) -> Refusal:
    return Refusal(
        subject,
        words(
            "{found:,} colours found, but flats need areas of one colour each (at most {most} "
            "colours); fill each material with one flat colour and bring that in",
            found=found,
            most=MOST_COLOURS,
        ),
    )


KIND = KindSpec("flats", "Flats", "one flat colour for each material", split)
