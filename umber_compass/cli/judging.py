"""Commands about values, focus, and any picture."""

from argparse import Namespace
from pathlib import Path
from typing import Any

from umber_compass import document
from umber_compass.colour.packed import unpack
from umber_compass.formats import picture
from umber_compass.plan.practices import numbers_of
from umber_compass.steps.focus.attention import focus_regions
from umber_compass.steps.focus.pull import PARTS
from umber_compass.steps.focus.reading import read_picture
from umber_compass.steps.light.rig_of_picture import hex_at, read_rig
from umber_compass.steps.mending.balance import balance as balanced
from umber_compass.steps.mending.balance import conflict_of
from umber_compass.steps.mending.programme import Constraint
from umber_compass.steps.pipeline import Derived, Pipeline


def balance(args: Namespace) -> dict[str, Any]:
    """Move values by the least that meets the wishes, and write the plan."""
    opened = document.open_plan(Path(args.plan))
    begin = Pipeline(opened.pixels.drawings).derive(opened.plan)
    found = balanced(begin)
    plan = found.edit.apply(opened.plan)
    document.save(plan, opened.pixels, Path(args.output))
    return {
        "moved": [{"region": m.region, "from": m.before, "to": m.after} for m in found.moved],
        "dropped": [_constraint(d) for d in found.dropped],
        "conflict": [_constraint(d) for d in conflict_of(begin)] if found.dropped else [],
        "change": found.change,
    }


def _constraint(constraint: Constraint) -> dict[str, str]:
    return {"wish": constraint.name, "text": str(constraint.text)}


def focus(args: Namespace) -> dict[str, Any]:
    """What the eye meets first in a plan's picture, and by how much the focus leads."""
    opened = document.open_plan(Path(args.plan))
    derived = Pipeline(opened.pixels.drawings).derive(opened.plan).think()
    seen, lattice = derived.attention, derived.lattice
    assert seen is not None and lattice is not None  # they were just worked out
    by_label = {r.label: r.id for r in derived.regions}
    point = derived.focus.point if derived.focus is not None else None
    order = [i for i in (-seen.total).argsort().tolist() if i in by_label]
    return {
        "focus": {
            "regions": list(_focus_ids(derived)),
            "point": None if point is None else [point.x, point.y, point.radius],
        },
        "leads": seen.leads(derived.rules["ties.share"]),
        "lead": seen.lead if seen.rival is not None else None,
        "wanted": derived.wishes.number("lead"),
        "places": [
            {
                "region": by_label[i],
                "x": float(lattice.centre[i, 0]),
                "y": float(lattice.centre[i, 1]),
            }
            for i in seen.places.first
            if i in by_label
        ],
        "regions": [
            {
                "region": by_label[i],
                "pull": float(seen.total[i]),
                **{p: float(seen.pull.parts[k, i]) for k, p in enumerate(PARTS)},
            }
            for i in order
        ],
    }


def _focus_ids(derived: Derived) -> tuple[str, ...]:
    """The regions that are the focus: those that were named, or lie within the point."""
    named = focus_regions(derived.regions, derived.focus)
    seen = derived.attention
    inside = seen.focus if seen is not None else ()
    return named or tuple(r.id for r in derived.regions if r.label in inside)


def drift(args: Namespace) -> dict[str, Any]:
    """How a painting in progress has drifted from its plan."""
    # Few commands compare paintings.
    from umber_compass.cli.plans import told_checks
    from umber_compass.document.painting import compare
    from umber_compass.steps.painting.judged import worse_checks

    opened = document.open_plan(Path(args.plan))
    derived = Pipeline(opened.pixels.drawings).derive(opened.plan)
    found = compare(derived, picture.read(Path(args.picture)).packed, args.picture)
    return {
        "aligned": {"dx": found.dx, "dy": found.dy, "scale": found.scale, "seen": found.seen},
        "painted": found.painted,
        "regions": [
            {
                "region": d.region,
                "value": d.value,
                "hue": d.hue,
                "chroma": d.chroma,
                "drifted": bool(d.drifted),
                "by": list(d.drifted),
                "painted": d.painted,
            }
            for d in found.drifts
        ],
        "whole": found.whole._asdict(),
        **told_checks(worse_checks(derived.think(), found.drifts)),
    }


def rig(args: Namespace) -> dict[str, Any]:
    """The key and the ambient light of any picture, from places in the light and in shade."""
    levels = unpack(picture.read(Path(args.picture)).packed)
    lit, shaded = ([hex_at(levels, *place) for place in side] for side in (args.lit, args.shaded))
    found = read_rig(lit, shaded, args.grey)
    return {
        "key": {"colour": found.key, "strength": round(found.key_strength, 1)},
        "ambient": {"colour": found.ambient, "strength": found.ambient_strength},
        "pairs": [{"lit": a, "shaded": b} for a, b in zip(lit, shaded, strict=True)],
        "assumes": str(found.assumes),
        "set": [
            f"lamp.key.colour={found.key}",
            f"lamp.key.strength={found.key_strength:.1f}",
            f"ambient.colour={found.ambient}",
            f"ambient.strength={found.ambient_strength:g}",
        ],
    }


def read(args: Namespace) -> dict[str, Any]:
    """What any picture shows."""
    taken = picture.read(Path(args.picture))
    rules = numbers_of("general", {})
    found = read_picture(taken.packed, args.wheel, rules["extremes.dark"], rules["extremes.light"])
    height, width = taken.packed.shape
    best = found.harmony.best
    return {
        "size": [width, height],
        "values": {
            "median": found.values[1],
            "p5": found.values[0],
            "p95": found.values[2],
            "extremes_share": found.extremes,
            "histogram": found.histogram.tolist(),
        },
        "palette": [{"hex": c.hex, "share": c.share, "value": c.value} for c in found.palette],
        "harmony": {
            "scheme": "free" if found.harmony.is_free else best.scheme.name,
            "wheel": args.wheel,
            "angle": best.scheme.lead_deg,
            "fit": best.fit,
        },
        "attention": {
            "x": None if found.first is None else found.first[0],
            "y": None if found.first is None else found.first[1],
        },
        "temperature": {
            "warm_share": found.temperature.warm,
            "cool_share": found.temperature.cool,
            "neutral_share": found.temperature.neutral,
        },
        "strong_share": found.strong,
        "strong_by_hue": found.strong_hues,
    }
