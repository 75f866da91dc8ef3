"""Older plan files brought up to today's, one schema at a time: the tree of plan.json and the other
entries, both changed in place."""

import hashlib
from collections.abc import Callable
from typing import Any, TypeAlias

Tree: TypeAlias = dict[str, Any]
Entries: TypeAlias = dict[str, bytes]

# What a scheme has in common with the reading it was taken from.
_OF_A_READING = ("wheel", "name", "lead_deg", "spread_deg", "lead_at")
OLD_ENTRIES = ("sketch", "regions.png")  # of schema 1


def _to_2(tree: Tree, entries: Entries) -> None:
    """Pixels by their hash, so that a plan may have several sketches."""
    sketch = tree["sketch"]
    for old, new in (("sketch", "sketches/{}"), ("regions.png", "labels/{}.png")):
        if old in entries:
            data = entries.pop(old)
            found = hashlib.sha256(data).hexdigest()
            entries[new.format(found)] = data
            if old == "regions.png":
                sketch["labels"] = found
    tree["schema"] = 2


HALO = 25.0  # % that crevices have at most where light was as before 0.12
_AS_BEFORE = {"way": "soft", "shadows": False, "highlights": False, "reaches_far": True}


def _to_3(tree: Tree, entries: Entries) -> None:
    """Light as it was before there were ways of it: soft, without shadows or highlights. Crevices
    went round every form like a halo; what is left of them lies between the parts of a thing."""
    for part in (tree, *tree.get("candidates", ())):
        for study in part.get("studies", ()):
            rig = study.get("rig")
            if rig is not None:
                rig |= _AS_BEFORE
                rig["ambient"] = {**rig.get("ambient", {}), "bounce": 0.0}
                rig["glow"] = {"strength": 0.0}
                rig["crevice"] = min(rig.get("crevice", 100.0), HALO)
    tree["schema"] = 3


def mark_read(tree: Tree) -> None:
    """Schemes of before 0.10 did not say whether the artist chose them: one that is still as the
    sketch was read is not chosen."""
    for part in (tree, *tree.get("candidates", ())):
        for study in part.get("studies", ()):
            scheme, readings = study.get("scheme", {}), study.get("readings", ())
            if "chosen" not in scheme and readings:
                read = readings[0].get("scheme", {})
                scheme["chosen"] = any(scheme.get(k) != read.get(k) for k in _OF_A_READING)


# From schema n to n + 1.
UPGRADES: dict[int, Callable[[Tree, Entries], None]] = {1: _to_2, 2: _to_3}
