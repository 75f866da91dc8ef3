"""A list of hexes, `.hex`: one colour a line; and hexes found in any pasted text."""

import re
from collections.abc import Iterable

_LINE = re.compile(r"#?([0-9A-Fa-f]{8}|[0-9A-Fa-f]{6}|[0-9A-Fa-f]{3})")
_ANYWHERE = re.compile(
    r"(?<![0-9A-Za-z])#?([0-9A-Fa-f]{8}|[0-9A-Fa-f]{6}|(?<=#)[0-9A-Fa-f]{3})(?![0-9A-Za-z])"
)


def parse(lines: Iterable[str]) -> list[tuple[str, str]]:
    """The colours of some lines, with no names; blank lines and comments are left out. Raises
    ValueError with the number of the line that is none."""
    found = []
    for number, line in enumerate(lines, 1):
        plain = line.split(";")[0].split("//")[0].strip()
        if plain:
            match = _LINE.fullmatch(plain)
            if match is None:
                raise ValueError(str(number))
            found.append((_six(match[1]), ""))
    return found


def pasted(text: str) -> list[tuple[str, str]]:
    """The hexes that stand anywhere in a text, in their order."""
    return [(_six(m[1]), "") for m in _ANYWHERE.finditer(text)]


def _six(digits: str) -> str:
    plain = digits.lower()
    if len(plain) == 3:
        plain = "".join(c * 2 for c in plain)
    return f"#{plain[:6]}"


def text(colours: Iterable[str]) -> str:
    """The file's text: `rrggbb` a line."""
    return "".join(f"{c[1:]}\n" for c in colours)
