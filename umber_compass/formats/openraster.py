"""OpenRaster files: layers with their names, read within bounds and never unpacked to disk."""

import io
import struct
import zipfile
import zlib
from typing import NamedTuple, TypeAlias, Union
from xml.etree.ElementTree import Element, ParseError

from defusedxml.common import DefusedXmlException
from defusedxml.ElementTree import iterparse
from PIL import Image

from umber_compass.formats.archives import points_outside
from umber_compass.words import Refusal, words

MIME = b"image/openraster"
_MOST_ENTRIES, _MOST_LAYERS, _MOST_DEPTH = 4096, 2000, 64
_MOST_XML = 4 * 1024 * 1024
_MOST_PNG = 200_000_000  # bytes of one layer
MOST_PX, _MOST_ALL_PX = 100_000_000, 1_000_000_000
_MOST_SIDE, _MOST_AWAY = 32_767, 65_536
_NAME = 200
OVER = "svg:src-over"
Box: TypeAlias = tuple[int, int, int, int]
_HOW = (zipfile.ZIP_STORED, zipfile.ZIP_DEFLATED)
_BROKEN = (
    zipfile.BadZipFile, zlib.error, RuntimeError, NotImplementedError, KeyError, EOFError, OSError,
    ValueError, struct.error, OverflowError, MemoryError, SyntaxError, IndexError, TypeError,
    Image.DecompressionBombError,
)  # fmt: skip


class Layer(NamedTuple):
    """A layer: where its PNG lies in the file, and how it is laid on."""

    name: str
    src: str
    x: int
    y: int
    opacity: float
    visible: bool
    mode: str


class Group(NamedTuple):
    """Layers that are laid on together; the first lies on top."""

    name: str
    children: tuple[Union["Group", Layer], ...]
    opacity: float
    visible: bool
    mode: str = OVER
    isolated: bool = False

    @property
    def apart(self) -> bool:
        """Whether its layers are laid together by themselves before they are laid on the rest."""
        return self.isolated or self.opacity < 1 or self.mode != OVER


class Layered(NamedTuple):
    """A layered file: its size, px, its layers, and the bytes it was read from."""

    size: tuple[int, int]
    root: Group
    data: bytes
    subject: str


def is_layered(data: bytes) -> bool:
    """Whether bytes are those of an OpenRaster file, by their first entry."""
    return data[:4] == b"PK\3\4" and MIME in data[26:120]


def size_of(data: bytes, subject: str) -> tuple[int, int]:
    """Width and height of a layered file, px."""
    return read(data, subject).size


def read(data: bytes, subject: str) -> Layered:
    """The layers of an OpenRaster file. Raises Refusal, with one line, for anything that is none,
    or that is damaged or hostile."""
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            names = _safe(archive, subject)
            with archive.open("mimetype") as stream:
                if stream.read(100).strip() != MIME:
                    raise damaged(subject, "it does not say that it is OpenRaster")
            with archive.open("stack.xml") as stream:
                xml = stream.read(_MOST_XML + 1)
        if len(xml) > _MOST_XML:
            raise damaged(subject, "its list of layers is larger than any")
        return _parsed(xml, names, data, subject)
    except (ParseError, DefusedXmlException) as error:
        raise damaged(subject, "its list of layers cannot be read") from error
    except _BROKEN as error:
        raise damaged(subject, "the file is cut short or broken") from error


def _safe(archive: zipfile.ZipFile, subject: str) -> set[str]:
    entries = archive.infolist()
    names = [e.filename for e in entries]
    if len(names) > _MOST_ENTRIES or len(set(names)) != len(names):
        raise damaged(subject, "it has too many or repeated entries")
    for entry in entries:
        if points_outside(entry.filename):
            raise damaged(subject, "an entry points outside the file")
        is_link = (entry.external_attr >> 16) & 0o170000 == 0o120000
        if entry.compress_type not in _HOW or entry.flag_bits & 1 or is_link:
            raise damaged(subject, "it is packed in a way such files never are")
    return set(names)


def _parsed(xml: bytes, names: set[str], data: bytes, subject: str) -> Layered:
    depth, root = 0, None
    for event, element in iterparse(io.BytesIO(xml), ("start", "end"), forbid_dtd=True):
        depth += 1 if event == "start" else -1
        if depth > _MOST_DEPTH:
            raise damaged(subject, "its groups lie too deep in each other")
        root = element
    if root is None or root.tag != "image":
        raise damaged(subject, "its list of layers is none")
    width, height = (_whole(root.get(k), 0) for k in ("w", "h"))
    if not (0 < width <= _MOST_SIDE and 0 < height <= _MOST_SIDE) or width * height > MOST_PX:
        raise Refusal(
            subject,
            words(
                "{width} x {height} px cannot be taken; at most 100 megapixels, 32,767 px a side",
                width=width,
                height=height,
            ),
        )
    stack = root.find("stack")
    if stack is None:
        raise damaged(subject, "it holds no layers")
    if sum(1 for _ in stack.iter("layer")) > _MOST_LAYERS:
        raise damaged(subject, f"it has more than {_MOST_LAYERS:,} layers")
    return Layered((width, height), _group(stack, names, subject), data, subject)


def _group(element: Element, names: set[str], subject: str) -> Group:
    children: list[Group | Layer] = []
    for child in element:
        if child.tag == "stack":
            children.append(_group(child, names, subject))
        elif child.tag == "layer":
            children.append(_layer(child, names, subject))
    return Group(
        _name(element),
        tuple(children),
        _opacity(element),
        _visible(element),
        _mode(element),
        element.get("isolation") == "isolate",
    )


def _layer(element: Element, names: set[str], subject: str) -> Layer:
    src = element.get("src") or ""
    if src not in names:
        raise damaged(subject, f"the layer {_name(element) or 'without a name'} has no picture")
    x, y = (_whole(element.get(k), 0) for k in ("x", "y"))
    if max(abs(x), abs(y)) > _MOST_AWAY:
        raise damaged(subject, f"the layer {_name(element)} lies too far outside")
    return Layer(_name(element), src, x, y, _opacity(element), _visible(element), _mode(element))


def _mode(element: Element) -> str:
    return (element.get("composite-op") or OVER)[:60]


def _name(element: Element) -> str:
    text = " ".join((element.get("name") or "").split())[:_NAME]
    return "".join(c if c.isprintable() else " " for c in text)


def _visible(element: Element) -> bool:
    return element.get("visibility", "visible") != "hidden"


def _opacity(element: Element) -> float:
    text = element.get("opacity", "1")
    try:
        found = float(text)
    except ValueError:
        return 1.0
    return min(max(found, 0.0), 1.0) if found == found else 1.0


def _whole(text: str | None, otherwise: int) -> int:
    """A whole number; what is none counts as told otherwise."""
    if text is None or len(text) > 9:
        return otherwise if text is None else _MOST_AWAY + 1
    try:
        return round(float(text))
    except (ValueError, OverflowError):
        return otherwise


class Pictures:
    """The pictures of a layered file's layers, each decoded when it is asked for; the file is
    opened once for all of them."""

    def __init__(self, layered: Layered) -> None:
        self.subject, self._total = layered.subject, 0
        self._archive = zipfile.ZipFile(io.BytesIO(layered.data))

    def box_of(self, layer: Layer, size: tuple[int, int]) -> Box | None:
        """Where a layer's picture lies on a canvas of this size, px: left, top, right, bottom; None
        where it lies outside. Only its head is read; raises Refusal for one that cannot be."""
        try:
            with (
                self._archive.open(layer.src) as stream,
                Image.open(stream, formats=("PNG",)) as image,
            ):
                width, height = image.size
        except _BROKEN as error:
            raise damaged(self.subject, _unreadable(layer)) from error
        left, top = max(layer.x, 0), max(layer.y, 0)
        right, bottom = min(layer.x + width, size[0]), min(layer.y + height, size[1])
        return (left, top, right, bottom) if left < right and top < bottom else None

    def of(self, layer: Layer) -> Image.Image:
        """A layer's picture, RGBA. Raises Refusal for one that cannot be read."""
        image = _picture(self._archive, layer, self.subject)
        self._total += image.width * image.height
        if self._total > _MOST_ALL_PX:
            raise damaged(self.subject, "its layers together are larger than any picture")
        return image


def _picture(archive: zipfile.ZipFile, layer: Layer, subject: str) -> Image.Image:
    try:
        with archive.open(layer.src) as stream:
            data = stream.read(_MOST_PNG + 1)
        if len(data) > _MOST_PNG:
            raise damaged(subject, _unreadable(layer))
        with Image.open(io.BytesIO(data), formats=("PNG",)) as image:
            if max(image.size) > _MOST_SIDE or image.width * image.height > MOST_PX:
                raise damaged(subject, f"the layer {layer.name or layer.src} is too large")
            image.load()
            return image if image.mode == "RGBA" else image.convert("RGBA")
    except _BROKEN as error:
        raise damaged(subject, _unreadable(layer)) from error


def _unreadable(layer: Layer) -> str:
    return f"the picture of the layer {layer.name or layer.src} cannot be read"


def damaged(subject: str, why: str) -> Refusal:
    return Refusal(subject, words("is damaged: {why}; save it again and try that", why=why))
