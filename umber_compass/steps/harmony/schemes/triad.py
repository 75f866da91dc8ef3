"""Three hues a third of the wheel apart."""

from umber_compass.steps.harmony.schemes.spec import Needle, SchemeSpec

SCHEME = SchemeSpec(
    name="triad",
    title="triad",
    supports="no neighbours",
    answers="a triad",
    spread_deg=0,
    needles=(
        Needle("A", "leads", lambda spread: 0, 0.5),
        Needle("B", "answers", lambda spread: 120, 0.15),
        Needle("C", "answers", lambda spread: 240, 0.15),
    ),
)
