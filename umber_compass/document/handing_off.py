"""What the painting program gets, written to files."""

from collections.abc import Mapping, Sequence
from pathlib import Path
from typing import IO

from umber_compass.colour.packed import Packed
from umber_compass.document.full_flat import flat_in_strips
from umber_compass.document.handed_off import is_known, remember
from umber_compass.document.pixels import Pixels, as_drawn
from umber_compass.formats import atomic, picture
from umber_compass.formats.atomic import Fill
from umber_compass.picture.drawing import draw
from umber_compass.plan.light_edits import light_off, light_on, rig_of
from umber_compass.plan.model import Plan
from umber_compass.steps.handoff import palette
from umber_compass.steps.light_views import exactly_in_part, light_view
from umber_compass.steps.pictures import exact_picture
from umber_compass.steps.pictures import picture as picture_of
from umber_compass.steps.pipeline import Derived, Pipeline
from umber_compass.words import Refusal, words
from umber_compass.work import Tick, idle, rising

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
    tick = rising(tick)
    if view == "flat" or (not view and not rig_of(plan).on):  # no forms are built for it
        return _full_flat(plan, pixels, tick)

    def building(share: float) -> None:
        tick(share / 2)

    derived = full_derived(light_on(plan) if view else plan, pixels, building, known)

    def shading(share: float) -> None:
        tick(0.5 + share / 2)

    if light_view(view) is not None:
        return exactly_in_part(derived, view, shading)
    return exact_picture(derived, shading)


def _full_flat(plan: Plan, pixels: Pixels, tick: Tick) -> Packed:
    labels, drawing = pixels.labels(plan.sketch), pixels.drawing(plan.sketch)
    derived = Pipeline({plan.sketch.labels: drawing}).derive(light_off(plan))
    if drawing.labels.shape == labels.shape:
        return picture_of(derived)
    drawn = as_drawn(pixels.picture(plan.sketch), plan.sketch)
    return flat_in_strips(derived, drawn, labels, tick)


def full_derived(
    plan: Plan, pixels: Pixels, tick: Tick = idle, known: Pipeline | None = None
) -> Derived:
    """What follows from a plan at the sketch's own size, with all that its light needs."""
    labels, drawing = pixels.labels(plan.sketch), pixels.drawing(plan.sketch)
    if drawing.labels.shape != labels.shape:
        drawn = as_drawn(pixels.picture(plan.sketch), plan.sketch)
        drawing, known = draw(drawn, labels, plan.sketch.shaded), None
    building = known or Pipeline({plan.sketch.labels: drawing}, tick=tick)
    return building.derive(plan)


def handoff_paths(plan: Plan, folder: Path, kinds: Sequence[str]) -> dict[str, Path]:
    """The files a hand-off writes, by kind."""
    stem = palette.stem(plan.title)
    return {k: folder / palette.KINDS[k].format(stem=stem) for k in kinds}


def others_files(plan: Plan, folder: Path, kinds: Sequence[str]) -> list[Path]:
    """Those of the files a hand-off would write that are there already and not ours. Raises
    Refusal if the folder cannot be looked into."""
    paths = handoff_paths(plan, folder, kinds).values()
    try:
        return [p for p in paths if p.exists() and not is_ours(p)]
    except (OSError, ValueError) as error:
        line = words("is no folder that can be entered; choose another")
        raise Refusal(str(folder), line) from error


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
        raise Refusal(
            str(foreign[0]),
            words("already exists and was not written by this program; move it away"),
        )
    _write(plan, pixels, paths, tick)
    remember(paths.values())
    return list(paths.values())


def _write(plan: Plan, pixels: Pixels, paths: Mapping[str, Path], tick: Tick) -> None:
    """All the files, or none of them."""
    known = Pipeline(
        {plan.sketch.labels: pixels.drawing(plan.sketch)}, tick=lambda share: tick(share / 2)
    )
    sketch = pixels.sketches[plan.sketch.hash]

    def fill(kind: str) -> Fill:
        mark = f"Written by {OURS}"

        def into(stream: IO[bytes]) -> None:
            if kind == "ora":
                from umber_compass.document.starter import fill_starter  # needed here alone

                fill_starter(full_derived(plan, pixels, tick, known), stream, mark, tick)
            elif kind not in palette.PICTURES:
                # Steps need no forms, so none are built for them.
                shown = plan if kind == "chart" else light_off(plan)
                from umber_compass.document.palette_files import fill_palette  # needed here alone

                fill_palette(known.derive(shown), kind, stream, OURS)
            else:
                full = full_picture(plan, pixels, kind, tick, known)
                alpha = picture.alpha_of(sketch, plan.sketch.file_name)
                picture.fill_png(picture.image_of(full, alpha), stream, OURS)

        return into

    atomic.write_all({path: fill(kind) for kind, path in paths.items()})


def is_ours(path: Path) -> bool:
    """Whether a file bears the mark our hand-off leaves in it, so that it may be replaced."""
    return OURS.encode() in atomic.beginning(path, _MARK_WITHIN) or is_known(path)
