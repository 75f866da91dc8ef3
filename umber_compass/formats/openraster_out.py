"""Writing OpenRaster files: a stack of groups and layers, whole or not at all."""

import zipfile
from collections.abc import Iterator
from typing import IO, NamedTuple, Union
from xml.sax.saxutils import quoteattr

import numpy as np
import numpy.typing as npt
from PIL import Image

from umber_compass.formats.openraster import MIME, OVER
from umber_compass.formats.png_quick import png_of

_THUMBNAIL = 256
_WRITTEN = (1980, 1, 1, 0, 0, 0)  # the same bytes whenever it is written


class OutLayer(NamedTuple):
    """A layer: its picture as a PNG, and where its upper left corner lies."""

    name: str
    png: bytes
    x: int = 0
    y: int = 0
    mode: str = OVER
    visible: bool = True


class OutGroup(NamedTuple):
    """Layers that are laid on together, each group by itself; the first lies on top."""

    name: str
    children: tuple[Union["OutGroup", OutLayer], ...]
    visible: bool = True


def write(stream: IO[bytes], root: OutGroup, merged: npt.NDArray[np.uint8], mark: str) -> None:
    """A file with its layers and their composition, RGBA (h, w, 4), whose size it has."""
    size = merged.shape[1], merged.shape[0]
    layers = list(_layers(root))
    names = {id(layer): f"data/layer{i:04d}.png" for i, layer in enumerate(layers)}
    with zipfile.ZipFile(stream, "w") as archive:
        _put(archive, "mimetype", MIME)
        xml = _xml(size, root, names, mark)
        _put(archive, "stack.xml", xml.encode())  # stored, so that our mark can be seen
        for layer in layers:
            _put(archive, names[id(layer)], layer.png)
        _put(archive, "mergedimage.png", png_of(merged))
        small = Image.fromarray(merged)
        small.thumbnail((_THUMBNAIL, _THUMBNAIL))
        _put(archive, "Thumbnails/thumbnail.png", png_of(np.asarray(small)))


def _layers(group: OutGroup) -> Iterator[OutLayer]:
    for child in group.children:
        if isinstance(child, OutGroup):
            yield from _layers(child)
        else:
            yield child


def _put(archive: zipfile.ZipFile, name: str, data: bytes) -> None:
    entry = zipfile.ZipInfo(name, _WRITTEN)
    entry.compress_type = zipfile.ZIP_STORED
    archive.writestr(entry, data)


def _xml(size: tuple[int, int], root: OutGroup, names: dict[int, str], mark: str) -> str:
    lines = [
        '<?xml version="1.0" encoding="UTF-8"?>',
        f"<!-- {mark} -->",
        f'<image version="0.0.5" w="{size[0]}" h="{size[1]}" name={quoteattr(root.name)}>',
        *_stack(root, names, "  "),
        "</image>",
    ]
    return "\n".join(lines) + "\n"


def _stack(group: OutGroup, names: dict[int, str], indent: str) -> Iterator[str]:
    seen = "visible" if group.visible else "hidden"
    yield (
        f'{indent}<stack name={quoteattr(group.name)} opacity="1.0" visibility="{seen}" '
        f'composite-op="{OVER}" isolation="isolate">'
    )
    for child in group.children:
        if isinstance(child, OutGroup):
            yield from _stack(child, names, indent + "  ")
            continue
        shown = "visible" if child.visible else "hidden"
        yield (
            f'{indent}  <layer name={quoteattr(child.name)} src="{names[id(child)]}" '
            f'x="{child.x}" y="{child.y}" opacity="1.0" visibility="{shown}" '
            f'composite-op="{child.mode}"/>'
        )
    yield f"{indent}</stack>"
