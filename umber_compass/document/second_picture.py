"""Two pictures of one piece: regions and hues from one, light and dark from the other, lined up and
made one sketch."""

import numpy as np
import numpy.typing as npt
from msgspec.structs import replace
from PIL import Image

from umber_compass.colour.gamut import fit
from umber_compass.colour.packed import CLEAR, Packed
from umber_compass.colour.shaded import shaded
from umber_compass.colour.spaces import Floats, decode, encode, oklab, to_bytes
from umber_compass.document.following_sketch import Followed, colours_of, followed
from umber_compass.document.pixels import Pixels, at_working_size
from umber_compass.document.splitting import Chosen
from umber_compass.formats import picture
from umber_compass.picture.mixes import Labels
from umber_compass.picture.shading import VALUE_OF_LEVEL, grey_levels, means_by_label
from umber_compass.plan.model import Plan, Sketch
from umber_compass.plan.regrouping import regroup
from umber_compass.steps.sketch.kinds import guess_kind
from umber_compass.steps.sketch.matching import PROPORTIONS, shift_between
from umber_compass.words import Refusal, words
from umber_compass.work import Tick, idle

_HUED = ("flats", "layers")  # kinds that say what hue each region has


def shaded_by(
    read: picture.Picture, chosen: Chosen, other: picture.Picture, name: str, tick: Tick = idle
) -> tuple[picture.Picture, Chosen]:
    """A picture that was split, with the light and dark of another: one picture of both, and the
    same regions, shaded. Raises Refusal, about `name`, if the other is of other proportions."""
    split = chosen.split
    grey = lined_up(grey_levels(other.packed), split.labels, name)
    tick(0.5)
    rgb, colours = _both(split.labels, split.colours, grey)
    made = picture.decode(_encoded(rgb, read.packed), name)
    return made, chosen._replace(split=split._replace(colours=colours, shaded=True))


def completes(sketch: Sketch, read: picture.Picture) -> bool:
    """Whether a picture has what a sketch lacks: hues for its greys, or light and dark for its
    hues."""
    kind = guess_kind(read.packed).kind
    return (sketch.kind in _HUED and kind == "grey") or (sketch.kind == "grey" and kind in _HUED)


def replaced(
    plan: Plan, pixels: Pixels, read: picture.Picture, chosen: Chosen, name: str
) -> Followed:
    """Another picture of the same piece taken in. A grey one for regions that have hues gives them
    its light and dark; one with hues for a grey one keeps that one's; else it is another sketch."""
    mine, other = plan.sketch, chosen.kind
    if other == "grey" and mine.kind in _HUED:
        return take_shading(plan, pixels, read, name)
    if mine.kind == "grey" and mine.shaded and other in _HUED and not chosen.split.shaded:
        return take_regions(plan, pixels, read, chosen, name)
    return followed(plan, pixels, read, chosen, name)


def take_shading(plan: Plan, pixels: Pixels, other: picture.Picture, name: str) -> Followed:
    """The light and dark of another picture taken into the sketch a plan has: its regions and all
    that was decided stay."""
    labels = pixels.labels(plan.sketch)
    grey = lined_up(grey_levels(other.packed), labels, name)
    rgb, _ = _both(labels, colours_of(plan, pixels, labels), grey)
    made = picture.decode(_encoded(rgb, pixels.picture(plan.sketch)), name)
    sketch: Sketch = replace(plan.sketch, hash=pixels.add_sketch(made.data), shaded=True)
    # A drawing is known by its labels: these are the same, and must be told apart.
    sketch = replace(sketch, labels=pixels.add_labels(labels, sketch.hash))
    pixels.drawings[sketch.labels] = at_working_size(made.packed, labels, True)
    edit = regroup(words("take the shading of {name}", name=name), sketch, plan.regions)
    return Followed(edit, sketch, (), (), (), ())


def take_regions(
    plan: Plan, pixels: Pixels, read: picture.Picture, chosen: Chosen, name: str
) -> Followed:
    """The regions and hues of another picture taken, with the light and dark of the sketch a plan
    has; what was decided for regions that are found again stays."""
    grey = lined_up(grey_levels(pixels.picture(plan.sketch)), chosen.split.labels, name)
    rgb, colours = _both(chosen.split.labels, chosen.split.colours, grey)
    made = picture.decode(_encoded(rgb, read.packed), name)
    told = chosen._replace(split=chosen.split._replace(colours=colours, shaded=True))
    return followed(plan, pixels, made, told, name)


def lined_up(grey: npt.NDArray[np.uint8], labels: Labels, name: str) -> npt.NDArray[np.uint8]:
    """Greys at the size of some labels, (h, w), moved where their edges lie beside the labels'.
    Raises Refusal if they are of other proportions."""
    height, width = labels.shape
    apart = (grey.shape[1] / grey.shape[0]) / (width / height)
    if abs(np.log(apart)) > PROPORTIONS:
        line = words(
            "is {w} x {h} px, of other proportions than {width} x {height}; crop it to the same "
            "view",
            w=grey.shape[1], h=grey.shape[0], width=width, height=height,
        )  # fmt: skip
        raise Refusal(name, line)
    image = Image.fromarray(grey)
    if image.size != (width, height):
        image = image.resize((width, height), Image.Resampling.LANCZOS)
    found = np.asarray(image)
    dy, dx = shift_between(labels, found)
    rows = np.clip(np.arange(height) - dy, 0, height - 1)
    columns = np.clip(np.arange(width) - dx, 0, width - 1)
    return found[rows[:, None], columns]


def _both(
    labels: Labels, colours: npt.NDArray[np.uint8], grey: npt.NDArray[np.uint8]
) -> tuple[npt.NDArray[np.uint8], npt.NDArray[np.uint8]]:
    """Colours through greys, (h, w, 3), and what each region's colour is then at the mean of its
    greys, (n, 3)."""
    mean = means_by_label(grey, labels)[1:].astype(float)
    count = len(colours)
    mean = np.concatenate([mean, np.full(max(count - len(mean), 0), 50.0)])[:count]
    lab = oklab(decode(colours / 255))
    local = encode(fit(mean, np.hypot(lab[:, 1], lab[:, 2]), _degrees(lab)))
    off = VALUE_OF_LEVEL.astype(float)[None] - mean[:, None]
    means = np.repeat(mean, 256)
    table = shaded(np.repeat(local, 256, axis=0), off.reshape(-1), mean=means)
    whole = np.concatenate([np.full((256, 3), 255, np.uint8), to_bytes(table)])
    return whole[labels.astype(np.intp) * 256 + grey], to_bytes(local)


def _degrees(lab: Floats) -> Floats:
    return np.asarray(np.degrees(np.arctan2(lab[:, 2], lab[:, 1])))


def _encoded(rgb: npt.NDArray[np.uint8], packed: Packed) -> bytes:
    """A PNG of the picture, clear where another is."""
    clear = packed == CLEAR
    if not clear.any():
        return picture.png_bytes(np.ascontiguousarray(rgb))
    alpha = np.where(clear, 0, 255).astype(np.uint8)
    return picture.png_bytes(np.dstack([rgb, alpha]))
