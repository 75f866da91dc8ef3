"""How hard the next trial is: harder after two right answers in a row, easier after a wrong one
(two-down one-up, Levitt 1971), which settles where seven of ten are right."""

from typing import NamedTuple

import numpy as np

_TURNS = 6  # reversals at the end, that a threshold is the mean of


class Staircase(NamedTuple):
    """A level between two bounds, smaller being harder, and what led to it."""

    level: float
    low: float
    high: float
    factor: float = 1.35
    right: int = 0  # in a row
    way: int = 0  # -1 after it was made harder, 1 after it was made easier
    turns: tuple[float, ...] = ()  # levels at which the way turned

    def after(self, is_right: bool) -> "Staircase":
        """The staircase after an answer."""
        right = self.right + 1 if is_right else 0
        way = -1 if right == 2 else 0 if is_right else 1
        if not way:
            return self._replace(right=right)
        turned = self.way and way != self.way
        turns = (*self.turns, self.level) if turned else self.turns
        level = float(np.clip(self.level * self.factor**way, self.low, self.high))
        return self._replace(level=level, right=0, way=way, turns=turns)

    @property
    def threshold(self) -> float:
        """The level at which seven of ten are right, as far as it is known."""
        if not self.turns:
            return self.level
        return float(np.exp(np.mean(np.log(self.turns[-_TURNS:]))))
