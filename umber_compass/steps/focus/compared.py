"""Two pictures number by number: the plan's, and one that is kept beside it."""

from typing import NamedTuple

from umber_compass.steps.focus.reading import PictureReading
from umber_compass.steps.harmony.schemes import SCHEMES


class Compared(NamedTuple):
    """One number of both; the words say what it is."""

    what: str
    plan: str
    other: str


def compared(plan: PictureReading, other: PictureReading) -> list[Compared]:
    """What can be said of both pictures, each in its unit."""
    rows = [
        _row("middle value", plan.values[1], other.values[1], "{:.0f} L*"),
        Compared("values from, to", _span(plan), _span(other)),
        _row("extremes", plan.extremes, other.extremes, "{:.0%}"),
        Compared("harmony", _scheme(plan), _scheme(other)),
        _row("warm", plan.temperature.warm, other.temperature.warm, "{:.0%}"),
        _row("cool", plan.temperature.cool, other.temperature.cool, "{:.0%}"),
        _row("strong colour", plan.strong, other.strong, "{:.1%}"),
    ]
    for hue in plan.strong_hues:
        both = plan.strong_hues[hue], other.strong_hues[hue]
        if max(both) >= 0.001:
            rows.append(_row(f"strong {hue}", *both, "{:.1%}"))
    return rows


def _row(what: str, plan: float, other: float, form: str) -> Compared:
    return Compared(what, form.format(plan), form.format(other))


def _span(reading: PictureReading) -> str:
    return f"{reading.values[0]:.0f} to {reading.values[2]:.0f} L*"


def _scheme(reading: PictureReading) -> str:
    if reading.harmony.is_free:
        return "free"
    return SCHEMES[reading.harmony.best.scheme.name].title.lower()
