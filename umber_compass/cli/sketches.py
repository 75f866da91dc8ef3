"""Commands that bring sketches in."""

from argparse import Namespace
from pathlib import Path
from typing import Any

from umber_compass import document
from umber_compass.cli.plans import as_regions, readings
from umber_compass.document.opening import begun
from umber_compass.document.pixels import hash_of
from umber_compass.document.second_picture import completes, replaced, shaded_by
from umber_compass.document.splitting import split_picture
from umber_compass.document.state import state_folder
from umber_compass.formats import picture
from umber_compass.formats.sketch_paths import SketchPaths
from umber_compass.plan.edits import study
from umber_compass.steps.sketch.compositions import COMPOSITIONS
from umber_compass.steps.sketch.kinds import AUTO, KINDS, NONE
from umber_compass.words import Refusal, words

KINDS_OF_SKETCH = (AUTO, *KINDS, NONE)


def new(args: Namespace) -> dict[str, Any]:
    """A plan for a picture, written to a file; of kind `none` for one of our compositions."""
    if args.kind == NONE:
        if args.shading is not None:
            raise Refusal(
                "--shading", words("goes with a picture; a composition has none to shade")
            )
        made = document.compose(args.sketch)
    else:
        settings = settings_from(args.told or [], args.kind)
        path = Path(args.sketch)
        if args.shading is None:
            made = document.bring_in(path, args.focus, args.kind, settings=settings)
        else:
            made = _with_shading(path, Path(args.shading), args, settings)
    document.save(made.plan, made.pixels, Path(args.output))
    sketch = made.plan.sketch
    if args.kind != NONE and args.shading is None:
        SketchPaths(state_folder()).note(sketch.hash, Path(args.sketch))
    return {
        **as_regions(made),
        "kind": sketch.kind,
        "says": made.says,
        "shaded": sketch.shaded,
        "gaps": [
            {"from": [n.x0, n.y0], "to": [n.x1, n.y1], "closed": n.closed} for n in sketch.necks
        ],
        "harmony": readings(study(made.plan)),
    }


def _with_shading(
    path: Path, shading: Path, args: Namespace, settings: dict[str, float]
) -> document.Opened:
    """A plan for a picture, with the light and dark of another."""
    read, other = picture.read(path), picture.read(shading)
    name = document.plain_name(path.name)
    chosen = split_picture(read, name, args.kind, settings)
    made, told = shaded_by(read, chosen, other, document.plain_name(shading.name))
    return begun(made, told, name, args.focus)


def settings_from(told: list[str], kind: str) -> dict[str, float]:
    """What a kind is told, from KEY=NUMBER. Raises Refusal for a key that no kind asked for has, or
    what is no number in its range."""
    asked = KINDS.values() if kind == AUTO else (KINDS[kind],)
    known = {s.key: s for k in asked for s in k.settings}
    found: dict[str, float] = {}
    for text in told:
        key, _, number = text.partition("=")
        setting = known.get(key)
        if setting is None:
            line = words("is nothing this kind is told; take {known}", known=", ".join(known))
            raise Refusal(key[:40] or text[:40], line)
        try:
            value = float(number)
        except ValueError:
            raise Refusal(text[:60], words("is no number; write {key}=NUMBER", key=key)) from None
        if not setting.low <= value <= setting.high:
            line = words("is not between {low:g} and {high:g}", low=setting.low, high=setting.high)
            raise Refusal(text[:60], line)
        found[key] = value
    return found


def replace(args: Namespace) -> dict[str, Any]:
    """Another or a changed sketch for a plan: its regions matched, and the plan written."""
    opened = document.open_plan(Path(args.plan))
    path, sketch = Path(args.sketch), opened.plan.sketch
    read = picture.read(path)
    same = args.kind in (AUTO, sketch.kind)
    kind = sketch.kind if args.kind == AUTO and sketch.kind != NONE else args.kind
    if args.kind == AUTO and completes(sketch, read):
        same, kind = False, AUTO
    told = settings_from(args.told or [], kind)
    chosen = split_picture(read, path.name, kind, {**(sketch.settings if same else {}), **told})
    name = document.plain_name(path.name)
    found = replaced(opened.plan, opened.pixels, read, chosen, name)
    if found.sketch.hash in (hash_of(read.data), sketch.hash):
        SketchPaths(state_folder()).note(found.sketch.hash, path)
    plan = found.edit.apply(opened.plan)
    document.save(plan, opened.pixels, Path(args.output))
    return {
        **as_regions(document.Opened(plan, opened.pixels)),
        "new": list(found.fresh),
        "gone": list(found.gone),
        "doubtful": list(found.doubtful),
        "recoloured": list(found.recoloured),
    }


def compositions(args: Namespace) -> dict[str, Any]:
    """The compositions a plan can begin with, without a sketch."""
    return {
        "compositions": [
            {"name": c.name, "title": c.title, "says": c.says} for c in COMPOSITIONS.values()
        ]
    }
