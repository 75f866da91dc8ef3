"""Pictures in: whatever the decoder knows becomes 8-bit sRGB; and PNG out."""

import io
import logging
import struct
import warnings
import zlib
from pathlib import Path
from typing import IO, NamedTuple

import numpy as np
import numpy.typing as npt
from PIL import Image, ImageCms, PngImagePlugin

from umber_compass.colour.packed import CLEAR, Levels, Packed, pack, unpack
from umber_compass.formats import atomic, openraster
from umber_compass.words import Refusal, words
from umber_compass.work import Tick, idle

FORMATS = ("PNG", "JPEG", "WEBP", "TIFF", "BMP")
MOST_PIXELS = 100_000_000
MOST_SIDE = 32_767
MOST_BYTES = 400_000_000
# Our own bound above is checked before decoding, so the library's guess is switched off.
Image.MAX_IMAGE_PIXELS = None
PngImagePlugin.MAX_TEXT_CHUNK = PngImagePlugin.MAX_TEXT_MEMORY = 8 * 1024 * 1024

# What the decoder warns of it says in its own words, on standard error; ours are one line.
logging.getLogger("PIL").setLevel(logging.CRITICAL + 1)
warnings.filterwarnings("ignore", module=r"PIL\.")

_PROFILED = ("RGB", "CMYK", "L", "LAB")  # modes whose profile is applied as they are
_STRIP_PX = 2_000_000  # turned to sRGB at a time
_ORIENTATION = 0x0112  # the EXIF tag
_WAY = Image.Transpose
_TURNS = {
    2: _WAY.FLIP_LEFT_RIGHT,
    3: _WAY.ROTATE_180,
    4: _WAY.FLIP_TOP_BOTTOM,
    5: _WAY.TRANSPOSE,
    6: _WAY.ROTATE_270,
    7: _WAY.TRANSVERSE,
    8: _WAY.ROTATE_90,
}
_ON_ITS_SIDE = (5, 6, 7, 8)
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
    RuntimeError,
    AttributeError,
    ZeroDivisionError,
    Image.DecompressionBombError,
)


class Picture(NamedTuple):
    """A decoded picture."""

    packed: (
        Packed  # (h, w) encoded sRGB, 0x00RRGGBB, transparent parts on white; CLEAR where wholly
    )
    data: bytes  # the file as it was

    @property
    def rgb(self) -> Levels:
        """The same as levels, (h, w, 3)."""
        return unpack(self.packed)


def read(path: Path, tick: Tick = idle) -> Picture:
    """The picture in a file. Raises Refusal if it cannot be taken."""
    return decode(atomic.read(path, MOST_BYTES), str(path), tick)


def decode(data: bytes, subject: str, tick: Tick = idle) -> Picture:
    """The picture in a file's bytes; `subject` names it in a refusal. Beside the decoder's own
    copy it takes 4 bytes a px."""
    image = _loaded(data, subject, tick)
    try:
        return Picture(_strips(image, tick), data)
    except _BROKEN as error:
        raise _unreadable(subject) from error


def alpha_of(data: bytes, subject: str) -> Levels | None:
    """How much of each px of a picture is there, (h, w), 255 wholly; None where all is, which its
    head tells."""
    if openraster.is_layered(data):
        from umber_compass.formats.openraster_flat import flat  # few pictures have layers

        return np.array(flat(data, subject).getchannel("A"))
    try:
        with Image.open(io.BytesIO(data), formats=FORMATS) as head:
            if not _has_alpha(head):
                return None
        return np.array(_loaded(data, subject).convert("RGBA").getchannel("A"))
    except _BROKEN as error:
        raise _unreadable(subject) from error


def size_of(data: bytes, subject: str) -> tuple[int, int]:
    """Width and height of a picture, px, as it is shown; only its head is read. Raises Refusal if
    it is none that can be taken."""
    if openraster.is_layered(data):
        return openraster.size_of(data, subject)
    try:
        with Image.open(io.BytesIO(data), formats=FORMATS) as image:
            _bounded(image.size, subject)
            width, height = image.size
            # Of a TIFF the decoder says the size as it is shown, before it is turned too.
            turns = image.format != "TIFF" and _orientation(image) in _ON_ITS_SIDE
            return (height, width) if turns else (width, height)
    except _BROKEN as error:
        raise _unreadable(subject) from error


def _loaded(data: bytes, subject: str, tick: Tick = idle) -> Image.Image:
    """A picture decoded and turned as its camera was; a layered file laid together."""
    if openraster.is_layered(data):
        from umber_compass.formats.openraster_flat import flat  # few pictures have layers

        return flat(data, subject, tick)
    try:
        with Image.open(io.BytesIO(data), formats=FORMATS) as image:
            _bounded(image.size, subject)
            tick(0.0)
            image.load()
            way = _TURNS.get(_orientation(image))
            return _transposed(image, way) if way is not None else image
    except _BROKEN as error:
        raise _unreadable(subject) from error


def _transposed(image: Image.Image, way: Image.Transpose) -> Image.Image:
    turned = image.transpose(way)
    turned.info = dict(image.info)
    return turned


def _orientation(image: Image.Image) -> int:
    """How the camera was held, 1 upright. Text in other tags may be of any type, so the tags are
    not written back."""
    try:
        return int(image.getexif().get(_ORIENTATION, 1))
    except _BROKEN:
        return 1


def _unreadable(subject: str) -> Refusal:
    line = words("not a picture that can be read; save it as PNG or JPEG again and try that")
    return Refusal(subject, line)


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


def _strips(image: Image.Image, tick: Tick) -> Packed:
    """A picture's colours, strip by strip, so that no second copy of it is made on the way."""
    width, height = image.size
    packed = np.empty((height, width), np.uint32)
    profile, high = _profile(image), max(1, _STRIP_PX // width)
    for top in range(0, height, high):
        tick(top / height)
        rows = slice(top, min(top + high, height))
        strip, clear = image.crop((0, top, width, rows.stop)), None
        if _has_alpha(image):
            strip = strip.convert("RGBA")
            clear = np.asarray(strip.getchannel("A")) == 0
            strip = Image.alpha_composite(Image.new("RGBA", strip.size, "white"), strip)
        rgb = _in_srgb(strip, profile)
        packed[rows] = np.frombuffer(rgb.tobytes("raw", "BGRX"), "<u4").reshape(-1, width)
        if clear is not None:
            packed[rows][clear] = CLEAR
    return packed


def _has_alpha(image: Image.Image) -> bool:
    return "A" in image.getbands() or "transparency" in image.info


def _in_srgb(strip: Image.Image, profile: ImageCms.ImageCmsTransform | None) -> Image.Image:
    if strip.mode.startswith("I"):
        # Pillow saturates 16-bit grey on conversion; 257 maps 65,535 to 255 exactly.
        deep = np.clip(np.asarray(strip).astype(np.int64) / 257 + 0.5, 0, 255)
        return Image.fromarray(deep.astype(np.uint8), "L").convert("RGB")
    if strip.mode == "F":
        deep = np.clip(np.nan_to_num(np.asarray(strip)) * 255 + 0.5, 0, 255)
        return Image.fromarray(deep.astype(np.uint8), "L").convert("RGB")
    if profile is None:
        return strip.convert("RGB")
    plain = strip if strip.mode in _PROFILED else strip.convert("RGB")
    try:
        return ImageCms.applyTransform(plain, profile) or plain.convert("RGB")
    except ImageCms.PyCMSError:
        return plain.convert("RGB")  # the profile is of another kind of picture than this one


def _profile(image: Image.Image) -> ImageCms.ImageCmsTransform | None:
    """The way from a picture's embedded profile to sRGB, perceptual intent; None where there is
    none, or a damaged one: that is no reason to refuse the picture."""
    if image.mode == "LAB":
        return _from_lab()
    profile = image.info.get("icc_profile")
    if not profile or len(profile) > 8_000_000 or image.mode[0] in "IF":
        return None
    try:
        return ImageCms.buildTransform(
            ImageCms.ImageCmsProfile(io.BytesIO(profile)),
            ImageCms.createProfile("sRGB"),
            image.mode if image.mode in _PROFILED else "RGB",
            "RGB",
            renderingIntent=ImageCms.Intent.PERCEPTUAL,
        )
    except (ImageCms.PyCMSError, *_BROKEN):
        return None


def _from_lab() -> ImageCms.ImageCmsTransform:
    """The way from CIELAB, which needs no profile of its own, to sRGB."""
    lab, srgb = ImageCms.createProfile("LAB"), ImageCms.createProfile("sRGB")
    return ImageCms.buildTransform(lab, srgb, "LAB", "RGB")


def png_bytes(pixels: Levels | npt.NDArray[np.uint16], source: str = "") -> bytes:
    """A PNG, tagged sRGB, of (h, w, 3) 8-bit colours, or untagged of (h, w) 16-bit numbers;
    `source` is kept in it as text."""
    out = io.BytesIO()
    _save_png(Image.fromarray(pixels), out, pixels.ndim == 3, {"Source": source})
    return out.getvalue()


def write_png(path: Path, pixels: Levels | npt.NDArray[np.uint16]) -> None:
    """A PNG file, written whole or not at all."""
    image = Image.fromarray(pixels)
    atomic.write(path, lambda stream: _save_png(image, stream, pixels.ndim == 3))


def image_of(packed: Packed, alpha: Levels | None = None) -> Image.Image:
    """A picture of 0x00RRGGBB colours (h, w); `alpha`, (h, w), says how much of each px is there,
    and its colours are then those before white paper shows through them."""
    height, width = packed.shape
    own = np.ascontiguousarray(packed if alpha is None else _off_paper(packed, alpha))
    image = Image.frombuffer("RGB", (width, height), own, "raw", "BGRX", 0, 1)
    if alpha is not None:
        image.putalpha(Image.fromarray(alpha))
    return image


def _off_paper(shown: Packed, alpha: Levels) -> Packed:
    at = np.flatnonzero((alpha > 0) & (alpha < 255))
    share = alpha.reshape(-1)[at, None] / np.float32(255)
    levels = unpack(shown.reshape(-1)[at]).astype(np.float32)
    own = np.clip((levels - 255 * (1 - share)) / share + 0.5, 0, 255).astype(np.uint8)
    out = np.where(alpha == 0, np.uint32(0), shown)
    out.reshape(-1)[at] = pack(own)
    return out


def write_image(path: Path, image: Image.Image) -> None:
    """A PNG file, tagged sRGB, of a picture with or without alpha, written whole or not at all."""
    atomic.write(path, lambda stream: fill_png(image, stream))


def fill_png(image: Image.Image, out: IO[bytes], software: str = "") -> None:
    """A PNG, tagged sRGB, of a picture into a stream; `software` says who wrote it."""
    _save_png(image, out, True, {"Software": software})


def _save_png(
    image: Image.Image, out: IO[bytes], tagged: bool, texts: dict[str, str] | None = None
) -> None:
    chunks = PngImagePlugin.PngInfo()
    for key, text in (texts or {}).items():
        if text:
            chunks.add_text(key, text)
    if tagged:
        chunks.add(b"sRGB", b"\0")  # perceptual intent
    image.save(out, "PNG", pnginfo=chunks, compress_level=6)


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
