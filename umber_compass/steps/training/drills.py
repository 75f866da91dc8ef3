"""The four drills. Each is one record: what it asks, and how a trial of some difficulty is made."""

from collections.abc import Callable
from typing import NamedTuple

import numpy as np

from umber_compass.colour.gamut import fit
from umber_compass.colour.measured import greys_of
from umber_compass.colour.spaces import encode, to_hex, value
from umber_compass.steps.training.staircase import Staircase

TRIALS = 14  # of a drill: about a minute
SECONDS = 300.0  # after which a session is over
_SURROUND_CHROMA, _GREY_VALUE = 0.13, 60.0


class Trial(NamedTuple):
    """One question. `rows` are colours side by side, one row for each answer; or a single row with
    a surround, where the answers are words."""

    rows: tuple[tuple[str, ...], ...]
    answers: tuple[str, ...]  # words; empty where an answer is a row, or a value
    right: int  # which answer; -1 where it is a value
    target: float = 0.0  # L*, where a value is asked for
    surround: str = ""


class Drill(NamedTuple):
    """A drill. A result is in `unit`, and less is better."""

    name: str
    title: str
    asks: str
    unit: str
    begin: Staircase
    make: Callable[[np.random.Generator, float], Trial]

    @property
    def is_matching(self) -> bool:
        """Whether a value is given instead of an answer chosen."""
        return self.name == "value"


def _hex(light: float, chroma: float, hue: float) -> str:
    return to_hex(encode(fit(light, chroma, hue)))


def _match(rng: np.random.Generator, level: float) -> Trial:
    """A colour whose value is to be matched by a grey: the stronger, the harder."""
    light, hue = float(rng.uniform(25, 80)), float(rng.uniform(0, 360))
    made = fit(light, float(np.clip(0.2 / max(level, 0.2), 0.03, 0.25)), hue)
    return Trial(((to_hex(encode(made)),),), (), -1, float(value(made)))


def _darker(rng: np.random.Generator, level: float) -> Trial:
    """Two colours of other hues, `level` L* apart: which is darker."""
    light, hue = float(rng.uniform(32, 75)), float(rng.uniform(0, 360))
    other = hue + float(rng.uniform(70, 290))
    pair = [_hex(light - level / 2, 0.1, hue), _hex(light + level / 2, 0.1, other)]
    right = int(rng.integers(2))
    rows = tuple((c,) for c in (pair if right == 0 else pair[::-1]))
    return Trial(rows, (), right)


def _turning(rng: np.random.Generator, level: float) -> Trial:
    """Two ramps with the same greys: which one turns in hue, by `level` degrees in all."""
    values, hue = np.linspace(28, 80, 6), float(rng.uniform(0, 360))
    chroma = 0.085
    sign = 1 if rng.random() < 0.5 else -1
    straight = tuple(_hex(float(v), chroma, hue) for v in values)
    turns = sign * level * (np.linspace(-0.5, 0.5, 6))
    pairs = zip(values, turns, strict=True)
    turned = tuple(_hex(float(v), chroma, hue + float(t)) for v, t in pairs)
    right = int(rng.integers(2))
    return Trial((turned, straight) if right == 0 else (straight, turned), (), right)


_HUES = (("red", 25.0), ("yellow", 100.0), ("green", 150.0), ("blue", 255.0))
_OPPOSITE = {"red": "green", "green": "red", "yellow": "blue", "blue": "yellow"}


def _reads(rng: np.random.Generator, level: float) -> Trial:
    """A colour near grey in a strong surround: what it reads as. A plain grey reads as the
    surround's opposite (simultaneous contrast, Chevreul 1839); with `level` steps of that hue in it
    the answer is easier."""
    name, hue = _HUES[int(rng.integers(4))]
    surround = _hex(_GREY_VALUE, _SURROUND_CHROMA, hue)
    opposite = _OPPOSITE[name]
    own = next(h for n, h in _HUES if n == opposite)
    middle = _hex(_GREY_VALUE, 0.004 * level, own)
    answers = tuple(n for n, _ in _HUES)
    return Trial(((middle,),), answers, answers.index(opposite), surround=surround)


DRILLS = (
    Drill(
        "value",
        "Match a value",
        "Move the grey until it is as light as the colour",
        "L* off",
        Staircase(4.0, 0.8, 6.0),
        _match,
    ),
    Drill("darker", "Which is darker?", "Choose the darker of the two", "L* apart",
          Staircase(12.0, 0.5, 30.0), _darker),
    Drill(
        "turning",
        "Which ramp turns?",
        "Both have the same greys; choose the one that turns in hue",
        "degrees of turn",
        Staircase(60.0, 3.0, 120.0),
        _turning,
    ),
    Drill(
        "reads",
        "What does it read as?",
        "Look at the middle among its surround, and choose what it leans to",
        "steps of hue",
        Staircase(6.0, 0.5, 12.0),
        _reads,
    ),
)  # fmt: skip


def value_of_grey(share: float) -> tuple[float, str]:
    """The value L* and the hex of a grey by the place of a slider, 0 to 1."""
    light = float(np.clip(share, 0, 1)) * 100
    return light, greys_of([light])[0]


class Session(NamedTuple):
    """A drill as far as it has gone."""

    drill: Drill
    stairs: Staircase
    trial: Trial
    asked: int = 0  # trials answered
    right: int = 0
    off: tuple[float, ...] = ()  # L*, of values that were matched

    @property
    def is_over(self) -> bool:
        """Whether all trials are answered."""
        return self.asked >= TRIALS

    @property
    def result(self) -> float:
        """In the drill's unit: less is better."""
        if self.drill.is_matching:
            return float(np.mean(self.off)) if self.off else 0.0
        return self.stairs.threshold


def begin(drill: Drill, rng: np.random.Generator) -> Session:
    """A drill's first trial."""
    return Session(drill, drill.begin, drill.make(rng, drill.begin.level))


def answered(session: Session, answer: float, rng: np.random.Generator) -> Session:
    """The session after an answer: which it was, or the value L* that was matched."""
    if session.is_over:
        return session
    trial, drill = session.trial, session.drill
    off = session.off
    if drill.is_matching:
        off = (*off, abs(answer - trial.target))
        is_right = off[-1] < session.stairs.level
    else:
        is_right = int(answer) == trial.right
    stairs = session.stairs.after(is_right)
    return Session(
        drill,
        stairs,
        drill.make(rng, stairs.level),
        session.asked + 1,
        session.right + is_right,
        off,
    )
