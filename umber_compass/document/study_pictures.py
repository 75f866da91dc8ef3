"""Studies as pictures in a folder, one PNG each."""

from collections.abc import Sequence
from functools import partial
from pathlib import Path
from typing import IO

from msgspec.structs import replace

from umber_compass.document.handing_off import OURS, full_picture, is_ours
from umber_compass.document.pixels import Pixels
from umber_compass.formats import atomic, picture
from umber_compass.plan.model import Plan
from umber_compass.steps.handoff.palette import stem
from umber_compass.steps.pipeline import Pipeline
from umber_compass.words import Refusal, words
from umber_compass.work import Tick, idle


def write_studies(
    plan: Plan,
    ids: Sequence[str],
    pixels: Pixels,
    folder: Path,
    force: bool = False,
    tick: Tick = idle,
) -> list[Path]:
    """The files of some studies, numbered in their order, at the sketch's own size. Raises Refusal,
    before anything is written, if one is there that is not ours and `force` is not said."""
    atomic.make_folder(folder)
    name = stem(plan.title)
    paths = [folder / f"{name}-study-{n + 1}.png" for n in range(len(ids))]
    foreign = [] if force else [p for p in paths if p.exists() and not is_ours(p)]
    if foreign:
        line = words("already exists and was not written by this program; move it, or use --force")
        raise Refusal(str(foreign[0]), line)
    pipeline = Pipeline({plan.sketch.labels: pixels.drawing(plan.sketch)})
    alpha = picture.alpha_of(pixels.sketches[plan.sketch.hash], plan.sketch.file_name)

    def fill(study_id: str, stream: IO[bytes]) -> None:
        shown = full_picture(replace(plan, current_study=study_id), pixels, "", tick, pipeline)
        picture.fill_png(picture.image_of(shown, alpha), stream, OURS)

    atomic.write_all({p: partial(fill, i) for p, i in zip(paths, ids, strict=True)})
    return paths
