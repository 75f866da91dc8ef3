"""Lists of ideas by name: schemes, recipes, checks, views, kinds of sketch and the like."""

from collections.abc import Iterable
from types import ModuleType
from typing import Any


def registered(entry: str, *modules: ModuleType) -> dict[str, Any]:
    """What modules hold under `entry`, one thing with a name or a tuple of them, by name and in
    order. Raises ValueError where two have one name; it says in which files."""
    found: dict[str, Any] = {}
    file_of: dict[str, str] = {}
    for module in modules:
        held = getattr(module, entry)
        several: Iterable[Any] = (held,) if hasattr(held, "name") else held
        for one in several:
            file = str(module.__file__)
            if one.name in found:
                raise ValueError(f"{one.name} is in {file_of[one.name]} and in {file}")
            found[one.name], file_of[one.name] = one, file
    return found
