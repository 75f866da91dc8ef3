"""A palette of the library, mapped by hue family, share and value."""

from msgspec.structs import replace

from umber_compass.plan.edits import study
from umber_compass.plan.model import Plan
from umber_compass.steps.harmony.colours import region_colours
from umber_compass.steps.harmony.mapping import lay_palette, map_palette
from umber_compass.steps.studies.spec import GrowRule, Soil, Version


def _versions(plan: Plan, soil: Soil) -> list[Version]:
    now = study(plan)
    shown = region_colours(now.scheme, now.colours)
    found = []
    for palette in soil.library:
        of = map_palette([s.hex for s in palette.colours], shown, soil.shares, soil.touching)
        laid = lay_palette(replace(palette, of=of), soil.shares).change(plan)
        by = f", {palette.source}" if palette.source else ""
        found.append(Version(palette.title or "Palette", f"palette{by}", laid))
    return found


RULE = GrowRule("library", "A palette from the library", "mapped by value and share", _versions)
