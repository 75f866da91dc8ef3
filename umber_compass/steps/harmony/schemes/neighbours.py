"""A hue between its two neighbours."""

from umber_compass.steps.harmony.schemes.spec import Needle, SchemeSpec

SCHEME = SchemeSpec(
    name="neighbours",
    title="neighbours",
    supports="its neighbours",
    answers="nothing",
    spread_deg=30,
    needles=(
        Needle("A", "leads", lambda spread: 0, 0.5),
        Needle("B", "supports", lambda spread: spread, 0.2),
        Needle("C", "supports", lambda spread: -spread, 0.15, lambda spread: 2 * spread),
    ),
)
