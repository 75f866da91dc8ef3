"""A hue and the one across the wheel."""

from umber_compass.steps.harmony.schemes.spec import Needle, SchemeSpec

SCHEME = SchemeSpec(
    name="opposites",
    title="opposites",
    supports="no neighbours",
    answers="the opposite",
    spread_deg=0,
    needles=(
        Needle("A", "leads", lambda spread: 0, 0.65),
        Needle("B", "answers", lambda spread: 180, 0.15),
    ),
)
