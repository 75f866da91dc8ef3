"""Lines and solid blacks: ink that is drawn, not lit."""

from collections.abc import Mapping

from umber_compass.plan.model import Region
from umber_compass.steps.harmony.colours import RegionColour
from umber_compass.steps.values.wishes import HeldWishes, Rules


def ink_regions(
    regions: tuple[Region, ...],
    colours: Mapping[str, RegionColour],
    wishes: HeldWishes,
    rules: Rules,
) -> frozenset[str]:
    """The regions, by id, that are lines or one solid black, where the practice holds those apart;
    else none."""
    if not wishes.on("lines"):
        return frozenset()
    black = rules["pure.dark"]
    return frozenset(
        r.id
        for r in regions
        if r.role == "line" or max(e.value for e in colours[r.id].ends) < black
    )


def ink_labels(regions: tuple[Region, ...], ink: frozenset[str]) -> tuple[int, ...]:
    """The labels of those."""
    return tuple(r.label for r in regions if r.id in ink)
