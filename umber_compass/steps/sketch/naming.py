"""First names for regions, by their colour, until the artist gives better ones."""

from umber_compass.colour.measured import Measured

# OKLCh hue at which each name begins; plain colour words, chosen by eye (docs/sketch.md).
_HUES = (
    (5, "rose"),
    (22, "red"),
    (45, "orange"),
    (75, "ochre"),
    (95, "yellow"),
    (118, "green"),
    (165, "blue-green"),
    (225, "blue"),
    (285, "violet"),
    (325, "pink"),
)


def colour_name(colour: Measured) -> str:
    """A colour in words, as `dark blue-green`."""
    if colour.is_grey or colour.hue is None:
        return "white" if colour.value > 95 else "black" if colour.value < 8 else "grey"
    hue = _HUES[-1][1]  # it goes on past 0°, to where the first begins
    for begin, name in _HUES:
        if colour.hue >= begin:
            hue = name
    shade = "dark " if colour.value < 35 else "pale " if colour.value > 75 else ""
    return shade + hue


def region_names(colours: list[Measured]) -> list[str]:
    """A name for each region; those that would be the same are numbered."""
    plain = [colour_name(c) for c in colours]
    seen: dict[str, int] = {}
    names = []
    for name in plain:
        seen[name] = seen.get(name, 0) + 1
        names.append(f"{name} {seen[name]}" if plain.count(name) > 1 else name)
    return names
