"""A page of paper as SVG: shapes, text and pictures at places told in tenths of a millimetre. Text
is measured in the typeface that ships with the program, so that a line is broken where it must
be."""

import base64
from bisect import bisect_right
from collections.abc import Iterable, Sequence
from functools import lru_cache
from pathlib import Path
from typing import Literal, NamedTuple
from xml.sax.saxutils import escape, quoteattr

from PIL import ImageFont

from umber_compass.words import plain

_FONTS = Path(__file__).parent.parent / "assets" / "fonts"
_FILES = {400: "SourceSans3_400Regular.ttf", 600: "SourceSans3_600SemiBold.ttf"}
_MEASURED_AT = 100  # px
INK, QUIET, LINE = "#1e1e1e", "#5a5a5a", "#a8a8a8"
Anchor = Literal["start", "middle", "end"]


class Box(NamedTuple):
    """A place on the page, tenths of a millimetre."""

    x: float
    y: float
    width: float
    height: float

    @property
    def right(self) -> float:
        """Its right edge."""
        return self.x + self.width

    @property
    def bottom(self) -> float:
        """Its lower edge."""
        return self.y + self.height

    def below(self, by: float) -> "Box":
        """The box without so much of its upper part."""
        return Box(self.x, self.y + by, self.width, max(self.height - by, 0.0))


@lru_cache(maxsize=4)
def _font(weight: int) -> ImageFont.FreeTypeFont:
    return ImageFont.truetype(_FONTS / _FILES[weight], _MEASURED_AT)


def width_of(text: str, size: float, weight: int = 400) -> float:
    """How wide a line of text is at a size, tenths of a millimetre."""
    return _font(weight).getlength(text) * size / _MEASURED_AT


def cut(text: str, width: float, size: float, weight: int = 400) -> str:
    """A text that fits a width, ended with dots where it is longer."""
    if width_of(text, size, weight) <= width:
        return text
    fits = bisect_right(
        range(len(text)), width, key=lambda n: width_of(text[:n] + "…", size, weight)
    )
    return text[: max(fits - 1, 0)].rstrip() + "…"


def wrapped(text: str, width: float, size: float, most: int, weight: int = 400) -> list[str]:
    """A text in lines that fit a width, so many at most; the last ends with dots where there is
    more."""
    lines: list[str] = []
    for paragraph in text.splitlines() or [""]:
        line = ""
        for word in paragraph.split():
            longer = f"{line} {word}".strip()
            if line and width_of(longer, size, weight) > width:
                lines.append(line)
                line = word
            else:
                line = longer
        lines.append(line)
    shown = [cut(line, width, size, weight) for line in lines[:most]]
    if len(lines) > most and shown:
        shown[-1] = cut(shown[-1].rstrip("…") + " …", width, size, weight)
    return shown


class Page:
    """A page that is drawn on from back to front."""

    def __init__(self, width: float, height: float, title: str) -> None:
        self.width, self.height, self._title = width, height, title
        self._parts: list[str] = []

    def rect(
        self, box: Box, fill: str = "none", stroke: str = "none", wide: float = 2, title: str = ""
    ) -> None:
        """A rectangle; `title` is what it stands for."""
        said = f"<title>{escape(plain(title))}</title>" if title else ""
        self._parts.append(
            f'<rect x="{box.x:.1f}" y="{box.y:.1f}" width="{box.width:.1f}" '
            f'height="{box.height:.1f}" fill="{fill}" stroke="{stroke}" '
            f'stroke-width="{wide:g}">{said}</rect>'
        )

    def line(
        self, x: float, y: float, to_x: float, to_y: float, stroke: str = LINE, wide: float = 2
    ) -> None:
        """A straight line."""
        self._parts.append(
            f'<line x1="{x:.1f}" y1="{y:.1f}" x2="{to_x:.1f}" y2="{to_y:.1f}" '
            f'stroke="{stroke}" stroke-width="{wide:g}"/>'
        )

    def circle(
        self, x: float, y: float, radius: float, fill: str, stroke: str = "none", wide: float = 2
    ) -> None:
        """A disc, a ring or both."""
        self._parts.append(
            f'<circle cx="{x:.1f}" cy="{y:.1f}" r="{radius:.1f}" fill="{fill}" '
            f'stroke="{stroke}" stroke-width="{wide:g}"/>'
        )

    def polygon(self, points: Iterable[tuple[float, float]], fill: str) -> None:
        """A filled shape."""
        said = " ".join(f"{x:.1f},{y:.1f}" for x, y in points)
        self._parts.append(f'<polygon points="{said}" fill="{fill}"/>')

    def text(
        self,
        x: float,
        y: float,
        text: str,
        size: float = 32,
        fill: str = INK,
        weight: int = 400,
        anchor: Anchor = "start",
    ) -> None:
        """A line of text whose foot stands at a height."""
        self._parts.append(
            f'<text x="{x:.1f}" y="{y:.1f}" font-size="{size:g}" font-weight="{weight}" '
            f'fill="{fill}" text-anchor="{anchor}">{escape(plain(text))}</text>'
        )

    def lines(self, x: float, y: float, lines: Sequence[str], size: float, fill: str) -> float:
        """Lines one below the other, the first on a height; gives the height of the next one."""
        for line in lines:
            self.text(x, y, line, size, fill)
            y += size * 1.3
        return y

    def image(self, box: Box, png: bytes, says: str) -> None:
        """A picture that fills a box, and what it shows in words."""
        data = base64.b64encode(png).decode()
        self._parts.append(
            f'<image x="{box.x:.1f}" y="{box.y:.1f}" width="{box.width:.1f}" '
            f'height="{box.height:.1f}" preserveAspectRatio="none" '
            f'xlink:href="data:image/png;base64,{data}" aria-label={quoteattr(plain(says))}/>'
        )

    def svg(self) -> str:
        """The page as a file's text; nothing in it is fetched or runs."""
        head = (
            '<?xml version="1.0" encoding="UTF-8"?>\n'
            '<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" '
            f'width="{self.width / 10:g}mm" height="{self.height / 10:g}mm" '
            f'viewBox="0 0 {self.width:g} {self.height:g}" '
            'font-family="Source Sans 3, sans-serif">\n'
            f"<title>{escape(plain(self._title))}</title>\n"
            f'<rect width="{self.width:g}" height="{self.height:g}" fill="#ffffff"/>\n'
        )
        return head + "\n".join(self._parts) + "\n</svg>\n"
