"""A figure must part in value from the ground it stands before, along the border they share."""

import numpy as np

from umber_compass.plan.edits import Edit, part, study
from umber_compass.plan.model import Planned
from umber_compass.steps.checks.spec import CheckSpec, Fix, Result, level_under, names, upper
from umber_compass.steps.harmony.edits import shift_values
from umber_compass.steps.pipeline import Derived
from umber_compass.steps.values.measured import moved_values
from umber_compass.words import Words, words

NAME = "figure-merges"
_SCAN = np.arange(0, 100.01, 0.5)  # L*, the moves that are tried


def _measure(derived: Derived) -> list[Result]:
    roles = {r.label: r.role for r in derived.plan.regions}
    grain, by_code = derived.grain, derived.values.by_code
    gap = np.abs(by_code[grain.touching[:, 0]] - by_code[grain.touching[:, 1]])
    apart = np.bincount(grain.pair, gap * grain.touch_px, len(grain.pair_px)) / grain.pair_px
    outline = np.bincount(grain.pair_labels[:, 0], grain.pair_px, len(grain.label) + 1)
    outline += np.bincount(grain.pair_labels[:, 1], grain.pair_px, len(grain.label) + 1)
    least = derived.rules["figure-merges.border"] / 100
    found = []
    for (one, two), px, mean in zip(
        grain.pair_labels.tolist(), grain.pair_px.tolist(), apart.tolist(), strict=True
    ):
        for figure, ground in ((one, two), (two, one)):
            parts = roles.get(figure) in ("figure", "focus") and roles.get(ground) == "ground"
            if parts and px >= least * outline[figure]:
                found.append(_result(derived, figure, ground, mean))
    return _worst_or_fine(derived, found)


def _result(derived: Derived, figure: int, ground: int, apart: float) -> Result:
    by_label = {r.label: r for r in derived.plan.regions}
    note, warning = derived.rules["figure-merges.note"], derived.rules["figure-merges.warning"]
    level = level_under(apart, note, warning)
    return Result(
        NAME,
        level,
        (by_label[figure].id, by_label[ground].id),
        apart,
        note,
        "L*",
        words(
            "{figure} and {ground} merge",
            figure=upper(by_label[figure].name),
            ground=by_label[ground].name,
        ),
        words("{measured:.3g} L* apart, wanted {wanted:g} or more", measured=apart, wanted=note),
    )


def _worst_or_fine(derived: Derived, found: list[Result]) -> list[Result]:
    merging = [r for r in found if r.level != "fine"]
    if merging:
        return merging
    if not found:
        wanted = derived.rules["figure-merges.note"]
        text = words("no figure touches a ground, so nothing to measure")
        return [Result(NAME, "fine", (), wanted, wanted, "L*", words("No figure merges"), text)]
    closest = min(found, key=lambda r: r.measured)
    said = names(derived)
    title = words("Figures part from their grounds")
    text = words(
        "closest: {figure} and {ground}, {measured:.3g} L* apart, wanted {wanted:g}",
        figure=said[closest.regions[0]],
        ground=said[closest.regions[1]],
        measured=closest.measured,
        wanted=closest.wanted,
    )
    return [closest._replace(title=title, text=text)]


def _candidates(derived: Derived, result: Result) -> list[Fix]:
    """Figure or ground, up or down, or half each: the smallest move of each kind that meets the
    wish and its margin along the whole border."""
    figure, ground = result.regions
    found = []
    for kind, one, two in (
        ("figure-up", 1.0, 0.0),
        ("figure-down", -1.0, 0.0),
        ("ground-up", 0.0, 1.0),
        ("ground-down", 0.0, -1.0),
        ("part-up", 0.5, -0.5),
        ("part-down", -0.5, 0.5),
    ):
        if (one and not _free(derived, figure)) or (two and not _free(derived, ground)):
            continue
        move = _least_move(derived, result, one, two)
        if move is None:
            continue
        sides = {r: move * s for r, s in ((figure, one), (ground, two)) if s}
        found.append(_fix(derived, kind, result.regions, sides, 1.0))
    return found


def _fix(
    derived: Derived, kind: str, pair: tuple[str, ...], sides: dict[str, float], times: float
) -> Fix:
    """A move of one side, or of both, so many times as far as it was found to need."""
    said = names(derived)
    moved = {r: by * times for r, by in sides.items()}
    text = (
        words("Part {a} from {b}", a=said[pair[0]], b=said[pair[1]])
        if len(moved) == 2
        else _said(derived, *next(iter(moved.items())))
    )
    return Fix(
        kind,
        text,
        Edit(text, shift_values(moved)),
        at=lambda more: _fix(derived, kind, pair, sides, more),
        move=max(map(abs, moved.values())),
    )


def _said(derived: Derived, region_id: str, by: float) -> Words:
    to = derived.colours[region_id].mean_value + by
    template = "Lighten {name} to {v:.0f}" if by > 0 else "Darken {name} to {v:.0f}"
    return words(template, name=names(derived)[region_id], v=to)


def _free(derived: Derived, region_id: str) -> bool:
    colour = study(derived.plan).colours[region_id]
    return all(isinstance(part(colour, e), Planned) for e in (0, 1))


def _least_move(derived: Derived, result: Result, one: float, two: float) -> float | None:
    """The smallest move in L* that parts them; None if values end before that."""
    labels = {r.id: r.label for r in derived.plan.regions}
    figure, ground = (labels[r] for r in result.regions)
    grain, by_code = derived.grain, derived.values.by_code
    at = np.flatnonzero((grain.pair_labels == sorted((figure, ground))).all(axis=1))
    met = grain.pair == at[0]
    touching, weight = grain.touching[met], grain.touch_px[met]
    own_first = grain.label[touching[:, 0]] == figure
    own = by_code[np.where(own_first, touching[:, 0], touching[:, 1])]
    other = by_code[np.where(own_first, touching[:, 1], touching[:, 0])]
    moves = _SCAN[:, None]
    own_now, other_now = (
        moved_values(v, derived.colours[r].mean_value, moves * s) if s else v[None]
        for v, s, r in ((own, one, result.regions[0]), (other, two, result.regions[1]))
    )
    apart = (np.abs(own_now - other_now) * weight).sum(axis=1) / weight.sum()
    good = np.flatnonzero(apart >= result.wanted + derived.rules["fix.value"])
    return float(_SCAN[good[0]]) if len(good) else None


_MANY = "{count} figures merge with their ground"
CHECK = CheckSpec(NAME, "values", _measure, _candidates, _MANY)
