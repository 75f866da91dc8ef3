"""A sketch brought in: its regions named, their roles guessed, its colours said as a first plan."""

import hashlib
from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from umber_compass.colour.spaces import Floats
from umber_compass.plan.model import Colour, Plan, Region, Role, Sketch, Study
from umber_compass.steps import borders, flats
from umber_compass.steps.borders import Borders, Labels
from umber_compass.steps.colouring import Measured, measure
from umber_compass.steps.harmony import fit_picture, planned_as
from umber_compass.steps.naming import region_names
from umber_compass.words import Refusal, words

_GROUND_FRAME = 0.06  # share of the frame's length from which a region is ground
_GROUND_AREA = 0.15  # share of the picture from which it is ground anyway
_FIGURE_AREA = 0.14  # share of the picture up to which a region off the frame is a figure


class Drawing(NamedTuple):
    """A sketch as pixels: what lies beside the plan."""

    labels: Labels  # (h, w)
    borders: Borders
    box: dict[int, tuple[int, int, int, int]]  # by label: x, y, width, height in px


class Started(NamedTuple):
    """A new plan and the pixels it is for."""

    plan: Plan
    labels: Labels


def draw(rgb: npt.NDArray[np.uint8], labels: Labels) -> Drawing:
    """The pixels of a sketch, (h, w, 3) 8-bit, with its regions: borders and boxes."""
    levels = main_levels(rgb, labels)
    return Drawing(labels, borders.find(rgb, labels, levels), boxes(labels))


def main_levels(rgb: npt.NDArray[np.uint8], labels: Labels) -> Floats:
    """Each label's main colour in the sketch, (labels + 1, 3), levels of 255: the colour most of
    its plain pixels have."""
    most = int(labels.max(initial=0))
    packed = flats.pack_rgb(rgb)
    plain = np.zeros(labels.shape, bool)
    plain[:, 1:] = (packed[:, 1:] == packed[:, :-1]) & (labels[:, 1:] == labels[:, :-1])
    if plain.sum() < 0.25 * plain.size:
        plain[:] = True
    # Every third pixel is enough to see which colour a region has most of; a region too thin for
    # that is looked at whole.
    thinned = plain.reshape(-1).copy()
    thinned[np.arange(thinned.size) % 3 != 0] = False
    levels = np.zeros((most + 1, 3), np.float32)
    for where in (thinned, plain.reshape(-1), labels.reshape(-1) > 0):
        missing = np.bincount(labels.reshape(-1)[where], minlength=most + 1) > 0
        missing &= ~levels.any(axis=1)
        at = np.flatnonzero(where & missing[labels.reshape(-1)])
        key = labels.reshape(-1)[at].astype(np.uint64) << np.uint64(24) | packed.reshape(-1)[at]
        kinds, count = np.unique(key, return_counts=True)
        order = np.argsort(count, kind="stable")  # the most frequent is written last
        owner = (kinds[order] >> np.uint64(24)).astype(np.intp)
        levels[owner] = flats.unpack_rgb(kinds[order].astype(np.uint32) & np.uint32(0xFFFFFF))
    return levels


def boxes(labels: Labels) -> dict[int, tuple[int, int, int, int]]:
    """Each label's box, x, y, width, height in px."""
    from scipy.ndimage import find_objects  # costs 0.3 s, so only where it is used

    found = find_objects(labels.astype(np.int32))
    return {
        i + 1: (s[1].start, s[0].start, s[1].stop - s[1].start, s[0].stop - s[0].start)
        for i, s in enumerate(found)
        if s is not None
    }


def start_plan(
    rgb: npt.NDArray[np.uint8],
    clear: npt.NDArray[np.bool_] | None,
    data: bytes,
    file_name: str,
    focus: tuple[float, float] | None = None,
) -> Started:
    """A first plan for a flats picture (h, w, 3): regions named and measured, roles guessed, the
    scheme found, nothing changed. `focus` is a place in px whose region is the focus. Raises
    Refusal if the picture is not flat or the focus lies outside it."""
    found = flats.split(rgb, clear, file_name)
    height, width = found.labels.shape
    if focus is not None and not (0 <= focus[0] < width and 0 <= focus[1] < height):
        raise Refusal(
            file_name,
            words("the focus lies outside it; keep x under {w} and y under {h}", w=width, h=height),
        )
    colours = [measure(c / 255) for c in found.colours]
    roles = guess_roles(found.labels, colours)
    if focus is not None:
        at = int(found.labels[int(focus[1]), int(focus[0])])
        roles = ["focus" if i + 1 == at else r for i, r in enumerate(roles)]
    regions = tuple(
        Region(id=f"r{i + 1}", label=i + 1, name=name, role=role)
        for i, (name, role) in enumerate(zip(region_names(colours), roles, strict=True))
    )
    sketch = Sketch(
        file_name=file_name[-255:],
        hash=hashlib.sha256(data).hexdigest(),
        size=(width, height),
        kind="flats",
    )
    study = first_study(colours, found.labels)
    title = (file_name.rsplit(".", 1)[0].replace("-", " ").replace("_", " ").strip() or "Untitled")[
        :200
    ]
    plan = Plan(
        title=title[:1].upper() + title[1:],
        current_study=study.id,
        sketch=sketch,
        regions=regions,
        studies=(study,),
    )
    return Started(plan, found.labels)


def first_study(colours: list[Measured], labels: Labels) -> Study:
    """The picture's own colours, label 1 first, said in the terms of the scheme they fit best."""
    area = np.bincount(labels.reshape(-1), minlength=len(colours) + 1)[1:]
    hues = np.array([c.hue or 0.0 for c in colours])
    scheme = fit_picture(hues, np.array([c.chroma for c in colours]), area.astype(float)).scheme
    planned: dict[str, Colour] = {
        f"r{i + 1}": planned_as(scheme, c.value, c.chroma, c.hue) for i, c in enumerate(colours)
    }
    return Study(id="s1", title="As planned", scheme=scheme, colours=planned)


def guess_roles(labels: Labels, colours: list[Measured]) -> list[Role]:
    """A rough role for each region, label 1 first: ground by size and how much of the frame it
    holds, figure if small and off the frame, a dark web of thin strokes a line."""
    number = len(colours)
    frame = np.concatenate([labels[0], labels[-1], labels[1:-1, 0], labels[1:-1, -1]])
    on_frame = np.bincount(frame, minlength=number + 1)[1:] / len(frame)
    area = np.bincount(labels.reshape(-1), minlength=number + 1)[1:]
    thin = _is_thin(labels, area)
    roles: list[Role] = []
    for i in range(number):
        share = area[i] / labels.size
        if thin[i] and colours[i].value < 35:
            roles.append("line")
        elif on_frame[i] > _GROUND_FRAME or share > _GROUND_AREA:
            roles.append("ground")
        elif share < _FIGURE_AREA and on_frame[i] == 0:
            roles.append("figure")
        else:
            roles.append("middle ground")
    return roles


def _is_thin(labels: Labels, area: npt.NDArray[np.intp]) -> npt.NDArray[np.bool_]:
    """Which labels have hardly any pixel 2 px inside their border."""
    core = np.ones(labels.shape, bool)
    for axis in (0, 1):
        for shift in (2, -2):
            core &= np.roll(labels, shift, axis) == labels
    inner = np.bincount(labels[core], minlength=len(area) + 1)[1:]
    return np.asarray(inner < 0.05 * area)
