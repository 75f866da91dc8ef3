"""Commands about plans."""

from argparse import Namespace
from pathlib import Path
from typing import Any

import numpy as np
from PIL import Image

from umber_compass import document
from umber_compass.document import Document
from umber_compass.formats import picture
from umber_compass.plan.edits import study
from umber_compass.plan.light_edits import lit, rig_of
from umber_compass.plan.model import Gradient
from umber_compass.steps import chart as paint_chart
from umber_compass.steps.checks import CHECKS, Result
from umber_compass.steps.codes import unpack
from umber_compass.steps.colouring import Measured
from umber_compass.steps.handoff import KINDS, kinds_for
from umber_compass.steps.judging import judge, mend
from umber_compass.steps.pipeline import Pipeline
from umber_compass.steps.showing import SHOWINGS
from umber_compass.steps.sketch import boxes
from umber_compass.views import VIEWS
from umber_compass.words import Refusal, words


def new(args: Namespace) -> dict[str, Any]:
    """A plan for a flats picture, written to a file."""
    made = document.bring_in(Path(args.sketch), args.focus)
    document.save(made, Path(args.output))
    return _regions(made)


def regions(args: Namespace) -> dict[str, Any]:
    """A plan's regions."""
    opened = document.open_plan(Path(args.plan))
    if args.labels:
        picture.write_png(Path(args.labels), opened.labels)
    return _regions(opened)


def _regions(opened: Document) -> dict[str, Any]:
    derived = Pipeline(opened.drawing).derive(opened.plan)
    box = boxes(opened.labels)
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
        }
        planned = study(opened.plan).colours[region.id]
        if isinstance(planned, Gradient) and colour.second is not None:
            row["gradient"] = {"to": colour.second.hex, "axis": list(planned.axis)}
        rows.append(row)
    return {"regions": rows}


def checks(args: Namespace) -> dict[str, Any]:
    """What a plan's checks say."""
    opened = document.open_plan(Path(args.plan))
    pipeline = Pipeline(opened.drawing)
    return _judged(judge(pipeline.derive(opened.plan), pipeline))


def _judged(results: list[Result]) -> dict[str, Any]:
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
    pipeline = Pipeline(opened.drawing)
    plan, taken = mend(opened.plan, pipeline, args.check)
    document.save(opened._replace(plan=plan), Path(args.output))
    after = _judged(judge(pipeline.derive(plan), pipeline))
    return {**after, "taken": [{"id": f.id, "text": str(f.text)} for f in taken]}


def render(args: Namespace) -> dict[str, Any]:
    """A view of a plan's picture as a PNG."""
    opened = document.open_plan(Path(args.plan))
    own = "" if args.view in VIEWS else args.view
    shown = np.ascontiguousarray(unpack(document.full_picture(opened, own)))
    if args.view in VIEWS:
        shown = VIEWS[args.view].see(shown)
    if args.width is not None:
        height, width = shown.shape[:2]
        size = args.width, max(1, round(height * args.width / width))
        shrinking = args.width <= width
        how = Image.Resampling.BOX if shrinking else Image.Resampling.BICUBIC
        shown = np.asarray(Image.fromarray(shown).resize(size, how))
    picture.write_png(Path(args.output), shown)
    return {"file": args.output, "size": [shown.shape[1], shown.shape[0]], "view": args.view}


def chart(args: Namespace) -> dict[str, Any]:
    """Every material's colours in the plan's light; in the one it would begin with where it has
    none."""
    opened = document.open_plan(Path(args.plan))
    derived = Pipeline(opened.drawing).derive(lit(opened.plan))
    materials: dict[str, dict[str, Any]] = {}
    for row in paint_chart.chart(derived):
        columns = {k: _shown(m) for k, m in (("local", row.local), *row.lit.items())}
        if row.region in materials:
            materials[row.region]["second"] = columns
            continue
        materials[row.region] = {
            "region": row.region,
            "name": next(r.name for r in opened.plan.regions if r.id == row.region),
            "columns": columns,
            "rest": row.rest,
        }
    rig, lights = rig_of(derived.plan), paint_chart.lights_for(derived)
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
    files = document.hand_off(opened, Path(args.output), kinds, args.force)
    return {"files": [str(f) for f in files]}


CHOICES = {
    "view": ("lit", *SHOWINGS, *VIEWS),
    "check": tuple(CHECKS),
    "kind": ("auto", "flats"),
}
