"""Changes to what is wished of values, and to what is locked."""

from typing import Any

from msgspec.structs import replace

from umber_compass.plan.edits import Edit, study, with_study
from umber_compass.plan.model import Plan
from umber_compass.plan.ranges import bounded
from umber_compass.plan.terms import Value
from umber_compass.plan.wishes import MOST_BANDS, Bands, Number, Wish, Wishes
from umber_compass.words import Refusal, Words, words

_NARROWEST = 1.0  # L*, the least a band may span


def with_wishes(plan: Plan, **changes: Any) -> Plan:
    """The plan with some of its study's wishes replaced."""
    now = study(plan)
    return with_study(plan, replace(now, wishes=replace(now.wishes, **changes)))


def _with_wish(plan: Plan, name: str, is_on: bool, **changes: Any) -> Plan:
    wishes = study(plan).wishes
    before = wishes.of.get(name) or Wish(on=is_on)
    return with_wishes(plan, of={**wishes.of, name: replace(before, **changes)})


def set_wish(name: str, number: float, title: str) -> Edit:
    """A wish's own number; the wish is on from then."""
    kept = bounded(Number, number)
    return Edit(
        words("wish {title} {number:g}", title=title, number=kept),
        lambda plan: _with_wish(plan, name, True, number=kept, on=True),
        f"wish {name}",
    )


def switch_wish(name: str, on: bool, title: str) -> Edit:
    """A wish, or one part of it, held to or not."""
    text = "hold to: {title}" if on else "let go of: {title}"
    return Edit(words(text, title=title), lambda plan: _with_wish(plan, name, on, on=on))


def forget_wish(name: str, title: str) -> Edit:
    """A wish as the practice has it again: a habit, with its usual number."""

    def change(plan: Plan) -> Plan:
        said = study(plan).wishes.of
        return with_wishes(plan, of={k: w for k, w in said.items() if k != name})

    return Edit(words("leave to the practice: {title}", title=title), change)


def lock_wish(name: str, locked: bool, title: str, on: bool = True) -> Edit:
    """A wish that balancing never drops and a key does not change, or no longer so; `on` is whether
    it is held to where the artist never said."""
    text = "lock the wish: {title}" if locked else "unlock the wish: {title}"
    return Edit(words(text, title=title), lambda plan: _with_wish(plan, name, on, locked=locked))


def set_bands(bands: Bands, name: Words, merge: str | None = None) -> Edit:
    """Other value bands, held to from now."""
    return Edit(
        name, lambda plan: with_wishes(_with_wish(plan, "bands", True, on=True), bands=bands), merge
    )


def move_edge(bands: Bands, index: int, value: float) -> Edit:
    """An edge between two bands put at a value L*, within its neighbours."""
    edges = list(bands.edges)
    low = edges[index - 1] + _NARROWEST if index else _NARROWEST
    high = edges[index + 1] - _NARROWEST if index + 1 < len(edges) else 100 - _NARROWEST
    edges[index] = min(max(bounded(Value, value), low), high)
    text = words("move a band’s edge to {value:.0f}", value=edges[index])
    return set_bands(replace(bands, edges=tuple(edges)), text, f"edge {index}")


def set_band_share(bands: Bands, index: int, share: float) -> Edit:
    """The share, 0-1, that a band should hold; the others give or take in proportion."""
    kept = min(max(share, 0.0), 1.0)
    others = sum(s for i, s in enumerate(bands.shares) if i != index)
    rest, count = 1 - kept, len(bands.shares) - 1
    shares = [
        kept if i == index else s / others * rest if others > 0 else rest / count
        for i, s in enumerate(bands.shares)
    ]
    text = words("wish a band a share of {share:.0%}", share=kept)
    return set_bands(replace(bands, shares=tuple(shares)), text, f"band {index}")


def check_count(count: int) -> int:
    """A number of bands that can be. Raises Refusal otherwise."""
    if not 2 <= count <= MOST_BANDS:
        raise Refusal(str(count), words("is no number of bands; take 2 to {most}", most=MOST_BANDS))
    return count


def start_from(bands: Bands, figure: float, title: str) -> Edit:
    """A distribution of values to start from: its bands, and by how much figures should be lighter
    than grounds. Wishes that are locked stay."""

    def change(plan: Plan) -> Plan:
        of = study(plan).wishes.of
        if not (of.get("bands") or Wish()).locked:
            plan = with_wishes(_with_wish(plan, "bands", True, on=True), bands=bands)
        if not (of.get("figure") or Wish()).locked:
            plan = _with_wish(plan, "figure", True, number=figure, on=True)
        return plan

    return Edit(words("start from {title}", title=title), change)


def set_order(order: tuple[str, ...]) -> Edit:
    """The order of materials, regions from the darkest to the lightest; none: no order."""
    text = words("order {count} materials", count=len(order)) if order else words("drop the order")
    return Edit(text, lambda plan: with_wishes(plan, order=order), "order")


def drop_wishes() -> Edit:
    """Every wish back to what the practice says."""

    def change(plan: Plan) -> Plan:
        return with_study(plan, replace(study(plan), wishes=Wishes()))

    return Edit(words("restore the practice's wishes"), change)


def lock(region_id: str, locked: bool, name: str) -> Edit:
    """A region's colour kept as it is by all that the program does by itself, or no longer so."""

    def change(plan: Plan) -> Plan:
        now = study(plan)
        others = tuple(r for r in now.locked if r != region_id)
        return with_study(plan, replace(now, locked=(*others, region_id) if locked else others))

    return Edit(words("lock {name}" if locked else "unlock {name}", name=name), change)
