"""What a part of the program reads of a plan's results, so that it wakes only when one of those is
another: an instrument of the window, or a check."""

import time
from typing import Any, cast

from umber_compass.steps.pipeline import Derived
from umber_compass.steps.stages import same


class _Reader:
    """Stands for a plan's results, and keeps by name what is read of them."""

    def __init__(self, derived: Derived) -> None:
        self._derived = derived

    def __getattr__(self, name: str) -> Any:
        found = getattr(self._derived, name)
        if callable(found):  # what it will read is not known, but it follows from the plan
            self.__dict__["plan"] = self._derived.plan
        else:
            self.__dict__[name] = found
        return found

    def read(self) -> dict[str, Any]:
        """Every result that was read, by name."""
        return {k: v for k, v in self.__dict__.items() if k != "_derived"}


class Followed:
    """The results that a part read last."""

    def __init__(self) -> None:
        self._read: dict[str, Any] | None = None
        self._reader: _Reader | None = None

    def reader(self, derived: Derived) -> Derived:
        """A plan's results, to be read by the part: what it reads from now on is followed."""
        self._reader, self._read = _Reader(derived), None
        return cast(Derived, self._reader)

    def _names(self) -> dict[str, Any]:
        if self._read is None:
            self._read = {} if self._reader is None else self._reader.read()
        return self._read

    def is_behind(self, derived: Derived) -> bool:
        """Whether any of what was read is another for this plan, or nothing was read yet."""
        read = self._names()
        return not read or not all(same(getattr(derived, k), v) for k, v in read.items())

    def work_out(self, derived: Derived, most_ms: float) -> bool:
        """Work out what was read, for this plan, for about so long; gives whether all of it was
        there, or took no time that counts: showing it may be put off to another time else."""
        begin, took = time.thread_time(), 0.0
        for name in self._names():
            getattr(derived, name)
            took = (time.thread_time() - begin) * 1000
            if took > most_ms:
                return False
        return took < most_ms / 4
