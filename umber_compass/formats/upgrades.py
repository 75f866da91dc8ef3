"""Older plan files brought up to today's, one schema at a time: the tree of plan.json and the other
entries, both changed in place."""

import hashlib
from collections.abc import Callable
from typing import Any, TypeAlias

Tree: TypeAlias = dict[str, Any]
Entries: TypeAlias = dict[str, bytes]

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


UPGRADES: dict[int, Callable[[Tree, Entries], None]] = {1: _to_2}  # from schema n to n + 1
