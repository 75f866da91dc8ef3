"""A painting's drift in words: what drifted which way, what to rework first, and what the whole
picture did."""

from collections.abc import Mapping, Sequence
from typing import NamedTuple

import numpy as np

from umber_compass.colour.gamut import fit
from umber_compass.colour.spaces import encode, to_hex
from umber_compass.plan.journal import Look
from umber_compass.steps.painting.comparing import Drift
from umber_compass.words import Words, words

_WHOLE = 2.0  # L*, from which the whole picture has drifted
_CREPT = 3.0  # L*, from which darks or lights have crept
_DAY_S = 24 * 3600.0
_AS_MUCH = 0.15  # of the sketch, by which two saves may differ in what is painted
_BEYOND = 10.0  # degrees
# OKLCh hues that a turn goes toward, in their order round the circle.
_HUES = (
    (5, "rose"),
    (29, "red"),
    (60, "orange"),
    (105, "yellow"),
    (145, "green"),
    (195, "blue-green"),
    (255, "blue"),
    (305, "violet"),
)


def drift_words(drift: Drift) -> Words:
    """How a region has drifted, by its parts that have: `6 L* darker, 12° toward violet`."""
    said = []
    if "value" in drift.drifted:
        way = "lighter" if drift.value > 0 else "darker"
        said.append(words("{by:.0f} L* {way}", by=abs(drift.value), way=way))
    if "hue" in drift.drifted and drift.hue is not None:
        said.append(words("{by:.0f}° toward {hue}", by=abs(drift.hue), hue=_toward(drift)))
    if "chroma" in drift.drifted:
        way = "stronger" if drift.chroma > 0 else "greyer"
        said.append(words("{way} by chroma {by:.2f}", way=way, by=abs(drift.chroma)))
    if not said:
        return words("as planned")
    return words("{parts}", parts=", ".join(str(s) for s in said))


def _toward(drift: Drift) -> str:
    """The named hue that a turn goes to: the nearest to a little beyond where it ends."""
    assert drift.hue is not None
    begin = float(np.degrees(np.arctan2(drift.goal[2], drift.goal[1])))
    end = begin + drift.hue + np.copysign(_BEYOND, drift.hue)
    return min(_HUES, key=lambda h: abs((h[0] - end + 180) % 360 - 180))[1]


def rework(drifts: Sequence[Drift], shares: Mapping[str, float]) -> list[Drift]:
    """The regions that drifted, those first that change the picture most: how far, by how much of
    the picture. `shares` are the regions', 0 to 1."""
    found = [d for d in drifts if d.drifted]
    return sorted(found, key=lambda d: -d.size * np.sqrt(shares.get(d.region, 0.0)))


class Whole(NamedTuple):
    """What the painting's values did over all, the painting minus the plan, L*."""

    darks: float
    middle: float
    lights: float
    chroma: float  # OKLCh, the mean


def whole_words(whole: Whole) -> list[Words]:
    """What the whole picture did, in words; none where it keeps to the plan."""
    said = []
    for by, name in ((whole.darks, "darks"), (whole.lights, "lights")):
        if abs(by) >= _WHOLE:
            way = "up" if by > 0 else "down"
            line = words(
                "the {name} have gone {way} by {by:.0f} L*", name=name, way=way, by=abs(by)
            )
            said.append(line)
    if abs(whole.middle) >= _WHOLE:
        way = "lighter" if whole.middle > 0 else "darker"
        said.append(
            words("half of the picture is {by:.0f} L* {way}", by=abs(whole.middle), way=way)
        )
    if abs(whole.chroma) >= 0.01:
        way = "stronger" if whole.chroma > 0 else "greyer"
        said.append(words("colours are {way} by chroma {by:.2f}", way=way, by=abs(whole.chroma)))
    return said


_NINTHS = (
    ("upper left", "top", "upper right"),
    ("left", "middle", "right"),
    ("lower left", "bottom", "lower right"),
)


def place_words(x: float, y: float) -> str:
    """Where a place lies in a picture, by its shares of width and height: `upper left`."""
    return _NINTHS[min(int(y * 3), 2)][min(int(x * 3), 2)]


def since_words(looks: Sequence[Look]) -> tuple[Look, Words] | None:
    """What darks and lights did since an earlier save, and that save: the one of the last day from
    which they moved most. None where they hardly moved. Saves from before the clock was set back
    are left out."""
    if len(looks) < 2:
        return None
    last = looks[-1]
    day = [e for e in looks[:-1] if 0 <= last.at - e.at <= _DAY_S and _is_alike(e, last)]
    moves = [(e, name, by) for e in day for name, by in _moved(e, last)]
    if not moves:
        return None
    first, name, by = max(moves, key=lambda m: abs(m[2]))
    if abs(by) < _CREPT:
        return None
    way = "up" if by > 0 else "down"
    line = words("The {name} have crept {way} by {by:.0f} L*", name=name, way=way, by=abs(by))
    return first, line


def _is_alike(one: Look, other: Look) -> bool:
    """Whether as much is painted in two saves: else they show other parts of the picture."""
    return one.file_name == other.file_name and abs(one.painted - other.painted) < _AS_MUCH


def _moved(one: Look, last: Look) -> tuple[tuple[str, float], ...]:
    """By how much the painting went further from its plan."""
    return (("darks", last.by[0] - one.by[0]), ("lights", last.by[2] - one.by[2]))


def planned_hex(drift: Drift) -> str:
    """The colour that the plan shows in a region's middle."""
    return _hex(drift.goal)


def painted_hex(drift: Drift) -> str:
    """The colour that is painted there."""
    goal = np.hypot(drift.goal[1], drift.goal[2])
    hue = np.arctan2(drift.goal[2], drift.goal[1]) + np.radians(drift.hue or 0.0)
    chroma = max(goal + drift.chroma * 100, 0.0)
    return _hex((drift.goal[0] + drift.value, chroma * np.cos(hue), chroma * np.sin(hue)))


def _hex(planes: tuple[float, float, float]) -> str:
    value, a, b = planes
    hue = float(np.degrees(np.arctan2(b, a)))
    return to_hex(encode(fit(min(max(value, 0.0), 100.0), float(np.hypot(a, b)) / 100, hue)))
