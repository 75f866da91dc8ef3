"""A plan's palette in each of the formats that a hand-off writes."""

from collections.abc import Callable
from typing import IO

from PIL.PngImagePlugin import PngInfo

from umber_compass.formats import css, ggr, gpl, hex_list, pal, soc, svg_gradient, swatches, tokens
from umber_compass.steps.handoff import palette
from umber_compass.steps.pipeline import Derived


def fill_palette(derived: Derived, kind: str, stream: IO[bytes], ours: str) -> None:
    """The palette of every region's steps, or of its colours in the light, in one of its
    formats."""
    title, about = derived.plan.title, [f"Written by {ours}", *palette.comments(derived, kind)]
    if kind == "chart":
        rows = list(map(gpl.Row._make, palette.chart_rows(derived)))
        stream.write(gpl.text(f"{title}, lit", rows, about).encode())
        return
    rows = list(map(gpl.Row._make, palette.palette_rows(derived)))
    named = [(row.hex, f"{row.what} {row.which}".strip()) for row in rows]
    if kind == "png":
        swatches.picture(rows).save(stream, "PNG", pnginfo=_mark(ours))
        return
    hexes = [row.hex for row in rows]
    mark = f"Written by {ours}"
    texts: dict[str, Callable[[], str]] = {
        "gpl": lambda: gpl.text(title, rows, about, palette.columns(derived)),
        "hex": lambda: hex_list.text(hexes),
        "pal": lambda: pal.text(hexes),
        "soc": lambda: soc.text(named, mark),
        "css": lambda: css.text(f"{title}. {mark}", named),
        "tokens": lambda: tokens.text(f"{title}. {mark}", rows),
        "ggr": lambda: ggr.text(f"{title}. {mark}", palette.gradient_hexes(derived)),
        "gradient": lambda: svg_gradient.text(title, palette.gradient_hexes(derived), mark),
        "svg": lambda: swatches.svg(f"{title}. {mark}", rows),
    }
    stream.write(texts[kind]().encode())


def _mark(ours: str) -> PngInfo:
    info = PngInfo()
    info.add_text("Software", ours)
    return info
