"""The kinds of sketch, one file each."""

from umber_compass.steps.sketch.kinds import flats
from umber_compass.steps.sketch.kinds.spec import KindSpec, Split

KINDS: dict[str, KindSpec] = {m.KIND.name: m.KIND for m in (flats,)}
AUTO = "auto"


def kind_of_sketch(asked: str) -> KindSpec:
    """The kind that was asked for; for `auto` the one that suits, which is flats while no other is
    built."""
    return KINDS["flats" if asked == AUTO else asked]


__all__ = ["AUTO", "KINDS", "KindSpec", "Split", "kind_of_sketch"]
