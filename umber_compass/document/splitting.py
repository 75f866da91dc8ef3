"""A picture split into regions by its kind, told or guessed."""

from typing import NamedTuple

from umber_compass.formats import openraster, picture
from umber_compass.steps.sketch.kinds import (
    AUTO,
    KINDS,
    Settings,
    Split,
    guess_kind,
    known_settings,
)
from umber_compass.words import Refusal, Words, words
from umber_compass.work import Tick, idle


class Chosen(NamedTuple):
    """Regions found, the kind they were found by, what it was told, and why that kind where it was
    guessed."""

    split: Split
    kind: str
    settings: dict[str, float]
    why: Words | None


def split_picture(
    read: picture.Picture,
    name: str,
    kind: str = AUTO,
    settings: Settings | None = None,
    tick: Tick = idle,
) -> Chosen:
    """The regions of a picture by a kind; for `auto` by the likeliest, and if it is none of that,
    by the next. Raises Refusal if it cannot be split so."""
    settings = settings or {}
    if openraster.is_layered(read.data) and kind in (AUTO, "layers"):
        from umber_compass.document import layered  # few sketches are

        found = layered.split(read.data, read.packed, settings, name, tick)
        why = words("a file of layers") if kind == AUTO else None
        return Chosen(found, "layers", known_settings(KINDS["layers"], settings), why)
    if kind != AUTO:
        return _by(read, name, kind, settings, tick, None)
    guess = guess_kind(read.packed)
    try:
        return _by(read, name, guess.kind, {**guess.told, **settings}, tick, guess.why)
    except Refusal:
        if not guess.otherwise:
            raise
        what = KINDS[guess.kind].title.lower()
        why = words("it was tried as {kind} first, and is none", kind=what)
        try:
            return _by(read, name, guess.otherwise, settings, tick, why)
        except Refusal:
            pass
        raise


def _by(
    read: picture.Picture, name: str, kind: str, settings: Settings, tick: Tick, why: Words | None
) -> Chosen:
    spec = KINDS[kind]
    known = known_settings(spec, settings)
    return Chosen(spec.split(read.packed, name, known, tick), kind, known, why)
