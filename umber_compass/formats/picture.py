"""Pictures in: whatever the decoder knows becomes 8-bit sRGB; and PNG out."""

import io
import struct
import zlib
from pathlib import Path
from typing import IO, NamedTuple

import numpy as np
import numpy.typing as npt
from PIL import Image, ImageCms, ImageOps, PngImagePlugin

from umber_compass.formats import atomic
from umber_compass.words import Refusal, words

FORMATS = ("PNG", "JPEG", "WEBP", "TIFF", "BMP")
MOST_PIXELS = 100_000_000
MOST_SIDE = 32_767
MOST_BYTES = 400_000_000
# Our own bound above is checked before decoding, so the library's guess is switched off.
Image.MAX_IMAGE_PIXELS = None
PngImagePlugin.MAX_TEXT_CHUNK = PngImagePlugin.MAX_TEXT_MEMORY = 8 * 1024 * 1024

_BROKEN = (
    OSError,
    SyntaxError,
    ValueError,
    EOFError,
    IndexError,
    KeyError,
    TypeError,
    OverflowError,
    struct.error,
    zlib.error,
    MemoryError,
)


class Picture(NamedTuple):
    """A decoded picture."""

    rgb: npt.NDArray[np.uint8]  # (h, w, 3) encoded sRGB; transparent parts on white
    clear: npt.NDArray[np.bool_] | None  # (h, w) wholly transparent; None if nothing is
    data: bytes  # the file as it was


def read(path: Path) -> Picture:
    """The picture in a file. Raises Refusal if it cannot be taken."""
    return decode(atomic.read(path, MOST_BYTES), str(path))


def decode(data: bytes, subject: str) -> Picture:
    """The picture in a file's bytes; `subject` names it in a refusal."""
    try:
        with Image.open(io.BytesIO(data), formats=FORMATS) as image:
            _bounded(image.size, subject)
            image.load()
            turned = ImageOps.exif_transpose(image)
            rgb, clear = _to_srgb(turned)
    except _BROKEN as error:
        raise Refusal(
            subject,
            words("not a picture that can be read; save it as PNG or JPEG again and try that"),
        ) from error
    return Picture(rgb, clear, data)


def _bounded(size: tuple[int, int], subject: str) -> None:
    width, height = size
    if max(size) > MOST_SIDE or width * height > MOST_PIXELS:
        raise Refusal(
            subject,
            words(
                "{width} x {height} px is too large; at most 100 megapixels and 32,767 px a side",
                width=width,
                height=height,
            ),
        )


def _to_srgb(image: Image.Image) -> tuple[npt.NDArray[np.uint8], npt.NDArray[np.bool_] | None]:
    if image.mode.startswith("I"):
        # Pillow saturates 16-bit grey on conversion; 257 maps 65,535 to 255 exactly.
        grey = np.clip(np.asarray(image).astype(np.int64) / 257 + 0.5, 0, 255).astype(np.uint8)
        image = Image.fromarray(grey, "L")
    elif image.mode == "F":
        grey = np.clip(np.asarray(image) * 255 + 0.5, 0, 255).astype(np.uint8)
        image = Image.fromarray(grey, "L")
    clear_possible = "A" in image.getbands() or "transparency" in image.info
    rgba = _profiled(image) if not clear_possible else image.convert("RGBA")
    if not clear_possible:
        return np.array(rgba.convert("RGB")), None
    alpha = np.asarray(rgba.getchannel("A"))
    paper = Image.new("RGBA", rgba.size, "white")
    shown = np.array(Image.alpha_composite(paper, rgba).convert("RGB"))
    clear = alpha == 0
    return shown, clear if clear.any() else None


def _profiled(image: Image.Image) -> Image.Image:
    """The picture converted from its embedded profile to sRGB, perceptual intent."""
    profile = image.info.get("icc_profile")
    if not profile or len(profile) > 8_000_000:
        return image
    try:
        return (
            ImageCms.profileToProfile(
                image,
                ImageCms.ImageCmsProfile(io.BytesIO(profile)),
                ImageCms.createProfile("sRGB"),
                renderingIntent=ImageCms.Intent.PERCEPTUAL,
                outputMode="RGB",
            )
            or image
        )
    except (ImageCms.PyCMSError, OSError, ValueError):
        return image  # a damaged profile is no reason to refuse the picture


def png_bytes(pixels: npt.NDArray[np.uint8] | npt.NDArray[np.uint16]) -> bytes:
    """A PNG, tagged sRGB, of (h, w, 3) 8-bit colours, or untagged of (h, w) 16-bit numbers."""
    out = io.BytesIO()
    _save_png(pixels, out)
    return out.getvalue()


def write_png(
    path: Path, pixels: npt.NDArray[np.uint8] | npt.NDArray[np.uint16], software: str = ""
) -> None:
    """A PNG file, written whole or not at all; `software` says in it who wrote it."""
    atomic.write(path, lambda stream: _save_png(pixels, stream, software))


def _save_png(
    pixels: npt.NDArray[np.uint8] | npt.NDArray[np.uint16], out: IO[bytes], software: str = ""
) -> None:
    chunks = PngImagePlugin.PngInfo()
    if software:
        chunks.add_text("Software", software)
    if pixels.ndim == 3:
        chunks.add(b"sRGB", b"\0")  # perceptual intent
    Image.fromarray(pixels).save(out, "PNG", pnginfo=chunks, compress_level=6)


def read_labels(data: bytes, size: tuple[int, int], subject: str) -> npt.NDArray[np.uint16]:
    """The numbers, (h, w), of a 16-bit grey PNG. Raises Refusal unless it has the given size."""
    try:
        with Image.open(io.BytesIO(data), formats=("PNG",)) as image:
            if image.size != size or not image.mode.startswith("I"):
                raise ValueError("another size or kind of picture")
            image.load()
            return np.array(image).astype(np.uint16)
    except _BROKEN as error:
        raise Refusal(
            subject, words("its regions are damaged; open a copy or bring the sketch in again")
        ) from error
