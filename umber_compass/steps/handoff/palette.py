"""What the painting program gets: the palette's rows and the names of the files."""

from umber_compass.plan.light_edits import rig_of
from umber_compass.plan.model import Plan
from umber_compass.steps.harmony.colours import end_names
from umber_compass.steps.harmony.zones import zones_of
from umber_compass.steps.light.chart import PLACES
from umber_compass.steps.pipeline import Derived
from umber_compass.steps.ramps.rows import row_order
from umber_compass.steps.ramps.sharing import Ramps

KINDS = {
    "gpl": "{stem}.gpl",
    "flat": "{stem}-flat.png",
    "lit": "{stem}-lit.png",
    "chart": "{stem}-chart.gpl",
    "ora": "{stem}-layers.ora",
    "hex": "{stem}.hex",
    "pal": "{stem}.pal",
    "soc": "{stem}.soc",
    "css": "{stem}.css",
    "tokens": "{stem}.tokens.json",
    "ggr": "{stem}.ggr",
    "gradient": "{stem}-gradient.svg",
    "svg": "{stem}-swatches.svg",
    "png": "{stem}-swatches.png",
}
PICTURES = ("flat", "lit")
GREY_CHECK = "grey check"  # the starter file's hidden layer that takes colour away
MORE = (
    "hex",
    "pal",
    "soc",
    "css",
    "tokens",
    "ggr",
    "gradient",
    "svg",
    "png",
)  # the same palette otherwise
SAYS = {
    "gpl": "palette: every region’s steps, families together, dark to light",
    "flat": "flat picture at the sketch’s own size, smooth borders",
    "lit": "lit picture at the sketch’s own size, smooth borders",
    "chart": "palette: every region’s paint chart, lit to crevice",
    "hex": "palette: the same colours, a hex a line",
    "pal": "palette: the same as decimal levels, without names",
    "soc": "palette: the same with names, as office programs read them",
    "css": "palette: the same as custom properties of a style sheet",
    "tokens": "palette: the same as design tokens, a group for each region",
    "ggr": "gradient: the largest region’s steps, or the one over your shading, dark to light",
    "gradient": "the same gradient as SVG",
    "svg": "swatches: a row for each region, as vectors",
    "png": "swatches: a row for each region, as a picture",
    "ora": "layers: a group for each material with its light, full size",
}


def kinds_for(plan: Plan) -> tuple[str, ...]:
    """The files that are written unless others are asked for: those of the light if it is on."""
    unlit = {"lit", "chart"}
    return tuple(k for k in KINDS if rig_of(plan).on or k not in unlit)


def stem(title: str) -> str:
    """A file name's stem from the plan's title."""
    kept = "".join(c if c.isalnum() else "-" for c in title.lower())
    return "-".join(p for p in kept.split("-") if p)[:80] or "plan"


def palette_rows(derived: Derived) -> list[tuple[str, str, str]]:
    """(hex, name, step) of every region's steps, in the order of the palette’s rows, dark to light;
    the base is said; then zones, and colours of no region."""
    said = {r.id: r.name for r in derived.plan.regions}
    ramps = derived.ramps or Ramps()
    rows = []
    for region_id in row_order(derived.study, derived.families) if ramps else ():
        ends = end_names(derived.planned[region_id])
        for end, ramp in enumerate(ramps[region_id]):
            name = said[region_id] + ends[end]
            for i, step in enumerate(ramp.steps):
                which = "base" if i == ramp.base else f"{i - ramp.base:+d}".replace("-", "−")
                rows.append((step.hex, name, which))
        rows += _zone_rows(derived, region_id, said[region_id])
    return rows + [(s.hex, s.name or s.hex, "beside") for s in derived.study.extras]


def _zone_rows(derived: Derived, region_id: str, name: str) -> list[tuple[str, str, str]]:
    """(hex, name, zone) of a region that is parted into zones."""
    wish = derived.study.zones.get(region_id)
    if wish is None:
        return []
    found = zones_of(derived.colours[region_id].first, wish.school, wish.strength)
    return [(zone.hex, name, zone.name) for zone in found]


def gradient_hexes(derived: Derived) -> list[str]:
    """The gradient over the artist's own shading; else the steps of the region that holds most of
    the picture, dark to light."""
    if derived.shading.hue == "gradient" and derived.shading.stops:
        return list(derived.shading.stops)
    ramps = derived.ramps or Ramps()
    largest = max(ramps, key=lambda r: derived.shares.get(r, 0.0), default=None)
    return [] if largest is None else [s.hex for s in ramps[largest][0].steps]


def columns(derived: Derived) -> int:
    """How many colours a row of the palette has, where every region has as many; else 0."""
    counts = {len(ramp.steps) for ramps in (derived.ramps or {}).values() for ramp in ramps}
    plain = not derived.study.zones and not derived.study.extras
    return counts.pop() if len(counts) == 1 and plain else 0


def chart_rows(derived: Derived) -> list[tuple[str, str, str]]:
    """(hex, name, place) of every region's colours in the light, families together, lit to
    crevice."""
    by_region: dict[str, list[tuple[str, str, str]]] = {}
    for row in derived.chart or ():
        named = [(row.local.hex, row.name, "local")]
        named += [
            (row.places[p.name].hex, row.name, p.title) for p in PLACES if p.name in row.places
        ]
        by_region.setdefault(row.region, []).extend(named)
    return [entry for region_id in derived.families for entry in by_region.get(region_id, ())]


def comments(derived: Derived, kind: str = "gpl") -> list[str]:
    """What a palette says of itself."""
    scheme = derived.scheme
    steps = "Steps: minus is darker, plus is lighter than the base"
    places = "Places: from the side that faces the key to the least open crevice"
    return [
        f"Scheme: {scheme.name}, {scheme.wheel} wheel, lead at {scheme.lead_deg:.0f} degrees",
        steps if kind == "gpl" else places,
    ]
