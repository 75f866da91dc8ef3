"""Input that was damaged or made to harm, by seed: every reader answers with what it read or with
one line.

./umber fuzz [READER ...] [--count N] [--seed S]
"""

import argparse
import io
import json
import random
import struct
import subprocess
import sys
import tempfile
import time
import zipfile
import zlib
from collections.abc import Callable, Iterator
from copy import deepcopy
from pathlib import Path

import msgspec
import numpy as np
from PIL import Image

from umber_compass import document
from umber_compass.cli.run import _answer_line
from umber_compass.document import kept_arrays
from umber_compass.formats import cache, openraster, picture, thumbnail
from umber_compass.picture.building import build_buffers
from umber_compass.picture.drawing import draw
from umber_compass.picture.forms import form_wishes
from umber_compass.picture.indexed import index_drawing
from umber_compass.plan.journal import (
    Drifted,
    Entry,
    FreshLook,
    Journal,
    Look,
    with_done,
    with_entry,
    with_look,
)
from umber_compass.steps.pipeline import Pipeline
from umber_compass.steps.sketch.kinds import flats
from umber_compass.words import Refusal

_SLOW = 20.0  # s, that no input this small may take
_ODD: tuple[object, ...] = (
    "",
    "\0",
    "x" * 5000,
    "\ud800",
    "../../x",
    -1,
    0,
    2**70,
    1e400,
    None,
    True,
    [],
    {},
    [[[]]],
)
_NAMES = (
    "ß" * 200,
    "ŉ" * 120,
    "ﬃ" * 80,
    ".png",
    "a\nb",
    " ",
    "..",
    "x" * 240,
    "\udcff\udcfe",
    "İ" * 90,
)


def sketch(rng: random.Random, width: int = 40, height: int = 30) -> Image.Image:
    """A small flats picture."""
    made = Image.new("RGB", (width, height), _colour(rng))
    for _ in range(rng.randint(0, 5)):
        x, y = rng.randrange(width), rng.randrange(height)
        made.paste(_colour(rng), (x, y, min(width, x + 12), min(height, y + 9)))
    return made


def _colour(rng: random.Random) -> tuple[int, int, int]:
    return rng.randrange(256), rng.randrange(256), rng.randrange(256)


def damaged(rng: random.Random, data: bytes) -> bytes:
    """Bytes with some of them changed, cut, doubled or moved."""
    out = bytearray(data)
    for _ in range(rng.randint(1, 6)):
        at = rng.randrange(max(len(out), 1))
        how = rng.randrange(6)
        if how == 0 and out:
            out[at] = rng.randrange(256)
        elif how == 1:
            del out[at : at + rng.randint(1, 40)]
        elif how == 2:
            out[at:at] = rng.randbytes(rng.randint(1, 20))
        elif how == 3:
            out = out[: max(at, 1)]
        elif how == 4 and len(out) > 8:
            out[at : at + 4] = struct.pack(
                rng.choice("<>") + "I", rng.choice((0, 1, 2**31, 2**32 - 1))
            )
        else:
            out[at:at] = out[at : at + rng.randint(1, 60)]
    return bytes(out)


def _saved(rng: random.Random) -> bytes:
    """A picture file of some kind, mode and tags."""
    image, out = sketch(rng), io.BytesIO()
    kind = rng.choice(("PNG", "JPEG", "WEBP", "TIFF", "BMP"))
    modes = {"JPEG": ("RGB", "L", "CMYK"), "BMP": ("RGB", "L", "1", "P"), "WEBP": ("RGB", "RGBA")}
    modes["TIFF"] = ("RGB", "RGBA", "L", "CMYK", "P", "I;16", "LAB")
    mode = rng.choice(modes.get(kind, ("RGB", "RGBA", "L", "LA", "P", "1", "I;16")))
    if mode == "I;16":
        image = Image.fromarray(np.asarray(image.convert("L")).astype(np.uint16) * 257)
    elif mode == "LAB":
        image = Image.merge("LAB", image.split())
    else:
        image = image.convert(mode)
    options: dict[str, object] = {"exif": _tags(rng)} if kind in ("PNG", "JPEG", "WEBP") else {}
    if kind == "TIFF":
        options["tiffinfo"] = {0x0112: rng.choice((1, 2, 3, 4, 5, 6, 7, 8, 0, 99))}
    if rng.random() < 0.2:
        options["icc_profile"] = rng.randbytes(200)
    image.save(out, kind, **options)
    return out.getvalue()


def _tags(rng: random.Random) -> bytes:
    """How a camera was held, and a text that is of some other type."""
    turn = struct.pack("<HHIHH", 0x0112, 3, 1, rng.choice((1, 3, 6, 8, 0, 99)), 0)
    text = struct.pack(
        "<HHII", 0x010F, rng.choice((2, 3, 5, 12, 13, 99)), rng.choice((1, 2, 9)), 38
    )
    head = b"Exif\0\0II*\0" + struct.pack("<IH", 8, 2)
    return head + text + turn + struct.pack("<I", 0) + struct.pack("<d", 1.5) * 9


def pictures(rng: random.Random, folder: Path) -> None:
    """A damaged picture brought in."""
    data = _saved(rng)
    path = folder / "odd.png"
    path.write_bytes(damaged(rng, data) if rng.random() < 0.85 else data)
    made = document.bring_in(path)
    out = folder / "odd.umber"
    document.save(made.plan, made.pixels, out)
    document.open_plan(out)


def layers(rng: random.Random, folder: Path) -> None:
    """A layered file: of chance layers and groups, whole or damaged; what is taken opens again."""
    width, height = rng.choice(((40, 30), (1, 1), (300, 2), (64, 64)))
    parts: dict[str, bytes] = {}

    def node(depth: int) -> str:
        about = f'opacity="{rng.choice(("1", "0.4", "nan", "-1", "x"))}" name="{rng.choice("abc")}"'
        if depth and rng.random() < 0.3:
            return f"<stack {about}>{''.join(node(depth - 1) for _ in range(2))}</stack>"
        name = f"data/{len(parts)}.png"
        image = sketch(rng, rng.randint(1, 50), rng.randint(1, 40)).convert("RGBA")
        image.putalpha(rng.choice((255, 255, 128, 0)))
        parts[name] = _png(image)
        place = f'x="{rng.choice((0, -7, 12, 999))}" y="{rng.choice((0, -3, 5, "1e9"))}"'
        return f'<layer src="{name}" {place} {about}/>'

    inner = "".join(node(2) for _ in range(rng.randint(1, 5)))
    xml = f'<image w="{width}" h="{height}"><stack>{inner}</stack></image>'.encode()
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as archive:
        archive.writestr("mimetype", openraster.MIME)
        archive.writestr("stack.xml", damaged(rng, xml) if rng.random() < 0.3 else xml)
        for name, data in parts.items():
            archive.writestr(name, damaged(rng, data) if rng.random() < 0.1 else data)
    path = folder / "odd.ora"
    path.write_bytes(damaged(rng, out.getvalue()) if rng.random() < 0.3 else out.getvalue())
    made = document.bring_in(path, settings={"depth": rng.randint(0, 3)})
    document.save(made.plan, made.pixels, folder / "odd.umber")
    document.open_plan(folder / "odd.umber")


def names(rng: random.Random, folder: Path) -> None:
    """What is brought in under an odd name, or is an odd picture, can be opened again."""
    name = rng.choice(_NAMES)[: rng.choice((1, 30, 60, 100, 200))]
    path = folder / (
        name.encode("utf-8", "surrogateescape")[:240].decode("utf-8", "ignore") + ".png"
    )
    image = sketch(rng, rng.choice((1, 2, 3, 40)), rng.choice((1, 2, 30)))
    if rng.random() < 0.4:
        image = image.convert("RGBA")
        alpha = np.array(image.getchannel("A"))
        alpha[: rng.randrange(alpha.shape[0] + 1)] = rng.choice((0, 0, 128))
        image.putalpha(Image.fromarray(alpha))
    try:
        image.save(path, "PNG")
    except (OSError, ValueError):
        return  # the file system has no such name
    made = document.bring_in(path)
    out = folder / "named.umber"
    document.save(made.plan, made.pixels, out)
    again = document.open_plan(out)
    if again.plan != made.plan:
        raise AssertionError(f"{name!r} came back another plan")
    path.unlink()


_PLAN: list[bytes] = []


def _plan(folder: Path) -> bytes:
    """A whole plan file, made once."""
    if not _PLAN:
        path = folder / "whole.png"
        sketch(random.Random(4)).save(path)
        made = document.bring_in(path)
        made.pixels.journal = _journal()
        document.save(made.plan, made.pixels, folder / "whole.umber")
        _PLAN.append((folder / "whole.umber").read_bytes())
    return _PLAN[0]


def _journal() -> Journal:
    """A journal with something of each kind in it."""
    entry = Entry(at=1000.0, step="harmony", text="a hue turned", why="it was dull")
    look = Look(
        at=2000.0,
        file_name="wip.png",
        painted=0.5,
        darks=5.0,
        middle=50.0,
        lights=90.0,
        drifted=(Drifted(region="r1", text="6 L* darker"),),
        note="too dark",
    )
    fresh = FreshLook(at=3000.0, answers=("the door", "no", "the sky"))
    made = with_done(with_look(with_entry(Journal(), entry), look), "card", True)
    return msgspec.structs.replace(made, fresh=(fresh,))


def plans(rng: random.Random, folder: Path) -> None:
    """A plan file damaged as bytes, as a ZIP, or in its JSON."""
    data = _plan(folder)
    how = rng.randrange(3)
    changed = damaged(rng, data) if how == 0 else _repacked(rng, data, how)
    path = folder / "odd.umber"
    path.write_bytes(changed)
    thumbnail.read(path)
    opened = document.open_plan(path)
    Pipeline(opened.pixels.drawings).derive(opened.plan)


def _repacked(rng: random.Random, data: bytes, how: int) -> bytes:
    out = io.BytesIO()
    packing = rng.choice(
        (zipfile.ZIP_STORED, zipfile.ZIP_DEFLATED, zipfile.ZIP_LZMA, zipfile.ZIP_BZIP2)
    )
    with zipfile.ZipFile(io.BytesIO(data)) as old, zipfile.ZipFile(out, "w", packing) as new:
        for name in old.namelist():
            content = old.read(name)
            if name in ("plan.json", "journal.json") and how == 2:
                content = _changed_json(rng, content)
            elif rng.random() < 0.15:
                content = damaged(rng, content)
            if rng.random() > 0.03:
                new.writestr(name, content)
    return damaged(rng, out.getvalue()) if rng.random() < 0.2 else out.getvalue()


def _changed_json(rng: random.Random, content: bytes) -> bytes:
    if rng.random() < 0.05:
        return rng.choice(
            (b"{}", b"[]", b"1", b'{"schema":2}', b"[" * 5000, b"\xff", b'{"a":1e999}')
        )
    tree = json.loads(content)
    for _ in range(rng.randint(1, 3)):
        place = tree
        while isinstance(place, dict | list) and place:
            key = rng.choice(list(place)) if isinstance(place, dict) else rng.randrange(len(place))
            if not isinstance(place[key], dict | list) or not place[key] or rng.random() < 0.15:
                if rng.random() < 0.2 and isinstance(place, dict):
                    del place[key]
                else:
                    place[key] = deepcopy(rng.choice(_ODD))  # it may be changed in its place
                break
            place = place[key]
    return json.dumps(tree).encode("utf-8", "surrogatepass")


_KEPT: list[tuple[dict[str, np.ndarray], dict[str, np.ndarray], tuple[int, int]]] = []


def kept(rng: random.Random, folder: Path) -> None:
    """A cache entry, damaged or crafted: it is taken whole or not at all."""
    if not _KEPT:
        packed = picture.decode(_png(sketch(random.Random(8))), "x").packed
        drawing = draw(packed, flats.split(packed, "x").labels)
        indexed = index_drawing(drawing, {})
        buffers = build_buffers(drawing, form_wishes(()), {}, indexed)
        shape = drawing.labels.shape
        _KEPT.append(
            (kept_arrays.drawing_arrays(drawing), kept_arrays.buffer_arrays(buffers), shape)
        )
    drawn, relieved, shape = _KEPT[0]
    arrays = dict(rng.choice((drawn, relieved)))
    for _ in range(rng.randint(0, 2)):
        name = rng.choice(list(arrays))
        array = arrays[name]
        crafted = (
            lambda a: a[:-1],
            lambda a: a.astype(rng.choice(("uint8", "int64", "float32", "float64"))),
            lambda a: a.reshape(-1),
            lambda a: a * 0 + rng.choice((-1, 10**6)) if a.dtype.kind == "i" else a * np.nan,
        )
        with np.errstate(all="ignore"):
            arrays[name] = np.asarray(rng.choice(crafted)(array)).astype(
                array.dtype if rng.random() < 0.5 else None
            )
    data = cache.packed(arrays)
    if rng.random() < 0.5:
        data = damaged(rng, data)
        if rng.random() < 0.5:  # a check sum that fits, as somebody would craft it
            data = data[:17] + struct.pack("<I", zlib.crc32(data[21:])) + data[21:]
    try:
        found = cache.unpacked(data)
        if arrays.keys() == drawn.keys():
            kept_arrays.drawing_of(found)
        else:
            kept_arrays.buffers_of(found, shape)
    except (ValueError, KeyError, msgspec.MsgspecError, RecursionError):
        return


def _png(image: Image.Image) -> bytes:
    out = io.BytesIO()
    image.save(out, "PNG")
    return out.getvalue()


def batch(rng: random.Random, folder: Path) -> None:
    """A line of a batch."""
    heads = (
        "ramp",
        "colour",
        "blend",
        "regions",
        "checks",
        "render",
        "handoff",
        "set",
        "new",
        "?",
        "",
    )
    odd = (
        "#7a4fa0",
        "--recipe",
        "rig",
        "\0",
        "\ud800",
        "/dev/zero",
        str(folder),
        "-o",
        "--",
        "9" * 400,
    )
    line = json.dumps([rng.choice(heads), *(rng.choice(odd) for _ in range(rng.randint(0, 4)))])
    if rng.random() < 0.3:
        line = damaged(rng, line.encode()).decode("utf-8", "surrogateescape")
    answer = _answer_line(line)
    json.dumps(answer, allow_nan=False)
    if "failed inside" in str(answer.get("error", "")):
        raise AssertionError(f"{line[:200]!r}: {answer}")


READERS: dict[str, Callable[[random.Random, Path], None]] = {
    f.__name__: f for f in (pictures, layers, names, plans, kept, batch)
}


def run(reader: str, count: int, seed: int) -> Iterator[str]:
    """What went wrong, a line each; then nothing."""
    work = READERS[reader]
    with tempfile.TemporaryDirectory() as held:
        for n in range(count):
            rng = random.Random(f"{reader} {seed + n}")
            begin = time.monotonic()
            try:
                work(rng, Path(held))
            except Refusal as refusal:
                if "\n" in str(refusal.reason):
                    yield f"{reader} {seed + n}: more than one line: {refusal}"
            except Exception as error:  # whatever it is, it is what is looked for
                yield f"{reader} {seed + n}: {type(error).__name__}: {str(error)[:200]}"
            if time.monotonic() - begin > _SLOW:
                yield f"{reader} {seed + n}: took {time.monotonic() - begin:.0f} s"


def main() -> int:
    parser = argparse.ArgumentParser(description="Read damaged input, by seed.")
    parser.add_argument("reader", nargs="*", choices=[*READERS, []], default=[])
    parser.add_argument("--count", type=int, default=2000)
    parser.add_argument("--seed", type=int, default=0)
    given = parser.parse_args()
    bad = 0
    for reader in given.reader or READERS:
        begin, found = time.monotonic(), 0
        for line in run(reader, given.count, given.seed):
            found += 1
            print(line)
        print(f"{reader}: {given.count} inputs, {found} bad, {time.monotonic() - begin:.0f} s")
        bad += found
    return 1 if bad else 0


def noise(count: int) -> str:
    """What a run of damaged pictures says on standard error: nothing, if all is well."""
    code = f"from tools import fuzz; print(list(fuzz.run('pictures', {count}, 90000)))"
    return subprocess.run([sys.executable, "-c", code], capture_output=True, text=True).stderr


if __name__ == "__main__":
    sys.exit(main())
