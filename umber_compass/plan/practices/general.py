"""The practice the program starts with: middle of the road, colour before value."""

from umber_compass.plan.practices.spec import Practice, Rule

_CHECKS = "studio rule, docs/checks.md"
_VALUES = "studio rule, docs/values.md"
_FOCUS = "studio rule, docs/focus.md"
_HARMONY = "studio rule, docs/harmony.md"
_STUDIES = "studio rule, docs/studies.md"
_SKETCH = "studio rule, docs/practices.md"
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
        Rule("figure-merges.middle", "figure from middle ground", 8, "L*", 0, 60, _CHECKS),
        Rule("bands.dark-edge", "darks end at", 35, "L*", 1, 99, _VALUES),
        Rule("bands.light-edge", "lights begin at", 68, "L*", 1, 99, _VALUES),
        Rule("bands.darks", "darks should hold", 25, "% of the picture", 0, 100, _VALUES),
        Rule("bands.lights", "lights should hold", 25, "% of the picture", 0, 100, _VALUES),
        Rule("band-share.note", "band’s share off: note over", 10, "points", 0, 100, _CHECKS),
        Rule("band-share.warning", "band’s share off: warning over", 30, "points", 0, 100, _CHECKS),
        Rule("order-broken.note", "order of materials: apart by", 8, "L*", 0, 60, _CHECKS),
        Rule("order-broken.warning", "order of materials: warning under", 2, "L*", 0, 60, _CHECKS),
        Rule(
            "halves-equal.note", "light and dark: note under", 12, "points apart", 0, 100, _CHECKS
        ),
        Rule(
            "halves-equal.warning",
            "light and dark: warning under",
            4,
            "points apart",
            0,
            100,
            _CHECKS,
        ),
        Rule("halves-equal.edge", "light begins at", 50, "L*", 1, 99, _VALUES),
        Rule("drift.dark", "too dark over all: median under", 30, "L*", 0, 100, _CHECKS),
        Rule("drift.light", "too light over all: median over", 78, "L*", 0, 100, _CHECKS),
        Rule("drift.edge", "an edge is lost under", 4, "L*", 0, 40, _CHECKS),
        Rule("drift.lost", "lost edges: warning over", 35, "% of all edges", 0, 100, _CHECKS),
        Rule("pure.dark", "pure black under", 3, "L*", 0, 20, _CHECKS),
        Rule("pure.light", "pure white over", 98, "L*", 80, 100, _CHECKS),
        Rule(
            "pure.note", "pure black or white: note over", 0.5, "% of the picture", 0, 100, _CHECKS
        ),
        Rule(
            "pure.warning",
            "pure black or white: warning over",
            1,
            "% of the picture",
            0,
            100,
            _CHECKS,
        ),
        Rule("shadow-middles.below", "a figure is in shadow under", 38, "L*", 0, 100, _CHECKS),
        Rule("shadow-middles.low", "its middle tones begin at", 25, "L*", 0, 100, _CHECKS),
        Rule(
            "shadow-middles.note",
            "middle tones: note under",
            20,
            "% of the figure",
            0,
            100,
            _CHECKS,
        ),
        Rule(
            "shadow-middles.warning",
            "middle tones: warning under",
            8,
            "% of the figure",
            0,
            100,
            _CHECKS,
        ),
        Rule("other-grey.note", "apart in the other grey: note under", 9, "points", 0, 60, _CHECKS),
        Rule(
            "other-grey.warning",
            "apart in the other grey: warning under",
            6,
            "points",
            0,
            60,
            _CHECKS,
        ),
        Rule("focus-leads.note", "focus should lead by", 1.2, "times", 1, 5, _FOCUS),
        Rule("focus-leads.warning", "focus leads: warning under", 1.12, "times", 0, 5, _FOCUS),
        Rule(
            "competes.warning", "others compete: warning over", 89, "% of the focus", 0, 200, _FOCUS
        ),
        Rule("ties.share", "two places tie from", 89, "% of the first", 50, 100, _FOCUS),
        Rule(
            "strong-colour.note", "strong colour: note over", 15, "% of the picture", 0, 100, _FOCUS
        ),
        Rule(
            "strong-colour.warning",
            "strong colour: warning over",
            25,
            "% of the picture",
            0,
            100,
            _FOCUS,
        ),
        Rule(
            "strong-colour.hue",
            "strong colour of one hue: note over",
            10,
            "% of the picture",
            0,
            100,
            _FOCUS,
        ),
        Rule("strong-colour.chroma", "strong from chroma", 0.12, "OKLCh", 0.05, 0.4, _FOCUS),
        Rule(
            "even-detail.note",
            "edges in the busiest third: note under",
            50,
            "% of all edges",
            33,
            100,
            _FOCUS,
        ),
        Rule(
            "even-detail.warning",
            "edges in the busiest third: warning under",
            42,
            "% of all edges",
            33,
            100,
            _FOCUS,
        ),
        Rule("hue-off-scheme.arc", "half width of a hue's arc", 18, "° OKLCh", 1, 90, _CHECKS),
        Rule("hue-off-scheme.note", "stray: note over", 0, "° OKLCh", 0, 180, _CHECKS),
        Rule("hue-off-scheme.warning", "stray: warning over", 12, "° OKLCh", 0, 180, _CHECKS),
        Rule("hue-off-scheme.share", "stray counts from", 0.5, "% of the picture", 0, 100, _CHECKS),
        Rule("hue-off-scheme.chroma", "stray counts above chroma", 0.03, "OKLCh", 0, 0.4, _CHECKS),
        Rule("lively.low", "quiet palette: lively from", 2.5, "CIEDE2000", 0, 20, _HARMONY),
        Rule("lively.high", "quiet palette: lively up to", 6, "CIEDE2000", 0, 40, _HARMONY),
        Rule("mood.note", "palette and mood: note over", 0, "faults", 0, 10, _HARMONY),
        Rule("mood.warning", "palette and mood: warning over", 1, "faults", 0, 10, _HARMONY),
        Rule("echo.least", "an echo is missed from", 0.2, "% of the picture", 0, 100, _HARMONY),
        Rule("echo.most", "an echo is missed up to", 12, "% of the picture", 0, 100, _HARMONY),
        Rule(
            "near-duplicates.apart", "two colours are one under", 1.5, "CIEDE2000", 0, 10, _HARMONY
        ),
        Rule("studies.apart", "studies lie apart by", 0.08, "OKLab by area", 0, 1, _STUDIES),
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
        Rule("falloff.chroma-near", "chroma at the focus up to", 0.3, "OKLCh", 0, 0.4, _FOCUS),
        Rule("falloff.chroma-far", "chroma far from it up to", 0.09, "OKLCh", 0, 0.4, _FOCUS),
        Rule("falloff.contrast-near", "contrast at the focus up to", 70, "L*", 0, 100, _FOCUS),
        Rule("falloff.contrast-far", "contrast far from it up to", 25, "L*", 0, 100, _FOCUS),
        Rule("falloff.hue-near", "turn from its hue near it up to", 40, "° OKLCh", 0, 180, _FOCUS),
        Rule("falloff.hue-far", "turn from its hue far off up to", 180, "° OKLCh", 0, 180, _FOCUS),
        Rule("balance.ground", "price of moving a ground", 1, "times", 0.1, 20, _VALUES),
        Rule("balance.middle", "price of moving a middle ground", 1.5, "times", 0.1, 20, _VALUES),
        Rule("balance.figure", "price of moving a figure", 3, "times", 0.1, 20, _VALUES),
        Rule("balance.focus", "price of moving the focus", 8, "times", 0.1, 20, _VALUES),
        Rule("balance.chroma", "chroma that must be kept", 80, "%", 0, 100, _VALUES),
        Rule("ramp.spacing", "step of a ramp", 9, "L*", 1, 40, _RAMPS),
        Rule("ramp.degrees", "turn of a cool-warm step", 8, "° OKLCh", 0, 60, _RAMPS),
        Rule("ramp.hsb", "points of an hsb-sum step", 25, "points", 1, 100, _RAMPS),
        Rule("budget.colours", "colours at most; 0: any number", 0, "colours", 0, 256, _SKETCH),
        Rule("picture.smooth", "px are smoothed where they are enlarged", 1, "on", 0, 1, _SKETCH),
        Rule("lines.apart", "lines and solid blacks are measured apart", 1, "on", 0, 1, _SKETCH),
        Rule("picture.shading", "the sketch’s own shading at", 100, "%", 0, 200, _SKETCH),
    ),
    says="middle of the road: hues before values, nothing forbidden",
)
