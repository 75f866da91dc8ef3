"""Stages: each result that follows from a plan, what it needs, and a memory that finds it again.

A stage is declared once, in the table of pipeline.py: `shares = stage(region_shares, "codes",
"regions")`. It is worked out when it is first asked for, is handed its needs and nothing else, and
is found again by the very same needs. A slow stage is only worked out where that is allowed, on the
worker; elsewhere what stands in for it is given, or None.
"""

from collections.abc import Callable
from threading import Lock
from typing import Any, Generic, Protocol, TypeAlias, TypeVar, overload

import numpy as np

T = TypeVar("T")
Needs: TypeAlias = tuple[Any, ...]

KEPT = 6  # results of each stage: several studies, a preview and a judge share one memory
_SLOW_KEPT = 2  # large ones
_PLAIN = str | float | int | bool | None  # needs that are told apart by what they are


class Holder(Protocol):
    """What stages are declared on: something that gives their results."""

    def result(self, stage: "Stage[T]") -> T:
        """The stage's result."""


class Stage(Generic[T]):
    """A result: the work that makes it, and the names of what the work is handed."""

    def __init__(
        self,
        work: Callable[..., T],
        needs: tuple[str, ...],
        slow: bool = False,
        settles: bool = False,
        stands_in: tuple[str, ...] | None = None,
        kept: int | None = None,
        goes_on: bool = False,
    ) -> None:
        self.work, self.needs, self.slow, self.settles = work, needs, slow, settles
        self.goes_on = goes_on
        self.stands_in = stands_in
        self.kept = kept or (_SLOW_KEPT if slow else KEPT)
        self.name = ""

    def __set_name__(self, owner: type, name: str) -> None:
        self.name = name

    @overload
    def __get__(self, holder: None, owner: type) -> "Stage[T]": ...
    @overload
    def __get__(self, holder: Holder, owner: type) -> T: ...
    def __get__(self, holder: Holder | None, owner: type) -> "Stage[T] | T":
        return self if holder is None else holder.result(self)


def stage(
    work: Callable[..., T], *needs: str, settles: bool = False, goes_on: bool = False
) -> Stage[T]:
    """A quick stage. One that `settles` gives the earlier object where its result is equal, so that
    what follows from it need not be worked out anew. The work of one that `goes_on` also takes
    `before`: the needs and the result of the last time, so that it works out only what changed."""
    return Stage(work, needs, settles=settles, goes_on=goes_on)


def slow_stage(
    work: Callable[..., T | None],
    *needs: str,
    stands_in: tuple[str, ...] | None = None,
    kept: int | None = None,
) -> Stage[T | None]:
    """A stage for the worker; its work takes `tick` too. Until its result is there, the newest one
    serves whose needs of the names in `stands_in` are the same; or None. `kept` is how many results
    are remembered, where it is not a few large ones."""
    made: Stage[T | None] = Stage(work, needs, slow=True, stands_in=stands_in, kept=kept)
    return made


class Memory:
    """The last few results of every stage, by their needs. Used from several threads."""

    def __init__(self) -> None:
        self._kept: dict[str, list[tuple[Needs, Any]]] = {}
        self._lock = Lock()

    def copy(self) -> "Memory":
        """Another memory that holds the same results now, and goes its own way."""
        copied = Memory()
        with self._lock:
            copied._kept = {name: list(rows) for name, rows in self._kept.items()}
        return copied

    def find(self, stage: Stage[T], needs: Needs) -> tuple[T] | None:
        """The result for these very needs, in a tuple of one; None where there is none."""
        with self._lock:
            return self._found(stage, needs)

    def _found(self, stage: Stage[T], needs: Needs) -> tuple[T] | None:
        rows = self._kept.get(stage.name, [])
        for i, (known, result) in enumerate(rows):
            if all(map(same, known, needs)):
                rows.insert(0, rows.pop(i))
                return (result,)
        return None

    def newest(self, stage: Stage[T]) -> tuple[Needs, T] | None:
        """The needs and the result that were kept or found last; None where there are none."""
        with self._lock:
            rows = self._kept.get(stage.name)
            return rows[0] if rows else None

    def keep(self, stage: Stage[T], needs: Needs, result: T) -> T:
        """The result, kept; or the one that is there already, so that there are never two."""
        freeze(result)
        with self._lock:
            found = self._found(stage, needs)
            if found is not None:
                return found[0]
            rows = self._kept.setdefault(stage.name, [])
            if stage.settles:
                result = next((old for _, old in rows if old == result), result)
            rows.insert(0, (needs, result))
            del rows[stage.kept :]
            return result

    def stand_in(self, stage: Stage[T], needs: Needs) -> T | None:
        """The newest result that may serve until the wanted one is there."""
        if stage.stands_in is None:
            return None
        at = [stage.needs.index(n) for n in stage.stands_in]
        with self._lock:
            for known, result in self._kept.get(stage.name, []):
                if all(same(known[i], needs[i]) for i in at):
                    return result  # type: ignore[no-any-return]  # rows of a stage hold its results
        return None


def same(one: Any, other: Any) -> bool:
    """Whether two needs are the very same object, or equal plain values."""
    return one is other or (isinstance(one, _PLAIN) and type(one) is type(other) and one == other)


def freeze(result: Any, depth: int = 3) -> None:
    """Make the arrays of a result read-only: itself, or those of a record of records. A tuple of
    many records of plain values, as petals are, is not looked through."""
    if isinstance(result, np.ndarray):
        result.flags.writeable = False
    elif depth and isinstance(result, tuple) and not _is_plain(result):
        for part in result:
            freeze(part, depth - 1)


def _is_plain(many: tuple[Any, ...]) -> bool:
    """Whether these are records of plain values alone, which hold no array."""
    fields = getattr(type(many[0]), "__annotations__", {}) if many else {}
    return bool(fields) and all(kind in (str, float, int, bool) for kind in fields.values())
