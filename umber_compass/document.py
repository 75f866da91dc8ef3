"""A plan with its pixels: brought in from a picture, opened, saved, handed off.

Stands above steps and formats, under the command line and the window; both use it alike.
"""

from collections.abc import Callable, Iterable, Sequence
from pathlib import Path
from typing import NamedTuple, TypeVar

import numpy as np
import numpy.typing as npt
from PIL import Image

from umber_compass.formats import gpl, picture, plan_file
from umber_compass.formats.cache import Arrays, Cache, key_of
from umber_compass.plan.light_edits import lit, switch_rig
from umber_compass.plan.model import Plan
from umber_compass.steps import handoff, kept, pipeline, sketch
from umber_compass.steps.codes import Codes, Packed, unpack
from umber_compass.steps.forms import Tick, idle
from umber_compass.steps.pipeline import Derived, Pipeline
from umber_compass.steps.recipes import RECIPES
from umber_compass.steps.relief import Relief
from umber_compass.steps.schemes import SCHEMES
from umber_compass.steps.showing import SHOWINGS, exact_in
from umber_compass.words import Refusal, words

T = TypeVar("T")

MOST_WORKING = 1600  # px, the longer side of the picture the window works on
_THUMBNAIL = 512  # px


class Document(NamedTuple):
    """A plan, its sketch as it came, and the regions' pixels at working and at full size."""

    plan: Plan
    data: bytes  # the sketch's file
    labels: npt.NDArray[np.uint16]  # (h, w) at the sketch's own size
    drawing: sketch.Drawing  # at the working size
    thumbnail: bytes = b""


def bring_in(path: Path, focus: tuple[float, float] | None = None) -> Document:
    """A new plan for a flats picture. Raises Refusal if it cannot be one."""
    read = picture.read(path)
    started = sketch.start_plan(read.rgb, read.clear, read.data, path.name, focus)
    drawing = _working(read.rgb, started.labels)
    return Document(started.plan, read.data, started.labels, drawing)


def open_plan(path: Path, cache: Cache | None = None) -> Document:
    """A plan from its file. Raises Refusal if it cannot be read."""
    held = plan_file.read(path)
    return from_file(held, str(path), cache)


def from_file(held: plan_file.PlanFile, subject: str, cache: Cache | None = None) -> Document:
    """A document from what a plan file holds."""
    _known(held.plan, subject)
    key = _key("drawing", held.plan, held.labels)
    drawing = _kept(cache, key, kept.drawing_of)
    if drawing is None:
        rgb = picture.decode(held.sketch, subject).rgb
        if rgb.shape[:2] != held.labels.shape:
            raise Refusal(
                subject, words("is damaged: its regions do not fit its sketch; open a copy")
            )
        drawing = _working(rgb, held.labels)
        if cache is not None:
            cache.store(key, kept.drawing_arrays(drawing))
    return Document(held.plan, held.sketch, held.labels, drawing, held.thumbnail)


def relief_of(
    document: Document, plan: Plan, codes: Codes, cache: Cache | None = None, tick: Tick = idle
) -> Relief:
    """The relief of a plan for a document's sketch: the kept one, or one that is built and kept."""
    found = kept_relief(document, plan, cache)
    if found is None:
        found = pipeline.build_relief(document.drawing, plan, codes, tick)
        if cache is not None:
            key = _key(f"relief {pipeline.form_key(plan)}", plan, document.labels)
            cache.store(key, kept.relief_arrays(found))
    return found


def kept_relief(document: Document, plan: Plan, cache: Cache | None) -> Relief | None:
    """The relief that was kept for a plan of a document's sketch, if there is one."""
    shape = document.drawing.labels.shape
    size = (shape[0], shape[1])
    key = _key(f"relief {pipeline.form_key(plan)}", plan, document.labels)
    return _kept(cache, key, lambda arrays: kept.relief_of(arrays, size))


def _key(what: str, plan: Plan, labels: npt.NDArray[np.uint16]) -> str:
    return key_of(kept.VERSION, what, plan.sketch.hash, labels.tobytes(), str(MOST_WORKING))


def _kept(cache: Cache | None, key: str, make: Callable[[Arrays], T]) -> T | None:
    """What a cache holds under a key; None, and the entry dropped, if it is not whole."""
    arrays = cache.load(key) if cache is not None else None
    if cache is None or arrays is None:
        return None
    try:
        return make(arrays)
    except (ValueError, KeyError, TypeError, IndexError):
        cache.forget(key)
        return None


def _known(plan: Plan, subject: str) -> None:
    """Refuse a plan whose schemes or recipes this version does not have."""
    for study in plan.studies:
        used: list[tuple[str, str, Iterable[str]]] = [("scheme", study.scheme.name, SCHEMES)]
        used += [("recipe", ramp.recipe, RECIPES) for ramp in study.recipes.values()]
        for kind, name, known in used:
            if name not in known:
                raise Refusal(
                    subject,
                    words(
                        "uses the {kind} {name}, unknown here; update the program",
                        kind=kind,
                        name=name,
                    ),
                )


def _working(rgb: npt.NDArray[np.uint8], labels: npt.NDArray[np.uint16]) -> sketch.Drawing:
    height, width = labels.shape
    longer = max(height, width)
    if longer <= MOST_WORKING:
        return sketch.draw(rgb, labels)
    size = max(1, width * MOST_WORKING // longer), max(1, height * MOST_WORKING // longer)
    small = np.array(Image.fromarray(rgb).resize(size, Image.Resampling.BOX))
    rows = ((np.arange(size[1]) + 0.5) * height / size[1]).astype(int)
    columns = ((np.arange(size[0]) + 0.5) * width / size[0]).astype(int)
    return sketch.draw(small, np.ascontiguousarray(labels[rows[:, None], columns]))


def full_picture(
    document: Document, shown: str = "", tick: Tick = idle, known: Pipeline | None = None
) -> Packed:
    """The plan's picture at the sketch's own size: as it is shown, or `flat`, `lit`, or in a part
    of its light. `known` is a pipeline of the drawing, whose forms serve again where the sketch is
    no larger than that."""
    if document.drawing.labels.shape == document.labels.shape:
        drawing = document.drawing
    else:
        rgb = picture.decode(document.data, document.plan.sketch.file_name).rgb
        drawing, known = sketch.draw(rgb, document.labels), None
    if shown == "flat":  # no forms are built for it
        return pipeline.picture(Pipeline(drawing).derive(switch_rig(False).apply(document.plan)))
    building = known or Pipeline(drawing, tick=lambda share: tick(share / 2))
    derived = building.derive(lit(document.plan) if shown else document.plan)

    def shading(share: float) -> None:
        tick(0.5 + share / 2)

    if shown in SHOWINGS:
        return exact_in(derived, shown, shading)
    return pipeline.exact_picture(derived, shading)


def thumbnail_of(shown: Packed) -> bytes:
    """A small PNG of a picture, for the plan file."""
    image = Image.fromarray(np.ascontiguousarray(unpack(shown)))
    image.thumbnail((_THUMBNAIL, _THUMBNAIL), Image.Resampling.BOX)
    return picture.png_bytes(np.asarray(image))


def save(document: Document, path: Path, shown: Packed | None = None) -> None:
    """The plan's file, with a thumbnail of its picture, which may be given. Raises Refusal if it
    cannot be written."""
    if shown is None:
        shown = pipeline.picture(Pipeline(document.drawing).derive(document.plan))
    held = plan_file.PlanFile(document.plan, document.data, document.labels, thumbnail_of(shown))
    plan_file.write(path, held)


def handoff_paths(plan: Plan, folder: Path, kinds: Sequence[str]) -> dict[str, Path]:
    """The files a hand-off writes, by kind."""
    stem = handoff.stem(plan.title)
    return {k: folder / handoff.KINDS[k].format(stem=stem) for k in kinds}


def hand_off(
    document: Document,
    folder: Path,
    kinds: Sequence[str],
    force: bool = False,
    tick: Tick = idle,
) -> list[Path]:
    """Write the hand-off's files. Raises Refusal, before anything is written, if one is there that
    is not ours and `force` is not said."""
    paths = handoff_paths(document.plan, folder, kinds)
    try:
        folder.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        raise Refusal(
            str(folder), words("is no folder that can be written; choose another")
        ) from error
    for path in paths.values():
        if not force and path.exists() and not _is_ours(path):
            raise Refusal(
                str(path), words("is there already and not from here; move it, or use --force")
            )
    known = Pipeline(document.drawing, tick=lambda share: tick(share / 2))
    for kind, path in paths.items():
        if kind in ("gpl", "chart"):
            # Steps need no forms, so none are built for them.
            plan = switch_rig(False).apply(document.plan) if kind == "gpl" else lit(document.plan)
            gpl.write(path, _palette(known.derive(plan), kind))
        else:
            full = np.ascontiguousarray(unpack(full_picture(document, kind, tick, known)))
            picture.write_png(path, full, OURS)
    return list(paths.values())


OURS = "Umber Compass"


def _palette(derived: Derived, kind: str) -> str:
    """The palette of every region's steps, or of its colours in the light."""
    about = [f"Written by {OURS}", *handoff.comments(derived, kind)]
    if kind == "gpl":
        return gpl.text(derived.plan.title, handoff.palette_rows(derived), about)
    return gpl.text(f"{derived.plan.title}, lit", handoff.chart_rows(derived), about)


def _is_ours(path: Path) -> bool:
    """Whether a file bears the mark our hand-off leaves in it, so that it may be replaced."""
    try:
        with path.open("rb") as stream:
            return OURS.encode() in stream.read(4096)
    except OSError:
        return False
