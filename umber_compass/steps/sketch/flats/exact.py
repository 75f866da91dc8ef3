"""Regions of a flats picture whose colours are exact: every colour of its own counts, and every
mixed px goes to the end it holds more of."""

import numpy as np
import numpy.typing as npt

from umber_compass.colour.packed import CLEAR, Packed, PackedRow, unpack
from umber_compass.picture.mixes import (
    OVERSHOOT,
    Ints,
    Labels,
    Mixes,
    around,
    between,
    explain,
    few,
    framed,
    of_three,
    some,
    take,
    with_local,
    with_one,
)
from umber_compass.steps.sketch.flats.ghosts import without_ghosts
from umber_compass.steps.sketch.flats.known import (
    CLEAR_LABEL,
    FIRST,
    UNEXPLAINED,
    Known,
    colours_of,
    inks_of,
    labelled,
    nearest_known,
    runs_of,
    try_ink,
)
from umber_compass.steps.sketch.flats.palette import Palette
from umber_compass.steps.sketch.flats.thin import add_thin_colours

_HARD_RUNS = 0.02  # of runs that may hold no block’s colour in a picture without smoothing
_HARD_PX = 3  # px that make a colour there
_SURE_BLOCKS = 200
_MIX_LEVELS, _SPOT_LEVELS = 2.1, 1.6
_NEAR_LEVELS, _NEAR_TIMES = 2, 20  # a colour so near one with so many times its blocks is resizing
_RIPPLE = 6.0  # levels
_SHARP, _SOFT_OVERSHOOT, _SOFT_REACH = 0.6, 0.24, 10
_THREE_LEVELS = 3.0


def exact_regions(packed: Packed, palette: Palette) -> Known:
    """The colours of a picture without loss, and a label for every px; 0 only where no colour
    counts."""
    if not len(palette.colours):  # a picture of single px, or of a few
        return labelled(packed, palette.distinct)
    colours, hard = _counting(packed, palette)
    known = labelled(packed, colours)
    if not len(colours):
        return known
    if not hard:
        _free_spots(packed, known)
    place = np.flatnonzero(known.labels == 0)
    if not len(place):
        return known
    sharp = _is_sharp(known.labels, place)
    mixes = _explained(packed, known, place, sharp)
    if not hard:
        try_ink(packed, known, place, mixes, inks_of(known))
        open_ = np.flatnonzero(mixes.residual > UNEXPLAINED)
        if len(open_):
            found = with_local(packed, known.labels, place[open_], known.levels)
            good = np.flatnonzero(found.residual <= _THREE_LEVELS)
            take(mixes, open_[good], some(found, good))
        _try_three(packed, known, place, mixes)
        known, place, mixes = add_thin_colours(packed, known, place, mixes, sharp)
    known = known._replace(labels=_given(packed, known, place, mixes))
    return known if sharp or hard else without_ghosts(known)


def _explained(packed: Packed, known: Known, place: Ints, sharp: bool) -> Mixes:
    """Mixed px by what lies near; in a soft picture what that leaves open by what lies further."""
    overshoot = OVERSHOOT if sharp else _SOFT_OVERSHOOT
    mixes = explain(packed, framed(known.labels), place, known.levels, overshoot)
    open_ = np.flatnonzero(mixes.residual > _THREE_LEVELS)
    if sharp or not len(open_):
        return mixes
    frame = framed(known.labels, _SOFT_REACH)
    wider = explain(packed, frame, place[open_], known.levels, overshoot)
    take(mixes, open_, wider)
    # Ripples between two borders may have no plain px near; they are still nearly their colour.
    open_ = np.flatnonzero(mixes.residual > _RIPPLE)
    label, far = nearest_known(packed.reshape(-1)[place[open_]], known)
    alone = Mixes(label, label, np.ones(len(open_), np.float32), far)
    take(mixes, open_[far <= _RIPPLE], some(alone, np.flatnonzero(far <= _RIPPLE)))
    return mixes


def _counting(packed: Packed, palette: Palette) -> tuple[PackedRow, bool]:
    """The colours that count, rising, and whether the picture is hard: without smoothing."""
    if _is_hard(packed, palette.colours):
        parts = [colours_of(*run) for run in runs_of(packed)]
        colours, where = np.unique(np.concatenate([c for c, _ in parts]), return_inverse=True)
        px = np.bincount(where, np.concatenate([n for _, n in parts]), len(colours))
        return colours[(px >= _HARD_PX) & (colours != CLEAR)], True
    beside = _beside_a_larger(palette)
    sure = ((palette.blocks >= _SURE_BLOCKS) | palette.crosses) & ~beside
    if not sure.any():
        return palette.colours[~beside], False
    doubtful = np.flatnonzero(~sure & ~beside)
    known = labelled(packed, palette.colours[sure])
    kept = sure.copy()
    kept[doubtful[~_are_mixes(packed, palette.colours[doubtful], known)]] = True
    return palette.colours[kept], False


def _is_hard(packed: Packed, colours: PackedRow) -> bool:
    """Whether hardly a run of px has another colour than those that own blocks."""
    runs = others = 0
    for colour, _ in runs_of(packed):
        at = np.minimum(np.searchsorted(colours, colour), len(colours) - 1)
        others += int(((colours[at] != colour) & (colour != CLEAR)).sum())
        runs += len(colour)
    return others < _HARD_RUNS * runs


def _beside_a_larger(palette: Palette) -> npt.NDArray[np.bool_]:
    """Which colours are what resizing left of a larger one."""
    wide = unpack(palette.colours).astype(np.int16)
    out = np.zeros(len(wide), bool)
    order = np.argsort(-palette.blocks, kind="stable")[:600]
    for i in order:
        near = np.abs(wide - wide[i]).max(axis=1) <= _NEAR_LEVELS
        out |= near & (palette.blocks * _NEAR_TIMES <= palette.blocks[i])
    return out


def _are_mixes(packed: Packed, doubtful: PackedRow, known: Known) -> npt.NDArray[np.bool_]:
    """Which colours, rising, are at half of their px or more a mix of sure colours around them, or
    of one and ink: a sure colour that is thin."""
    if not len(doubtful):
        return np.ones(0, bool)
    place = np.flatnonzero(known.labels == 0)
    at = np.minimum(np.searchsorted(doubtful, packed.reshape(-1)[place]), len(doubtful) - 1)
    place = place[doubtful[at] == packed.reshape(-1)[place]]
    owner = np.searchsorted(doubtful, packed.reshape(-1)[place])
    frame, levels = framed(known.labels), known.levels
    best = explain(packed, frame, place, levels, 0.0).residual
    first = few(around(frame, place))
    shown = unpack(packed.reshape(-1)[place]).astype(np.float32)
    for ink in inks_of(known):
        np.minimum(best, with_one(shown, first, ink, levels).residual, out=best)
    share = np.bincount(owner, best <= _MIX_LEVELS, len(doubtful))
    return np.asarray(share >= 0.5 * np.bincount(owner, minlength=len(doubtful)))


def _free_spots(packed: Packed, known: Known) -> None:
    """Make mixed what only looks like some other colour: lone px that are a mix of what lies on
    their two sides. In place."""
    labels = known.labels
    lone = np.zeros(labels.shape, bool)
    inner = labels[:, 1:-1]
    lone[:, 1:-1] = (inner != labels[:, :-2]) & (inner != labels[:, 2:])
    lone &= labels >= FIRST
    place = np.flatnonzero(lone)
    frame = framed(labels)
    flat, at, width = frame.flat, frame.places(place), frame.width
    own = flat[at]
    steps = [dy * width + dx for dy in (-1, 0, 1) for dx in (-1, 0, 1) if dy or dx]
    alike = sum((flat[at + s] == own).astype(np.int8) for s in steps)
    place, at, own = place[alike <= 1], at[alike <= 1], own[alike <= 1]
    shown = unpack(packed.reshape(-1)[place]).astype(np.float32)
    mixed = np.zeros(len(place), bool)
    for step in (1, width, width + 1, width - 1):
        one, two = flat[at - step], flat[at + step]
        fits = (one > 0) & (two > 0) & (one != two) & (one != own) & (two != own)
        _, off = between(shown, known.levels[one], known.levels[two], 0.0)
        mixed |= fits & (off <= _SPOT_LEVELS)
    labels.reshape(-1)[place[mixed]] = 0


def _is_sharp(labels: Labels, place: Ints) -> bool:
    """Whether most mixed px have plain ones on two opposite sides, as smoothing of 1 px leaves
    them; resized or blurred borders have few."""
    frame = framed(labels)
    flat, at, width = frame.flat, frame.places(place), frame.width
    between_two = np.zeros(len(place), bool)
    for step in (1, width, width + 1, width - 1):
        between_two |= (flat[at - step] > 0) & (flat[at + step] > 0)
    return bool(between_two.mean() >= _SHARP)


def _try_three(packed: Packed, known: Known, place: Ints, mixes: Mixes) -> None:
    """Explain what two colours near do not: with three of them. In place; the largest part owns."""
    at = np.flatnonzero(mixes.residual > UNEXPLAINED)
    if not len(at):
        return
    first = few(around(framed(known.labels), place[at]))
    shown = unpack(packed.reshape(-1)[place[at]]).astype(np.float32)
    levels = known.levels
    three, share, off = of_three(shown, first, levels)
    good = (off <= _THREE_LEVELS) & (off < mixes.residual[at])
    most = share.argmax(axis=1)
    mixes.own[at[good]] = three[np.arange(len(at)), most][good]
    mixes.residual[at[good]] = off[good]


def _given(packed: Packed, known: Known, place: Ints, mixes: Mixes) -> Labels:
    """Labels with every mixed px given to its owner; what is far from all, to the nearest colour;
    over clear parts the colour there is owns."""
    own = np.where(mixes.own == CLEAR_LABEL, mixes.other, mixes.own)
    lost = np.flatnonzero(own < FIRST)
    own[lost] = nearest_known(packed.reshape(-1)[place[lost]], known)[0]
    known.labels.reshape(-1)[place] = own
    return known.labels
