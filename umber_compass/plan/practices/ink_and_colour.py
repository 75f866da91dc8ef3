"""The practice of drawn lines with colour under them."""

from umber_compass.plan.practices import general

PRACTICE = general.PRACTICE.told(
    "ink-and-colour",
    "Ink and colour",
    "lines and solid blacks carry the drawing and are measured apart; colour stays lighter",
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
)
