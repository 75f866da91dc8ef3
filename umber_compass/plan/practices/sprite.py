"""The practice of pictures of a few dozen px: every colour counts, every px is seen."""

from umber_compass.plan.practices import general

PRACTICE = general.PRACTICE.told(
    "sprite",
    "Sprite",
    "few colours in hard steps; px shown whole, never smoothed",
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
)
