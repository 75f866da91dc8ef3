"""A palette from outside laid over the regions: hue family to hue family, then by value, then so
that borders stay to be seen (docs/palette.md)."""

from collections.abc import Mapping, Sequence
from typing import NamedTuple

import numpy as np
import numpy.typing as npt
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
from umber_compass.plan.model import Colour, Gradient, Pinned, Plan, Planned, Region
from umber_compass.plan.palettes import GivenPalette
from umber_compass.steps.harmony.colours import RegionColour, region_colours
from umber_compass.steps.harmony.edits import MOST_CHROMA, planned_from_hex
from umber_compass.steps.harmony.living import is_living
from umber_compass.steps.harmony.readings import family_of, read_now
from umber_compass.steps.harmony.scheme_edits import resaid
from umber_compass.steps.harmony.skin import HUES
from umber_compass.steps.harmony.touching import Touching
from umber_compass.words import Refusal, words

_GAP_DEG = 24.0
_SEEN, _LOST = 0.04, 0.02  # OKLab from which a border is seen, and under which it is not
_ROUNDS = 4
_FITS = 0.95  # of the colour, from which a scheme is read in a palette and it is not free
# What suits a region: L* of value that cost as much as one; another hue family; OKLCh chroma
# (studio rule, docs/palette.md). What moving to keep a border costs beside the border’s share.
_VALUE_PRICE, _FAMILY_PRICE, _CHROMA_PRICE, _MOVE_PRICE = 20.0, 0.55, 2.0, 0.004
# What a turn by 60 degrees costs a figure, and the chroma from which it counts in full; what a
# colour that skin never has costs skin; chroma of skin; of an outline, what a part and its parent
# share.
_HUE_PRICE, _COLOURED, _NO_FLESH, _FLESH, _MOSTLY = 0.7, 0.06, 50.0, (0.025, 0.15), 0.5
_LOUD_PRICE, _LARGE = 10.0, 0.1  # of chroma that a region gains; the share from which it is all


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
    regions: Sequence[Region] = (),
) -> dict[str, int]:
    """Which colour of a palette each region takes, by id; given ones take none. `regions` say what
    they are: figures keep their hue family before their value, a part goes with what holds most of
    its outline, skin and fur take a colour that skin has, or none. Raises Refusal for a palette of
    none."""
    if not hexes:
        raise Refusal("the palette", words("has no colours; take another"))
    ids = list(touching.ids)
    rows = np.array(
        [[parse_hex(e.hex) for e in (colours[r].first, colours[r].ends[-1])] for r in ids]
    )
    weight = np.array([max(shares[r], 1e-6) for r in ids])
    picture = _side(decode(rows).mean(axis=1), weight)
    palette = _side(decode(np.array([parse_hex(h) for h in hexes])), np.ones(len(hexes)))
    cost = _costs(picture, palette)
    of = {r.id: r for r in regions}
    kinds = [of.get(i) for i in ids]
    cost = cost + _hue_costs(picture, palette, kinds)
    taken = cost.argmin(axis=1)
    _with_their_parents(taken, cost, picture, palette, touching)
    _mend(taken, cost, picture, palette, touching)
    found = dict(zip(ids, taken.tolist(), strict=True))
    living = _living(kinds, palette)
    return {
        r: k for r, k in found.items() if colours[r].first.slot != "given" and living.get(r, True)
    }


def _hue_costs(picture: _Side, palette: _Side, kinds: Sequence[Region | None]) -> Floats:
    """What another hue costs figures, and what is no skin's colour costs skin, (regions,
    colours)."""
    own, theirs = polar(picture.lab), polar(palette.lab)
    turn = np.abs((own[:, None, 2] - theirs[None, :, 2] + 180) % 360 - 180) / 60
    seen = np.minimum(own[:, 1] / _COLOURED, 1)[:, None] * (theirs[None, :, 1] >= GREY_CHROMA)
    cost = np.zeros(turn.shape)
    for i, region in enumerate(kinds):
        if region is None:
            continue
        if region.role in ("figure", "focus"):
            cost[i] = _HUE_PRICE * np.minimum(turn[i], 2) * seen[i]
        if is_living(region):
            cost[i] = np.where(_is_flesh(theirs), turn[i], _NO_FLESH)
    return cost


def _is_flesh(lch: Floats) -> npt.NDArray[np.bool_]:
    """Which colours, polar OKLab, (n, 3), skin or fur may have."""
    hue = (HUES[0] <= lch[:, 2]) & (lch[:, 2] <= HUES[1])
    return np.asarray(hue & (lch[:, 1] >= _FLESH[0]) & (lch[:, 1] <= _FLESH[1]))


def _living(kinds: Sequence[Region | None], palette: _Side) -> dict[str, bool]:
    """Whether a palette has any colour for each region that is skin or fur, by id."""
    fits = bool(_is_flesh(polar(palette.lab)).any())
    return {r.id: fits for r in kinds if r is not None and is_living(r)}


def _with_their_parents(
    taken: Ints, cost: Floats, picture: _Side, palette: _Side, touching: Touching
) -> None:
    """Let a part that has the hue family of what holds most of its outline, and is smaller, take
    the family that one took. In place."""
    first, second = touching.pairs.T
    px = touching.px.astype(float)
    count, grey = len(taken), int(picture.family.max())
    along = np.zeros((count, count))
    along[first, second] = along[second, first] = px
    for i in np.argsort(-picture.weight).tolist():
        holder = int(along[i].argmax())
        most = along[i, holder] >= _MOSTLY * max(float(along[i].sum()), 1e-9)
        larger = picture.weight[holder] > picture.weight[i]
        same = picture.family[i] == picture.family[holder] != grey
        allowed = palette.family == palette.family[taken[holder]]
        if most and larger and same and not allowed[taken[i]]:
            taken[i] = int(np.where(allowed, cost[i], np.inf).argmin())


def _side(linear: Floats, weight: Floats) -> _Side:
    lab = oklab(linear)
    lch = polar(lab)
    family = np.full(len(lab), -1, np.intp)
    strong = lch[:, 1] >= GREY_CHROMA
    if strong.any():
        family[strong] = family_of(lch[strong, 2])
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


def _costs(picture: _Side, palette: _Side) -> Floats:
    """How badly each colour of a palette suits each region, (regions, colours): by value, once both
    reach over the same range, and by whether it is of the family the region's own goes to."""
    goes_to = _matched(picture, palette)
    low, high = np.percentile(picture.value, (2, 98))
    part = np.clip((picture.value - low) / max(float(high - low), 1.0), 0, 1)
    wished = palette.value.min() + part * np.ptp(palette.value)
    off = np.abs(wished[:, None] - palette.value) / _VALUE_PRICE
    theirs = np.array([goes_to[int(f)] for f in picture.family])
    other = theirs[:, None] != palette.family
    own, of = (np.hypot(*side.lab[:, 1:].T) for side in (picture, palette))
    louder = np.maximum(of - own[:, None], 0) * np.minimum(picture.weight / _LARGE, 1)[:, None]
    strength = np.abs(own[:, None] - of) * _CHROMA_PRICE + louder * _LOUD_PRICE
    return np.asarray(off + _FAMILY_PRICE * other + strength)


def _mend(taken: Ints, cost: Floats, picture: _Side, palette: _Side, touching: Touching) -> None:
    """Move regions to another colour where a border would no longer be seen, as long as that keeps
    more of them."""
    first, second = touching.pairs.T
    was = np.linalg.norm(picture.lab[first] - picture.lab[second], axis=1)
    kept = np.flatnonzero(was >= _SEEN)
    if not len(kept):
        return
    first, second, px = first[kept], second[kept], touching.px[kept].astype(float)
    px = px / px.sum()
    apart = np.linalg.norm(palette.lab[:, None] - palette.lab, axis=2)
    for _ in range(_ROUNDS):
        lost = apart[taken[first], taken[second]] < _LOST
        if not lost.any():
            return
        bad = np.unique(np.concatenate([first[lost], second[lost]]))
        for i in bad[np.argsort(picture.weight[bad])].tolist():
            # What would be lost at this region's own borders with each colour of the palette.
            beside = np.concatenate([taken[second[first == i]], taken[first[second == i]]])
            length = np.concatenate([px[first == i], px[second == i]])
            gone = ((apart[:, beside] < _LOST) * length).sum(axis=1)
            price = gone + _MOVE_PRICE * (cost[i] - cost[i].min())
            best = int(price.argmin())
            if gone[best] < gone[taken[i]] - 1e-9:
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
        chroma=min(max(taken.chroma + two.chroma - one.chroma, 0.0), MOST_CHROMA),
    )
    return replace(colour, first=taken, second=step)


def _read_anew(plan: Plan, shares: Mapping[str, float]) -> Plan:
    """The plan with the scheme its colours follow, the colours as they are."""
    now = study(plan)
    found = read_now(region_colours(now.scheme, now.colours), shares, now.scheme.wheel)
    first = found.ranked[0]
    fits = not first.free and first.fit >= _FITS
    return resaid(plan, first.scheme if fits else found.own)


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
