"""What is said to the artist: a template and its fields, filled where it is read."""

from collections.abc import Callable
from typing import TypeAlias

import msgspec

Field: TypeAlias = str | int | float


class Words(msgspec.Struct, frozen=True):
    """A sentence that can be translated before its fields are filled in."""

    template: str
    fields: dict[str, Field] = {}

    def __str__(self) -> str:
        return self.template.format(**self.fields)


def words(template: str, **fields: Field) -> Words:
    """A sentence with its fields by name."""
    return Words(template, fields)


def plain(text: str) -> str:
    """A text on one line, as a file, a palette or a terminal can take it: bytes that are no text
    are shown as a question, what steers a terminal as a space."""
    whole = text.encode("utf-8", "surrogateescape").decode("utf-8", "replace")
    return "".join(c if c.isprintable() else " " for c in whole)


# Where a line may end: after a sentence, or else a clause.
_ENDS = (". ", "; ", "  ", ", ")


def whole_part(line: str, fits: Callable[[str], bool], ends: tuple[str, ...] = _ENDS) -> str:
    """As much of a line as fits, ended where a sentence ends, or else a clause; dots say that there
    is more. All of it where no part fits."""
    heads = [line]
    for end in ends:
        parts = line.split(end)
        some = (end.join(parts[:count]).rstrip(":") + " …" for count in range(1, len(parts)))
        heads += [head for head in some if fits(head)]
    return line if fits(line) else max(heads[1:], key=len, default=line)


class Refusal(Exception):  # noqa: N818 - it is no fault of the program
    """Input that cannot be taken: what it was about, what is wrong, what to do."""

    def __init__(self, subject: str, reason: Words) -> None:
        super().__init__(f"{subject}: {reason}")
        self.subject = subject
        self.reason = reason
