"""The plan sheet by command."""

import datetime
from argparse import Namespace
from pathlib import Path
from typing import Any

from umber_compass import document
from umber_compass.document.plan_sheet import CHOICES, PAPERS, Wish, plan_sheet
from umber_compass.formats import atomic
from umber_compass.steps.pipeline import Pipeline
from umber_compass.words import Refusal, words

PAPER_NAMES = tuple(PAPERS)


def references(args: Namespace) -> dict[str, Any]:
    """Pictures to paint by, in a folder."""
    from umber_compass.document.references_out import Wish, write_references

    opened = document.open_plan(Path(args.plan))
    kinds = tuple(filter(None, args.kinds.split(",")))
    wish = Wish(kinds, None if args.width is None else int(args.width), args.jpeg)
    files = write_references(opened.plan, opened.pixels, Path(args.output), wish, args.force)
    return {"files": [str(f) for f in files]}


def story(args: Namespace) -> dict[str, Any]:
    """Several plans in a row, as the pages of a story."""
    from umber_compass.document.story import read_page
    from umber_compass.steps.studies.story import of_another_mood, out_of_line, shared_colours

    pages = [read_page(Path(plan)).page for plan in args.plans]
    return {
        "pages": [
            {
                **p._asdict(),
                "palette": [{"hex": h, "share": s} for h, s in p.palette],
                "reads_as": p.reads_as,
            }
            for p in pages
        ],
        "out_of_line": [
            {"page": o.page + 1, "measure": o.measure.name, "by": o.by, "text": str(o.words)}
            for o in out_of_line(pages)
        ],
        "of_another_mood": [
            {"page": o.page + 1, "mood": o.mood, "faults": o.by, "text": str(o.words)}
            for o in of_another_mood(pages)
        ],
        "shared": [
            {"hex": s.hex, "pages": [i + 1 for i in s.pages]} for s in shared_colours(pages)
        ],
    }


def sheet(args: Namespace) -> dict[str, Any]:
    """A plan on one page, as SVG."""
    output = Path(args.output)
    if output.suffix.lower() != ".svg":
        line = words("is no .svg; PDF and PNG are written in the window, under Hand-off")
        raise Refusal(args.output, line)
    without = frozenset(filter(None, (args.without or "").split(",")))
    left_out = without if args.card else without | Wish().without
    unknown = sorted(without - set(CHOICES))
    if unknown:
        known = ", ".join(CHOICES)
        raise Refusal(unknown[0][:40], words("is no part of a sheet; its parts: {k}", k=known))
    opened = document.open_plan(Path(args.plan))
    derived = Pipeline(opened.pixels.drawings).derive(opened.plan).think()
    wish = Wish(args.paper, args.upright, left_out, args.client)
    atomic.write_data(output, plan_sheet(derived, wish, datetime.date.today()).encode())
    short, long = PAPERS[wish.paper]
    size = (short, long) if wish.upright else (long, short)
    return {"file": args.output, "paper": args.paper, "size_mm": [n / 10 for n in size]}
