"""A figure must part in value from the ground it stands before, along the border they share."""

from collections.abc import Callable

import numpy as np
from msgspec.structs import replace

from umber_compass.plan.edits import Edit, each_part, part, study, with_colours
from umber_compass.plan.model import Pinned, Plan, Planned, Solid
from umber_compass.steps.borders import Ints
from umber_compass.steps.checks.spec import CheckSpec, Fix, Result, level_under, names, upper
from umber_compass.steps.pipeline import Derived
from umber_compass.words import Words, words

NAME = "figure-merges"
_SCAN = np.arange(0, 100.01, 0.25)  # L*, the moves that are tried


def _borders(derived: Derived) -> tuple[Ints, Ints, Ints]:
    """For each pair of touching codes: label of one, label of the other, length in px."""
    codes = derived.codes
    label = np.zeros(codes.size, np.intp)
    for number, (begin, end) in codes.spans.items():
        label[begin:end] = number
    return label[codes.touching[:, 0]], label[codes.touching[:, 1]], codes.touch_px


def _measure(derived: Derived) -> list[Result]:
    roles = {r.label: r.role for r in derived.plan.regions}
    one, two, length = _borders(derived)
    outline: dict[int, float] = {}
    for side in (one, two):
        for at, px in zip(side, length, strict=True):
            outline[int(at)] = outline.get(int(at), 0.0) + float(px)
    by_code = derived.values.by_code
    gap = np.abs(by_code[derived.codes.touching[:, 0]] - by_code[derived.codes.touching[:, 1]])
    pairs: dict[tuple[int, int], list[float]] = {}
    for a, b, px, apart in zip(one, two, length, gap, strict=True):
        for figure, ground in ((int(a), int(b)), (int(b), int(a))):
            if roles.get(figure) in ("figure", "focus") and roles.get(ground) == "ground":
                total = pairs.setdefault((figure, ground), [0.0, 0.0])
                total[0] += px
                total[1] += px * apart
    least = derived.rules["figure-merges.border"] / 100
    found = [
        _result(derived, figure, ground, float(weighted / px))
        for (figure, ground), (px, weighted) in pairs.items()
        if px >= least * outline[figure]
    ]
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
    said = names(derived)
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
        moved = {r: move * s for r, s in ((figure, one), (ground, two)) if s}
        text = (
            words("Part {a} from {b}", a=said[figure], b=said[ground])
            if len(moved) == 2
            else _said(derived, *next(iter(moved.items())))
        )
        found.append(Fix(kind, text, Edit(text, _shift(moved))))
    return found


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
    first, second, length = _borders(derived)
    ahead = (first == figure) & (second == ground)
    behind = (first == ground) & (second == figure)
    by_code, touching = derived.values.by_code, derived.codes.touching
    own = np.concatenate([by_code[touching[ahead, 0]], by_code[touching[behind, 1]]])
    other = np.concatenate([by_code[touching[ahead, 1]], by_code[touching[behind, 0]]])
    weight = np.concatenate([length[ahead], length[behind]])
    own_now, other_now = (
        np.clip(v[None] + _SCAN[:, None] * s, 0, 100) for v, s in ((own, one), (other, two))
    )
    apart = (np.abs(own_now - other_now) * weight).sum(axis=1) / weight.sum()
    good = np.flatnonzero(apart >= result.wanted + derived.rules["fix.value"])
    return float(_SCAN[good[0]]) if len(good) else None


def _shift(moved: dict[str, float]) -> Callable[[Plan], Plan]:
    def shifted(by: float) -> Callable[[Solid], Solid]:
        def one(solid: Solid) -> Solid:
            if isinstance(solid, Pinned):
                return solid
            return replace(solid, value=min(max(solid.value + by, 0.0), 100.0))

        return one

    def apply(plan: Plan) -> Plan:
        colours = study(plan).colours
        return with_colours(
            plan, {r: each_part(colours[r], shifted(by)) for r, by in moved.items()}
        )

    return apply


CHECK = CheckSpec(NAME, "values", _measure, _candidates)
