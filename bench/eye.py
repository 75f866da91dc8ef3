"""Pictures whose answer is known because they were built that way: what the eye meets first, or
that nothing leads. Place, size, palette and noise vary with the seed."""

from collections.abc import Callable
from typing import NamedTuple, TypeAlias

import numpy as np
import numpy.typing as npt
from PIL import Image, ImageDraw

from umber_compass.colour.gamut import fit
from umber_compass.colour.packed import Packed, pack
from umber_compass.colour.spaces import encode
from umber_compass.picture.borders import Borders
from umber_compass.picture.drawing import Drawing, boxes
from umber_compass.picture.mixes import Blends
from umber_compass.plan.practices import numbers_of
from umber_compass.steps.focus.lattice import lattice_of
from umber_compass.steps.focus.places import places_of
from umber_compass.steps.focus.pull import look_at, pull_of

WIDTH, HEIGHT = 640, 480
Colour: TypeAlias = tuple[float, float, float]  # L*, OKLCh chroma, hue


class Scene(NamedTuple):
    """A picture, its regions, and the label that should come first; None where nothing leads."""

    kind: str
    picture: Packed
    labels: npt.NDArray[np.uint16]
    answer: int | None
    verdict: str


class Canvas:
    """Draws regions with flat colours, and what makes them busy."""

    def __init__(self, seed: int) -> None:
        self.rng = np.random.default_rng(seed)
        self.labels = Image.new("I", (WIDTH, HEIGHT), 1)
        self.colours: dict[int, Colour] = {}
        self.busy: dict[int, float] = {}  # L* of detail, by label
        self.slope: dict[int, float] = {}  # L* across a region
        self._next = 2
        self.taken: list[tuple[float, float]] = []

    def shape(self, colour: Colour, share: float, at: tuple[float, float] | None = None) -> int:
        """A round or square shape of a share of the picture; where there is room, if not told."""
        label, self._next = self._next, self._next + 1
        r = (share * WIDTH * HEIGHT / np.pi) ** 0.5
        x, y = at or self._free(r)
        self.taken.append((x, y))
        long = float(self.rng.uniform(0.8, 1.25))
        pen = ImageDraw.Draw(self.labels)
        draw = pen.ellipse if self.rng.random() < 0.6 else pen.rectangle
        draw([x - r * long, y - r / long, x + r * long, y + r / long], fill=label)
        self.colours[label] = colour
        return label

    def band(self, colour: Colour, low: float, high: float) -> int:
        """A strip across the picture, from and to shares of its height."""
        label, self._next = self._next, self._next + 1
        pen = ImageDraw.Draw(self.labels)
        pen.rectangle([0, low * HEIGHT, WIDTH, high * HEIGHT], fill=label)
        self.colours[label] = colour
        return label

    def _free(self, r: float) -> tuple[float, float]:
        for _ in range(200):
            x = float(self.rng.uniform(r + 20, WIDTH - r - 20))
            y = float(self.rng.uniform(r + 20, HEIGHT - r - 20))
            if all(np.hypot(x - a, y - b) > 110 + r for a, b in self.taken):
                return x, y
        return WIDTH / 2, HEIGHT / 2

    def scene(self, kind: str, answer: int | None, verdict: str, noise: float) -> Scene:
        """What was drawn."""
        labels = np.array(self.labels).astype(np.uint16)
        most = int(labels.max()) + 1
        lch = np.array([self.colours.get(i, (50.0, 0.0, 0.0)) for i in range(most)])[labels]
        y, x = np.mgrid[0:HEIGHT, 0:WIDTH] / HEIGHT
        for label, span in self.slope.items():
            lch[..., 0] += (labels == label) * span * (x / (WIDTH / HEIGHT) + y - 1) / 2
        for label, strength in self.busy.items():
            spots = self.rng.standard_normal((HEIGHT // 8, WIDTH // 8)).repeat(8, 0).repeat(8, 1)
            lch[..., 0] += (labels == label) * spots * strength
        lch[..., 0] += self.rng.standard_normal(labels.shape) * noise
        rounded = np.round(lch * [2, 400, 0.5]).reshape(-1, 3)
        # As one number each: rows are sorted twenty times slower.
        keys = rounded.astype(np.int64) @ [1 << 40, 1 << 20, 1]
        _, at, which = np.unique(keys, return_index=True, return_inverse=True)
        kinds = rounded[at]
        shown = encode(fit(kinds[:, 0] / 2, kinds[:, 1] / 400, kinds[:, 2] * 2))
        rgb = np.round(shown[which.reshape(-1)] * 255).astype(np.uint8).reshape(*labels.shape, 3)
        return Scene(kind, pack(np.ascontiguousarray(rgb)), labels, answer, verdict)


def _quiet(canvas: Canvas, hue: float, value: float, count: int, spread: float = 6) -> None:
    """A ground and a few shapes near it, none of which matters."""
    rng = canvas.rng
    canvas.colours[1] = (value, 0.05, hue)
    canvas.slope[1] = float(rng.uniform(-8, 8))
    for _ in range(count):
        near = (value + rng.uniform(-spread, spread), 0.05 + rng.uniform(-0.015, 0.015), hue)
        canvas.shape(
            (float(near[0]), float(near[1]), hue + float(rng.uniform(-15, 15))),
            float(rng.uniform(0.004, 0.03)),
        )


def _spot(c: Canvas) -> tuple[int | None, str]:
    _quiet(c, float(c.rng.uniform(200, 280)), float(c.rng.uniform(30, 48)), 5)
    return c.shape(
        (88, 0.11, float(c.rng.uniform(55, 100))), float(c.rng.uniform(0.004, 0.03))
    ), "leads"


def _dark_figure(c: Canvas) -> tuple[int | None, str]:
    hue = float(c.rng.uniform(0, 360))
    _quiet(c, hue, float(c.rng.uniform(74, 86)), 5)
    return c.shape((22, 0.04, hue + 20), float(c.rng.uniform(0.01, 0.08))), "leads"


def _strong(c: Canvas) -> tuple[int | None, str]:
    value, hue = float(c.rng.uniform(48, 62)), float(c.rng.uniform(0, 360))
    _quiet(c, hue, value, 6, 5)
    answer = c.shape(
        (value + float(c.rng.uniform(-4, 4)), 0.2, float(c.rng.choice([25, 30, 145, 265]))),
        float(c.rng.uniform(0.004, 0.02)),
    )
    c.colours[1] = (value, 0.03, hue)
    return answer, "leads"


def _busy(c: Canvas) -> tuple[int | None, str]:
    value, hue = float(c.rng.uniform(45, 65)), float(c.rng.uniform(0, 360))
    _quiet(c, hue, value, 5, 4)
    answer = c.shape((value, 0.05, hue), float(c.rng.uniform(0.01, 0.05)))
    c.busy[answer] = float(c.rng.uniform(9, 13))
    return answer, "leads"


def _bright_ground(c: Canvas) -> tuple[int | None, str]:
    hue = float(c.rng.uniform(190, 260))
    _quiet(c, hue, float(c.rng.uniform(34, 46)), 4)
    c.shape((56, 0.05, hue + 40), float(c.rng.uniform(0.01, 0.03)))
    return c.band((90, 0.06, 90), 0.0, float(c.rng.uniform(0.1, 0.18))), "leads"


def _shiny(c: Canvas) -> tuple[int | None, str]:
    hue = float(c.rng.uniform(0, 360))
    _quiet(c, hue, float(c.rng.uniform(40, 52)), 4)
    c.shape((60, 0.07, hue + 60), float(c.rng.uniform(0.02, 0.05)))
    answer = c.shape((66, 0.02, hue), float(c.rng.uniform(0.01, 0.03)))
    c.busy[answer], c.slope[answer] = 16, 40
    return answer, "leads"


def _two(c: Canvas) -> tuple[int | None, str]:
    _quiet(c, float(c.rng.uniform(200, 260)), float(c.rng.uniform(38, 48)), 3)
    colour, share = (84.0, 0.10, float(c.rng.uniform(40, 90))), float(c.rng.uniform(0.008, 0.02))
    answer = c.shape(colour, share)
    c.shape(colour, share)
    return answer, "tie"


def _nothing(c: Canvas) -> tuple[int | None, str]:
    hue, value = float(c.rng.uniform(0, 360)), float(c.rng.uniform(40, 65))
    if c.rng.random() < 0.5:
        _quiet(c, hue, value, 8, 5)
        return None, "nothing"
    c.colours[1] = (value, 0.05, hue)
    lift = float(c.rng.choice([-22, 22]))
    for _ in range(6):
        c.shape((value + lift, 0.07, hue + 25), 0.012)
    return None, "nothing"


KINDS: dict[str, Callable[[Canvas], tuple[int | None, str]]] = {
    "bright spot": _spot,
    "dark figure": _dark_figure,
    "strong patch": _strong,
    "busy patch": _busy,
    "bright ground": _bright_ground,
    "shiny rival": _shiny,
    "two equal": _two,
    "nothing leads": _nothing,
}


def scene(kind: str, seed: int) -> Scene:
    """A picture of a kind."""
    canvas = Canvas(seed * 100 + list(KINDS).index(kind))
    answer, verdict = KINDS[kind](canvas)
    return canvas.scene(kind, answer, verdict, float(canvas.rng.uniform(0, 1.5)))


def outlined(made: Scene, ink: int = 2, rim: int = 0) -> Scene:
    """The same with a dark line, and a pale rim outside it, round every shape."""
    labels = made.labels.copy()
    image = Image.fromarray((labels != 1).astype(np.uint8) * 255)
    from PIL import ImageFilter

    grown = np.array(image.filter(ImageFilter.MaxFilter(2 * ink + 1))) > 0
    wider = np.array(image.filter(ImageFilter.MaxFilter(2 * (ink + rim) + 1))) > 0
    line, outer = grown & (labels == 1), wider & ~grown & (labels == 1)
    most = int(labels.max())
    picture = made.picture.copy()
    labels[line], picture[line] = most + 1, 0x201820
    if rim:
        labels[outer], picture[outer] = most + 2, 0xD8D0C0
    return made._replace(labels=labels, picture=picture)


def cut(made: Scene, pieces: int = 300) -> Scene:
    """The same, its regions cut into pieces by random cells; any piece of the answer is right."""
    rng = np.random.default_rng(pieces)
    cells = rng.uniform([0, 0], [WIDTH, HEIGHT], (pieces // 3, 2))
    y, x = np.mgrid[0:HEIGHT:4, 0:WIDTH:4]
    near = ((x[..., None] - cells[:, 0]) ** 2 + (y[..., None] - cells[:, 1]) ** 2).argmin(-1)
    near = near.repeat(4, 0).repeat(4, 1)
    return made._replace(labels=_numbered(made.labels.astype(np.int64) * 1000 + near))


def _numbered(keys: npt.NDArray[np.int64]) -> npt.NDArray[np.uint16]:
    there = np.bincount(keys.reshape(-1)) > 0  # far less work than sorting every px
    return np.asarray(np.cumsum(there)[keys]).astype(np.uint16)


def drawing(labels: npt.NDArray[np.uint16]) -> Drawing:
    """Label pixels as a drawing without mixed borders."""
    none = np.zeros(0, np.intp)
    rest = Blends(none, np.zeros((0, 3), np.intp), np.zeros((0, 3), np.float32))
    few = none.astype(np.uint16)
    return Drawing(labels, Borders(none, few, few, none.astype(np.float32), rest), boxes(labels))


def read(made: Scene) -> tuple[int, str]:
    """The label that is said to come first, and the verdict."""
    lattice = lattice_of(drawing(made.labels))
    places = places_of(
        lattice, pull_of(lattice, look_at(lattice, made.picture.reshape(-1)[lattice.at]))
    )
    ties = places.tie(numbers_of("general", {})["ties.share"])
    verdict = "nothing" if not places.is_met else "tie" if ties else "leads"
    return (places.order or (0,))[0], verdict


def right(original: Scene, shown: Scene) -> tuple[bool, bool]:
    """Whether the first place, and whether the verdict, is what the picture was built for."""
    first, verdict = read(shown)
    inside = original.labels[shown.labels == first]
    place = original.answer is None or bool((inside == original.answer).mean() > 0.5)
    if original.verdict == "tie":
        twin = bool((inside == original.answer + 1).mean() > 0.5) if original.answer else False
        place = place or twin
    return place, verdict == original.verdict
