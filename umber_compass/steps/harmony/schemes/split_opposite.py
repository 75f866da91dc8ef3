"""A hue and the pair beside its opposite."""

from umber_compass.steps.harmony.schemes.spec import Needle, SchemeSpec

SCHEME = SchemeSpec(
    name="split-opposite",
    title="split opposite",
    supports="no neighbours",
    answers="the split pair",
    spread_deg=30,
    needles=(
        Needle("A", "leads", lambda spread: 0, 0.6),
        Needle("B", "answers", lambda spread: 180 - spread, 0.1),
        Needle("C", "answers", lambda spread: 180 + spread, 0.1),
    ),
)
