"""What a benchmark prints, and the yardsticks."""

import platform
import time
from collections.abc import Callable
from typing import NamedTuple

import numpy as np


class Row(NamedTuple):
    """One line of the table; `met` is None where there is no target."""

    what: str
    measured: str
    target: str
    met: bool | None


def machine() -> str:
    """Where and with what it ran."""
    return f"Python {platform.python_version()}, NumPy {np.__version__}, {platform.machine()}"


def times_ms(work: Callable[[], object], count: int, before: Callable[[], object]) -> list[float]:
    """How long each of some runs took, in ms; `before` runs untimed ahead of each."""
    found = []
    for _ in range(count):
        before()
        begin = time.perf_counter()
        work()
        found.append((time.perf_counter() - begin) * 1000)
    return found


_CACHE = np.ones(8_000_000, np.float64)  # 64 MB, more than any cache here


def cold() -> None:
    """Push everything else out of the caches."""
    np.add(_CACHE, 1.0, out=_CACHE)


def yardstick_ms(height: int, width: int) -> float:
    """M: one copy of a picture of this size, median, with cold caches."""
    source, target = np.ones((height, width), np.uint32), np.zeros((height, width), np.uint32)
    return float(np.median(times_ms(lambda: np.copyto(target, source), 31, cold)))
