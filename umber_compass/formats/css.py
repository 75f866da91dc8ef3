"""Colours as CSS custom properties."""

import re
from collections.abc import Iterable

_DECLARED = re.compile(r"--([A-Za-z0-9_-]{1,200})\s*:\s*(#[0-9A-Fa-f]{6}|#[0-9A-Fa-f]{3})\s*[;}]")
_COMMENT = re.compile(r"/\*.*?\*/", re.DOTALL)


def parse(text: str) -> list[tuple[str, str]]:
    """The custom properties of a style sheet whose value is one hex, with their names; the last of
    a name wins. Other ways to write a colour are left out."""
    found: dict[str, str] = {}
    for name, hex_ in _DECLARED.findall(_COMMENT.sub(" ", text)):
        digits = hex_[1:].lower()
        six = digits if len(digits) == 6 else "".join(c * 2 for c in digits)
        found.pop(name, None)
        found[name] = f"#{six}"
    return [(hex_, name) for name, hex_ in found.items()]


def text(title: str, rows: Iterable[tuple[str, str]]) -> str:
    """A style sheet with one custom property for each row, hex and name; names are made unique."""
    seen: set[str] = set()
    lines = [f"/* {title.replace('*', '')} */", ":root {"]
    for hex_, name in rows:
        lines.append(f"  --{unique(slug(name), seen)}: {hex_};")
    return "\n".join([*lines, "}", ""])


def slug(name: str) -> str:
    """A name of letters, digits and hyphens that begins with a letter."""
    kept = re.sub(r"[^a-z0-9]+", "-", name.lower().replace("−", "-minus-").replace("+", "-plus-"))
    kept = kept.strip("-")[:80] or "colour"
    return kept if kept[0].isalpha() else f"c-{kept}"


def unique(name: str, seen: set[str]) -> str:
    """A name that was not given before; it is then."""
    found, number = name, 1
    while found in seen:
        number += 1
        found = f"{name}-{number}"
    seen.add(found)
    return found
