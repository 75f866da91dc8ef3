"""Four hues a quarter of the wheel apart."""

from umber_compass.steps.harmony.schemes.spec import Needle, SchemeSpec

SCHEME = SchemeSpec(
    name="square",
    title="square",
    supports="no neighbours",
    answers="a square",
    spread_deg=0,
    needles=(
        Needle("A", "leads", lambda spread: 0, 0.45),
        Needle("B", "answers", lambda spread: 90, 0.12),
        Needle("C", "answers", lambda spread: 180, 0.12),
        Needle("D", "answers", lambda spread: 270, 0.08),
    ),
)
