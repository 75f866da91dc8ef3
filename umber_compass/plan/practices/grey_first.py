"""The practice of those who settle value before any hue."""

from umber_compass.plan.practices import general
from umber_compass.plan.practices.spec import VALUES_FIRST

PRACTICE = general.PRACTICE.told(
    "grey-first",
    "Grey first",
    "values are settled in grey before any hue, and hues then keep them",
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
)
