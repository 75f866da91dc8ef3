"""Results of drills, kept in the state folder from one day to the next."""

from pathlib import Path
from typing import Annotated

import msgspec

from umber_compass.formats import atomic
from umber_compass.words import Refusal

_NAME, _MOST, _MOST_BYTES = "training.json", 2_000, 2_000_000


class Outcome(msgspec.Struct, frozen=True):
    """What a drill came to."""

    drill: Annotated[str, msgspec.Meta(max_length=40)]
    at: Annotated[float, msgspec.Meta(ge=0, le=1e11)]  # seconds since 1970
    result: Annotated[float, msgspec.Meta(ge=0, le=1000)]  # in the drill's unit


def outcomes(folder: Path | None) -> list[Outcome]:
    """All that was kept, the oldest first; none where nothing can be read."""
    if folder is None:
        return []
    try:
        data = atomic.read(folder / _NAME, _MOST_BYTES)
        return msgspec.json.decode(data, type=list[Outcome])
    except (Refusal, msgspec.MsgspecError, OSError):
        return []


def keep(folder: Path | None, outcome: Outcome) -> None:
    """Keep one more. Raises Refusal where it cannot be written."""
    if folder is None:
        return
    kept = [*outcomes(folder), outcome][-_MOST:]
    atomic.make_folder(folder)
    atomic.write_data(folder / _NAME, msgspec.json.encode(kept))
