"""What a kind of sketch is made of."""

from collections.abc import Callable, Mapping
from typing import NamedTuple, TypeAlias

import numpy as np
import numpy.typing as npt

from umber_compass.colour.packed import Packed
from umber_compass.picture.mixes import Labels
from umber_compass.plan.model import Neck
from umber_compass.plan.terms import Role
from umber_compass.work import Tick

Settings: TypeAlias = Mapping[str, float]


class Split(NamedTuple):
    """Regions found: labels 1.. by area, largest first, and the main colour of each. What is empty
    was not told by the sketch."""

    labels: Labels  # (h, w)
    colours: npt.NDArray[np.uint8]  # (regions, 3)
    shaded: bool = False  # whether the sketch has light and dark of its own within them
    names: tuple[str, ...] = ()
    roles: tuple[Role | None, ...] = ()
    fronts: tuple[int, ...] = ()  # from back to front
    necks: tuple[Neck, ...] = ()
    edges: tuple[float, ...] = ()  # L*, where one of its groups of value ends
    is_planned: bool = True  # whether its colours are the artist's; else they only part regions


class Setting(NamedTuple):
    """One number a kind can be told. Where `usual` is None it finds one that suits."""

    key: str
    title: str
    unit: str
    low: float
    high: float
    usual: float | None

    @property
    def is_switch(self) -> bool:
        """Whether it is only on (1) or off (0)."""
        return (self.low, self.high) == (0, 1)


Splitter: TypeAlias = Callable[[Packed, str, Settings, Tick], Split]


class KindSpec(NamedTuple):
    """A kind of sketch: how its picture, (h, w) 0x00RRGGBB or CLEAR, becomes regions. `split`
    raises Refusal, about the subject it is told, if the picture is none of it."""

    name: str
    title: str
    says: str
    split: Splitter
    settings: tuple[Setting, ...] = ()


def setting_of(settings: Settings, setting: Setting) -> float | None:
    """What a kind was told, within the setting's range, or what it usually takes."""
    number = settings.get(setting.key, setting.usual)
    return None if number is None else min(max(number, setting.low), setting.high)


def number_of(settings: Settings, setting: Setting) -> float:
    """The same, of a setting that has a usual number."""
    found = setting_of(settings, setting)
    assert found is not None
    return found
