"""One hue, alive by value and chroma alone."""

from umber_compass.steps.harmony.schemes.spec import Needle, SchemeSpec

SCHEME = SchemeSpec(
    name="one-hue",
    title="one hue",
    supports="no neighbours",
    answers="nothing",
    spread_deg=0,
    needles=(Needle("A", "leads", lambda spread: 0, 0.75),),
)
