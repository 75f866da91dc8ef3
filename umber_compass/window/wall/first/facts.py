"""What the strip shows of a plan: what is told, and what is guessed where nothing is."""

from typing import NamedTuple

import numpy as np

from umber_compass.colour.gamut import fit
from umber_compass.colour.spaces import encode, to_hex
from umber_compass.plan.first import First, SkinTone
from umber_compass.plan.model import Region
from umber_compass.steps.focus.attention import focus_regions
from umber_compass.steps.pipeline import Derived
from umber_compass.window.wall.first.kept_places import Place, place_in

_LEAST = 0.015  # of the picture, from which an area is asked about


class Area(NamedTuple):
    """One of the largest areas."""

    region: str
    name: str
    label: int
    material: str
    ground: bool


class Facts(NamedTuple):
    """What the strip shows."""

    told: First
    focus: str  # the name of what is seen first; empty for nothing
    guessed: bool
    mark: Place | None  # where it lies, shares
    focus_is: str  # its material
    areas: tuple[Area, ...]  # of whose material is asked, the largest first
    grounds: tuple[Area, ...]  # that may be ground
    proposals: int  # that wait on the wall
    budget: int | None


def skin_hexes() -> dict[SkinTone, str]:
    """A hex of each skin tone."""
    from umber_compass.steps.first.task import SKINS

    return {tone: to_hex(encode(fit(*(np.array(v) for v in row)))) for tone, row in SKINS.items()}


def facts_of(derived: Derived, guess: str) -> Facts:
    """The facts of a plan; `guess` is the region that is likeliest seen first."""
    plan = derived.plan
    named = focus_regions(plan.regions, derived.focus)
    chosen = named[0] if named else guess
    own = next((r for r in plan.regions if r.id == chosen), None)
    shares = derived.shares
    large = sorted(
        (r for r in plan.regions if r.role != "line" and r.id not in named),
        key=lambda r: -shares[r.id],
    )
    large = [r for r in large if shares[r.id] >= _LEAST] or large[:1]
    return Facts(
        told=plan.first,
        focus="" if own is None else own.name,
        guessed=not named,
        mark=None if own is None else _middle(derived, own),
        focus_is="" if own is None else own.material,
        areas=tuple(_area(r) for r in large[:2]),
        grounds=tuple(_area(r) for r in large[:5]),
        proposals=sum(s.proposal for s in plan.studies),
        budget=plan.budget,
    )


def _area(region: Region) -> Area:
    return Area(region.id, region.name, region.label, region.material, region.role == "ground")


def _middle(derived: Derived, region: Region) -> Place | None:
    """A place that lies within a region, shares of width and height."""
    return place_in(derived.drawing.labels, region.label)
