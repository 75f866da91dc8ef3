"""What the painting program gets, written to files."""

from collections.abc import Mapping, Sequence
from pathlib import Path
from typing import IO

from umber_compass.colour.packed import Packed
from umber_compass.document.full_flat import flat_in_strips
from umber_compass.document.pixels import Pixels, as_drawn
from umber_compass.formats import atomic, gpl, picture
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
    labels = pixels.labels(plan.sketch)
    drawing = pixels.drawing(plan.sketch)
    is_whole = drawing.labels.shape == labels.shape
    drawn = None if is_whole else as_drawn(pixels.picture(plan.sketch), plan.sketch)
    if view == "flat" or (not view and not rig_of(plan).on):  # no forms are built for it
        derived = Pipeline({plan.sketch.labels: drawing}).derive(light_off(plan))
        if drawn is None:
            return picture_of(derived)
        return flat_in_strips(derived, drawn, labels, tick)
    if drawn is not None:
        drawing, known = draw(drawn, labels, plan.sketch.shaded), None
    drawings = {plan.sketch.labels: drawing}
    building = known or Pipeline(drawings, tick=lambda share: tick(share / 2))
    derived = building.derive(light_on(plan) if view else plan)

    def shading(share: float) -> None:
        tick(0.5 + share / 2)

    if light_view(view) is not None:
        return exactly_in_part(derived, view, shading)
    return exact_picture(derived, shading)


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
    return list(paths.values())


def _write(plan: Plan, pixels: Pixels, paths: Mapping[str, Path], tick: Tick) -> None:
    """All the files, or none of them."""
    known = Pipeline(
        {plan.sketch.labels: pixels.drawing(plan.sketch)}, tick=lambda share: tick(share / 2)
    )
    sketch = pixels.sketches[plan.sketch.hash]

    def fill(kind: str) -> Fill:
        def into(stream: IO[bytes]) -> None:
            if kind in ("gpl", "chart"):
                # Steps need no forms, so none are built for them.
                shown = light_off(plan) if kind == "gpl" else plan
                stream.write(_palette(known.derive(shown), kind).encode())
            else:
                full = full_picture(plan, pixels, kind, tick, known)
                alpha = picture.alpha_of(sketch, plan.sketch.file_name)
                picture.fill_png(picture.image_of(full, alpha), stream, OURS)

        return into

    atomic.write_all({path: fill(kind) for kind, path in paths.items()})


def _palette(derived: Derived, kind: str) -> str:
    """The palette of every region's steps, or of its colours in the light."""
    about = [f"Written by {OURS}", *palette.comments(derived, kind)]
    if kind == "gpl":
        return gpl.text(
            derived.plan.title, map(gpl.Row._make, palette.palette_rows(derived)), about
        )
    rows = map(gpl.Row._make, palette.chart_rows(derived))
    return gpl.text(f"{derived.plan.title}, lit", rows, about)


def is_ours(path: Path) -> bool:
    """Whether a file bears the mark our hand-off leaves in it, so that it may be replaced."""
    return OURS.encode() in atomic.beginning(path, _MARK_WITHIN)
