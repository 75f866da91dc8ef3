"""The least movement of values that meets a set of constraints, as a linear programme.

What each region may hold of a band of values makes whole steps, so where shares are demanded the
programme is a mixed one. Both are solved by HiGHS (Huangfu & Hall 2018), as SciPy has it.
"""

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np

from umber_compass.colour.spaces import Floats
from umber_compass.words import Words

_DROP = 10_000.0  # price of dropping a constraint: more than any movement costs
_PATIENCE_S = 0.5  # of one solve, for pictures of hundreds of regions
_TOUCH, _TOUCH_SHARE = 0.48, 1e-6  # L* and share by which a constraint may be missed
_INSIDE = 0.01  # share by which bounds are kept, because cells are coarse
_NEAR = 0.05  # of the best, at which a mixed programme may stop


class Row(NamedTuple):
    """A sum of moves that must be at least so much: L* by index of a free region."""

    at: tuple[int, ...]
    times: tuple[float, ...]
    least: float


class Held(NamedTuple):
    """A measure of the picture, a share 0-1, that must lie between two bounds."""

    measure: int
    least: float
    most: float


class Constraint(NamedTuple):
    """Something that is wished, and may be dropped unless it is locked."""

    name: str  # as `parting.r3.r7`
    text: Words
    locked: bool
    rows: tuple[Row, ...] = ()
    shares: tuple[Held, ...] = ()


class Cell(NamedTuple):
    """Moves, from and to L*, between which what a region holds of every measure stays the same."""

    low: float
    high: float
    held: Floats  # (measures,) of the picture


class Room(NamedTuple):
    """What may be moved: by how much, at what price, and what it then holds."""

    low: Floats  # (n,) L*, nought or less
    high: Floats  # (n,) nought or more
    price: Floats  # (n,) a point of L*
    cells: tuple[tuple[Cell, ...], ...]  # by free region
    fixed: Floats  # (measures,) what the rest of the picture holds
    now: Floats  # (measures,) what the whole picture holds as it stands

    def meets(self, constraint: Constraint, moves: Floats) -> bool:
        """Whether a constraint is met where these moves, (n,), have brought the picture."""
        rows = all(
            sum(t * moves[a] for a, t in zip(row.at, row.times, strict=True)) >= row.least - _TOUCH
            for row in constraint.rows
        )
        return rows and all(
            held.least - _TOUCH_SHARE <= self.now[held.measure] <= held.most + _TOUCH_SHARE
            for held in constraint.shares
        )


class Solved(NamedTuple):
    """The moves, L*, and which constraints were dropped, by index."""

    moves: Floats
    dropped: tuple[int, ...]


def solve(room: Room, constraints: Sequence[Constraint]) -> Solved | None:
    """The least movement that meets all constraints; where there is none, that which meets all but
    the fewest; None where those that are locked contradict each other."""
    found = _without_steps(room, constraints) or _solve(room, constraints, False)
    return _solve(room, constraints, True) if found is None else found


def _without_steps(room: Room, constraints: Sequence[Constraint]) -> Solved | None:
    """The least movement that meets what needs no whole steps, where that meets the rest too:
    mostly so, and many times as quick."""
    found = _solve(room, [d for d in constraints if not d.shares], False)
    if found is None:
        return None
    held = room.fixed + sum(
        (_held_at(own, move) for own, move in zip(room.cells, found.moves, strict=True) if own),
        np.zeros(len(room.fixed)),
    )
    shares = [h for d in constraints for h in d.shares]
    met = all(h.least <= held[h.measure] <= h.most for h in shares)
    return found if met else None


def _held_at(own: tuple[Cell, ...], move: float) -> Floats:
    """What a region holds of every measure when it is moved so far."""
    away = [max(cell.low - move, move - cell.high) for cell in own]
    return own[int(np.argmin(away))].held


def feasible(room: Room, constraints: Sequence[Constraint]) -> bool:
    """Whether constraints can be met together at all."""
    return (_without_steps(room, constraints) or _solve(room, constraints, False)) is not None


def conflict(room: Room, constraints: Sequence[Constraint]) -> list[Constraint]:
    """Demands that cannot be met together, none of which can be left out of that; empty where all
    can be met. By halving (QuickXplain, after Junker 2004)."""
    if feasible(room, constraints):
        return []
    return _explain(room, [], [], list(constraints))


def _explain(
    room: Room, known: list[Constraint], added: list[Constraint], rest: list[Constraint]
) -> list[Constraint]:
    if added and not feasible(room, known):
        return []
    if len(rest) == 1:
        return rest
    half = len(rest) // 2
    first, second = rest[:half], rest[half:]
    of_second = _explain(room, known + first, first, second)
    of_first = _explain(room, known + of_second, of_second, first)
    return of_first + of_second


class _Columns(NamedTuple):
    """The columns of the unknowns: moves up, moves down, one for each cell, one for each constraint
    that may be dropped."""

    free: int
    cells: tuple[tuple[int, int], ...]  # first column and count, by free region; count 0 for none
    drops: dict[int, int]  # column by constraint
    size: int


def _columns(room: Room, constraints: Sequence[Constraint], dropping: bool) -> _Columns:
    free = len(room.price)
    mixed = any(d.shares for d in constraints)
    at, cells = 2 * free, []
    for own in room.cells:
        count = len(own) if mixed and len(own) > 1 else 0
        cells.append((at, count))
        at += count
    drops = {}
    if dropping:
        for i, constraint in enumerate(constraints):
            if not constraint.locked:
                drops[i] = at
                at += 1
    return _Columns(free, tuple(cells), drops, at)


def _solve(room: Room, constraints: Sequence[Constraint], dropping: bool) -> Solved | None:
    from scipy.optimize import Bounds, LinearConstraint, milp  # slow to import, so only here

    columns = _columns(room, constraints, dropping)
    rows = _Rows(room, columns)
    rows.add_cells()
    for i, constraint in enumerate(constraints):
        rows.add_demand(constraint, columns.drops.get(i))
    matrix, least, most = rows.constraints()
    free, size = columns.free, columns.size
    if not size:  # nothing may move: what is asked is so, or it is not
        idle = (np.asarray(least) <= 0).all() and (np.asarray(most) >= 0).all()
        return Solved(np.zeros(0), ()) if idle else None
    cost = np.zeros(size)
    cost[:free] = cost[free : 2 * free] = room.price
    whole, high = np.zeros(size, np.intp), np.ones(size)
    whole[2 * free :] = 1
    high[:free], high[free : 2 * free] = room.high, -room.low
    for column in columns.drops.values():
        cost[column] = _DROP
    found = milp(
        cost,
        integrality=whole,
        bounds=Bounds(np.zeros(size), high),
        constraints=LinearConstraint(matrix, least, most) if len(matrix) else None,
        options={"time_limit": _PATIENCE_S, "mip_rel_gap": _NEAR},
    )
    if found.x is None:
        return None
    dropped = tuple(i for i, column in columns.drops.items() if found.x[column] > 0.5)
    return Solved(found.x[:free] - found.x[free : 2 * free], dropped)


class _Rows:
    """The programme’s rows, each a sum of the unknowns between two bounds."""

    def __init__(self, room: Room, columns: _Columns) -> None:
        self._room, self._columns = room, columns
        self._lines: list[Floats] = []
        self._low: list[float] = []
        self._high: list[float] = []

    def _add(self, line: Floats, low: float, high: float) -> None:
        self._lines.append(line)
        self._low.append(low)
        self._high.append(high)

    def _line(self, at: Sequence[int], times: Sequence[float]) -> Floats:
        """A sum of moves."""
        line = np.zeros(self._columns.size)
        line[list(at)] = times
        line[[self._columns.free + a for a in at]] = [-t for t in times]
        return line

    def add_cells(self) -> None:
        """Every region’s move lies in the one of its cells that is chosen."""
        for i, (first, count) in enumerate(self._columns.cells):
            if not count:
                continue
            chosen = np.zeros(self._columns.size)
            chosen[first : first + count] = 1
            self._add(chosen, 1, 1)
            for edge, sign in ((0, 1.0), (1, -1.0)):
                line = self._line([i], [sign])
                line[first : first + count] = [-sign * cell[edge] for cell in self._room.cells[i]]
                self._add(line, 0, np.inf)

    def add_demand(self, constraint: Constraint, drop: int | None) -> None:
        """A constraint’s rows; where its column says that it is dropped, they ask nothing."""
        for row in constraint.rows:
            line = self._line(row.at, row.times)
            if drop is not None:
                line[drop] = abs(row.least) + 100.0 * sum(map(abs, row.times))
            self._add(line, row.least, np.inf)
        for held in constraint.shares:
            self._add_share(held, drop)

    def _add_share(self, held: Held, drop: int | None) -> None:
        """What the chosen cells hold of a measure, with what is fixed, lies between its bounds."""
        base = float(self._room.fixed[held.measure])
        line = np.zeros(self._columns.size)
        for own, (first, count) in zip(self._room.cells, self._columns.cells, strict=True):
            if count:
                line[first : first + count] = [cell.held[held.measure] for cell in own]
            elif own:
                base += float(own[0].held[held.measure])
        inside = min(_INSIDE, (held.most - held.least) / 2)
        low = (held.least + inside * (held.least > 0) - base, np.inf)
        high = (-np.inf, held.most - inside * (held.most < 1) - base)
        for bounds, sign in ((low, 1.0), (high, -1.0)):
            one = line.copy()
            if drop is not None:
                one[drop] = 2.0 * sign
            self._add(one, *bounds)

    def constraints(self) -> tuple[Floats, list[float], list[float]]:
        """The rows, (rows, columns), and their bounds."""
        if not self._lines:
            return np.zeros((0, self._columns.size)), [], []
        return np.stack(self._lines), self._low, self._high
