"""A hue with its neighbours, and the one across the wheel."""

from umber_compass.steps.harmony.schemes.spec import Needle, SchemeSpec

SCHEME = SchemeSpec(
    name="neighbours-opposite",
    title="neighbours + opposite",
    supports="its neighbours",
    answers="the opposite",
    spread_deg=30,
    needles=(
        Needle("A", "leads", lambda spread: 0, 0.45),
        Needle("B", "supports", lambda spread: spread, 0.15),
        Needle("C", "supports", lambda spread: -spread, 0.12, lambda spread: 2 * spread),
        Needle("D", "answers", lambda spread: 180, 0.1, lambda spread: 180 + spread),
    ),
)
