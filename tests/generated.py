"""Flats made by chance, with what each px truly is: drawn four times finer, then smoothed."""

import io

import numpy as np
from PIL import Image, ImageDraw, ImageFilter

FINE = 4
INK = (24, 18, 30)


def scene(seed, count, size=(480, 360)):
    """Indexes of colours, (h, w) drawn finer, and the colours, (count, 3); 13 levels apart."""
    rng = np.random.default_rng(seed)
    colours = [rng.integers(0, 256, 3)]
    while len(colours) < count:
        fresh = rng.integers(0, 256, 3)
        if min(np.abs(fresh - c).max() for c in colours) >= 13:
            colours.append(fresh)
    image = Image.new("I", (size[0] * FINE, size[1] * FINE), 0)
    pen = ImageDraw.Draw(image)
    for i in range(1, count):
        x, y = rng.integers(0, image.width), rng.integers(0, image.height)
        r = int(rng.uniform(0.04, 0.2) * image.width)
        shape = pen.ellipse if i % 2 else pen.rectangle
        shape([x - r, y - r // 2, x + r, y + r // 2], fill=i)
    return np.array(image), np.uint8(colours)


def shrunk(index, colours):
    """The smooth picture of finer indexes, (h, w, 3)."""
    h, w = index.shape
    parts = colours[index].reshape(h // FINE, FINE, w // FINE, FINE, 3)
    return np.round(parts.mean((1, 3))).astype(np.uint8)


def inner(index, margin):
    """Whose each px is, (h, w), and which lie so many px inside their colour."""
    h, w = index.shape
    parts = index.reshape(h // FINE, FINE, w // FINE, FINE)
    low, high = parts.min((1, 3)).astype(np.float32), parts.max((1, 3)).astype(np.float32)
    size = 2 * margin + 1
    low = Image.fromarray(low), Image.fromarray(high)
    least = np.array(low[0].convert("L").filter(ImageFilter.MinFilter(size)))
    most = np.array(low[1].convert("L").filter(ImageFilter.MaxFilter(size)))
    return parts[:, FINE // 2, :, FINE // 2], least == most


def resized(rgb, scale, how=Image.Resampling.LANCZOS):
    """A picture shrunk or enlarged with a filter that rings."""
    size = round(rgb.shape[1] * scale), round(rgb.shape[0] * scale)
    return np.asarray(Image.fromarray(rgb).resize(size, how))


def jpeg(rgb, quality):
    """A picture after it was stored with loss."""
    out = io.BytesIO()
    Image.fromarray(rgb).save(out, "JPEG", quality=quality)
    return np.array(Image.open(out).convert("RGB"))


def inked(index):
    """Indexes with a line of ink, one more colour, along every border."""
    line = np.zeros(index.shape, np.uint8)
    line[1:] |= index[1:] != index[:-1]
    line[:, 1:] |= index[:, 1:] != index[:, :-1]
    wide = np.array(Image.fromarray(line * 255).filter(ImageFilter.MaxFilter(5))) > 0
    return np.where(wide, index.max() + 1, index)
