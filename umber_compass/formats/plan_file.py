"""The plan file `.umber`: a ZIP that keeps plan, sketch, regions and thumbnail together.

Entries are read by name into memory with bounds counted while reading; nothing is unpickled or
extracted to a path. Format: docs/plan-format.md.
"""

import hashlib
import io
import zipfile
import zlib
from collections.abc import Callable
from pathlib import Path
from typing import IO, Any, NamedTuple

import msgspec
import numpy as np
import numpy.typing as npt

from umber_compass.formats import atomic
from umber_compass.formats.picture import MOST_BYTES, png_bytes, read_labels
from umber_compass.plan.model import SCHEMA, Plan
from umber_compass.plan.practices import PRACTICES
from umber_compass.words import Refusal, words

MIME = "application/x-umber-plan"
ENDING = ".umber"
_MOST_ENTRIES = 64
_MOST = {
    "mimetype": 100,
    "plan.json": 16_000_000,
    "sketch": MOST_BYTES,
    "regions.png": MOST_BYTES,
    "thumbnail.png": 8_000_000,
}
UPGRADES: dict[int, Callable[[dict[str, Any]], dict[str, Any]]] = {}  # from schema n to n + 1


class PlanFile(NamedTuple):
    """What a plan file holds."""

    plan: Plan
    sketch: bytes  # the picture as it was brought in, byte for byte
    labels: npt.NDArray[np.uint16]  # (h, w), at the sketch's own size
    thumbnail: bytes  # PNG, or empty


def write(path: Path, held: PlanFile) -> None:
    """A plan file, written whole or not at all."""
    atomic.write(path, lambda stream: _fill(stream, held))


def _fill(stream: IO[bytes], held: PlanFile) -> None:
    entries = [
        ("mimetype", MIME.encode(), zipfile.ZIP_STORED),
        ("plan.json", _json(held.plan), zipfile.ZIP_DEFLATED),
        ("sketch", held.sketch, zipfile.ZIP_STORED),
        ("regions.png", png_bytes(held.labels), zipfile.ZIP_STORED),
        ("thumbnail.png", held.thumbnail, zipfile.ZIP_STORED),
    ]
    with zipfile.ZipFile(stream, "w") as archive:
        for name, data, how in entries:
            # A fixed date: the same plan gives the same bytes.
            info = zipfile.ZipInfo(name, (1980, 1, 1, 0, 0, 0))
            info.compress_type = how
            info.external_attr = 0o644 << 16
            archive.writestr(info, data)


def _json(plan: Plan) -> bytes:
    return msgspec.json.format(msgspec.json.encode(plan), indent=1)


def read(path: Path) -> PlanFile:
    """What a plan file holds. Raises Refusal, with one line, for anything that is not a whole plan
    file of a schema we know."""
    return parse(atomic.read(path, MOST_BYTES), str(path))


def parse(data: bytes, subject: str) -> PlanFile:
    """A plan file from its bytes."""
    if not data.startswith(b"PK"):
        raise Refusal(
            subject,
            words("is no plan; open a .umber file, or bring a picture in with New from sketch"),
        )
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            names = _safe_names(archive, subject)
            parts = {n: _entry(archive, n, subject) for n in _MOST if n in names}
    except (zipfile.BadZipFile, zlib.error, EOFError, OSError, KeyError, ValueError) as error:
        raise _damaged(subject, "the file is cut short or broken") from error
    except (RuntimeError, NotImplementedError) as error:
        raise _damaged(subject, "it is packed in a way plans never are") from error
    return _assembled(parts, subject)


def _safe_names(archive: zipfile.ZipFile, subject: str) -> set[str]:
    entries = archive.infolist()
    names = [e.filename for e in entries]
    if len(names) > _MOST_ENTRIES or len(set(names)) != len(names):
        raise _damaged(subject, "it has too many or repeated entries")
    for name in names:
        if (
            name.startswith(("/", "\\"))
            or ".." in name.replace("\\", "/").split("/")
            or ":" in name
        ):
            raise _damaged(subject, "an entry points outside the file")
    return set(names)


def _entry(archive: zipfile.ZipFile, name: str, subject: str) -> bytes:
    """One entry's bytes, counted while they are unpacked: headers lie."""
    with archive.open(name) as stream:
        data = stream.read(_MOST[name] + 1)
    if len(data) > _MOST[name]:
        raise _damaged(subject, f"its {name} is larger than any plan’s")
    return data


def _assembled(parts: dict[str, bytes], subject: str) -> PlanFile:
    missing = [n for n in ("mimetype", "plan.json", "sketch", "regions.png") if n not in parts]
    if missing:
        raise _damaged(subject, f"it has no {missing[0]}")
    if parts["mimetype"] != MIME.encode():
        raise Refusal(subject, words("is a ZIP file but no plan; open a .umber file"))
    plan = _plan(parts["plan.json"], subject)
    if hashlib.sha256(parts["sketch"]).hexdigest() != plan.sketch.hash:
        raise _damaged(subject, "its sketch is not the one it was made for")
    if plan.sketch.size[0] * plan.sketch.size[1] > 100_000_000:
        raise _damaged(subject, "its sketch is over 100 megapixels")
    labels = read_labels(parts["regions.png"], plan.sketch.size, subject)
    if int(labels.max(initial=0)) > max((r.label for r in plan.regions), default=0):
        raise _damaged(subject, "its regions do not fit its picture")
    return PlanFile(plan, parts["sketch"], labels, parts.get("thumbnail.png", b""))


def _plan(data: bytes, subject: str) -> Plan:
    try:
        tree = msgspec.json.decode(data)
        version = tree["schema"] if isinstance(tree, dict) else None
        if not isinstance(version, int) or isinstance(version, bool) or version < 1:
            raise _damaged(subject, "its plan.json names no schema")
        if version > SCHEMA:
            raise Refusal(
                subject,
                words(
                    "was written by a newer version (schema {version}, this one reads up to "
                    "{known}); update the program to open it",
                    version=version,
                    known=SCHEMA,
                ),
            )
        for step in range(version, SCHEMA):
            tree = UPGRADES[step](tree)
        plan = msgspec.convert(tree, Plan)
    except (msgspec.DecodeError, msgspec.ValidationError, RecursionError, UnicodeError) as error:
        why = str(error).split("\n")[0][:120]
        raise _damaged(subject, f"its plan.json is not valid: {why}") from error
    _consistent(plan, subject)
    return plan


def _consistent(plan: Plan, subject: str) -> None:
    """What types cannot say: ids agree with each other."""
    ids = [r.id for r in plan.regions]
    labels = {r.label for r in plan.regions}
    studies = {s.id for s in plan.studies}
    if len(set(ids)) != len(ids) or len(labels) != len(ids) or not ids:
        raise _damaged(subject, "its regions are not told apart")
    if plan.current_study not in studies or len(studies) != len(plan.studies):
        raise _damaged(subject, "its current study is missing")
    if any(set(s.colours) != set(ids) or not set(s.recipes) <= set(ids) for s in plan.studies):
        raise _damaged(subject, "a study’s colours do not match its regions")
    if plan.practice not in PRACTICES:
        raise Refusal(
            subject,
            words("uses the practice {name}, unknown here; update the program", name=plan.practice),
        )
    numbers = {r.key: r for r in PRACTICES[plan.practice].rules}
    for key, number in plan.overrides.items():
        if key not in numbers or not numbers[key].low <= number <= numbers[key].high:
            raise _damaged(subject, f"its number for {key[:40]} is out of range")


def _damaged(subject: str, why: str) -> Refusal:
    return Refusal(subject, words("is damaged: {why}; open a copy or an earlier save", why=why))
