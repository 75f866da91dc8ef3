"""Paintings in progress, made from plans as a painter would: strokes, soft edges, moved, cropped,
half finished; some with one region painted a little wrong."""

import io
from typing import NamedTuple, TypeAlias

import numpy as np
import numpy.typing as npt
from PIL import Image
from scipy.ndimage import gaussian_filter

from umber_compass.colour.packed import CLEAR, Levels, Packed, pack, unpack
from umber_compass.colour.spaces import (
    Floats,
    decode,
    encode,
    oklab,
    oklab_to_linear,
    to_bytes,
    value,
)
from umber_compass.picture.indexed import paint
from umber_compass.steps.pictures import picture
from umber_compass.steps.pipeline import Derived

KINDS = ("value", "hue", "chroma")
VALUE_BY, HUE_BY, CHROMA_BY = 6.0, 12.0, 0.03
_LEAST_AREA = 0.004  # of the picture, that a region holds which is painted wrong
_LEAST_CHROMA = {"value": 0.0, "hue": 0.045, "chroma": 0.035}  # of what can be seen to turn
_GROUNDS = {"paper": (250, 250, 248), "tone": (150, 138, 122)}
Mask: TypeAlias = npt.NDArray[np.bool_]


class Planted(NamedTuple):
    """What was painted wrong."""

    region: str
    kind: str


class Work(NamedTuple):
    """A painting in progress, what is wrong in it, and how it was made."""

    packed: Packed
    planted: Planted | None
    says: str


class _View(NamedTuple):
    """Which part of a picture is shown: its corner and size, px; whether that is all of it."""

    how: str
    box: tuple[float, float, float, float]  # left, top, right, bottom


def painting(derived: Derived, seed: int, drifts: bool) -> Work:
    """A painting of a plan; with `drifts` one region is painted wrong, where there is one in which
    that can be seen."""
    rng = np.random.default_rng(seed)
    labels = derived.drawing.labels
    lab = oklab(decode(unpack(picture(derived)) / 255))
    half = str(rng.choice(["all", "flat", "paper", "clear", "tone"]))
    done = np.ones(labels.shape, bool) if half == "all" else _done(rng, labels.shape)
    view = _view(rng, labels.shape)
    if half == "flat":
        flat = oklab(decode(unpack(paint(derived.indexed, derived.table)) / 255))
        lab = np.where(done[..., None], lab, flat)
    planted = None
    if drifts:
        shown = done | (half == "flat")
        planted = _plant(derived, lab, shown & _within(view, labels.shape), KINDS[seed % 3], rng)
    lab = _soft(_strokes(lab, labels, rng), rng)
    rgb = to_bytes(encode(np.clip(oklab_to_linear(lab), 0, 1)))
    if half in _GROUNDS:
        rgb = np.where(done[..., None], rgb, np.array(_GROUNDS[half], np.uint8))
    packed = pack(rgb)
    if half == "clear":
        packed = np.where(done, packed, np.uint32(CLEAR))
    packed = _seen(packed, view, rng)
    says = f"{half} {view.how}"
    if half != "clear" and rng.random() < 0.4:
        packed, says = _as_jpeg(packed, int(rng.integers(80, 96))), says + " jpeg"
    return Work(packed, planted, says)


def _done(rng: np.random.Generator, shape: tuple[int, ...]) -> Mask:
    """What is painted already: a part with a ragged edge."""
    height, width = shape
    y, x = np.mgrid[0:height, 0:width]
    angle = rng.uniform(0, 2 * np.pi)
    along = np.cos(angle) * (x / width - 0.5) + np.sin(angle) * (y / height - 0.5)
    ragged = _noise(rng, shape, width / 20, width / 20)[..., 0]
    return np.asarray(along + 0.05 * ragged < rng.uniform(0.0, 0.25))


def _noise(
    rng: np.random.Generator, shape: tuple[int, ...], wide: float, high: float, count: int = 1
) -> Floats:
    """Soft noise, (h, w, count), of strokes so wide and high, px; its deviation is 1."""
    height, width = shape
    small = rng.normal(size=(count, max(2, round(height / high)), max(2, round(width / wide))))
    how = Image.Resampling.BICUBIC
    made = [Image.fromarray(p.astype(np.float32)).resize((width, height), how) for p in small]
    found = np.stack([np.asarray(m) for m in made], -1)
    return np.asarray(found / (found.std() + 1e-9))


def _view(rng: np.random.Generator, shape: tuple[int, ...]) -> _View:
    height, width = shape
    how = str(rng.choice(["same", "shift", "crop", "size"]))
    if how == "shift":
        dx, dy = rng.uniform(-0.02, 0.02, 2) * width
        return _View(how, (dx, dy, width + dx, height + dy))
    if how == "crop":
        share = rng.uniform(0.6, 0.95)
        w, h = width * share, height * min(1, share * rng.uniform(0.9, 1.1))
        x, y = rng.uniform(0, width - w), rng.uniform(0, height - h)
        return _View(how, (x, y, x + w, y + h))
    return _View(how, (0, 0, width, height))


def _within(view: _View, shape: tuple[int, ...]) -> Mask:
    left, top, right, bottom = (max(0, round(n)) for n in view.box)
    found = np.zeros(shape, bool)
    found[top:bottom, left:right] = True
    return found


def _plant(
    derived: Derived, lab: Floats, shown: Mask, kind: str, rng: np.random.Generator
) -> Planted | None:
    """Paint one region wrong, in place; None where there is none in which that could be seen."""
    labels = derived.drawing.labels.reshape(-1)
    held = np.maximum(np.bincount(labels), 1)
    chroma = np.bincount(labels, np.hypot(lab[..., 1], lab[..., 2]).reshape(-1)) / held
    part = np.bincount(labels, shown.reshape(-1)) / held
    fair = [
        r
        for r in derived.regions
        if r.label < len(held)
        and held[r.label] > _LEAST_AREA * labels.size
        and chroma[r.label] >= _LEAST_CHROMA[kind]
        and part[r.label] > 0.3
    ]
    rng.shuffle(fair)
    for region in fair:
        mask = derived.drawing.labels == region.label
        for sign in (1, -1) if rng.random() < 0.5 else (-1, 1):
            wrong = _moved(lab[mask], kind, sign)
            shown_lab = oklab(np.clip(oklab_to_linear(wrong), 0, 1))
            if np.abs(shown_lab - wrong).mean() < 0.001:  # the screen can show it
                lab[mask] = wrong
                return Planted(region.id, kind)
    return None


def _moved(lab: Floats, kind: str, sign: int) -> Floats:
    """Colours, (n, 3), moved in value, hue or chroma."""
    out = lab.copy()
    if kind == "hue":
        turn = np.radians(HUE_BY * sign)
        cos, sin = np.cos(turn), np.sin(turn)
        out[:, 1:] = lab[:, 1:] @ np.array([[cos, sin], [-sin, cos]])
    elif kind == "chroma":
        chroma = np.hypot(lab[:, 1], lab[:, 2])
        out[:, 1:] *= ((chroma + CHROMA_BY * sign) / np.maximum(chroma, 1e-6))[:, None]
    else:
        wanted = value(np.maximum(oklab_to_linear(lab), 0)) + VALUE_BY * sign
        low, high = np.full(len(lab), -0.1), np.full(len(lab), 1.1)
        for _ in range(20):  # the OKLab lightness that gives the value, by halving
            out[:, 0] = (low + high) / 2
            less = value(np.maximum(oklab_to_linear(out), 0)) < wanted
            low, high = np.where(less, out[:, 0], low), np.where(less, high, out[:, 0])
    return out


def _strokes(lab: Floats, labels: npt.NDArray[np.uint16], rng: np.random.Generator) -> Floats:
    """Brush strokes, along or across in each region, and slow variation."""
    width = labels.shape[1]
    strength = rng.uniform(0.008, 0.03)
    across = (rng.random(int(labels.max()) + 1) < 0.5)[labels][..., None]
    wide = _noise(rng, labels.shape, width / 30, width / 150, 3)
    high = _noise(rng, labels.shape, width / 150, width / 30, 3)
    slow = _noise(rng, labels.shape, width / 6, width / 6, 3)
    strokes = np.where(across, wide, high) * strength * [1, 0.25, 0.25]
    return np.asarray(lab + strokes + slow * 0.006 * [1, 0.3, 0.3])


def _soft(lab: Floats, rng: np.random.Generator) -> Floats:
    softness = rng.uniform(0.3, 0.004 * lab.shape[1])
    return np.stack([gaussian_filter(lab[..., k], softness) for k in range(3)], -1)


def _seen(packed: Packed, view: _View, rng: np.random.Generator) -> Packed:
    """A part of a picture at another size; beyond its edge all is white."""
    if view.how == "same":
        return packed
    alpha = np.where(packed == CLEAR, 0, 255).astype(np.uint8)
    image = Image.fromarray(np.ascontiguousarray(np.dstack([unpack(packed), alpha])))
    left, top, right, bottom = view.box
    times = 1.0 if view.how == "shift" else rng.uniform(0.7, 1.8)
    size = round((right - left) * times), round((bottom - top) * times)
    affine = ((right - left) / size[0], 0, left, 0, (bottom - top) / size[1], top)
    made = image.transform(
        size,
        Image.Transform.AFFINE,
        affine,
        Image.Resampling.BILINEAR,
        fillcolor=(255, 255, 255, 255),
    )
    found = np.asarray(made)
    out = pack(np.ascontiguousarray(found[..., :3]))
    out[found[..., 3] < 8] = CLEAR
    return out


def _as_jpeg(packed: Packed, quality: int) -> Packed:
    held = io.BytesIO()
    Image.fromarray(np.ascontiguousarray(unpack(packed))).save(held, "JPEG", quality=quality)
    return pack(np.asarray(Image.open(held).convert("RGB")))


def drifting(derived: Derived, share: float) -> Levels:
    """The picture of the demo as it is painted by somebody whose darks creep, whose sea and wall
    get darker and whose door turns; by a share of all that, (h, w, 3)."""
    rng, labels = np.random.default_rng(5), derived.drawing.labels
    lab = oklab(decode(unpack(picture(derived)) / 255))
    by_name = {r.name: r.label for r in derived.regions}
    for name, kind, sign in (("sea", "value", -1), ("wall", "value", -1), ("door", "hue", 1)):
        mine = labels == by_name[name]
        lab[mine] = lab[mine] * (1 - share) + _moved(lab[mine], kind, sign) * share
    lab[..., 0] -= np.where(lab[..., 0] < 0.5, 0.04 * share, 0)
    painted = _soft(_strokes(lab, labels, rng), rng)
    return to_bytes(encode(np.clip(oklab_to_linear(painted), 0, 1)))
