"""Zones: small relative shifts from one base for the parts of a face and other surfaces, value
kept. Two schools, which part on the way the cheeks and the brow go; both are data.

Studio rule, docs/harmony.md: what painters' hand-outs agree on, sizes by eye.
"""

from typing import NamedTuple

import numpy as np
from msgspec.structs import replace

from umber_compass.colour.difference import ciede2000
from umber_compass.colour.gamut import fit
from umber_compass.colour.measured import Measured
from umber_compass.colour.spaces import Floats, cielab, decode, encode, parse_hex, to_hex
from umber_compass.picture.drawing import Drawing
from umber_compass.plan.edits import Edit, study, with_study
from umber_compass.plan.model import Axis, Plan
from umber_compass.plan.model import Zones as ZonesOf
from umber_compass.words import Refusal, words

LEAST, MOST = 2.0, 8.0  # CIEDE2000 from the base


class Zone(NamedTuple):
    """One part: the hue it leans to, OKLCh degrees, by how much of CIEDE2000 at strength 1, and
    whether chroma rises or falls."""

    name: str
    toward_deg: float
    far: float
    chroma: float = 1.0  # times the base's


class School(NamedTuple):
    """A way to part a face."""

    name: str
    title: str
    says: str
    zones: tuple[Zone, ...]
    # Where its zones lie on the picture, from the brow at 0 to the jaw at 1; empty for the base.
    along: tuple[tuple[float, str], ...] = (
        (0.0, "brow"), (0.26, "brow"), (0.46, "nose and cheeks"), (0.58, "nose and cheeks"),
        (0.70, ""), (0.84, "jaw"), (1.0, "jaw"),
    )  # fmt: skip


SCHOOLS: dict[str, School] = {
    s.name: s
    for s in (
        School(
            "three-bands",
            "three bands",
            "yellower brow, redder middle, greyer jaw: blood and bone",
            (
                Zone("brow", 92.0, 3.5, 0.95),
                Zone("eye sockets", 330.0, 3.0, 0.85),
                Zone("nose and cheeks", 26.0, 6.0, 1.2),
                Zone("ears", 24.0, 7.0, 1.3),
                Zone("mouth", 12.0, 6.5, 1.15),
                Zone("jaw", 230.0, 4.0, 0.75),
                Zone("neck", 75.0, 2.5, 0.9),
            ),
        ),
        School(
            "warm-edges",
            "warm edges",
            "cool middle planes, warmth where the form turns and where it is thin",
            (
                Zone("brow", 40.0, 3.0, 1.1),
                Zone("eye sockets", 20.0, 4.0, 1.1),
                Zone("nose and cheeks", 350.0, 3.5, 0.9),
                Zone("ears", 35.0, 6.5, 1.35),
                Zone("mouth", 350.0, 5.0, 1.05),
                Zone("jaw", 50.0, 4.0, 1.15),
                Zone("neck", 45.0, 5.0, 1.2),
            ),
        ),
        School(
            "warm-joints",
            "warm joints",
            "an arm, a leg or a hand: warmer at both ends and in the middle, where it bends",
            (
                Zone("joints", 26.0, 5.0, 1.15),
                Zone("between", 80.0, 2.5, 0.92),
            ),
            (
                (0.0, "joints"),
                (0.12, "joints"),
                (0.26, "between"),
                (0.4, "between"),
                (0.5, "joints"),
                (0.6, "between"),
                (0.74, "between"),
                (0.9, "joints"),
                (1.0, "joints"),
            ),
        ),
    )
}


class Shifted(NamedTuple):
    """One zone's colour."""

    name: str
    hex: str
    far: float  # CIEDE2000 from the base


def zones_of(base: Measured, school: str, strength: float) -> tuple[Shifted, ...]:
    """The zones of a base: its own value, each so far toward its hue as the school says, times the
    strength, between CIEDE2000 2 and 8. Raises KeyError for a school there is none of."""
    lab = cielab(decode(parse_hex(base.hex)))
    found = []
    for zone in SCHOOLS[school].zones:
        wished = min(max(zone.far * strength, LEAST), MOST)
        found.append(_zone(base, lab, zone, wished))
    return tuple(found)


def _zone(base: Measured, lab: Floats, zone: Zone, wished: float) -> Shifted:
    """The mix of a base with its zone's hue that lies nearest to a distance from it."""
    own = np.radians(base.hue or 0.0)
    start = base.chroma * np.array([np.cos(own), np.sin(own)])
    toward = np.radians(zone.toward_deg)
    full = 0.13 * np.array([np.cos(toward), np.sin(toward)])
    part = np.linspace(0, 1, 161)[:, None]
    ab = (start * (1 + (zone.chroma - 1) * part)) * (1 - part) + full * part
    light = fit(base.value, np.hypot(*ab.T), np.degrees(np.arctan2(ab[:, 1], ab[:, 0])))
    shown = np.round(encode(light) * 255) / 255
    far = ciede2000(lab, cielab(decode(shown)))
    at = int(np.abs(far - wished).argmin())
    return Shifted(zone.name, to_hex(shown[at]), float(far[at]))


def upright_axis(drawing: Drawing, label: int) -> Axis:
    """An axis down the middle of a region, shares of width and height."""
    height, width = drawing.labels.shape
    x, y, wide, high = drawing.box.get(label, (0, 0, width, height))
    middle = min((x + wide / 2) / width, 1.0)
    return (middle, y / height, middle, min((y + high) / height, 1.0))


def place_zones(region: str, axis: Axis | None, name: str) -> Edit:
    """A region's zones laid on the picture along an axis from the brow to the jaw, shares of width
    and height; None: no longer."""

    def change(plan: Plan) -> Plan:
        now = study(plan)
        if region not in now.zones:
            return plan
        placed = replace(now.zones[region], axis=axis)
        return with_study(plan, replace(now, zones={**now.zones, region: placed}))

    text = "lay the zones of {name} on the picture" if axis else "take the zones of {name} off it"
    return Edit(words(text, name=name), change)


def set_zones(region: str, school: str | None, strength: float, name: str) -> Edit:
    """A region parted into zones by a school; None: no longer. Raises Refusal for a school there is
    none of."""
    if school is not None and school not in SCHOOLS:
        raise Refusal(school[:60], words("is no school; take {k}", k=", ".join(SCHOOLS)))
    kept = min(max(strength, 0.0), 2.0)

    def change(plan: Plan) -> Plan:
        now = study(plan)
        zones = {r: z for r, z in now.zones.items() if r != region}
        if school is not None:
            was = now.zones.get(region)
            axis = None if was is None else was.axis
            zones[region] = ZonesOf(school=school, strength=kept, axis=axis)
        return with_study(plan, replace(now, zones=zones))

    text = (
        words("zones for {name}", name=name) if school else words("no zones for {name}", name=name)
    )
    return Edit(text, change, f"zones {region}")
