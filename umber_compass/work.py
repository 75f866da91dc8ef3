"""Work that tells its share and can be stopped."""

from collections.abc import Callable
from typing import TypeAlias

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


class Stopped(Exception):  # noqa: N818 - the artist’s wish is no fault
    """Work that was told to stop."""
