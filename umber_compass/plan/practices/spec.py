"""What a practice is made of."""

from typing import NamedTuple


class Rule(NamedTuple):
    """One number of a practice, with its unit, its bounds and why it is what it is."""

    key: str
    title: str
    number: float
    unit: str
    low: float
    high: float
    source: str


class Practice(NamedTuple):
    """A school: its numbers."""

    name: str
    title: str
    rules: tuple[Rule, ...]
