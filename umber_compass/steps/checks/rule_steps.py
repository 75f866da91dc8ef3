"""Which step each rule of a practice belongs to."""

from umber_compass.steps.checks import CHECKS

_BY_STEM = {
    "bands": "values",
    "balance": "values",
    "falloff": "focus",
    "studies": "studies",
    "ramp": "ramps",
    "budget": "harmony",
    "picture": "sketch",
    "lines": "sketch",
    "fix": "handoff",
    "painting": "handoff",
}


def step_of_rule(key: str) -> str:
    """The step of a rule: that of its check, or of what it is a number of."""
    stem = key.partition(".")[0]
    if stem in CHECKS:
        return CHECKS[stem].step
    return _BY_STEM[stem]
