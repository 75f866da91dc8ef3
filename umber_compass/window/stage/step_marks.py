"""What a step puts on the stage."""

from collections.abc import Mapping
from types import MappingProxyType
from typing import NamedTuple

from umber_compass.window.stage.focus_marks import FocusMarks
from umber_compass.window.stage.lamp_marks import LampMark


class Marks(NamedTuple):
    """Words by region id, lamps, and what is met first."""

    names: Mapping[str, str] = MappingProxyType({})
    lamps: tuple[LampMark, ...] = ()
    focus: FocusMarks = FocusMarks()
