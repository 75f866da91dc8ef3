"""The kinds of sketch, one file each."""

from umber_compass.registry import registered
from umber_compass.steps.sketch.kinds import flats, grey, layers, lines, painting
from umber_compass.steps.sketch.kinds.guessing import Guess, guess_kind
from umber_compass.steps.sketch.kinds.kind import KindSpec, Setting, Settings, Split, setting_of

KINDS: dict[str, KindSpec] = registered("KIND", flats, lines, grey, painting, layers)
AUTO, NONE = "auto", "none"  # what suits; a composition of our own instead of a sketch


def known_settings(kind: KindSpec, settings: Settings) -> dict[str, float]:
    """Of what was told, that which the kind knows, within its ranges."""
    found = {}
    for setting in kind.settings:
        number = setting_of(settings, setting)
        if setting.key in settings and number is not None:
            found[setting.key] = number
    return found


__all__ = [
    "AUTO",
    "KINDS",
    "NONE",
    "Guess",
    "KindSpec",
    "Setting",
    "Settings",
    "Split",
    "guess_kind",
    "known_settings",
    "setting_of",
]
