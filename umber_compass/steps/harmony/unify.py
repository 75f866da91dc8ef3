"""One colour under everything: all local colours mixed some way toward it, as over a toned
ground."""

import numpy as np
from msgspec.structs import replace

from umber_compass.colour.measured import levels_of, measure_hex
from umber_compass.colour.spaces import to_hex
from umber_compass.plan.edits import Edit, each_free, study
from umber_compass.plan.harmony_edits import half_turned
from umber_compass.plan.model import Plan, Planned
from umber_compass.steps.harmony.colours import solid_levels
from umber_compass.steps.harmony.edits import MOST_CHROMA
from umber_compass.steps.harmony.scheme import slot_hues
from umber_compass.words import words


def unify(hex_text: str, share: float) -> Edit:
    """Every free local colour mixed a share, 0-1, toward one, on encoded sRGB as a layer of that
    opacity would; each keeps its slot. Given and locked ones stay."""
    toward, kept = measure_hex(hex_text).hex, min(max(share, 0.0), 1.0)
    ground = levels_of(toward).astype(float)

    def change(plan: Plan) -> Plan:
        now = study(plan)
        hues = slot_hues(now.scheme)

        def one(solid: Planned) -> Planned:
            own = solid_levels(now.scheme, [solid])[0].astype(float)
            mixed = measure_hex(to_hex(np.asarray(own * (1 - kept) + ground * kept) / 255))
            turn = solid.hue_offset_deg
            if mixed.hue is not None:
                turn = half_turned(mixed.hue - hues.get(solid.slot, hues["A"]))
            times = max(now.scheme.chroma.get(solid.slot, 1.0), 1e-3)
            return replace(
                solid,
                value=mixed.value,
                chroma=min(mixed.chroma / times, MOST_CHROMA),
                hue_offset_deg=turn,
            )

        return each_free(plan, one)

    text = words("mix {share:.0%} of {hex} under everything", share=kept, hex=toward)
    return Edit(text, change if kept else lambda plan: plan, "unify")
