"""The practice the program starts with: middle of the road, colour before value."""

from umber_compass.plan.practices.spec import Practice, Rule

_CHECKS = "studio rule, docs/checks.md"
_RAMPS = "studio rule, docs/ramps.md"

PRACTICE = Practice(
    name="general",
    title="General",
    rules=(
        Rule("extremes.dark", "extreme darks below", 20, "L*", 0, 50, _CHECKS),
        Rule("extremes.light", "extreme lights above", 80, "L*", 50, 100, _CHECKS),
        Rule("extremes.note", "extremes: note over", 20, "% of the picture", 0, 100, _CHECKS),
        Rule("extremes.warning", "extremes: warning over", 25, "% of the picture", 0, 100, _CHECKS),
        Rule("figure-merges.note", "figure from ground: note under", 15, "L*", 0, 60, _CHECKS),
        Rule(
            "figure-merges.warning", "figure from ground: warning under", 12, "L*", 0, 60, _CHECKS
        ),
        Rule(
            "figure-merges.border",
            "shared border that counts",
            10,
            "% of the outline",
            0,
            100,
            _CHECKS,
        ),
        Rule("hue-off-scheme.arc", "half width of a hue's arc", 18, "° OKLCh", 1, 90, _CHECKS),
        Rule("hue-off-scheme.note", "stray: note over", 0, "° OKLCh", 0, 180, _CHECKS),
        Rule("hue-off-scheme.warning", "stray: warning over", 12, "° OKLCh", 0, 180, _CHECKS),
        Rule("hue-off-scheme.share", "stray counts from", 0.5, "% of the picture", 0, 100, _CHECKS),
        Rule("hue-off-scheme.chroma", "stray counts above chroma", 0.03, "OKLCh", 0, 0.4, _CHECKS),
        Rule("lamp-rank.note", "key over ambient: note under", 1.3, "times", 0, 20, _CHECKS),
        Rule("lamp-rank.warning", "key over ambient: warning under", 1, "times", 0, 20, _CHECKS),
        Rule("warm-with-cool.note", "lights’ hues: note under", 90, "° OKLCh", 0, 180, _CHECKS),
        Rule(
            "warm-with-cool.warning", "lights’ hues: warning under", 30, "° OKLCh", 0, 180, _CHECKS
        ),
        Rule(
            "fix.lead",
            "margin of a fix in light",
            1.02,
            "times",
            1,
            2,
            "engine: rounding undoes less",
        ),
        Rule(
            "fix.value",
            "margin of a fix in value",
            0.5,
            "L*",
            0,
            10,
            "engine: rounding undoes less",
        ),
        Rule(
            "fix.hue", "margin of a fix in hue", 1, "° OKLCh", 0, 10, "engine: rounding undoes less"
        ),
        Rule("ramp.spacing", "step of a ramp", 9, "L*", 1, 40, _RAMPS),
        Rule("ramp.degrees", "turn of a cool-warm step", 8, "° OKLCh", 0, 60, _RAMPS),
        Rule("ramp.hsb", "points of an hsb-sum step", 25, "points", 1, 100, _RAMPS),
    ),
)
