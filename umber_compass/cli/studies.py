"""Commands about studies and palettes."""

from argparse import Namespace
from pathlib import Path
from typing import Any

from msgspec.structs import replace

from umber_compass import document
from umber_compass.document.library import Library
from umber_compass.document.palettes_in import read_palette
from umber_compass.document.study_pictures import write_studies
from umber_compass.formats import palettes
from umber_compass.plan.study_edits import add_studies
from umber_compass.steps.pipeline import Pipeline
from umber_compass.steps.studies.growing import grow
from umber_compass.steps.studies.numbers import numbers_of
from umber_compass.steps.studies.rules import FIRST, RULES
from umber_compass.words import Refusal, words


def studies(args: Namespace) -> dict[str, Any]:
    """Grow studies of a plan and write each as a numbered PNG."""
    opened = document.open_plan(Path(args.plan))
    rules = list(FIRST) if args.rules is None else args.rules.split(",")
    unknown = [r for r in rules if r not in RULES]
    if unknown:
        known = ", ".join(RULES)
        raise Refusal(unknown[0][:40], words("is no rule; take {known}", known=known))
    library = [e.kept() for e in Library().entries()] if "library" in rules else []
    pipeline = Pipeline(opened.pixels.drawings)
    found = grow(pipeline.derive(opened.plan), rules, args.count, library)
    plan = add_studies(found.studies, words("grow studies")).apply(opened.plan)
    grown = plan.studies[len(opened.plan.studies) :]
    files = write_studies(plan, [s.id for s in grown], opened.pixels, Path(args.output), args.force)
    if args.save:
        document.save(plan, opened.pixels, Path(args.save))
    rows = []
    for one, file in zip(grown, files, strict=True):
        numbers = numbers_of(pipeline.derive(replace(plan, current_study=one.id)))
        rows.append(
            {
                "file": str(file),
                "title": one.title,
                "made_by": one.grown,
                "id": one.id,
                "warnings": numbers.warnings,
                "notes": numbers.notes,
                "numbers": {f.name: f.text for f in numbers.figures},
            }
        )
    return {"studies": rows, "least_distance": found.least}


def palette(args: Namespace) -> dict[str, Any]:
    """The colours of a palette file, or of a picture; written in another format where that is
    asked for."""
    found = read_palette(Path(args.file))
    if args.output:
        palettes.write(found, Path(args.output))
    return {
        "format": found.format,
        "title": found.title,
        "colours": [{"hex": c, "name": n} for c, n in found.colours],
        "source": found.source,
        "tags": list(found.tags),
    }
