"""Regions of a flats picture that was stored with loss, or has noise: calm areas first, the largest
most trusted, grown into what lies around them."""

from typing import NamedTuple, TypeAlias

import numpy as np
import numpy.typing as npt
from PIL import Image

from umber_compass.colour.packed import CLEAR, Packed, unpack
from umber_compass.colour.spaces import Floats
from umber_compass.picture.mixes import Frame, Ints, Labels, Row, around, explain, framed, nearest

Bytes: TypeAlias = npt.NDArray[np.uint8]
Mask: TypeAlias = npt.NDArray[np.bool_]

_NOISE_FLAT = 0.02  # of places wholly flat, under which a picture has noise
_PEAKS = ((1500, 2), (500, 3), (200, 4), (100, 6))  # px of a flat colour, levels it must lie apart
_CALM = (4, 8, 14, 24)  # ranges over 2 x 2 px of ever less calm areas
_LEAST_AREA = 12  # px of an area that may be a colour of its own
_SMALL_AREA = 60  # px of an area that is first tried as a mix
_MIX_LEVELS = 4.0
_GROWTH = (5, 9), (12, 24, 48, 1000)  # levels within which labels grow, before and after
_ASKED, _LEAST_CALM = 256, 0.15  # px a side of a square; share of it that must be calm
_CHROMA = 0.4  # weight of chroma differences: storage halves their resolution and they bleed
_BESIDE = ((-1, 0), (1, 0), (0, -1), (0, 1))
_HELD, _HELD_WITHIN = 0.70, 12  # share of px that must lie within so many levels


class Lossy(NamedTuple):
    """Colours found, (n, 3), label 1 first, and whose each px is, (h, w); 0 where clear."""

    colours: Bytes
    labels: Labels
    held: float  # share of px that lie near their colour


def lossy_regions(packed: Packed) -> Lossy | None:
    """The regions of a picture, (h, w) 0x00RRGGBB; None if it has no calm area."""
    rgb = np.ascontiguousarray(unpack(packed))
    clear = packed == CLEAR
    span = _range3(rgb)
    if float((span == 0)[~clear].mean()) < _NOISE_FLAT:
        grown = _of_noise(_Growing(packed, rgb, clear), span)
    else:
        grown = _of_storage(_Growing(packed, rgb, clear), span)
    if len(grown.main) < 2:
        return None
    for reach in _GROWTH[1]:
        grown.grow(reach, any_main=True)
    labels = grown.labels
    labels[clear] = 0
    main = np.clip(np.round(grown.main[1:]), 0, 255).astype(np.uint8)
    off = np.abs(rgb.astype(np.int16) - np.concatenate([[[0, 0, 0]], main])[labels]).max(axis=2)
    return Lossy(main, labels, float((off <= _HELD_WITHIN)[~clear].mean()))


def is_restless(packed: Packed) -> bool:
    """Whether a picture is hardly calm anywhere, as noise and photographs are: asked of a few
    squares of it, so that a large one is refused at once."""
    height, width = packed.shape
    calm = []
    for y in np.linspace(0, max(height - _ASKED, 0), 3).astype(int):
        for x in np.linspace(0, max(width - _ASKED, 0), 3).astype(int):
            part = packed[y : y + _ASKED, x : x + _ASKED]
            calm.append(float((_range2(np.ascontiguousarray(unpack(part))) <= _CALM[-1]).mean()))
    return max(calm) < _LEAST_CALM


def smaller(packed: Packed, step: int) -> Packed:
    """A picture with one px for so many a side: the mean of each square. What is left at the right
    and below is cut off; a square is clear where all of it is."""
    height, width = packed.shape[0] // step * step, packed.shape[1] // step * step
    whole = np.ascontiguousarray(packed[:height, :width])
    # As it lies in memory, blue first: a large picture is not copied to be turned round.
    image = Image.frombuffer("RGBX", (width, height), whole, "raw", "RGBX", 0, 1).reduce(step)
    out = np.frombuffer(image.tobytes(), "<u4").reshape(height // step, width // step)
    out = np.asarray(out & np.uint32(0xFFFFFF), np.uint32)
    clear = np.ones(out.shape, bool)
    for dy in range(step):
        for dx in range(step):
            clear &= whole[dy::step, dx::step] == CLEAR
    out[clear] = CLEAR
    return out


def enlarged(packed: Packed, found: Lossy, step: int) -> Labels:
    """Labels of a smaller picture brought to the size of the large one: each px takes, of those
    that lie about it, the label whose colour is nearest."""
    height, width = packed.shape
    rows = np.minimum(np.arange(height) // step, found.labels.shape[0] - 1)
    columns = np.minimum(np.arange(width) // step, found.labels.shape[1] - 1)
    main = np.concatenate([[[0, 0, 0]], found.colours]).astype(np.int16)
    frame = np.pad(found.labels, 1, "edge")
    beside = [frame[1 + dy : -1 + dy or None, 1 + dx : -1 + dx or None] for dy, dx in _BESIDE]
    open_ = np.logical_or.reduce([b != found.labels for b in beside])
    out = np.empty((height, width), np.uint16)
    high = max(step, 2_000_000 // width)
    for top in range(0, height, high):
        here = slice(top, min(top + high, height))
        label = found.labels[rows[here, None], columns]
        # Only where several labels lie about is there anything to choose.
        y, x = np.nonzero(open_[rows[here, None], columns])
        at = rows[here][y], columns[x]
        label[y, x] = _nearest_about(unpack(packed[here])[y, x], found.labels, beside, at, main)
        label[packed[here] == CLEAR] = 0
        out[here] = label
    return out


def _nearest_about(
    shown: Bytes,
    labels: Labels,
    beside: list[Labels],
    at: tuple[Ints, Ints],
    main: npt.NDArray[np.int16],
) -> Labels:
    """For colours, (n, 3), of px at places of a smaller picture, the label there or beside whose
    colour is nearest."""
    wide, label = shown.astype(np.int16), labels[at]
    best = np.abs(wide - main[label]).max(axis=1)
    best[label == 0] = 999
    for other in (b[at] for b in beside):
        off = np.abs(wide - main[other]).max(axis=1)
        closer = (other > 0) & (other != label) & (off < best)
        label, best = np.where(closer, other, label), np.where(closer, off, best)
    return label


def _range3(rgb: Bytes) -> Bytes:
    """Greatest less least level over 3 x 3 px, (h, w), in the worst channel."""
    high, low = rgb, rgb
    for _ in range(2):  # along rows, then, turned, along columns
        a, b = (np.pad(x, ((1, 1), (0, 0), (0, 0)), "edge") for x in (high, low))
        high = np.maximum(np.maximum(a[:-2], a[1:-1]), a[2:]).swapaxes(0, 1)
        low = np.minimum(np.minimum(b[:-2], b[1:-1]), b[2:]).swapaxes(0, 1)
    return np.asarray((high - low).max(axis=2))


def _range2(rgb: Bytes) -> Bytes:
    """Greatest less least level over 2 x 2 px, (h, w), in the worst channel."""
    high, low = rgb, rgb
    for _ in range(2):
        a, b = (np.pad(x, ((0, 1), (0, 0), (0, 0)), "edge") for x in (high, low))
        high = np.maximum(a[:-1], a[1:]).swapaxes(0, 1)
        low = np.minimum(b[:-1], b[1:]).swapaxes(0, 1)
    return np.asarray((high - low).max(axis=2))


def _seen(levels: Floats) -> Row:
    """Levels as luma and weakened chroma differences: distances that bleeding blurs less."""
    wide = np.asarray(levels, np.float32)
    luma = wide @ np.array([0.299, 0.587, 0.114], np.float32)
    blue, red = (wide[..., 2] - luma) * _CHROMA, (wide[..., 0] - luma) * _CHROMA
    return np.stack([luma, blue, red], axis=-1)


class _Growing:
    """Labels that grow over a picture."""

    def __init__(self, packed: Packed, rgb: Bytes, clear: Mask) -> None:
        self.packed, self.rgb, self.clear = packed, rgb, clear
        self.labels: Labels = np.zeros(clear.shape, np.uint16)
        self.main = np.zeros((1, 3), np.float32)  # label 0 has none

    def add(self, colour: Floats) -> int:
        """One more main colour; gives its label."""
        self.main = np.concatenate([self.main, np.asarray(colour, np.float32)[None]])
        return len(self.main) - 1

    def nearest(self, place: Ints) -> tuple[Labels, Row]:
        """The main colour nearest to some px, and how far it is, levels in the worst channel."""
        main = self.main[1:].round().astype(np.int16)
        index, far = nearest(self.rgb.reshape(-1, 3)[place], main)
        return (index + 1).astype(np.uint16), far

    def grow(self, reach: float, any_main: bool = False) -> None:
        """Let labels take px beside them that lie within so many levels; unless `any_main`, only
        those whose nearest main colour it is."""
        width = int(self.labels.shape[-1])
        frame = np.pad(self.labels, 1)
        blocked = np.pad(self.clear, 1, constant_values=True).reshape(-1)
        flat, wide = frame.reshape(-1), width + 2
        front = _beside_open(frame, blocked.reshape(frame.shape))
        while len(front):
            beside = np.concatenate([front + s for s in (1, -1, wide, -wide)])
            giver = np.concatenate([flat[front]] * 4)
            free = (flat[beside] == 0) & ~blocked[beside]
            beside, giver = beside[free], giver[free]
            if not len(beside):
                break
            at = (beside // wide - 1) * width + beside % wide - 1
            shown = self.rgb.reshape(-1, 3)[at].astype(np.float32)
            apart = np.abs(_seen(shown) - _seen(self.main)[giver])
            off = np.maximum(np.maximum(apart[:, 0], apart[:, 1]), apart[:, 2])
            good = off <= reach
            beside, giver, off, at = beside[good], giver[good], off[good], at[good]
            if not any_main and len(at):
                own = self.nearest(at)[0] == giver
                beside, giver, off = beside[own], giver[own], off[own]
            order = np.argsort(-off, kind="stable")  # the nearest is written last
            flat[beside[order]] = giver[order]
            front = np.unique(beside)
        self.labels = np.ascontiguousarray(frame[1:-1, 1:-1])


def _beside_open(frame: Labels, blocked: Mask) -> Ints:
    """Labelled px of a framed label map with an unlabelled one beside them that may take a label:
    of a large picture that is a small part, and only it can grow."""
    taken = frame > 0
    open_ = ~(taken | blocked)
    touched = np.zeros_like(open_)
    touched[1:] |= open_[:-1]
    touched[:-1] |= open_[1:]
    touched[:, 1:] |= open_[:, :-1]
    touched[:, :-1] |= open_[:, 1:]
    return np.flatnonzero(touched & taken)


def _of_storage(grown: _Growing, span: Bytes) -> _Growing:
    """JPEG: flat blocks decode to one exact value, so those that are frequent are colours."""
    clear = grown.clear
    colours, count = np.unique(grown.packed[(span == 0) & ~clear], return_counts=True)
    for i in np.argsort(-count, kind="stable")[:2000]:
        apart = next((levels for px, levels in _PEAKS if count[i] >= px), None)
        if apart is None:
            break
        colour = unpack(colours[i : i + 1])[0].astype(np.float32)
        if len(grown.main) == 1 or np.abs(grown.main[1:] - colour).max(axis=1).min() > apart:
            grown.add(colour)
    if len(grown.main) > 1:
        calm = np.flatnonzero((span <= 2) & ~clear)
        label, far = grown.nearest(calm)
        grown.labels.reshape(-1)[calm[far <= 3]] = label[far <= 3]
        for reach in _GROWTH[0]:
            grown.grow(reach)
    span2 = _range2(grown.rgb)
    for calm_range in _CALM:
        _take_areas(grown, (span2 <= calm_range) & (grown.labels == 0) & ~clear, calm_range)
        for reach in _GROWTH[0]:
            grown.grow(reach)
    return grown


def _of_noise(grown: _Growing, span: Bytes) -> _Growing:
    """Noise of a level: connected areas of nearly one colour."""
    clear = grown.clear
    for calm_range in (2, *_CALM):
        _take_areas(grown, (span <= calm_range) & (grown.labels == 0) & ~clear, calm_range - 2)
        grown.grow(calm_range + 1)
    return grown


def _take_areas(grown: _Growing, calm: Mask, slack: float) -> None:
    """Connected calm areas, the largest first: each joins a colour that lies near, or is one."""
    from scipy.ndimage import label as connected  # costs 0.3 s, so only where it is used

    area, count = connected(calm)
    if not count:
        return
    flat = area.reshape(-1)
    place = np.flatnonzero(flat)
    place = place[np.argsort(flat[place], kind="stable")]
    ends = np.cumsum(np.bincount(flat[place], minlength=count + 1))
    order = np.argsort(-np.diff(ends), kind="stable")
    frame = framed(grown.labels)
    for i in order.tolist():
        own = place[ends[i] : ends[i + 1]]
        if len(own) < _LEAST_AREA:
            break
        colour = np.median(grown.rgb.reshape(-1, 3)[own[:4000]], axis=0).astype(np.float32)
        found = _label_for(grown, own, colour, frame, slack)
        if found:
            grown.labels.reshape(-1)[own] = found


def _label_for(grown: _Growing, own: Ints, colour: Row, frame: Frame, slack: float) -> int:
    """The label an area takes; 0 where it is a mix of what lies on its sides."""
    near = np.unique(around(frame, own[:: max(1, len(own) // 60)]))
    near = near[near > 0]
    seen, mains = _seen(colour), _seen(grown.main)
    if len(near):
        off = np.abs(mains[near] - seen).max(axis=1)
        if off.min() <= min(4 + slack, _HELD_WITHIN) * (0.5 if slack <= 0 else 1):
            return int(near[off.argmin()])
    if len(own) < _SMALL_AREA and len(near) > 1:
        off = explain(grown.packed, frame, own, grown.main).residual
        if (off <= _MIX_LEVELS).mean() >= 0.5:
            return 0
    if len(grown.main) > 1:
        off = np.abs(mains[1:] - seen).max(axis=1)
        if off.min() <= (2 if slack <= 0 else 4 + slack):
            return int(off.argmin()) + 1
    return grown.add(colour)
