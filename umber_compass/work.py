"""Work that tells its share and can be stopped."""

from collections.abc import Callable
from typing import TypeAlias

Tick: TypeAlias = Callable[[float], None]  # told the share done; raises to stop


def idle(share: float) -> None:
    """Tells nobody."""


class Stopped(Exception):  # noqa: N818 - the artist’s wish is no fault
    """Work that was told to stop."""
