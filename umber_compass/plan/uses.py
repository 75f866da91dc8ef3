"""What pieces are for: how wide they come out and from how far they are seen. Usual sizes, studio
rule, docs/sketch.md; a plan may say others."""

from typing import NamedTuple

from umber_compass.plan.model import Brief
from umber_compass.plan.terms import Use


class UseSpec(NamedTuple):
    """One use: its usual width and distance, cm, and what that asks of the picture."""

    title: str
    width_cm: float
    distance_cm: float
    says: str


USES: dict[Use, UseSpec] = {
    "spread": UseSpec("Spread", 42, 40, "read in the lap: detail is seen"),
    "cover": UseSpec("Cover", 21, 150, "met on a shelf: it must carry at arm’s length and small"),
    "poster": UseSpec("Poster", 60, 400, "met across a street: only large shapes carry"),
    "card": UseSpec("Card", 10.5, 40, "held in the hand: small, and near"),
    "screen": UseSpec("Screen", 30, 60, "on a screen among others"),
    "sprite": UseSpec("Sprite", 1.5, 60, "a few dozen px: every px is seen"),
}
_STAGE = 0.6  # of what fills as much of sight as its distance: a screen's picture at 60 cm
USUAL = UseSpec("", 30, 60, "no use is set; it is judged as on a screen")


def seen_as(brief: Brief) -> tuple[float, float]:
    """How wide the piece comes out and from how far it is seen, cm: as was said, else as its use
    has it."""
    use = USES.get(brief.use, USUAL)
    width = use.width_cm if brief.width_cm is None else brief.width_cm
    return width, use.distance_cm if brief.distance_cm is None else brief.distance_cm


def seen_share(width_cm: float, distance_cm: float) -> float:
    """How large the piece is shown in the small view, a share of the picture on the stage: what it
    fills of sight there, beside the stage's half a metre at the usual 60 cm; between a tenth and a
    half."""
    return min(max(width_cm / distance_cm * _STAGE, 0.1), 0.5)


def blur_share(width_cm: float, distance_cm: float) -> float:
    """What a glance no longer parts from that far, a share of the width: six minutes of arc, at
    least a four hundredth, so that something is seen to change."""
    arc = distance_cm * 6 * 0.000291
    return min(max(arc / width_cm, 1 / 400), 1 / 20)
