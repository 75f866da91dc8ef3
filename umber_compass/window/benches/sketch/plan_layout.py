"""Where the names of the stage plan stand: a row for each role from far to near, names in it from
far to near, on as many lines as they take."""

from collections.abc import Callable, Sequence
from typing import NamedTuple

from PySide6.QtCore import QRectF

from umber_compass.plan.terms import ROLES

HEAD = 98  # px, for the role and its share
PAD, GAP, LINE = 6, 6, 28  # px inside a row, between names, height of a name
SWATCH = 40  # px, a region's colour and small picture, and what is left of them
_LEAST, _MOST = 66, 210  # px of a name


class Named(NamedTuple):
    """A region as the plan shows it."""

    id: str
    label: int
    name: str
    role: str
    hexes: tuple[str, ...]
    share: float
    named: bool


class Chip(NamedTuple):
    """A region's place on the plan."""

    box: QRectF
    region: Named


class Row(NamedTuple):
    """A role's place on the plan."""

    box: QRectF
    role: str
    share: float
    chips: tuple[Chip, ...]


def lay_out(
    regions: Sequence[Named], width: float, text_width: Callable[[str], float]
) -> tuple[list[Row], float]:
    """The rows of a plan so many px wide, and how high it is. Regions come from far to near."""
    by_role: dict[str, list[Named]] = {
        role: [r for r in regions if r.role == role] for role in ROLES
    }
    rows, top = [], 0.0
    for role, held in by_role.items():
        chips, x, y = [], float(HEAD), top + PAD
        for one in held:
            wide = min(max(text_width(one.name) + SWATCH + 22, _LEAST), _MOST)
            if x + wide > width - PAD and x > HEAD:
                x, y = float(HEAD), y + LINE + 4
            chips.append(Chip(QRectF(x, y, min(wide, width - PAD - x), LINE), one))
            x += wide + GAP
        bottom = y + LINE + PAD
        box = QRectF(0, top, width, bottom - top)
        rows.append(Row(box, role, sum(r.share for r in held), tuple(chips)))
        top = bottom + 5
    return rows, top - 5


def chip_at(rows: Sequence[Row], x: float, y: float) -> Chip | None:
    """The name at a place."""
    for row in rows:
        if row.box.top() <= y <= row.box.bottom():
            return next((c for c in row.chips if c.box.contains(x, y)), None)
    return None


def row_at(rows: Sequence[Row], y: float) -> Row | None:
    """The row at a height, or the nearest."""
    if not rows:
        return None
    return min(rows, key=lambda r: max(r.box.top() - y, y - r.box.bottom(), 0.0))


def before_at(row: Row, x: float, y: float) -> str:
    """The region of a row before which what is dropped at a place comes; empty: at the end."""
    for chip in row.chips:
        same_line = chip.box.top() - 2 <= y <= chip.box.bottom() + 4
        if same_line and x < chip.box.center().x():
            return chip.region.id
        if y < chip.box.top() - 2:
            return chip.region.id
    return ""


def box_of(rows: Sequence[Row], region_id: str) -> QRectF:
    """Where a region's name stands; a null box where it is not there."""
    found = (c.box for row in rows for c in row.chips if c.region.id == region_id)
    return next(found, QRectF())


def beside(rows: Sequence[Row], region_id: str, by: int) -> str:
    """The region whose name stands nearest on a line above (-1) or below (1); empty: none."""
    box = box_of(rows, region_id)
    chips = [c for row in rows for c in row.chips]
    lines = sorted({c.box.top() for c in chips})
    at = lines.index(box.top()) + by if box.top() in lines else -1
    if not 0 <= at < len(lines):
        return ""
    there = [c for c in chips if c.box.top() == lines[at]]
    return min(there, key=lambda c: abs(c.box.center().x() - box.center().x())).region.id
