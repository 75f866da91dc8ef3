"""The small pictures of explanations: what is wished, and what is not. Drawn by us, as shapes."""

from typing import NamedTuple

Box = tuple[float, float, float, float]  # x, y, width, height, shares of the picture


class Shape(NamedTuple):
    """A flat shape, the later ones in front."""

    hex: str
    box: Box
    round: bool = False


Picture = tuple[Shape, ...]
_ALL: Box = (0, 0, 1, 1)
_HILL: Box = (-0.2, 0.55, 1.4, 1.0)
_FIGURE: Box = (0.58, 0.24, 0.16, 0.6)


def _scene(sky: str, hill: str, *figure: Shape) -> Picture:
    return (Shape(sky, _ALL), Shape(hill, _HILL, True), *figure)


def _one(hex_: str, box: Box = _FIGURE) -> Shape:
    return Shape(hex_, box, True)


_SPOTS: tuple[Box, ...] = ((0.12, 0.2, 0.14, 0.2), (0.45, 0.5, 0.14, 0.2), (0.76, 0.24, 0.14, 0.2))

PICTURES: dict[str, tuple[Picture, Picture]] = {
    "bands": (
        _scene("#d6d6d6", "#c2c2c2", _one("#3a3a3a")),
        _scene("#909090", "#7a7a7a", _one("#848484")),
    ),
    "extremes": (
        _scene(
            "#9a9a9a", "#6e6e6e", _one("#585858"), Shape("#fbfbfb", (0.62, 0.3, 0.06, 0.09), True)
        ),
        _scene("#fafafa", "#0c0c0c", _one("#f2f2f2")),
    ),
    "order": (
        _scene("#cfcfcf", "#8a8a8a", Shape("#2c2c2c", (0.2, 0.3, 0.4, 0.3))),
        _scene("#6a6a6a", "#8a8a8a", Shape("#c4c4c4", (0.2, 0.3, 0.4, 0.3))),
    ),
    "parting": (
        _scene("#b4b4b4", "#a0a0a0", _one("#4a4a4a")),
        _scene("#b4b4b4", "#a0a0a0", _one("#a9a9a9")),
    ),
    "parting-middle": (
        _scene("#c8c8c8", "#8c8c8c", Shape("#9a9a9a", (0.4, 0.1, 0.5, 0.7)), _one("#3c3c3c")),
        _scene("#c8c8c8", "#8c8c8c", Shape("#9a9a9a", (0.4, 0.1, 0.5, 0.7)), _one("#949494")),
    ),
    "figure": (
        _scene("#4a4a4a", "#3a3a3a", _one("#dedede")),
        _scene("#8a8a8a", "#7a7a7a", _one("#8f8f8f")),
    ),
    "halves": (
        (Shape("#c8c8c8", _ALL), Shape("#404040", (0, 0.75, 1, 0.25))),
        (Shape("#c8c8c8", _ALL), Shape("#404040", (0, 0.5, 1, 0.5))),
    ),
    "middles": (
        _scene("#a8a8a8", "#8c8c8c", _one("#2a2a2a"), _one("#5c5c5c", (0.6, 0.28, 0.07, 0.4))),
        _scene("#a8a8a8", "#8c8c8c", _one("#141414")),
    ),
    "lines": (
        _scene("#bcbcbc", "#9a9a9a", _one("#101010"), _one("#c8c8c8", (0.6, 0.28, 0.12, 0.52))),
        _scene("#bcbcbc", "#9a9a9a", _one("#707070"), _one("#c8c8c8", (0.6, 0.28, 0.12, 0.52))),
    ),
    "pure": (
        _scene("#dedede", "#5a5a5a", _one("#262626")),
        _scene("#ffffff", "#5a5a5a", _one("#000000")),
    ),
    "lead": (
        _scene(
            "#5a6e78",
            "#4c5e66",
            *(_one("#66757c", b) for b in _SPOTS[:2]),
            _one("#f2c46a", _SPOTS[2]),
        ),
        _scene("#5a6e78", "#4c5e66", *(_one("#f2c46a", b) for b in _SPOTS)),
    ),
    "value": (
        _scene("#7c7c7c", "#6c6c6c", _one("#f0f0f0")),
        _scene("#7c7c7c", "#6c6c6c", _one("#858585")),
    ),
    "hue": (
        _scene("#5f8496", "#547888", _one("#c07850")),
        _scene("#5f8496", "#547888", _one("#5f8a8c")),
    ),
    "chroma": (
        _scene("#8c8680", "#807a74", _one("#c8502e")),
        _scene("#8c8680", "#807a74", _one("#968478")),
    ),
    "detail": (
        _scene(
            "#94a0a4",
            "#88949a",
            _one("#7c888c"),
            *(Shape("#a8b4b8", (0.6, 0.3 + 0.09 * i, 0.12, 0.035)) for i in range(6)),
        ),
        _scene("#94a0a4", "#88949a", _one("#7c888c")),
    ),
}
