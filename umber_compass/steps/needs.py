"""What several stages of the table are handed, and what is one number of the rules."""

# Needs that are one number of the rules.
LOST = "rules:figure-merges.lost"
DARK, LIGHT = "rules:extremes.dark", "rules:extremes.light"
LEAST_BORDER, ARC = "rules:figure-merges.border", "rules:hue-off-scheme.arc"


# What shadows are cast from, and by which key.
CASTING = (
    "pieces", "standees", "standing", "parts_before",
    "rig.key.direction", "rig.key.softness", "casts",
)  # fmt: skip
EXACTLY = (
    "lit", "whole_forms", "exact_shadows", "receivers", "buffers", "finishes", "spares", "edges",
    "pool_lights",
)  # fmt: skip
LIT_BY = (
    "buffers", "held", "table", "arriving", "anchored", "rig_lights", "rig", "pool_lights",
)  # fmt: skip
TOLD = (
    "buffers", "finishes", "spares", "edges", "rig.way", "rig.key.softness", "casts",
)  # fmt: skip
