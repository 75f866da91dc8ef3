"""A palette from outside laid over the regions: hue family to hue family, then by value, then so
that borders stay to be seen (docs/palette.md)."""

from collections.abc import Mapping, Sequence
from typing import NamedTuple

import numpy as np
from msgspec.structs import replace

from umber_compass.colour.spaces import (
    GREY_CHROMA,
    Floats,
    cielab,
    decode,
    oklab,
    parse_hex,
    polar,
)
from umber_compass.picture.mixes import Ints
from umber_compass.plan.edits import Edit, study, with_study
from umber_compass.plan.model import Colour, Gradient, Pinned, Plan, Planned
from umber_compass.plan.palettes import GivenPalette
from umber_compass.steps.harmony.colours import RegionColour, region_colours
from umber_compass.steps.harmony.edits import planned_from_hex
from umber_compass.steps.harmony.readings import family_of, read_now
from umber_compass.steps.harmony.scheme_edits import resaid
from umber_compass.steps.harmony.touching import Touching
from umber_compass.words import Refusal, words

_GAP_DEG = 24.0
_SEEN, _LOST = 0.04, 0.02  # OKLab from which a border is seen, and under which it is not
_ROUNDS = 4


class _Side(NamedTuple):
    """Colours by family: those of the picture, or those of the palette."""

    lab: Floats  # (n, 3) OKLab
    value: Floats  # (n,) L*
    weight: Floats  # (n,)
    family: Ints  # (n,); greys are the last


def map_palette(
    hexes: Sequence[str],
    colours: Mapping[str, RegionColour],
    shares: Mapping[str, float],
    touching: Touching,
) -> dict[str, int]:
    """Which colour of a palette each region takes, by id. Raises Refusal for a palette of none."""
    if not hexes:
        raise Refusal("the palette", words("has no colours; take another"))
    ids = list(touching.ids)
    rows = np.array(
        [[parse_hex(e.hex) for e in (colours[r].first, colours[r].ends[-1])] for r in ids]
    )
    weight = np.array([max(shares[r], 1e-6) for r in ids])
    picture = _side(decode(rows).mean(axis=1), weight)
    palette = _side(decode(np.array([parse_hex(h) for h in hexes])), np.ones(len(hexes)))
    taken = np.zeros(len(ids), np.intp)
    for family, goes_to in _matched(picture, palette).items():
        mine = np.flatnonzero(picture.family == family)
        theirs = np.flatnonzero(palette.family == goes_to)
        taken[mine] = theirs[_by_value(picture.value[mine], palette.value[theirs])]
    _mend(taken, picture, palette, touching)
    return dict(zip(ids, taken.tolist(), strict=True))


def _side(linear: Floats, weight: Floats) -> _Side:
    lab = oklab(linear)
    lch = polar(lab)
    family = np.full(len(lab), -1, np.intp)
    strong = lch[:, 1] >= GREY_CHROMA
    if strong.any():
        family[strong] = family_of(lch[strong, 2], _GAP_DEG)
    family[~strong] = family.max() + 1
    return _Side(lab, cielab(linear)[:, 0], weight / weight.sum(), family)


def _matched(picture: _Side, palette: _Side) -> dict[int, int]:
    """Which family of a palette each family of the picture goes to: each to one of its own as far
    as there are enough, the rest where they cost least."""
    from scipy.optimize import linear_sum_assignment

    own, theirs = np.unique(picture.family), np.unique(palette.family)
    cost = np.array([[_cost(picture, a, palette, b) for b in theirs] for a in own])
    held = np.array([picture.weight[picture.family == a].sum() for a in own])
    rows, columns = linear_sum_assignment(cost * (0.2 + held)[:, None])
    found = {int(own[r]): int(theirs[c]) for r, c in zip(rows, columns, strict=True)}
    for i, family in enumerate(own.tolist()):
        found.setdefault(family, int(theirs[cost[i].argmin()]))
    return found


def _cost(picture: _Side, a: int, palette: _Side, b: int) -> float:
    """How badly a family of the palette suits one of the picture: share, chroma, value."""
    one, two = picture.family == a, palette.family == b
    held, of = picture.weight[one], palette.weight[two]
    share = abs(float(held.sum()) - float(of.sum()))
    lab_one = np.average(np.hypot(*picture.lab[one, 1:].T), weights=held)
    lab_two = float(np.hypot(*palette.lab[two, 1:].T).mean())
    light = abs(
        float(np.average(picture.value[one], weights=held)) - float(palette.value[two].mean())
    )
    return 0.5 * share + 5 * abs(float(lab_one) - lab_two) + light / 60


def _by_value(values: Floats, offered: Floats) -> Ints:
    """Which of some offered values each of several takes, once both reach over the same range."""
    low, high = float(values.min()), float(values.max())
    if high - low < 1:
        wished = np.full(len(values), float(np.clip(values[0], offered.min(), offered.max())))
    else:
        part = (values - low) / (high - low)
        wished = offered.min() + part * (offered.max() - offered.min())
    return np.asarray(np.abs(wished[:, None] - offered).argmin(axis=1))


def _mend(taken: Ints, picture: _Side, palette: _Side, touching: Touching) -> None:
    """Move regions to another colour where a border would no longer be seen, as long as that keeps
    more of them."""
    first, second = touching.pairs.T
    was = np.linalg.norm(picture.lab[first] - picture.lab[second], axis=1)
    kept = np.flatnonzero(was >= _SEEN)
    if not len(kept):
        return
    first, second, px = first[kept], second[kept], touching.px[kept].astype(float)
    px = px / px.sum()
    span = max(float(np.ptp(palette.value)), 1.0)
    wished = palette.value[taken].copy()

    def lost(of: Ints) -> Floats:
        apart = np.linalg.norm(palette.lab[of[first]] - palette.lab[of[second]], axis=1)
        return np.asarray(px * (apart < _LOST))

    for _ in range(_ROUNDS):
        now = lost(taken)
        if not now.any():
            return
        bad = np.unique(np.concatenate([first[now > 0], second[now > 0]]))
        for i in bad[np.argsort(picture.weight[bad])].tolist():
            tried = taken.copy()
            best, cheapest = taken[i], float(lost(taken).sum())
            for k in range(len(palette.value)):
                tried[i] = k
                moved = abs(float(palette.value[k] - wished[i])) / span
                cost = float(lost(tried).sum()) + 0.02 * moved * (1 + 10 * picture.weight[i])
                if cost < cheapest - 1e-9:
                    best, cheapest = k, cost
            taken[i] = best


def lay_palette(palette: GivenPalette, shares: Mapping[str, float]) -> Edit:
    """The free regions in a palette's colours, as its `of` says; the scheme is read anew from them.
    A gradient keeps its step from one end to the other."""

    def change(plan: Plan) -> Plan:
        now = study(plan)
        colours: dict[str, Colour] = dict(now.colours)
        for region, at in palette.of.items():
            if region in colours and region not in now.locked:
                hex_text = palette.colours[at].hex
                colours[region] = _given_to(colours[region], planned_from_hex(now.scheme, hex_text))
        laid = with_study(plan, replace(now, colours=colours, palette=palette))
        return _read_anew(laid, shares)

    return Edit(words("lay the palette {title}", title=palette.title or "untitled"), change)


def _given_to(colour: Colour, taken: Planned) -> Colour:
    if isinstance(colour, Pinned):
        return colour
    if not isinstance(colour, Gradient):
        return taken
    one, two = colour.first, colour.second
    if isinstance(one, Pinned) or isinstance(two, Pinned):
        return colour
    step = replace(
        taken,
        value=min(max(taken.value + two.value - one.value, 0.0), 100.0),
        chroma=min(max(taken.chroma + two.chroma - one.chroma, 0.0), 0.4),
    )
    return replace(colour, first=taken, second=step)


def _read_anew(plan: Plan, shares: Mapping[str, float]) -> Plan:
    """The plan with the scheme its colours follow, the colours as they are."""
    now = study(plan)
    found = read_now(region_colours(now.scheme, now.colours), shares, now.scheme.wheel)
    first = found.ranked[0]
    return resaid(plan, found.own if first.free else first.scheme)


def move_swatch(plan: Plan, region: str, at: int, name: str) -> Edit:
    """Another colour of the palette for one region. Raises Refusal where there is no palette, or no
    such colour."""
    palette = study(plan).palette
    if palette is None or not 0 <= at < len(palette.colours):
        raise Refusal(name, words("has no palette to take that colour from; lay one first"))
    taken = palette.colours[at].hex

    def change(now_plan: Plan) -> Plan:
        now = study(now_plan)
        if now.palette is None:
            return now_plan
        laid = replace(now.palette, of={**now.palette.of, region: at})
        colour = _given_to(now.colours[region], planned_from_hex(now.scheme, taken))
        return with_study(
            now_plan, replace(now, palette=laid, colours={**now.colours, region: colour})
        )

    return Edit(words("give {name} {hex}", name=name, hex=taken), change, f"swatch {region}")
