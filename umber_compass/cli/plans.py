"""Commands about plans."""

from argparse import Namespace
from pathlib import Path
from typing import Any

import numpy as np
from PIL import Image

from umber_compass import document
from umber_compass.colour.measured import Measured
from umber_compass.colour.packed import pack, unpack
from umber_compass.colour.wheels import WHEELS
from umber_compass.document import Opened
from umber_compass.document.own_press import press_in
from umber_compass.formats import picture
from umber_compass.picture.drawing import boxes
from umber_compass.picture.forms import front_order
from umber_compass.plan.edits import region as region_of
from umber_compass.plan.edits import study
from umber_compass.plan.light_edits import light_on
from umber_compass.plan.model import Gradient, Plan, Study
from umber_compass.plan.scene_edits import tell_scene
from umber_compass.plan.setting import Kind
from umber_compass.steps.checks import CHECKS, Result
from umber_compass.steps.checks.judging import judge, mend
from umber_compass.steps.handoff.palette import KINDS, kinds_for
from umber_compass.steps.keys import THING, edit_from, keys_in_general, keys_of
from umber_compass.steps.keys.key import Setting
from umber_compass.steps.light.telling_things import as_told
from umber_compass.steps.light_views import LAMP_VIEWS, LIGHT_VIEWS
from umber_compass.steps.pipeline import Derived, Pipeline
from umber_compass.views import VIEWS
from umber_compass.views.view import MOVING
from umber_compass.words import Refusal, words


def readings(found: Study) -> list[dict[str, Any]]:
    """The schemes the sketch was read to follow, likeliest first."""
    return [
        {
            "scheme": "free" if r.free else r.scheme.name,
            "nearest": r.scheme.name,
            "wheel": r.scheme.wheel,
            "angle": r.scheme.lead_deg,
            "fit": r.fit,
            "as_likely": r.near,
        }
        for r in found.readings
    ]


def regions(args: Namespace) -> dict[str, Any]:
    """A plan's regions."""
    opened = document.open_plan(Path(args.plan))
    if args.labels:
        picture.write_png(Path(args.labels), opened.pixels.labels(opened.plan.sketch))
    return as_regions(opened)


def as_regions(opened: Opened) -> dict[str, Any]:
    """A plan's regions as they are printed."""
    derived = Pipeline(opened.pixels.drawings).derive(opened.plan)
    box = boxes(opened.pixels.labels(opened.plan.sketch))
    order = front_order(
        derived.form_wishes, derived.indexed.areas(max(r.label for r in derived.regions))
    )
    rows = []
    for region in opened.plan.regions:
        colour = derived.colours[region.id]
        row: dict[str, Any] = {
            "id": region.id,
            "label": region.label,
            "name": region.name,
            "role": region.role,
            "material": region.material,
            "family": colour.first.slot,
            "share": derived.shares[region.id],
            "hex": colour.first.hex,
            "value": colour.first.value,
            "box": list(box.get(region.label, (0, 0, 0, 0))),
            "form": region.form,
            "front": order[region.label],
            "named": region.named,
        }
        planned = study(opened.plan).colours[region.id]
        if isinstance(planned, Gradient) and colour.second is not None:
            row["gradient"] = {"to": colour.second.hex, "axis": list(planned.axis)}
        rows.append(row)
    return {"regions": rows}


def checks(args: Namespace) -> dict[str, Any]:
    """What a plan's checks say."""
    opened = document.open_plan(Path(args.plan))
    pipeline = Pipeline(opened.pixels.drawings)
    return told_checks(judge(pipeline.derive(opened.plan)))


def told_checks(results: list[Result]) -> dict[str, Any]:
    """What checks say, as every command tells it."""
    return {
        "checks": [
            {
                "check": r.check,
                "level": r.level,
                "regions": list(r.regions),
                "measured": r.measured,
                "wanted": r.wanted,
                "unit": r.unit,
                "text": f"{r.title}: {r.text}",
                "fixes": [{"id": f.id, "text": str(f.text)} for f in r.fixes],
            }
            for r in results
        ]
    }


def fix(args: Namespace) -> dict[str, Any]:
    """Take the best fixes and write the plan."""
    opened = document.open_plan(Path(args.plan))
    pipeline = Pipeline(opened.pixels.drawings)
    plan, taken = mend(opened.plan, pipeline, args.check)
    document.save(plan, opened.pixels, Path(args.output))
    after = told_checks(judge(pipeline.derive(plan)))
    return {**after, "taken": [{"id": f.id, "text": str(f.text)} for f in taken]}


def decide(args: Namespace) -> dict[str, Any]:
    """Decisions changed by name, each as the window would, and the plan written; or the keys."""
    if args.keys:
        return {"keys": _keys(args.plan)}
    if args.plan is None or not args.change or args.output is None:
        raise Refusal("set", words("needs a plan, KEY=VALUE and -o PLAN2; or --keys alone"))
    opened = document.open_plan(Path(args.plan))
    plan = opened.plan
    pipeline = Pipeline(opened.pixels.drawings)
    for change in args.change:
        if change.startswith(THING) and plan.scene.things is None:
            plan = _with_things(pipeline, plan)
        plan = edit_from(plan, change).apply(plan)
    document.save(plan, opened.pixels, Path(args.output))
    return told_checks(judge(pipeline.derive(plan)))


def _with_things(pipeline: Pipeline, plan: Plan) -> Plan:
    """A plan with its things as they are guessed, so that they can be spoken of."""
    derived = pipeline.derive(light_on(plan))
    told = as_told(derived.pieces, derived.standing)
    return tell_scene(words("tell the things"), things=told).apply(plan)


def _keys(path: str | None) -> list[dict[str, Any]]:
    """Every key: of a plan with what it is now, or in general."""
    if path is None:
        return [_key(name, kind, None, text) for name, kind, text in keys_in_general()]
    opened = document.open_plan(Path(path))
    plan = opened.plan
    if plan.scene.things is None:
        plan = _with_things(Pipeline(opened.pixels.drawings), plan)
    return [_key(*row) for row in keys_of(plan)]


def _key(name: str, kind: Kind, now: Setting, text: str) -> dict[str, Any]:
    return {
        "key": name,
        "type": kind.type,
        "unit": kind.unit,
        "range": kind.range,
        "now": now,
        "text": text,
    }


def render(args: Namespace) -> dict[str, Any]:
    """A view of a plan's picture as a PNG."""
    if args.profile is not None and args.view != "print":
        raise Refusal("--profile", words("says how a press prints; write it with --view print"))
    opened = document.open_plan(Path(args.plan))
    own = "" if args.view in VIEWS else args.view
    shown = document.full_picture(opened.plan, opened.pixels, own)
    sketch = opened.plan.sketch
    alpha = picture.alpha_of(opened.pixels.sketches[sketch.hash], sketch.file_name)
    if args.view in VIEWS:
        derived = Pipeline(opened.pixels.drawings).derive(opened.plan).think()
        if VIEWS[args.view].needs_ramps:
            derived.take(Derived.ramps, derived.worked(Derived.ramps))
        told = document.about(derived, shown.shape, opened.pixels.labels(sketch))
        if args.profile is not None:
            told = told._replace(press=press_in(Path(args.profile)))
        see = VIEWS[args.view].see
        shown = pack(see(np.ascontiguousarray(unpack(shown)), told))
        # What is there is seen the same way, where it moves: mirrored, blurred, small.
        if alpha is not None and args.view in MOVING:
            alpha = see(np.repeat(alpha[..., None], 3, axis=2), told)[..., 0].copy()
    image = picture.image_of(shown, alpha)
    width, height = image.size
    if args.width is not None:
        size = args.width, max(1, round(height * args.width / width))
        shrinking = args.width <= width
        image = image.resize(size, Image.Resampling.BOX if shrinking else Image.Resampling.BICUBIC)
    picture.write_image(Path(args.output), image)
    return {"file": args.output, "size": list(image.size), "view": args.view}


def chart(args: Namespace) -> dict[str, Any]:
    """Every material's colours in the plan's light; where it is off, in the one it would begin
    with, as the window shows it."""
    opened = document.open_plan(Path(args.plan))
    derived = Pipeline(opened.pixels.drawings).derive(opened.plan)
    materials: dict[str, dict[str, Any]] = {}
    for row in derived.chart or ():
        columns = {k: _shown(m) for k, m in (("local", row.local), *row.places.items())}
        if row.region in materials:
            materials[row.region]["second"] = columns
            continue
        materials[row.region] = {
            "region": row.region,
            "name": region_of(opened.plan, row.region).name,
            "columns": columns,
            "rest": row.rest,
        }
    rig, lights = derived.rig, derived.lights
    return {
        "anchor": rig.anchor,
        "exposure": lights.exposure,
        "materials": list(materials.values()),
    }


def _shown(colour: Measured) -> dict[str, Any]:
    return {"hex": colour.hex, "value": colour.value}


def handoff(args: Namespace) -> dict[str, Any]:
    """Write a plan's files for the painting program."""
    opened = document.open_plan(Path(args.plan))
    kinds = list(kinds_for(opened.plan)) if args.formats is None else args.formats.split(",")
    unknown = [k for k in kinds if k not in KINDS]
    if unknown:
        raise Refusal(
            unknown[0][:40], words("no such format; choose from {known}", known=", ".join(KINDS))
        )
    folder = Path(args.output)
    foreign = [] if args.force else document.others_files(opened.plan, folder, kinds)
    if foreign:
        raise Refusal(
            str(foreign[0]),
            words("already exists and was not written by this program; move it, or use --force"),
        )
    files = document.hand_off(opened.plan, opened.pixels, folder, kinds, args.force)
    return {"files": [str(f) for f in files]}


CHOICES = {
    "wheel": tuple(WHEELS),
    "view": ("lit", *LIGHT_VIEWS, *LAMP_VIEWS, *VIEWS),
    "check": tuple(CHECKS),
}
