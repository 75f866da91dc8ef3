"""What a recipe is made of."""

from collections.abc import Callable, Sequence
from typing import NamedTuple

import numpy as np

from umber_compass.colour.spaces import GREY_CHROMA, Floats, decode, oklab, polar, value
from umber_compass.picture.light import Lights
from umber_compass.plan.terms import Spacing


class Ask(NamedTuple):
    """One ramp wished for."""

    base: Floats  # encoded, (3,)
    darker: int
    lighter: int
    degrees: float  # a step
    spacing: float  # L* a step; CIEDE2000 where steps look evenly far apart
    points: float  # of saturation and brightness a step
    lights: Lights | None = None  # the plan's; None where there is no plan
    tint: Floats | None = None  # encoded, (3,): what it leans to, is tinted with, or goes to
    spread: Spacing = "even"  # closer in shade, or in light
    same_in_grey: bool = False  # at the values of straight steps
    dark_chroma: float = 1.0  # times the recipe's own, in the darkest shade
    light_chroma: float = 1.0
    grey_tint: float = 0.014  # OKLCh chroma that greys take
    darkest: float = 10.0  # L* that shades end at, unless the base is darker
    picked: tuple[tuple[float, float, float], ...] = ()  # encoded colours whose way is borrowed


class RecipeSpec(NamedTuple):
    """A way to make steps; `steps` gives encoded colours, (n, 3), darkest first, base included."""

    name: str
    title: str
    says: str  # what it does, in the artist's words
    turns: bool  # whether degrees mean something to it
    steps: Callable[[Ask], Floats]
    uses_light: bool = False  # whether the plan's light means something to it
    tints: bool = False  # whether a second colour means something to it
    picks: bool = False  # whether colours that were picked do
    amounts: bool = False  # whether amounts of chroma, tint of greys and darkest do
    many: Callable[[Sequence[Ask]], list[Floats]] | None = None  # the same, quicker for many


def base_lch(ask: Ask) -> tuple[float, float, float]:
    """Value L*, OKLCh chroma and hue of the base."""
    light = decode(ask.base)
    _, chroma, hue = polar(oklab(light))
    return float(value(light)), float(chroma), float(hue)


LOWEST, HIGHEST = 4.0, 97.0  # L* between which steps stay (docs/ramps.md)
_LEAST = 1.5  # L* a step, for which they leave that


def ladder(base: float, ask: Ask) -> Floats:
    """Values L* of the steps, darkest first: the spacing, or less where a side would leave 4 to 97
    and is then compressed evenly. A base near or beyond those has steps down to 0 or up to 100."""
    low = min(LOWEST, max(0.0, base - _LEAST * ask.darker))
    high = max(HIGHEST, min(100.0, base + _LEAST * ask.lighter))
    down = _side(base - low, ask.darker, ask.spacing)
    up = _side(high - base, ask.lighter, ask.spacing)
    dark = base - down * np.arange(ask.darker, 0, -1)
    light = base + up * np.arange(1, ask.lighter + 1)
    return np.concatenate([dark, [base], light])


def _side(room: float, count: int, spacing: float) -> float:
    return min(spacing, max(room, 0.0) / count) if count else spacing


def colourfulness(ask: Ask) -> float:
    """How much of a hue a base has, 0-1: what is called grey fades out, so that a level more or
    less never turns a grey into a colour."""
    return min(base_lch(ask)[1] / GREY_CHROMA, 1.0)


def with_base(steps: Floats, ask: Ask) -> Floats:
    """The steps with the base exactly as it was given."""
    steps[ask.darker] = ask.base
    return steps
