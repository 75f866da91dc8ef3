"""The 8-bit colours that a plan's regions come to, as arrays: all that a frame of a drag needs of
them. Their measures, a record for each, follow where an instrument asks (colours.py)."""

from typing import Any, NamedTuple, TypeAlias

import numpy as np
import numpy.typing as npt

from umber_compass.colour.gamut import fit
from umber_compass.colour.packed import Levels
from umber_compass.colour.spaces import Floats, encode, parse_hex, to_bytes
from umber_compass.picture.mixes import Ints
from umber_compass.plan.edits import part
from umber_compass.plan.model import Colour, Gradient, Pinned, Planned, Scheme, Solid
from umber_compass.plan.terms import Slot
from umber_compass.steps.harmony.scheme import slot_hues

_SLOTS: tuple[Slot, ...] = ("A", "B", "C", "D", "grey")
GIVEN = "given"  # the slot of a colour that follows none


class Solids(NamedTuple):
    """Solid colours as they are planned, a row each: one for each region, two for a gradient."""

    row: dict[str, int]  # by region id, the row of its first colour
    slots: tuple[str, ...]
    wish: Floats  # (n, 3) value L*, OKLCh chroma, turn from the slot's hue in degrees
    slot: Ints  # (n,) index of the slot, -1 for a given colour
    given: Levels  # (n, 3) of given colours
    seconds: frozenset[int]  # rows that are the second colour of a gradient

    def is_gradient(self, row: int) -> bool:
        """Whether a second colour follows a row."""
        return row + 1 in self.seconds


class PlannedLevels(NamedTuple):
    """Solid colours as the screen shows them."""

    solids: Solids
    levels: Levels  # (n, 3)

    def of(self, region_id: str, end: int = 0) -> Levels:
        """The levels, (3,), of a region's first or second colour."""
        return np.asarray(self.levels[self.solids.row[region_id] + end])


_Before: TypeAlias = tuple[tuple[Any, ...], PlannedLevels]


def solids_of(colours: dict[str, Colour]) -> Solids:
    """Colours as rows."""
    row: dict[str, int] = {}
    found: list[Solid] = []
    seconds = []
    for region_id, colour in colours.items():
        row[region_id] = len(found)
        found.append(part(colour, 0))
        if isinstance(colour, Gradient):
            seconds.append(len(found))
            found.append(part(colour, 1))
    made = Solids(
        row,
        tuple(s.slot if isinstance(s, Planned) else GIVEN for s in found),
        np.zeros((len(found), 3)),
        np.full(len(found), -1, np.intp),
        np.zeros((len(found), 3), np.uint8),
        frozenset(seconds),
    )
    for at, solid in enumerate(found):
        _fill(made, at, solid)
    return made


def _fill(solids: Solids, at: int, solid: Solid) -> None:
    if isinstance(solid, Pinned):
        solids.slot[at] = -1
        solids.given[at] = to_bytes(parse_hex(solid.hex))
    else:
        solids.slot[at] = _SLOTS.index(solid.slot)
        solids.wish[at] = solid.value, solid.chroma, solid.hue_offset_deg


def _with_changes(before: Solids, old: dict[str, Colour], new: dict[str, Colour]) -> Solids | None:
    """Rows of colours of which some changed; None where rows come or go."""
    changed = [(k, c) for k, c in new.items() if old.get(k) is not c]
    if len(old) != len(new) or any(
        k not in old or isinstance(c, Gradient) != isinstance(old[k], Gradient) for k, c in changed
    ):
        return None
    slots = list(before.slots)
    made = before._replace(
        wish=before.wish.copy(), slot=before.slot.copy(), given=before.given.copy()
    )
    for region_id, colour in changed:
        for end in range(1 + isinstance(colour, Gradient)):
            at, solid = before.row[region_id] + end, part(colour, end)
            _fill(made, at, solid)
            slots[at] = solid.slot if isinstance(solid, Planned) else GIVEN
    return made._replace(slots=tuple(slots))


def shown(scheme: Scheme, solids: Solids, rows: Ints | None = None) -> Levels:
    """8-bit colours, (n, 3), of solid colours under a scheme, or of some rows of them."""
    at = np.arange(len(solids.slot)) if rows is None else rows
    out: npt.NDArray[np.uint8] = solids.given[at].copy()
    slot = solids.slot[at]
    planned = np.flatnonzero(slot >= 0)
    if len(planned):
        hues = slot_hues(scheme)
        hue = np.array([hues.get(s, hues["A"]) for s in _SLOTS])
        times = np.array([scheme.chroma.get(s, 1.0) for s in _SLOTS])
        value, chroma, turn = solids.wish[at[planned]].T
        own = slot[planned]
        out[planned] = to_bytes(encode(fit(value, chroma * times[own], hue[own] + turn)))
    return out


def planned_levels(
    scheme: Scheme, colours: dict[str, Colour], before: _Before | None = None
) -> PlannedLevels:
    """What every region's colours come to under a scheme. `before` is the scheme and the colours of
    an earlier call with what it gave: only what changed since is worked out."""
    if before is None:
        solids = solids_of(colours)
        return PlannedLevels(solids, shown(scheme, solids))
    (scheme_then, then), found = before
    kept = found.solids if then is colours else _with_changes(found.solids, then, colours)
    if kept is None or scheme_then is not scheme:
        solids = kept or solids_of(colours)
        return PlannedLevels(solids, shown(scheme, solids))
    other = (kept.wish != found.solids.wish).any(axis=1) | (kept.slot != found.solids.slot)
    rows = np.flatnonzero(other | (kept.given != found.solids.given).any(axis=1))
    levels = found.levels.copy()
    levels[rows] = shown(scheme, kept, rows)
    return PlannedLevels(kept, levels)
