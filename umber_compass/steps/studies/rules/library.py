"""A palette of the library, mapped by hue family, share and value."""

from functools import partial

from msgspec.structs import replace

from umber_compass.plan.edits import study
from umber_compass.plan.model import Plan
from umber_compass.plan.palettes import GivenPalette
from umber_compass.steps.harmony.colours import region_colours
from umber_compass.steps.harmony.mapping import lay_palette, map_palette
from umber_compass.steps.studies.grow_rule import GrowContext, GrowRule, Version


def _versions(plan: Plan, context: GrowContext) -> list[Version]:
    found = []
    for palette in context.library:
        by = f", {palette.source}" if palette.source else ""
        title = palette.title or "Palette"
        found.append(Version(title, f"palette{by}", partial(_laid, plan, palette, context)))
    return found


def _laid(plan: Plan, palette: GivenPalette, context: GrowContext) -> Plan:
    now = study(plan)
    shown = region_colours(now.scheme, now.colours)
    hexes = [s.hex for s in palette.colours]
    of = map_palette(hexes, shown, context.shares, context.touching, plan.regions)
    return lay_palette(replace(palette, of=of), context.shares).change(plan)


RULE = GrowRule("library", "A palette from the library", "mapped by value and share", _versions)
