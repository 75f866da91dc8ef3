"""Plans brought in from a picture, opened, and saved."""

from collections.abc import Iterable
from pathlib import Path
from typing import NamedTuple

import numpy as np

from umber_compass.colour.packed import Packed, unpack
from umber_compass.document.kept import Kept
from umber_compass.document.pixels import Pixels, as_drawn, at_working_size
from umber_compass.document.seeing import small_of
from umber_compass.document.splitting import Chosen, split_picture
from umber_compass.formats import picture, plan_file
from umber_compass.plan.model import Plan, Sketch, Study
from umber_compass.steps.harmony.schemes import SCHEME_NAMES
from umber_compass.steps.pictures import picture as picture_of
from umber_compass.steps.pipeline import Pipeline
from umber_compass.steps.ramps.recipes import RECIPES
from umber_compass.steps.sketch.kinds import AUTO, KINDS, NONE, Settings
from umber_compass.steps.sketch.start import start_plan
from umber_compass.words import Refusal, plain, words
from umber_compass.work import Tick, idle

_THUMBNAIL = 512  # px
_WAYS_SINCE = 3  # schema from which a plan says how its light is drawn


class Opened(NamedTuple):
    """A plan as it was read, and the pixels beside it. `says` is what is worth telling of how it
    came to be."""

    plan: Plan
    pixels: Pixels
    thumbnail: bytes = b""
    says: str = ""


def bring_in(
    path: Path,
    focus: tuple[float, float] | None = None,
    kind: str = AUTO,
    tick: Tick = idle,
    settings: Settings | None = None,
) -> Opened:
    """A new plan for a picture, split as its kind says. Raises Refusal if it cannot be one."""
    read = picture.read(path, lambda share: tick(share / 2))
    return take_in(read, path.name, focus, kind, tick, settings)


def take_in(
    read: picture.Picture,
    file_name: str,
    focus: tuple[float, float] | None = None,
    kind: str = AUTO,
    tick: Tick = idle,
    settings: Settings | None = None,
) -> Opened:
    """A new plan for a picture that was read already, as from the clipboard. Raises Refusal if it
    cannot be one."""
    name = plain_name(file_name)
    chosen = split_picture(read, name, kind, settings, tick)
    return begun(read, chosen, name, focus, tick)


def begun(
    read: picture.Picture,
    chosen: Chosen,
    name: str,
    focus: tuple[float, float] | None = None,
    tick: Tick = idle,
) -> Opened:
    """A new plan for a picture that was split."""
    tick(0.8)
    pixels = Pixels()
    sketch = add_sketch(pixels, read, chosen, name)
    plan = start_plan(chosen.split, sketch, focus)
    return Opened(plan, pixels, says=said_of(chosen))


def add_sketch(pixels: Pixels, read: picture.Picture, chosen: Chosen, name: str) -> Sketch:
    """A split picture's record, its pixels and drawing taken in beside the plan."""
    found = chosen.split
    height, width = found.labels.shape
    sketch = Sketch(
        file_name=name,
        hash=pixels.add_sketch(read.data),
        labels=pixels.add_labels(found.labels),
        size=(width, height),
        kind=chosen.kind,
        settings=chosen.settings,
        shaded=found.shaded,
        necks=found.necks,
    )
    drawn = as_drawn(read.packed, sketch)
    pixels.drawings[sketch.labels] = at_working_size(drawn, found.labels, found.shaded)
    return sketch


def said_of(chosen: Chosen) -> str:
    """What was found by which kind, and why that kind where it was guessed."""
    count, title = len(chosen.split.colours), KINDS[chosen.kind].title.lower()
    if chosen.why is None:
        return str(words("{count:,} regions, read as {kind}", count=count, kind=title))
    line = words(
        "{count:,} regions, read as {kind}: {why}", count=count, kind=title, why=str(chosen.why)
    )
    return str(line)


def plain_name(name: str) -> str:
    """A file's name as text: its last 255 characters, on one line."""
    return plain(name)[-255:]


def open_plan(path: Path, kept: Kept | None = None, tick: Tick = idle) -> Opened:
    """A plan from its file, its drawing made or as it was kept. Raises Refusal if it cannot be
    read."""
    return from_file(plan_file.read(path), str(path), kept, tick)


def from_file(
    held: plan_file.PlanFile, subject: str, kept: Kept | None = None, tick: Tick = idle
) -> Opened:
    """A plan from what its file holds."""
    plan = held.plan
    sketches = [plan.sketch, *(c.sketch for c in plan.candidates)]
    _all_known(subject, "kind of sketch", [s.kind for s in sketches], (*KINDS, NONE))
    for study in (*plan.studies, *(s for c in plan.candidates for s in c.studies)):
        _known(study, subject)
    pixels = Pixels.of_file(held)
    tick(0.2)
    pixels.drawing(plan.sketch, subject, kept, tick)
    return Opened(plan, pixels, held.thumbnail, _kept_look(held))


def _kept_look(held: plan_file.PlanFile) -> str:
    """What is told of a plan that is lit as before there were ways of lighting."""
    lit = any(s.rig is not None and s.rig.on for s in held.plan.studies)
    if held.schema >= _WAYS_SINCE or not lit:
        return ""
    return str(
        words(
            "This plan is lit as it was: softly, without shadows. The dark rim round forms is "
            "gone; Look, on the Light bench, has the new ways"
        )
    )


def _known(study: Study, subject: str) -> None:
    """Refuse a study whose scheme or recipes this version does not have."""
    _all_known(subject, "scheme", [study.scheme.name], SCHEME_NAMES)
    _all_known(subject, "recipe", [r.recipe for r in study.recipes.values()], RECIPES)


def _all_known(subject: str, kind: str, names: Iterable[str], known: Iterable[str]) -> None:
    for name in names:
        if name not in known:
            text = words(
                "uses the {kind} {name}, unknown here; update the program", kind=kind, name=name
            )
            raise Refusal(subject, text)


def save(plan: Plan, pixels: Pixels, path: Path, shown: Packed | None = None) -> bytes:
    """The plan's file, with a thumbnail of its picture, which may be given; gives the thumbnail, a
    PNG. Raises Refusal if it cannot be written."""
    if shown is None:
        shown = picture_of(Pipeline(pixels.drawings).derive(plan))
    thumbnail = thumbnail_of(shown)
    plan_file.write(path, pixels.held_with(plan, thumbnail))
    return thumbnail


def thumbnail_of(shown: Packed) -> bytes:
    """A small PNG of a picture, for the plan file."""
    return picture.png_bytes(np.ascontiguousarray(unpack(small_of(shown, _THUMBNAIL))))
