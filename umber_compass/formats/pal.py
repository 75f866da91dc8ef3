"""The text palette `.pal`: a count and rows of decimal levels, without names."""

import re
from collections.abc import Iterable, Sequence

MAGIC, _VERSION = "JASC-PAL", "0100"  # the format's own first lines
_ROW = re.compile(r"\s*([0-9]{1,3})\s+([0-9]{1,3})\s+([0-9]{1,3})\s*")


def parse(lines: Sequence[str]) -> list[tuple[str, str]]:
    """The colours of some lines, the first being the format's own. Raises ValueError with the
    number of the row that is none, or of the count where it is another."""
    filled = [line for line in lines if line.strip()]
    if len(filled) < 3 or not re.fullmatch(r"[0-9]{1,6}", filled[2].strip()):
        raise ValueError("3")
    found = []
    for number, line in enumerate(filled[3:], 4):
        row = _ROW.fullmatch(line)
        levels = [int(g) for g in row.groups()] if row else [256]
        if max(levels) > 255:
            raise ValueError(str(number))
        found.append((f"#{bytes(levels).hex()}", ""))
    if len(found) != int(filled[2]):
        raise ValueError("3")
    return found


def text(colours: Iterable[str]) -> str:
    """The file's text, its lines ended as the format has it."""
    rows = [" ".join(str(n) for n in bytes.fromhex(c[1:])) for c in colours]
    return "".join(f"{line}\r\n" for line in (MAGIC, _VERSION, str(len(rows)), *rows))
