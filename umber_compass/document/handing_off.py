"""What the painting program gets, written to files."""

from collections.abc import Mapping, Sequence
from pathlib import Path

import numpy as np

from umber_compass.colour.packed import Packed, unpack
from umber_compass.document.pixels import Pixels
from umber_compass.formats import atomic, gpl, picture
from umber_compass.picture.drawing import draw
from umber_compass.plan.light_edits import light_off, light_on
from umber_compass.plan.model import Plan
from umber_compass.steps.handoff import palette
from umber_compass.steps.light.views import LIGHT_VIEWS, exactly_in_part
from umber_compass.steps.pipeline import Derived, Pipeline, exact_picture
from umber_compass.steps.pipeline import picture as picture_of
from umber_compass.words import Refusal, words
from umber_compass.work import Tick, idle

OURS = "Umber Compass"
_MARK_WITHIN = 4096  # bytes of a file in which our mark must stand


def full_picture(
    plan: Plan,
    pixels: Pixels,
    view: str = "",
    tick: Tick = idle,
    known: Pipeline | None = None,
) -> Packed:
    """The plan's picture at the sketch's own size: as it is shown, `lit`, or one of the views of
    its light. `known` is a pipeline of the plan's drawing, whose forms serve again where the sketch
    is no larger than that."""
    labels = pixels.labels(plan.sketch)
    drawing = pixels.drawing(plan.sketch)
    if drawing.labels.shape != labels.shape:
        drawing, known = draw(pixels.rgb(plan.sketch), labels), None
    drawings = {plan.sketch.labels: drawing}
    if view == "flat":  # no forms are built for it
        return picture_of(Pipeline(drawings).derive(light_off(plan)))
    building = known or Pipeline(drawings, tick=lambda share: tick(share / 2))
    derived = building.derive(light_on(plan) if view else plan)

    def shading(share: float) -> None:
        tick(0.5 + share / 2)

    if view in LIGHT_VIEWS:
        return exactly_in_part(derived, view, shading)
    return exact_picture(derived, shading)


def handoff_paths(plan: Plan, folder: Path, kinds: Sequence[str]) -> dict[str, Path]:
    """The files a hand-off writes, by kind."""
    stem = palette.stem(plan.title)
    return {k: folder / palette.KINDS[k].format(stem=stem) for k in kinds}


def others_files(plan: Plan, folder: Path, kinds: Sequence[str]) -> list[Path]:
    """Those of the files a hand-off would write that are there already and not ours."""
    paths = handoff_paths(plan, folder, kinds).values()
    return [p for p in paths if p.exists() and not _is_ours(p)]


def hand_off(
    plan: Plan,
    pixels: Pixels,
    folder: Path,
    kinds: Sequence[str],
    force: bool = False,
    tick: Tick = idle,
) -> list[Path]:
    """Write the hand-off's files. Raises Refusal, before anything is written, if one is there that
    is not ours and `force` is not said."""
    paths = handoff_paths(plan, folder, kinds)
    atomic.make_folder(folder)
    foreign = [] if force else others_files(plan, folder, kinds)
    if foreign:
        raise Refusal(str(foreign[0]), words("is there already and not from here; move it away"))
    _write(plan, pixels, paths, tick)
    return list(paths.values())


def _write(plan: Plan, pixels: Pixels, paths: Mapping[str, Path], tick: Tick) -> None:
    known = Pipeline(
        {plan.sketch.labels: pixels.drawing(plan.sketch)}, tick=lambda share: tick(share / 2)
    )
    for kind, path in paths.items():
        if kind in ("gpl", "chart"):
            # Steps need no forms, so none are built for them.
            shown = light_off(plan) if kind == "gpl" else light_on(plan)
            gpl.write(path, _palette(known.derive(shown), kind))
        else:
            full = np.ascontiguousarray(unpack(full_picture(plan, pixels, kind, tick, known)))
            picture.write_png(path, full, OURS)


def _palette(derived: Derived, kind: str) -> str:
    """The palette of every region's steps, or of its colours in the light."""
    about = [f"Written by {OURS}", *palette.comments(derived, kind)]
    if kind == "gpl":
        return gpl.text(derived.plan.title, palette.palette_rows(derived), about)
    return gpl.text(f"{derived.plan.title}, lit", palette.chart_rows(derived), about)


def _is_ours(path: Path) -> bool:
    """Whether a file bears the mark our hand-off leaves in it, so that it may be replaced."""
    return OURS.encode() in atomic.beginning(path, _MARK_WITHIN)
