"""Work that tells its share and can be stopped."""

from collections.abc import Callable, Iterable, Iterator
from typing import TypeAlias, TypeVar

Item = TypeVar("Item")
Made = TypeVar("Made")

Tick: TypeAlias = Callable[[float], None]  # told the share done; raises to stop


def rising(tick: Tick) -> Tick:
    """A tick that is never told less than before: several works in a row each begin at nought."""
    most = -1.0

    def told(share: float) -> None:
        nonlocal most
        most = max(most, share)
        tick(most)

    return told


def idle(share: float) -> None:
    """Tells nobody."""


_FEW_PARTS = 4


def in_turn(
    work: Callable[[Item], Made], items: Iterable[Item], workers: int = 1
) -> Iterator[Made]:
    """What work makes of each item, in their order, by so many threads. What is not yet begun is
    left when the caller stops asking, or an item's work raises."""
    if workers < 2:
        yield from map(work, items)
        return
    from concurrent.futures import ThreadPoolExecutor  # few works are shared

    pool = ThreadPoolExecutor(workers)
    try:
        yield from pool.map(work, items)
    finally:
        pool.shutdown(cancel_futures=True)


def by_rows(height: int, work: Callable[[slice], None], rows: int = 128, workers: int = 2) -> None:
    """Have a picture's rows worked on, so many at a time: they stay in the cache, and threads
    share them."""
    parts = [slice(top, min(top + rows, height)) for top in range(0, height, rows)]
    # Few rows are done before threads would have begun.
    for _ in in_turn(work, parts, workers if len(parts) > _FEW_PARTS else 1):
        pass


class Stopped(Exception):  # noqa: N818 - the artist’s wish is no fault
    """Work that was told to stop."""
