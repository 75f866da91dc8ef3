"""What is said of a picture that was just brought in: little of a good one, and of a spoiled one
the fault first."""

import tempfile
from collections.abc import Iterator
from pathlib import Path

from bench.first_pictures import SCENES, Scene, darkened, merged, outshone
from bench.rows import Row
from umber_compass import document
from umber_compass.formats.picture import png_bytes
from umber_compass.plan.edits import Edit
from umber_compass.plan.settings import change_setting
from umber_compass.plan.study_edits import set_mood
from umber_compass.steps.checks import CHECKS, Result
from umber_compass.steps.checks.judging import measure_all
from umber_compass.steps.pipeline import Derived, Pipeline

_MOST = 2  # warnings at first sight of a good picture
_FEW_COLOURS = 4


def rows() -> Iterator[Row]:
    """Warnings of good pictures; what comes first for spoiled ones."""
    good = [measure_all(seen(s)) for s in SCENES]
    warned = [sum(r.level == "warning" for r in found) for found in good]
    yield Row(
        f"warnings at first sight, {len(SCENES)} good pictures",
        f"{sum(warned)}, most {max(warned)}",
        f"{_MOST} each",
        max(warned) <= _MOST,
    )
    idle = sum(r.level == "warning" and not _has_reason(r) for found in good for r in found)
    yield Row("warnings without a wish or damage", f"{idle}", "none", not idle)
    for name, first, checks in (
        ("too dark", lambda s: seen(darkened(s)), ("drift",)),
        ("merged", lambda s: seen(merged(s)), ("figure-merges",)),
        ("focus outshone", lambda s: seen(outshone(s), told=True), ("focus-leads",)),
        ("another mood", lambda s: seen(s, set_mood(s.mood)), ("mood",)),
        ("too many colours", _over_budget, ("colour-budget",)),
    ):
        of = [s for s in SCENES if name != "another mood" or s.is_coloured]
        right = sum(measure_all(first(s))[0].check in checks for s in of)
        yield Row(f"{name}: said first", f"{right} of {len(of)}", "all", right == len(of))


def _over_budget(scene: Scene) -> Derived:
    return seen(scene, change_setting("budget", _FEW_COLOURS))


def _has_reason(result: Result) -> bool:
    return result.damage or CHECKS[result.check].always


def seen(scene: Scene, edit: Edit | None = None, told: bool = False) -> Derived:
    """What follows from a scene brought in as a file, after an edit; `told`: with its figure named
    as the focus."""
    w, h = scene.size
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "scene.png"
        path.write_bytes(png_bytes(scene.drawn()))
        focus = (scene.at[0] * w / 100, scene.at[1] * h / 100) if told else None
        made = document.bring_in(path, focus)
    plan = made.plan if edit is None else edit.apply(made.plan)
    return Pipeline(made.pixels.drawings).derive(plan).think()
