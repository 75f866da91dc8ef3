"""What the painting program gets: the palette's rows and the names of the files."""

from umber_compass.plan.edits import study
from umber_compass.plan.light_edits import rig_of
from umber_compass.plan.model import Plan
from umber_compass.steps.chart import PLACES, chart
from umber_compass.steps.colouring import end_names
from umber_compass.steps.harmony import needle_angles
from umber_compass.steps.pipeline import Derived
from umber_compass.steps.ramps import all_steps

KINDS = {
    "gpl": "{stem}.gpl",
    "flat": "{stem}-flat.png",
    "lit": "{stem}-lit.png",
    "chart": "{stem}-chart.gpl",
}
SAYS = {
    "gpl": "palette: every region’s steps, families together, dark to light",
    "flat": "flat picture at the sketch’s own size, smooth borders",
    "lit": "lit picture at the sketch’s own size, smooth borders",
    "chart": "palette: every region’s paint chart, lit to crevice",
}


def kinds_for(plan: Plan) -> tuple[str, ...]:
    """The files that are written unless others are asked for: those of the light if it is on."""
    return tuple(KINDS) if rig_of(plan).on else ("gpl", "flat")


def stem(title: str) -> str:
    """A file name's stem from the plan's title."""
    kept = "".join(c if c.isalnum() else "-" for c in title.lower())
    return "-".join(p for p in kept.split("-") if p)[:80] or "plan"


def family_order(plan: Plan) -> dict[str, int]:
    """Families in the order they are shown: the lead, the others by letter, greys, given."""
    slots = [s for s in needle_angles(study(plan).scheme) if s != "grey"]
    return {s: i for i, s in enumerate([*sorted(slots), "grey", "given"])}


def by_family(derived: Derived) -> list[str]:
    """Region ids, families together, the largest region of each first."""
    order = family_order(derived.plan)
    return sorted(
        derived.colours,
        key=lambda r: (order.get(derived.colours[r].first.slot, 0), -derived.shares[r]),
    )


def palette_rows(derived: Derived) -> list[tuple[str, str]]:
    """(hex, name) of every region's steps, families together, dark to light; the base is said."""
    said = {r.id: r.name for r in derived.plan.regions}
    ramps = all_steps(derived.plan, derived.colours)
    rows = []
    for region_id in by_family(derived):
        ends = end_names(study(derived.plan).colours[region_id])
        for end, ramp in enumerate(ramps[region_id]):
            name = said[region_id] + ends[end]
            for i, step in enumerate(ramp.steps):
                which = "base" if i == ramp.base else f"{i - ramp.base:+d}".replace("-", "−")
                rows.append((step.hex, f"{name} {which}"))
    return rows


def chart_rows(derived: Derived) -> list[tuple[str, str]]:
    """(hex, name) of every region's colours in the light, families together, lit to crevice."""
    by_region: dict[str, list[tuple[str, str]]] = {}
    for row in chart(derived):
        named = [(row.local.hex, f"{row.name} local")]
        named += [(row.lit[p.name].hex, f"{row.name} {p.title}") for p in PLACES]
        by_region.setdefault(row.region, []).extend(named)
    return [entry for region_id in by_family(derived) for entry in by_region[region_id]]


def comments(derived: Derived, kind: str = "gpl") -> list[str]:
    """What a palette says of itself."""
    scheme = study(derived.plan).scheme
    steps = "Steps: minus is darker, plus is lighter than the base"
    places = "Places: from the side that faces the key to the least open crevice"
    return [
        f"Scheme: {scheme.name}, {scheme.wheel} wheel, lead at {scheme.lead_deg:.0f} degrees",
        steps if kind == "gpl" else places,
    ]
