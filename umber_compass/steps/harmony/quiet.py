"""Quiet palettes: held together by one hue, varied by chroma and a little hue, so that what touches
at one value still differs; and greys tinted toward warm or cool."""

from collections.abc import Callable
from typing import NamedTuple

import numpy as np
import numpy.typing as npt
from msgspec.structs import replace

from umber_compass.colour.difference import ciede2000
from umber_compass.colour.gamut import fit
from umber_compass.colour.spaces import GREY_CHROMA, Floats, cielab, hue_distance
from umber_compass.picture.mixes import Ints
from umber_compass.plan.edits import Edit, each_free, each_part, study, with_colours, with_scheme
from umber_compass.plan.model import Pinned, Plan, Planned, Solid
from umber_compass.steps.harmony.colours import region_colours
from umber_compass.steps.harmony.scheme import slot_hues
from umber_compass.steps.harmony.touching import LIKE_VALUE, Touching
from umber_compass.steps.harmony.warmth import COOL_HUE, WARM_HUE
from umber_compass.words import words

QUIET = ("one-hue", "neighbours")  # schemes that are held together by hue
_CANDIDATES, _GOLDEN = 80, 0.618034
_LOW_CHROMA, _HIGH_CHROMA, _MORE_CHROMA = 0.012, 0.05, 0.05
_SECTOR_DEG, _MORE_DEG = 5.0, 25.0  # half the sector of hue, and what the amount adds
_APART, _LIVELY = 3.0, 4.0  # CIEDE2000: touching regions at least; on the mean
_ROUNDS = 12


class Candidates(NamedTuple):
    """Colours a region may take: turn from the lead, OKLCh degrees, and chroma, (n,) each."""

    turn_deg: Floats
    chroma: Floats


def candidates(amount: float) -> Candidates:
    """Evenly spread colours of a sector: the larger the amount, 0-1, the more hue and chroma."""
    at = np.arange(_CANDIDATES)
    across = (at + 0.5) / _CANDIDATES * 2 - 1
    along = (at * _GOLDEN) % 1
    high = _HIGH_CHROMA + _MORE_CHROMA * amount
    turn = across * (_SECTOR_DEG + _MORE_DEG * amount)
    return Candidates(turn, _LOW_CHROMA + along * (high - _LOW_CHROMA))


def quieten(touching: Touching, amount: float) -> Edit:
    """Every free colour at its own value in the lead's sector, so that touching regions of like
    value lie CIEDE2000 3 apart where they can; 0 is quietest, 1 the liveliest. Focus, given and
    locked colours stay."""
    kept = min(max(amount, 0.0), 1.0)

    def change(plan: Plan) -> Plan:
        return _quietened(plan, touching, kept)

    return Edit(words("make a quiet palette, {amount:.0%} lively", amount=kept), change, "quiet")


def _quietened(plan: Plan, touching: Touching, amount: float) -> Plan:
    now = study(plan)
    shown = region_colours(now.scheme, now.colours)
    focus = {r.id for r in plan.regions if r.role == "focus"}
    if now.focus is not None:
        focus = set(now.focus.regions)
    hue = slot_hues(now.scheme)["A"]
    tried = candidates(amount)
    value = np.array([shown[r].mean_value for r in touching.ids])
    lab = cielab(fit(value[:, None], tried.chroma, hue + tried.turn_deg))
    fixed = {
        r for r in touching.ids if r in focus or r in now.locked or shown[r].first.slot == "given"
    }
    movable = np.array([r not in fixed for r in touching.ids])
    taken = chosen(touching, lab, value, movable)
    times = max(now.scheme.chroma.get("A", 1.0), 1e-3)

    def at(k: int) -> Callable[[Solid], Solid]:
        turn, chroma = float(tried.turn_deg[k]), float(tried.chroma[k]) / times

        def one(solid: Solid) -> Solid:
            if isinstance(solid, Pinned):
                return solid
            return Planned(slot="A", hue_offset_deg=turn, value=solid.value, chroma=chroma)

        return one

    moved = {
        r: each_part(now.colours[r], at(int(taken[i])))
        for i, r in enumerate(touching.ids)
        if movable[i]
    }
    quiet = now.scheme.chosen or now.scheme.name in QUIET
    return with_scheme(with_colours(plan, moved), chosen=quiet)


def chosen(touching: Touching, lab: Floats, value: Floats, movable: npt.NDArray[np.bool_]) -> Ints:
    """Which candidate, (n,), each region takes, by least conflicts: `lab` are the candidates of
    each, (n, candidates, 3)."""
    count, many = lab.shape[:2]
    beside: list[list[int]] = [[] for _ in range(count)]
    for a, b in touching.pairs.tolist():
        if abs(value[a] - value[b]) <= LIKE_VALUE:
            beside[a].append(b)
            beside[b].append(a)
    # Neighbours in order take candidates far from each other; then conflicts are mended.
    taken = np.array([round(i * many * _GOLDEN) % many for i in range(count)], np.intp)
    for turn in range(_ROUNDS):
        moved = False
        for i in range(count):
            if not beside[i] or not movable[i]:
                continue
            others = lab[beside[i], taken[beside[i]]].copy()
            mine = lab[i][:, None]
            others[:, 0] = mine[0, 0, 0]  # apart beside their value
            every = ciede2000(mine, others[None])
            apart = every.min(axis=1)
            if apart[taken[i]] >= _APART and turn:
                continue
            # As many neighbours parted as can be, and then no farther than it takes.
            worth = (every >= _APART).sum(axis=1) - np.abs(every.mean(axis=1) - _LIVELY) / 100
            best = int(worth.argmax())
            if worth[best] > worth[taken[i]] + 1e-9:
                taken[i], moved = best, True
        if not moved:
            break
    return taken


def tint_greys(amount: float) -> Edit:
    """Greys tinted toward warm, or toward cool where the amount, -1 to 1, is negative; their value
    stays."""
    kept = min(max(amount, -1.0), 1.0)
    pole = WARM_HUE if kept > 0 else COOL_HUE

    def change(plan: Plan) -> Plan:
        own = slot_hues(study(plan).scheme)["grey"]

        def one(solid: Planned) -> Planned:
            if solid.slot != "grey":
                return solid
            turn = float(hue_distance(own, pole))
            return replace(solid, hue_offset_deg=turn, chroma=abs(kept) * GREY_CHROMA * 0.99)

        return each_free(plan, one)

    warm = words("tint the greys warm by {amount:.0%}", amount=kept)
    cool = words("tint the greys cool by {amount:.0%}", amount=abs(kept))
    return Edit(warm if kept > 0 else cool, change, "tint")
