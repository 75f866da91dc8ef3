"""What a scheme is made of."""

from collections.abc import Callable
from typing import NamedTuple

from umber_compass.plan.terms import LeadAt, Slot


class Needle(NamedTuple):
    """One hue of a scheme: what it does, where it stands from the lead for a given spread (wheel
    degrees), and the share of the picture it should hold."""

    slot: Slot
    part: str  # leads, supports or answers
    from_lead: Callable[[float], float]
    share: float
    end_led: Callable[[float], float] | None = None  # where it stands if the lead is at the low end

    def at(self, spread: float, lead_at: LeadAt = "middle") -> float:
        """Where it stands from the lead, wheel degrees; with the lead at the high end as in a
        mirror."""
        if lead_at == "middle":
            return self.from_lead(spread)
        there = (self.end_led or self.from_lead)(spread)
        return there if lead_at == "low" else -there


class SchemeSpec(NamedTuple):
    """A harmony as the two choices of its sentence and the needles they make."""

    name: str
    title: str
    supports: str  # the sentence's first choice
    answers: str  # its second
    spread_deg: float  # wheel degrees; 0 where nothing can be spread
    needles: tuple[Needle, ...]
