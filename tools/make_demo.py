"""Draws the demo's flats from its SVG and makes its plan: python -m tools.make_demo

The flats hold one colour a region; names and roles are told by the SVG's groups, and the plan's
decisions that a flats picture cannot hold (the sky's gradient, what is given) are made here.
"""

import io
import os
import sys
from pathlib import Path
from xml.etree import ElementTree

from umber_compass.plan.edits import study, with_colours, with_scheme

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

from msgspec.structs import replace
from PIL import Image
from PySide6.QtCore import QBuffer, QByteArray, QIODevice
from PySide6.QtGui import QGuiApplication, QImage, QPainter
from PySide6.QtSvg import QSvgRenderer

from umber_compass import document
from umber_compass.colour.measured import measure_hex
from umber_compass.plan.light_edits import with_rig
from umber_compass.plan.model import Ambient, Colour, Gradient, Lamp, Pinned, Plan, Rig, Terminator
from umber_compass.plan.sketch_edits import set_title
from umber_compass.steps.harmony.edits import planned_from_hex
from umber_compass.steps.harmony.scheme import planned_as

FOLDER = Path(__file__).parent.parent / "umber_compass" / "demo"
NAME = "lighthouse-bakery"
NAMES = {
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
}
ROLES = {
    "ground": ("sky", "sea", "wall", "pier", "clouds"),
    "focus": ("window",),
    "figure": ("coat", "apron", "cream", "skin", "loaves", "trousers", "hair and boots", "gull"),
    "line": ("plank gaps", "frame"),
}
# What the lights fall on. The rest is as its role says: figures round, the rest flat.
FORMS = {
    "round": ("tower and sail", "clouds", "rock and iron", "rope"),
    "slope": ("pier", "roof"),
    "flat": ("wall", "window", "door", "crate"),
}
ONE_SURFACE = {
    "tower bands": "tower and sail",
    "awning": "cream",
    "crust": "loaves",
    "tiles": "roof",
    "plank gaps": "pier",
}
RIG = Rig(
    ambient=Ambient(hex="#b3cfe4", strength=64),
    lamps=(Lamp(hex="#ffcf8f", strength=86, direction=(-0.66, -0.42, 0.62), softness=0.45),),
    terminator=Terminator(hex="#c4555e", strength=14),
    crevice=55,
    anchor="mean",
)
MATERIALS = {"skin": "skin", "window": "glow", "sea": "wet"}
VALUES = {"apron": 77.0}  # light enough to part from the sea on its shaded side too
LEAD, SPREAD = 216.0, 38.0
INSIDE = 14.0  # degrees; what strays by a little is brought within the arc
DOOR = 42.0  # degrees from the lead: one stray left on purpose
SKY_BELOW = "#e4b693"


def draw() -> bytes:
    """The flats as PNG."""
    renderer = QSvgRenderer(str(FOLDER / f"{NAME}.svg"))
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


def names() -> dict[str, str]:
    """Region names by their colour in the flats."""
    tree = ElementTree.parse(FOLDER / f"{NAME}.svg")
    groups = [g for g in tree.getroot() if "fill" in g.attrib]
    own = {g.attrib["fill"]: g.attrib["id"].replace("-", " ") for g in reversed(groups)}
    return {**own, **NAMES}


def decided(plan: Plan) -> Plan:
    """The plan with what an artist would decide for this picture."""
    named = names()
    found = {r.id: named[measure_at(plan, r.id)] for r in plan.regions}
    ids = {n: i for i, n in found.items()}
    regions = tuple(
        replace(
            r,
            name=n,
            role=_of(ROLES, n) or "middle ground",
            material=MATERIALS.get(n, "matte"),
            form=_of(FORMS, n) or "auto",
            shares_form_with=ids.get(ONE_SURFACE.get(n, "")),
        )
        for r in plan.regions
        for n in [found[r.id]]
    )
    plan = replace(set_title("Lighthouse Bakery").apply(plan), regions=regions)
    plan = replace(plan, purpose="double page of a picture book, low sun")
    by_name = {n: i for i, n in found.items()}
    hexes = {n: measure_at(plan, i) for n, i in by_name.items()}
    plan = with_scheme(
        plan, name="split-opposite", wheel="painter", lead_deg=LEAD, spread_deg=SPREAD
    )
    scheme = study(plan).scheme
    colours: dict[str, Colour] = {}
    for name, region_id in by_name.items():
        m = measure_hex(hexes[name])
        planned = planned_as(scheme, m.value, m.chroma, m.hue)
        inside = min(max(planned.hue_offset_deg, -INSIDE), INSIDE)
        told = VALUES.get(name, planned.value)
        colours[region_id] = replace(planned, hue_offset_deg=inside, value=told)
    colours[by_name["door"]] = replace(colours[by_name["door"]], slot="A", hue_offset_deg=DOOR)
    sky = planned_from_hex(scheme, SKY_BELOW)
    colours[by_name["sky"]] = Gradient(
        first=planned_from_hex(scheme, hexes["sky"]), second=sky, axis=(0.5, 0.0, 0.5, 0.6)
    )
    colours[by_name["skin"]] = Pinned(hex=hexes["skin"])
    return with_rig(with_colours(plan, colours), RIG)


def measure_at(plan: Plan, region_id: str) -> str:
    """A region's colour as it was measured in the flats."""
    from umber_compass.steps.harmony.colours import region_colours

    now = study(plan)
    return region_colours(now.scheme, {region_id: now.colours[region_id]})[region_id].first.hex


def _of(groups: dict[str, tuple[str, ...]], name: str) -> str:
    return next((k for k, members in groups.items() if name in members), "")


def main() -> int:
    """Write the flats and the plan beside their source."""
    QGuiApplication(sys.argv)
    flats = FOLDER / f"{NAME}.png"
    flats.write_bytes(draw())
    made = document.bring_in(flats)
    document.save(decided(made.plan), made.pixels, FOLDER / f"{NAME}.umber")
    return 0


if __name__ == "__main__":
    sys.exit(main())
