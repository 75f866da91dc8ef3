"""A sketch brought in: its regions named, their roles guessed, its colours said as a first plan."""

import numpy as np
import numpy.typing as npt
from msgspec.structs import replace

from umber_compass.colour.measured import Measured, measure
from umber_compass.picture.mixes import Labels
from umber_compass.plan.model import Colour, Plan, Reading, Region, Sketch, Study
from umber_compass.plan.rig import Rig
from umber_compass.plan.wishes import MOST_BANDS, Bands, Wishes
from umber_compass.steps.harmony.fit import read_schemes, uncoloured
from umber_compass.steps.harmony.readings import own_scheme
from umber_compass.steps.harmony.scheme import planned_as
from umber_compass.steps.sketch.kinds.kind import Split
from umber_compass.steps.sketch.naming import area_names, distinct, region_names
from umber_compass.steps.sketch.roles import guess_roles
from umber_compass.words import Refusal, words

_LONGEST_TITLE = 200
_MOST_LOOKED_AT = 8_000_000  # px
_ROWS = 256  # looked at at a time


def start_plan(found: Split, sketch: Sketch, focus: tuple[float, float] | None = None) -> Plan:
    """A first plan for a sketch that was split: regions named and measured, roles guessed, the
    scheme found (free where it follows none), nothing changed. `focus` is a place in px whose
    region is the focus. Raises Refusal if it lies outside the sketch."""
    colours = [measure(c / 255) for c in found.colours]
    step = int(np.ceil(np.sqrt(found.labels.size / _MOST_LOOKED_AT)))
    seen = found.labels[::step, ::step]  # of a large sketch every so many px are enough
    roles = guess_roles(seen, colours)
    if found.roles:
        roles = [known or r for known, r in zip(found.roles, roles, strict=True)]
    if focus is not None:
        at = label_at(found.labels, focus, sketch.file_name)
        roles = ["focus" if i + 1 == at else r for i, r in enumerate(roles)]
    areas, places = lying(seen, len(colours))
    names = first_names(found, colours, areas, places)
    regions = tuple(
        Region(
            id=f"r{i + 1}",
            label=i + 1,
            name=name,
            role=role,
            front=found.fronts[i] if found.fronts else None,
            named=bool(found.names and found.names[i]),
        )
        for i, (name, role) in enumerate(zip(names, roles, strict=True))
    )
    study = first_study(colours, seen)
    if 1 <= len(found.edges) < MOST_BANDS:
        study = replace(study, wishes=Wishes(bands=bands_of(found.edges, colours, areas)))
    if sketch.shaded:  # it has the shadows its artist painted
        study = replace(study, rig=Rig(on=False, shadows=False))
    return Plan(
        title=title_from(sketch.file_name),
        current_study=study.id,
        sketch=sketch,
        regions=regions,
        studies=(study,),
    )


def first_names(
    found: Split,
    colours: list[Measured],
    areas: npt.NDArray[np.intp],
    places: list[tuple[float, float]],
) -> list[str]:
    """A name for each region: what the sketch calls it, else its colour, or where its colour only
    parts it from others a number."""
    planned = found.is_planned
    own = region_names(colours, areas.tolist(), places) if planned else area_names(places)
    return distinct([known or name for known, name in zip(found.names or own, own, strict=True)])


def bands_of(
    edges: tuple[float, ...], colours: list[Measured], areas: npt.NDArray[np.intp]
) -> Bands:
    """The value plan that a grey sketch tells: bands between its groups, each with the share it
    holds. Edges are L*, rising."""
    band = np.searchsorted(edges, [c.value for c in colours], side="right")
    held = np.bincount(band, areas, len(edges) + 1) / max(areas.sum(), 1)
    return Bands(edges=edges, shares=tuple(min(float(h), 1.0) for h in held / max(held.sum(), 1)))


def label_at(labels: Labels, place: tuple[float, float], subject: str) -> int:
    """The label at a place in px. Raises Refusal where that lies outside the sketch."""
    height, width = labels.shape
    if not (0 <= place[0] < width and 0 <= place[1] < height):
        raise Refusal(
            subject,
            words("the focus lies outside it; keep x under {w} and y under {h}", w=width, h=height),
        )
    return int(labels[int(place[1]), int(place[0])])


def title_from(file_name: str) -> str:
    """A plan's first title: the file's name without its ending, as a person would write it."""
    plain = file_name.rsplit(".", 1)[0].replace("-", " ").replace("_", " ").strip() or "Untitled"
    return (plain[:1].upper() + plain[1:])[:_LONGEST_TITLE]


def first_study(colours: list[Measured], labels: Labels) -> Study:
    """The picture's own colours, label 1 first, said in the terms of the scheme they fit best."""
    area = np.bincount(labels.reshape(-1), minlength=len(colours) + 1)[1:]
    hues = np.array([c.hue or 0.0 for c in colours])
    chroma = np.array([c.chroma for c in colours])
    found = read_schemes(hues, chroma, area.astype(float))
    is_grey = uncoloured(chroma, area.astype(float))
    scheme = found.best.scheme
    if found.is_free and not is_grey:
        scheme = own_scheme(hues, chroma * area, chroma, scheme.wheel)
    planned: dict[str, Colour] = {
        f"r{i + 1}": planned_as(scheme, c.value, c.chroma, c.hue) for i, c in enumerate(colours)
    }
    ranked = () if is_grey else found.ranked  # a grey picture follows no scheme
    readings = tuple(
        Reading(scheme=r.scheme, fit=min(r.fit, 1.0), free=found.is_free, near=r is found.also)
        for r in ranked
    )
    return Study(id="s1", title="As planned", scheme=scheme, colours=planned, readings=readings)


def lying(labels: Labels, count: int) -> tuple[npt.NDArray[np.intp], list[tuple[float, float]]]:
    """Each label's px, label 1 first, and where its middle lies, shares of width and height."""
    area = np.bincount(labels.reshape(-1), minlength=count + 1)
    height, width = labels.shape
    x = np.zeros(count + 1)
    y = np.zeros(count + 1)
    for top in range(0, height, _ROWS):
        part = labels[top : top + _ROWS]
        rows, columns = np.mgrid[top : top + len(part), 0:width]
        x += np.bincount(part.reshape(-1), columns.reshape(-1), count + 1)
        y += np.bincount(part.reshape(-1), rows.reshape(-1), count + 1)
    whole = np.maximum(area, 1)
    places = [
        (float(a), float(b)) for a, b in zip(x / whole / width, y / whole / height, strict=True)
    ]
    return area[1:], places[1:]
