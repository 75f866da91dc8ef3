"""A painting in progress read and held against its plan, on a grid of one size."""

from collections.abc import Callable
from pathlib import Path
from typing import NamedTuple

import numpy as np
import numpy.typing as npt
from PIL import Image

from umber_compass.colour.measured import levels_of
from umber_compass.colour.packed import CLEAR, Packed, pack, unpack
from umber_compass.colour.spaces import (
    Floats,
    decode,
    encode,
    oklab,
    to_bytes,
    value,
)
from umber_compass.document.seeing import small_of
from umber_compass.formats import picture as pictures
from umber_compass.picture.indexed import paint
from umber_compass.picture.mixes import Labels
from umber_compass.steps.painting.aligning import (
    Alignment,
    Planes,
    Seen,
    align,
    is_found,
    lay,
)
from umber_compass.steps.painting.comparing import Drift, Limits, drifts
from umber_compass.steps.painting.goal import Wanted, goal_of
from umber_compass.steps.painting.telling import Whole
from umber_compass.steps.painting.unpainted import unpainted
from umber_compass.steps.pictures import picture
from umber_compass.steps.pipeline import Derived
from umber_compass.words import Refusal, Words, words
from umber_compass.work import Tick, idle

GRID_PX = 720  # the longer side of the sketch, on which a painting is compared
_MOST_PX = 1200  # the longer side of a painting that is looked at
_STROKE = 21  # px of the grid, over which brush strokes are smoothed
_SOLID = 64  # of 255: how clear a px of the grid may be to count as painted
_LINEAR = decode(np.arange(256) / 255)


class Compared(NamedTuple):
    """A painting held against a plan."""

    alignment: Alignment
    scale: float  # px of the painting for one px of the sketch
    dx: float  # px of the sketch: where the painting's left edge lies
    dy: float  # and its upper edge
    seen: float  # share of the sketch that the painting shows
    painted: float  # share of the sketch that is painted and seen
    drifts: tuple[Drift, ...]
    whole: Whole
    levels: tuple[float, float, float]  # L* that 5, 50 and 95 % of what is painted is darker than
    on_grid: Packed  # the painting as it lies on the sketch; CLEAR where nothing is painted
    goal: Planes  # what it should show there: L*, OKLab a and b x 100
    planes: Planes  # what it shows
    shown: Seen  # the px of the grid that are painted and seen
    labels: Labels  # the regions of the grid


def read_painting(path: Path, tick: Tick = idle) -> tuple[Packed, tuple[int, int]]:
    """The painting in a file, (h, w), no larger than it is looked at, and its own width and height,
    px. Raises Refusal if it cannot be read."""
    packed = pictures.read(path, tick).packed
    return at_most(packed), (packed.shape[1], packed.shape[0])


def at_most(packed: Packed) -> Packed:
    """A picture no larger than it is looked at; px that are mostly clear stay so."""
    if max(packed.shape) <= _MOST_PX:
        return packed
    clear = packed == CLEAR
    small = small_of(packed, _MOST_PX)
    if not clear.any():
        return small
    holes = Image.fromarray(clear.astype(np.uint8) * 255)
    shown = np.asarray(holes.resize(small.shape[::-1], Image.Resampling.BOX)) < _SOLID
    return np.where(shown, small, np.uint32(CLEAR))


def planes_of(packed: Packed) -> Planes:
    """A picture as L*, and OKLab a and b times 100, (3, h, w)."""
    light = _LINEAR[unpack(packed & np.uint32(0xFFFFFF))].astype(np.float32)
    lab = oklab(light)
    found = np.empty((3, *packed.shape), np.float32)
    found[0] = value(light)
    found[1:] = np.moveaxis(lab[..., 1:], -1, 0) * 100
    return found


def wanted_of(derived: Derived) -> Wanted:
    """What a plan shows, flat and lit, on the grid."""
    labels = derived.drawing.labels
    lit = _on_grid(picture(derived))
    has_own = derived.drawing.shades is not None
    flat = _local(derived) if has_own else paint(derived.indexed, derived.table)
    height, width = lit.shape
    rows = ((np.arange(height) + 0.5) * labels.shape[0] / height).astype(np.intp)
    columns = ((np.arange(width) + 0.5) * labels.shape[1] / width).astype(np.intp)
    on_grid = np.ascontiguousarray(labels[rows[:, None], columns])
    return Wanted(on_grid, planes_of(_on_grid(flat)), planes_of(lit))


def _on_grid(packed: Packed) -> Packed:
    """A picture no larger than the grid; one of few px, as a sprite is, with each px enlarged."""
    times = GRID_PX // (2 * max(packed.shape))
    if times > 1:
        return np.ascontiguousarray(packed.repeat(times, axis=0).repeat(times, axis=1))
    return small_of(packed, GRID_PX)


def _local(derived: Derived) -> Packed:
    """Every region in its own colour, (h, w), whatever the sketch's own shading is."""
    labels = derived.drawing.labels
    table = np.full((int(labels.max(initial=0)) + 1, 3), 255, np.uint8)
    for region in derived.regions:
        ends = [decode(levels_of(e.hex) / 255) for e in derived.colours[region.id].ends]
        if region.label < len(table):
            table[region.label] = to_bytes(encode(np.mean(ends, axis=0)))
    return np.asarray(pack(table)[labels])


def compare(
    derived: Derived,
    packed: Packed,
    name: str,
    size: tuple[int, int] | None = None,
    before: "Compared | None" = None,
    tick: Tick = idle,
) -> Compared:
    """A painting, (h, w) 0x00RRGGBB or CLEAR, held against a plan. `size` is the file's own, px,
    where the picture was made smaller; `before` is what was found of an earlier save of it: it is
    looked for there first. Raises Refusal, about `name`, where it is another one, and where no
    colour is planned yet."""
    if derived.unpainted:
        line = words(
            "cannot be compared: the plan has no colours yet; propose or give it some first"
        )
        raise Refusal(name, line)
    across = (size or packed.shape[::-1])[0]
    wanted = wanted_of(derived)
    tick(0.2)
    packed = at_most(packed)
    if max(packed.shape) < GRID_PX // 4:  # px are colours of their own, and not mixed
        packed = _on_grid(packed)
    planes = planes_of(packed)
    tick(0.3)
    known = None if before is None else before.alignment
    place = align(wanted.lit, planes, known, lambda s: tick(-1.0 if s < 0 else 0.3 + 0.5 * s))
    if not is_found(place):
        raise Refusal(
            name, _other_way_round(wanted, planes, lambda _: tick(-1.0)) or _other_picture()
        )
    found = _held(derived, wanted, packed, planes, place, tick)
    width = derived.plan.sketch.size[0]
    return found._replace(
        scale=across / (place.view * width), dx=place.x * width, dy=place.y * width
    )


def _other_picture() -> Words:
    return words(
        "does not show this sketch: too few of its edges lie where the sketch has them; "
        "choose an export of the painting that this plan is for"
    )


_TURNED_FIT = 0.35  # agreement, from which another way round is no chance
# How a painting is turned to lie on the sketch, and what is said where it then does.
_TURNED: tuple[tuple[Words, Callable[[Planes], Planes]], ...] = (
    (words("is mirrored: save it the right way round"), lambda p: p[:, :, ::-1]),
    (words("is upside down: save it the right way up"), lambda p: p[:, ::-1, ::-1]),
    (words("lies on its side: save it upright"), lambda p: np.rot90(p, 1, (1, 2))),
    (words("lies on its side: save it upright"), lambda p: np.rot90(p, 3, (1, 2))),
)


def _other_way_round(wanted: Wanted, planes: Planes, tick: Tick) -> Words | None:
    """What to do about a painting that would lie on the sketch if it were turned or mirrored; None
    where it does not so either."""
    for said, turn in _TURNED:
        place = align(wanted.lit, np.ascontiguousarray(turn(planes)), tick=tick)
        if is_found(place) and place.fit > _TURNED_FIT:
            return said
    return None


def _held(
    derived: Derived, wanted: Wanted, packed: Packed, planes: Planes, at: Alignment, tick: Tick
) -> Compared:
    """A painting that lies on its sketch, compared with it."""
    height, width = wanted.labels.shape
    # The holes go along as a fourth plane.
    holes = (packed == CLEAR).astype(np.float32)[None] * 255
    laid, seen, _ = lay(np.concatenate([planes, holes]), at, width, height)
    on_grid, regions = laid[:3], wanted.labels > 0
    shown = seen & regions & (laid[3] < _SOLID)
    shown &= ~unpainted(on_grid, shown, wanted.labels, _by_label(wanted))
    tick(0.85)
    goal = goal_of(on_grid, shown, wanted, tick)
    tick(0.9)
    rules = derived.rules
    limits = Limits(rules["painting.value"], rules["painting.hue"], rules["painting.chroma"])
    ids = {r.label: r.id for r in derived.regions}
    found = drifts(on_grid, shown, goal, wanted.labels, ids, limits, tick)
    all_px = max(int(regions.sum()), 1)
    colours = lay(_levels(packed), at, width, height)[0]
    on_sketch = pack(np.clip(np.moveaxis(colours, 0, -1) + 0.5, 0, 255).astype(np.uint8))
    on_sketch[~shown] = CLEAR
    return Compared(
        at,
        1.0,
        0.0,
        0.0,
        float((seen & regions).sum()) / all_px,
        float(shown.sum()) / all_px,
        tuple(found),
        *_whole(on_grid, goal.planes, shown),
        on_sketch,
        goal.planes,
        on_grid,
        shown,
        wanted.labels,
    )


def _levels(packed: Packed) -> Planes:
    return np.ascontiguousarray(
        np.moveaxis(unpack(packed & np.uint32(0xFFFFFF)), -1, 0), np.float32
    )


def _by_label(wanted: Wanted) -> Floats:
    """Each label's colour as it is wanted, the mean of its px, (labels, 3)."""
    labels = wanted.labels.reshape(-1)
    count = np.maximum(np.bincount(labels), 1)
    return np.stack([np.bincount(labels, p.reshape(-1)) / count for p in wanted.lit], axis=1)


def _smooth(plane: npt.NDArray[np.float32], shown: Seen) -> npt.NDArray[np.float32]:
    from scipy.ndimage import uniform_filter

    weight = shown.astype(np.float32)
    return np.asarray(
        uniform_filter(plane * weight, _STROKE) / np.maximum(uniform_filter(weight, _STROKE), 1e-3)
    )


def _whole(own: Planes, goal: Planes, shown: Seen) -> tuple[Whole, tuple[float, float, float]]:
    """What the painting's values and chroma did over all that is painted, and its own darks, middle
    and lights, L*."""
    if not shown.any():
        return Whole(0.0, 0.0, 0.0, 0.0), (0.0, 0.0, 0.0)
    # Brush strokes are no drift: they are smoothed away first, in both alike.
    mine, wished = (np.percentile(_smooth(p[0], shown)[shown], (5, 50, 95)) for p in (own, goal))
    chroma = [float(np.hypot(p[1][shown], p[2][shown]).mean()) / 100 for p in (own, goal)]
    by, (darks, middle, lights) = (mine - wished).tolist(), mine.tolist()
    return Whole(by[0], by[1], by[2], chroma[0] - chroma[1]), (darks, middle, lights)
