"""What a step puts on the stage."""

from collections.abc import Mapping
from types import MappingProxyType
from typing import NamedTuple

from umber_compass.window.desk.gaps import NeckMark
from umber_compass.window.stage.axis_marks import AxisMark
from umber_compass.window.stage.focus_marks import FocusMarks
from umber_compass.window.stage.lamp_marks import LampMark


class Marks(NamedTuple):
    """Words by region id, lamps, what is met first, and the axis of a gradient."""

    names: Mapping[str, str] = MappingProxyType({})
    lamps: tuple[LampMark, ...] = ()
    focus: FocusMarks = FocusMarks()
    axis: AxisMark | None = None
    necks: tuple[NeckMark, ...] = ()
    frames: bool = False  # whether a drag on the picture chooses regions by a frame
