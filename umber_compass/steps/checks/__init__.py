"""The checks, one file each, and the ranking of what they propose."""

from umber_compass.registry import registered
from umber_compass.steps.checks.check import LEVELS, CheckSpec, Fix, Result
from umber_compass.steps.checks.focus import (
    competes,
    even_detail,
    focus_leads,
    strong_colour,
    ties,
)
from umber_compass.steps.checks.harmony import (
    colour_budget,
    echo,
    hue_off_scheme,
    lively,
    mood,
    near_duplicates,
    other_eyes,
    other_screens,
)
from umber_compass.steps.checks.light import (
    deep_shade,
    families_split,
    highlight_alike,
    highlight_wide,
    lamp_rank,
    lit_bands,
    local_lost,
    shade_greys,
    shine,
    sides_apart,
    warm_with_cool,
)
from umber_compass.steps.checks.ramps import step_alike, step_budget
from umber_compass.steps.checks.values import (
    band_share,
    drift,
    extremes,
    figure_merges,
    halves_equal,
    order_broken,
    other_grey,
    pure,
    shadow_middles,
)

CHECKS: dict[str, CheckSpec] = registered(
    "CHECK",
    extremes,
    figure_merges,
    other_grey,
    drift,
    order_broken,
    band_share,
    halves_equal,
    pure,
    shadow_middles,
    focus_leads,
    competes,
    ties,
    strong_colour,
    even_detail,
    hue_off_scheme,
    colour_budget,
    mood,
    lively,
    echo,
    near_duplicates,
    other_eyes,
    other_screens,
    lamp_rank,
    warm_with_cool,
    sides_apart,
    deep_shade,
    shade_greys,
    local_lost,
    shine,
    families_split,
    highlight_wide,
    highlight_alike,
    lit_bands,
    step_budget,
    step_alike,
)

__all__ = ["CHECKS", "LEVELS", "CheckSpec", "Fix", "Result"]
