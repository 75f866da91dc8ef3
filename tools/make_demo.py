"""Draws the demos' flats from their SVGs and makes their plans: python -m tools.make_demo [NAME]

The flats hold one colour a region; names and roles are told by the SVG's groups, and the plan's
decisions that a flats picture cannot hold (the sky's gradient, what is given) are made here.
"""

import io
import os
import sys
from pathlib import Path
from typing import NamedTuple
from xml.etree import ElementTree

from umber_compass.plan.edits import study, with_colours, with_scheme
from umber_compass.plan.settings import change_setting
from umber_compass.plan.wish_edits import switch_wish

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

from msgspec.structs import replace
from PIL import Image
from PySide6.QtCore import QBuffer, QByteArray, QIODevice
from PySide6.QtGui import QGuiApplication, QImage, QPainter
from PySide6.QtSvg import QSvgRenderer

from umber_compass import document
from umber_compass.colour.measured import measure_hex
from umber_compass.plan.focus_edits import set_focus
from umber_compass.plan.light_edits import with_rig
from umber_compass.plan.model import Colour, Gradient, Pinned, Plan
from umber_compass.plan.rig import Ambient, Lamp, Rig, Terminator
from umber_compass.steps.harmony.edits import planned_from_hex
from umber_compass.steps.harmony.scheme import planned_as
from umber_compass.words import words

FOLDER = Path(__file__).parent.parent / "umber_compass" / "demo"


class Told(NamedTuple):
    """What an artist would decide for a picture, beside what its SVG says. Values and groups are by
    region name."""

    name: str
    title: str
    purpose: str
    names: dict[str, str]  # by colour, where it is another than the SVG's
    roles: dict[str, tuple[str, ...]]
    # What the lights fall on. The rest is as its role says: figures round, the rest flat.
    forms: dict[str, tuple[str, ...]]
    one_surface: dict[str, str]
    materials: dict[str, str]
    rig: Rig
    scheme: tuple[str, float, float]  # name, lead and spread on the painter's wheel
    values: dict[str, float]
    strays: dict[str, float]  # degrees from the lead, of what is left outside on purpose
    gradients: dict[str, tuple[str, float]]  # the colour below, and where it is reached
    given: tuple[str, ...]
    focus: tuple[str, ...]  # what should be met first, where it is more than the role says
    inside: float  # degrees; what strays by less than it may is brought within the arc


BAKERY = Told(
    "lighthouse-bakery",
    "Lighthouse Bakery",
    "double page of a picture book, low sun",
    names={
        "#a9ccc9": "tower and sail",
        "#ffd88c": "window",
        "#41565c": "plank gaps",
        "#274c58": "rock and iron",
        "#4f3338": "hair and boots",
        "#dd9c45": "loaves",
        "#f4e8d2": "cream",
        "#a84b5d": "tower bands",
        "#93704f": "crate",
        "#5c4537": "crust",
        "#3f3a3c": "frame",
    },
    roles={
        "ground": ("sky", "sea", "wall", "pier", "clouds"),
        "focus": ("window",),
        "figure": (
            "coat",
            "apron",
            "cream",
            "skin",
            "loaves",
            "trousers",
            "hair and boots",
            "gull",
        ),
        "line": ("plank gaps", "frame"),
    },
    forms={
        "round": ("tower and sail", "clouds", "rock and iron", "rope"),
        "slope": ("pier", "roof"),
        "flat": ("wall", "window", "door", "crate"),
    },
    one_surface={
        "tower bands": "tower and sail",
        "awning": "cream",
        "crust": "loaves",
        "tiles": "roof",
        "plank gaps": "pier",
    },
    materials={"skin": "skin", "window": "glow", "sea": "wet"},
    rig=Rig(
        ambient=Ambient(hex="#b3cfe4", strength=58, bounce=1.2),
        lamps=(Lamp(hex="#ffcf8f", strength=112, direction=(-0.62, -0.52, 0.587), softness=0.4),),
        terminator=Terminator(hex="#c4555e", strength=8),
        anchor="mean",
    ),
    scheme=("split-opposite", 216.0, 38.0),
    values={
        "apron": 77.0,
        "coat": 51.0,
    },  # light enough to part from the sea on its shaded side too
    strays={"door": 42.0},  # one, left on purpose
    gradients={"sky": ("#e4b693", 0.6)},
    given=("skin",),
    focus=("awning", "window"),  # the shop front
    inside=14.0,
)
KETTLE = Told(
    "kettle-weather",
    "Kettle weather",
    "cover of a small book, evening lamp",
    names={},
    roles={
        "ground": ("wall", "panelling", "evening", "hills", "table"),
        "focus": ("kettle",),
        "figure": ("cat", "cups", "lid", "handle", "lemon"),
        "line": ("panel gaps", "cord"),
    },
    forms={
        "round": ("curtain", "lamp shade", "cloud bank", "tie back", "rod", "steam"),
        "slope": ("table", "cloth", "sill"),
        "flat": ("evening", "hills", "window frame"),
    },
    one_surface={"folds": "curtain", "eyes": "cat", "tea": "cups"},
    materials={"kettle": "metal", "bulb": "glow", "evening": "wet"},
    rig=Rig(
        ambient=Ambient(hex="#a9bfe0", strength=54),
        lamps=(Lamp(hex="#ffc987", strength=110, direction=(0.58, -0.52, 0.627), softness=0.5),),
        terminator=Terminator(hex="#b4473f", strength=8),
        anchor="mean",
    ),
    scheme=("neighbours-opposite", 52.0, 34.0),
    values={},
    strays={},
    gradients={"evening": ("#8a86a8", 0.55)},
    given=("moon", "bulb"),
    focus=(),
    inside=17.0,
)


def draw(name: str) -> bytes:
    """The flats as PNG."""
    renderer = QSvgRenderer(str(FOLDER / f"{name}.svg"))
    image = QImage(renderer.defaultSize(), QImage.Format.Format_RGB32)
    painter = QPainter(image)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    renderer.render(painter)
    painter.end()
    kept = QByteArray()
    buffer = QBuffer(kept)
    buffer.open(QIODevice.OpenModeFlag.WriteOnly)
    image.save(buffer, "PNG")  # type: ignore[call-overload]  # the stub forgets str
    out = io.BytesIO()
    Image.open(io.BytesIO(kept.data())).convert("RGB").save(out, "PNG", optimize=True)
    return out.getvalue()


def names(told: Told) -> dict[str, str]:
    """Region names by their colour in the flats."""
    tree = ElementTree.parse(FOLDER / f"{told.name}.svg")
    groups = [g for g in tree.getroot() if "fill" in g.attrib]
    own = {g.attrib["fill"]: g.attrib["id"].replace("-", " ") for g in reversed(groups)}
    return {**own, **told.names}


def decided(plan: Plan, told: Told) -> Plan:
    """The plan with what an artist would decide for this picture."""
    named = names(told)
    found = {r.id: named[measure_at(plan, r.id)] for r in plan.regions}
    ids = {n: i for i, n in found.items()}
    regions = tuple(
        replace(
            r,
            name=n,
            role=_of(told.roles, n) or "middle ground",
            material=told.materials.get(n, "matte"),
            form=_of(told.forms, n) or "auto",
            shares_form_with=ids.get(told.one_surface.get(n, "")),
            named=True,
        )
        for r in plan.regions
        for n in [found[r.id]]
    )
    plan = replace(
        change_setting("title", told.title).apply(plan), regions=regions, purpose=told.purpose
    )
    name, lead, spread = told.scheme
    hexes = {n: measure_at(plan, i) for n, i in ids.items()}
    told_of = {"name": name, "wheel": "painter", "lead_deg": lead, "spread_deg": spread}
    plan = with_scheme(plan, **told_of, chosen=True)
    scheme = study(plan).scheme
    colours: dict[str, Colour] = {}
    for name, region_id in ids.items():
        m = measure_hex(hexes[name])
        planned = planned_as(scheme, m.value, m.chroma, m.hue)
        inside = min(max(planned.hue_offset_deg, -told.inside), told.inside)
        value = told.values.get(name, planned.value)
        colours[region_id] = replace(planned, hue_offset_deg=inside, value=value)
    for name, away in told.strays.items():
        colours[ids[name]] = replace(colours[ids[name]], slot="A", hue_offset_deg=away)
    for name, (below, at) in told.gradients.items():
        ends = (planned_from_hex(scheme, hexes[name]), planned_from_hex(scheme, below))
        colours[ids[name]] = Gradient(first=ends[0], second=ends[1], axis=(0.5, 0.0, 0.5, at))
    for name in told.given:
        colours[ids[name]] = Pinned(hex=hexes[name])
    plan = with_rig(with_colours(plan, colours), told.rig)
    if told.focus:
        says = words("set the focus on {which}", which=" and ".join(told.focus))
        plan = set_focus(tuple(ids[n] for n in told.focus), says).apply(plan)
    return switch_wish("parting", True, "figure from ground").apply(plan)


def measure_at(plan: Plan, region_id: str) -> str:
    """A region's colour as it was measured in the flats."""
    from umber_compass.steps.harmony.colours import region_colours

    now = study(plan)
    return region_colours(now.scheme, {region_id: now.colours[region_id]})[region_id].first.hex


def _of(groups: dict[str, tuple[str, ...]], name: str) -> str:
    return next((k for k, members in groups.items() if name in members), "")


def main() -> int:
    """Write the flats and the plans beside their sources."""
    QGuiApplication(sys.argv)
    for told in (BAKERY, KETTLE):
        if sys.argv[1:] and told.name not in sys.argv[1:]:
            continue
        flats = FOLDER / f"{told.name}.png"
        flats.write_bytes(draw(told.name))
        made = document.bring_in(flats)
        plan = decided(made.plan, told)
        document.save(plan, made.pixels, FOLDER / f"{told.name}.umber")
    return 0


if __name__ == "__main__":
    sys.exit(main())
