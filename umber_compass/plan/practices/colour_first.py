"""The practice of those who let hue part what value does not."""

from umber_compass.plan.practices import general

PRACTICE = general.PRACTICE.told(
    "colour-first",
    "Colour first",
    "hue and chroma carry the picture; values may lie closer",
    figure_merges_note=10,
    figure_merges_warning=7,
    figure_merges_middle=5,
    order_broken_note=5,
    halves_equal_note=6,
    halves_equal_warning=2,
    hue_off_scheme_arc=15,
    hue_off_scheme_warning=9,
    strong_colour_note=20,
    strong_colour_warning=32,
    balance_chroma=95,
)
