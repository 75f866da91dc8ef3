"""The checks, one file each, and the ranking of what they propose."""

from umber_compass.steps.checks.harmony import hue_off_scheme
from umber_compass.steps.checks.light import lamp_rank, warm_with_cool
from umber_compass.steps.checks.spec import LEVELS, CheckSpec, Fix, Result
from umber_compass.steps.checks.values import extremes, figure_merges

CHECKS: dict[str, CheckSpec] = {
    m.CHECK.name: m.CHECK
    for m in (extremes, figure_merges, hue_off_scheme, lamp_rank, warm_with_cool)
}

__all__ = ["CHECKS", "LEVELS", "CheckSpec", "Fix", "Result"]
