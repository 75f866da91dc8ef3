"""The command that proposes first colours."""

from argparse import Namespace
from pathlib import Path
from typing import Any, get_args

from msgspec.structs import replace

from umber_compass import document
from umber_compass.document.study_pictures import write_studies
from umber_compass.plan.edits import Edit, region, study
from umber_compass.plan.first_edits import keep_colours, set_lights, tell_first
from umber_compass.plan.model import Plan
from umber_compass.plan.settings import change_setting
from umber_compass.plan.study_edits import add_studies
from umber_compass.plan.terms import Material
from umber_compass.steps.first.propose import propose
from umber_compass.steps.harmony.colours import region_colours
from umber_compass.steps.keys.regions import named
from umber_compass.steps.pipeline import Pipeline
from umber_compass.steps.sketch.start import label_at
from umber_compass.steps.studies.numbers import numbers_of
from umber_compass.words import Refusal, words


def first(args: Namespace) -> dict[str, Any]:
    """Propose first colours for a plan and write each as a numbered PNG."""
    opened = document.open_plan(Path(args.plan))
    plan = opened.plan
    for edit in _told(args, opened):
        plan = edit.apply(plan)
    pipeline = Pipeline(opened.pixels.drawings)
    found = propose(pipeline.derive(plan), args.count)
    before = len(plan.studies)
    plan = add_studies(found.studies, words("propose first colours")).apply(plan)
    made = plan.studies[before:]
    files = write_studies(plan, [s.id for s in made], opened.pixels, Path(args.output), args.force)
    if args.save:
        document.save(plan, opened.pixels, Path(args.save))
    rows = []
    for one, way, file in zip(made, found.ways, files, strict=True):
        shown = replace(plan, current_study=one.id)
        derived = pipeline.derive(shown)
        numbers = numbers_of(derived)
        rows.append(
            {
                "file": str(file),
                "id": one.id,
                "title": one.title,
                "scheme": one.scheme.name,
                "key": way.key,
                "light": way.light,
                "lead": numbers.lead,
                "warnings": numbers.warnings,
                "notes": numbers.notes,
                "colours": {r: c.first.hex for r, c in derived.colours.items()},
            }
        )
    return {"studies": rows, "nearest": found.nearest, "says": [str(n) for n in found.notes]}


def _told(args: Namespace, opened: document.Opened) -> list[Edit]:
    """The edits that say what the options say. Raises Refusal for what the plan has not."""
    plan, edits = opened.plan, list[Edit]()
    if args.focus is not None:
        labels = opened.pixels.labels(plan.sketch)
        at = label_at(labels, args.focus, plan.sketch.file_name)
        own = next((r.id for r in plan.regions if r.label == at), None)
        if own is None:
            raise Refusal(
                "--focus", words("lies on nothing that is painted; take a place in an area")
            )
        edits.append(change_setting("region.REGION.role", "focus", own, region(plan, own).name))
    for text in args.material or []:
        name, _, material = text.rpartition("=")
        if material not in get_args(Material):
            known = ", ".join(get_args(Material))
            raise Refusal(text[:60], words("names no material; take {known}", known=known))
        own = named(plan, name)
        edits.append(change_setting("region.REGION.material", material, own, name))
    if args.light:
        edits.append(set_lights(args.light.split(",")))
    for option in ("key", "values", "seed"):
        value = getattr(args, option)
        if value is not None:
            edits.append(tell_first(words("tell first colours"), **{option: value}))
    if args.keep:
        edits.append(_kept(plan, args.keep.split(",")))
    return edits


def _kept(plan: Plan, names: list[str]) -> Edit:
    """Some regions' colours, as the shown study has them, in every proposal."""
    now = study(plan)
    shown = region_colours(now.scheme, now.colours)
    own = [named(plan, name.strip()) for name in names]
    return keep_colours({r: shown[r].first.hex for r in own}, words("keep colours"))
