"""A hue with one neighbour, and the opposites of both."""

from umber_compass.steps.harmony.schemes.spec import Needle, SchemeSpec

SCHEME = SchemeSpec(
    name="two-pairs",
    title="two pairs",
    supports="one neighbour",
    answers="both their opposites",
    spread_deg=60,
    needles=(
        Needle("A", "leads", lambda spread: 0, 0.45),
        Needle("B", "supports", lambda spread: spread, 0.15),
        Needle("C", "answers", lambda spread: 180, 0.12),
        Needle("D", "answers", lambda spread: 180 + spread, 0.08),
    ),
)
