"""The practices beside the general one: each is what differs from it."""

from umber_compass.plan.practices import general
from umber_compass.plan.practices.practice import VALUES_FIRST

PRACTICES = (
    # The practice of those who settle value before any hue.
    general.PRACTICE.told(
        "grey-first",
        "Grey first",
        "Values are settled in grey before any hue; the hues then keep them.",
        route=VALUES_FIRST,
        figure_merges_note=18,
        figure_merges_warning=14,
        figure_merges_middle=10,
        order_broken_note=10,
        other_grey_note=11,
        other_grey_warning=8,
        balance_chroma=60,
        hue_off_scheme_arc=22,
        hue_off_scheme_warning=18,
    ),
    # The practice of those who let hue part what value does not.
    general.PRACTICE.told(
        "colour-first",
        "Colour first",
        "Hue and chroma carry the picture; values may lie closer to each other.",
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
    ),
    # The practice of pictures of a few dozen px: every colour counts, every px is seen.
    general.PRACTICE.told(
        "sprite",
        "Sprite",
        "Few colours in hard steps; every pixel is shown whole and never smoothed.",
        budget_colours=16,
        picture_smooth=0,
        near_duplicates_apart=4,
        figure_merges_note=20,
        figure_merges_warning=15,
        other_grey_note=12,
        ramp_spacing=14,
        ramp_degrees=14,
        extremes_note=30,
        extremes_warning=40,
        pure_note=8,
        pure_warning=15,
    ),
    # The practice of drawn lines with colour under them.
    general.PRACTICE.told(
        "ink-and-colour",
        "Ink and colour",
        "Lines and solid blacks carry the drawing and are measured apart; colour stays lighter.",
        lines_apart=1,
        extremes_dark=16,
        pure_dark=8,
        drift_dark=40,
        figure_merges_note=9,
        figure_merges_warning=6,
        figure_merges_middle=4,
        bands_darks=15,
        bands_lights=35,
        picture_shading=80,
    ),
)
