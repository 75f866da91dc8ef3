"""The plan file `.umber`: a ZIP that keeps plan, sketch, regions and thumbnail together.

Entries are read by name into memory with bounds counted while reading; nothing is unpickled or
extracted to a path. Format: docs/plan-format.md.
"""

import hashlib
import io
import struct
import zipfile
import zlib
from collections.abc import Mapping
from pathlib import Path
from types import MappingProxyType
from typing import IO, NamedTuple

import msgspec
import numpy as np
import numpy.typing as npt

from umber_compass.formats import atomic, upgrades
from umber_compass.formats.archives import points_outside
from umber_compass.formats.picture import MOST_BYTES, read_labels
from umber_compass.plan.journal import Journal
from umber_compass.plan.model import SCHEMA, Candidate, Plan, Region, Sketch
from umber_compass.plan.practices import PRACTICES
from umber_compass.plan.ranges import fault_of
from umber_compass.words import Refusal, words

PACKED_AS = (zipfile.ZIP_STORED, zipfile.ZIP_DEFLATED)  # other ways are never read
MIME = "application/x-umber-plan"
ENDING = ".umber"
JOURNAL = "journal.json"
_MOST_ENTRIES = 256
_MOST = {
    "mimetype": 100,
    "plan.json": 16_000_000,
    JOURNAL: 16_000_000,
    "thumbnail.png": 8_000_000,
}  # bytes
_MOST_PX = 100_000_000
_MOST_REGIONS = 2048  # more than any sketch is split into
SKETCHES, LABELS, REFERENCES = "sketches/", "labels/", "references/"


class PlanFile(NamedTuple):
    """What a plan file holds."""

    plan: Plan
    sketches: dict[str, bytes]  # by hash, the pictures as they were brought in
    labels: dict[str, bytes]  # by hash, PNGs that say which region each px belongs to
    arrays: dict[str, npt.NDArray[np.uint16]]  # the same as numbers, (h, w), read-only
    thumbnail: bytes  # PNG, or empty
    references: Mapping[str, bytes] = MappingProxyType({})  # by hash, pictures kept beside the plan
    schema: int = SCHEMA  # of the file as it lay there
    journal: Journal = Journal()


class _Schema(msgspec.Struct):
    schema: int = SCHEMA


def write(path: Path, held: PlanFile) -> None:
    """A plan file, written whole or not at all."""
    atomic.write(path, lambda stream: _fill(stream, held))


def _fill(stream: IO[bytes], held: PlanFile) -> None:
    stored, deflated = zipfile.ZIP_STORED, zipfile.ZIP_DEFLATED
    entries = [
        ("mimetype", MIME.encode(), stored),
        ("plan.json", json_of(held.plan), deflated),
        (JOURNAL, msgspec.json.encode(held.journal), deflated),
        *((SKETCHES + h, data, stored) for h, data in sorted(held.sketches.items())),
        *((f"{LABELS}{h}.png", data, stored) for h, data in sorted(held.labels.items())),
        *((REFERENCES + h, data, stored) for h, data in sorted(held.references.items())),
        ("thumbnail.png", held.thumbnail, stored),
    ]
    with zipfile.ZipFile(stream, "w") as archive:
        for name, data, how in entries:
            # A fixed date: the same plan gives the same bytes.
            info = zipfile.ZipInfo(name, (1980, 1, 1, 0, 0, 0))
            info.compress_type = how
            info.external_attr = 0o644 << 16
            archive.writestr(info, data)


def json_of(plan: Plan) -> bytes:
    """A plan as its file holds it."""
    return msgspec.json.format(msgspec.json.encode(plan), indent=1)


def read(path: Path) -> PlanFile:
    """What a plan file holds. Raises Refusal, with one line, for anything that is not a whole plan
    file of a schema we know."""
    with atomic.opened(path, MOST_BYTES) as stream:
        return _parse(stream, str(path))


def parse(data: bytes, subject: str) -> PlanFile:
    """A plan file from its bytes."""
    return _parse(io.BytesIO(data), subject)


def _parse(stream: IO[bytes], subject: str) -> PlanFile:
    try:
        begins = stream.read(2)
        if begins != b"PK":
            line = words(
                "is no plan; open a .umber file, or bring a picture in with New from sketch"
            )
            raise Refusal(subject, line)
        with zipfile.ZipFile(stream) as archive:
            parts = _entries(archive, subject)
    except (NotImplementedError, RuntimeError) as error:
        raise _damaged(subject, "it is packed in a way plans never are") from error
    except (zipfile.BadZipFile, zlib.error, EOFError, OSError, LookupError, ValueError) as error:
        raise _damaged(subject, "the file is cut short or broken") from error
    except (struct.error, OverflowError, MemoryError) as error:
        raise _damaged(subject, "the file is cut short or broken") from error
    return _assembled(parts, subject)


def _entries(archive: zipfile.ZipFile, subject: str) -> dict[str, bytes]:
    """The entries that are ours, unpacked within bounds, each and together."""
    names = _safe_names(archive, subject)
    if any(e.compress_type not in PACKED_AS for e in archive.infolist()):
        raise _damaged(subject, "it is packed in a way plans never are")
    parts: dict[str, bytes] = {}
    left = MOST_BYTES
    for name in sorted(n for n in names if _is_ours(n)):
        parts[name] = _entry(archive, name, left, subject)
        left -= len(parts[name])
    return parts


def _safe_names(archive: zipfile.ZipFile, subject: str) -> set[str]:
    entries = archive.infolist()
    names = [e.filename for e in entries]
    if len(names) > _MOST_ENTRIES or len(set(names)) != len(names):
        raise _damaged(subject, "it has too many or repeated entries")
    if any(map(points_outside, names)):
        raise _damaged(subject, "an entry points outside the file")
    return set(names)


def _is_ours(name: str) -> bool:
    """Whether an entry is part of a plan of any schema; what else a file holds is left alone."""
    return (
        name in _MOST
        or name.startswith((SKETCHES, LABELS, REFERENCES))
        or name in upgrades.OLD_ENTRIES
    )


def _entry(archive: zipfile.ZipFile, name: str, left: int, subject: str) -> bytes:
    """One entry's bytes, counted while they are unpacked: headers lie. `left` is what all that are
    still to come may hold."""
    with archive.open(name) as stream:
        most = min(_MOST.get(name, MOST_BYTES), left)
        data = stream.read(most + 1)
    if len(data) > most:
        raise _damaged(subject, f"its {name} is larger than any plan’s")
    return data


def _assembled(parts: dict[str, bytes], subject: str) -> PlanFile:
    missing = [n for n in ("mimetype", "plan.json") if n not in parts]
    if missing:
        raise _damaged(subject, f"it has no {missing[0]}")
    if parts["mimetype"] != MIME.encode():
        raise Refusal(subject, words("is a ZIP file but no plan; open a .umber file"))
    schema = _schema_of(parts["plan.json"])
    plan = _plan(parts, subject)
    journal = journal_of(parts.get(JOURNAL, b""), subject)
    return _held(plan, parts, subject)._replace(schema=schema, journal=journal)


def journal_of(data: bytes, subject: str) -> Journal:
    """A journal from its JSON; an empty one from nothing. Raises Refusal for what is none."""
    try:
        return msgspec.json.decode(data, type=Journal) if data else Journal()
    except (msgspec.MsgspecError, RecursionError, ValueError) as error:
        why = str(error).split("\n")[0][:120]
        raise _damaged(subject, f"its {JOURNAL} is not valid: {why}") from error


def _schema_of(data: bytes) -> int:
    """The schema a plan was written in; today's where it says none that is known."""
    try:
        return msgspec.json.decode(data, type=_Schema).schema
    except msgspec.MsgspecError:
        return SCHEMA


def plan_of(data: bytes, subject: str) -> Plan:
    """A plan from its JSON. Raises Refusal for what is none."""
    return _plan({"plan.json": data}, subject)


def held_of(plan: Plan, pictures: Mapping[str, bytes], thumbnail: bytes, subject: str) -> PlanFile:
    """What a file of a plan would hold, of the pictures and label maps it names, by hash. Raises
    Refusal where one is missing or is another."""
    parts = {"thumbnail.png": thumbnail}
    for key, data in pictures.items():
        parts |= {SKETCHES + key: data, f"{LABELS}{key}.png": data, REFERENCES + key: data}
    return _held(plan, parts, subject)


def _held(plan: Plan, parts: Mapping[str, bytes], subject: str) -> PlanFile:
    sketches: dict[str, bytes] = {}
    labels: dict[str, bytes] = {}
    arrays: dict[str, npt.NDArray[np.uint16]] = {}
    for sketch, regions in (
        (plan.sketch, plan.regions),
        *((c.sketch, c.regions) for c in plan.candidates),
    ):
        sketches[sketch.hash] = _named(parts, SKETCHES + sketch.hash, sketch.hash, subject)
        png = _named(parts, f"{LABELS}{sketch.labels}.png", sketch.labels, subject)
        labels[sketch.labels] = png
        arrays[sketch.labels] = _label_pixels(png, sketch, regions, subject)
    references = {
        r.hash: _named(parts, REFERENCES + r.hash, r.hash, subject) for r in plan.references
    }
    return PlanFile(plan, sketches, labels, arrays, parts.get("thumbnail.png", b""), references)


def _named(parts: Mapping[str, bytes], name: str, wanted: str, subject: str) -> bytes:
    """An entry that is named by its content's hash."""
    if name not in parts:
        raise _damaged(subject, f"it has no {name.split('/')[0]} its plan speaks of")
    if hashlib.sha256(parts[name]).hexdigest() != wanted:
        raise _damaged(subject, "a picture in it is not the one it was made for")
    return parts[name]


def _label_pixels(
    png: bytes, sketch: Sketch, regions: tuple[Region, ...], subject: str
) -> npt.NDArray[np.uint16]:
    if sketch.size[0] * sketch.size[1] > _MOST_PX:
        raise _damaged(subject, "its sketch is over 100 megapixels")
    found = read_labels(png, sketch.size, subject)
    if int(found.max(initial=0)) > max((r.label for r in regions), default=0):
        raise _damaged(subject, "its regions do not fit its picture")
    found.flags.writeable = False
    return found


def _plan(parts: dict[str, bytes], subject: str) -> Plan:
    try:
        tree = msgspec.json.decode(parts["plan.json"])
        version = tree.get("schema") if isinstance(tree, dict) else None
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
            upgrades.UPGRADES[step](tree, parts)
        upgrades.mark_read(tree)
        plan = msgspec.convert(tree, Plan)
    except (msgspec.MsgspecError, RecursionError, ValueError, OverflowError) as error:
        why = str(error).split("\n")[0][:120]
        raise _damaged(subject, f"its plan.json is not valid: {why}") from error
    except (KeyError, TypeError, AttributeError) as error:
        raise _damaged(subject, "its plan.json lacks what an older plan has") from error
    _consistent(plan, subject)
    return plan


def _consistent(plan: Plan, subject: str) -> None:
    """What types cannot say: ids agree with each other."""
    _studies_agree(plan, subject)
    for candidate in plan.candidates:
        _studies_agree(candidate, subject)
    if len({r.id for r in plan.references}) != len(plan.references):
        raise _damaged(subject, "its references are not told apart")
    candidates = [c.id for c in plan.candidates]
    if len(set(candidates)) != len(candidates):
        raise _damaged(subject, "its candidates are not told apart")
    if plan.practice not in PRACTICES:
        raise Refusal(
            subject,
            words("uses the practice {name}, unknown here; update the program", name=plan.practice),
        )
    numbers = {r.key: r for r in PRACTICES[plan.practice].rules}
    for key, number in plan.overrides.items():
        if key not in numbers or not numbers[key].low <= number <= numbers[key].high:
            raise _damaged(subject, f"its number for {key[:40]} is out of range")


def _studies_agree(part: Plan | Candidate, subject: str) -> None:
    ids = [r.id for r in part.regions]
    if len(ids) > _MOST_REGIONS:
        raise _damaged(subject, f"it has {len(ids):,} regions, more than {_MOST_REGIONS:,}")
    labels = {r.label for r in part.regions}
    studies = {s.id for s in part.studies}
    if len(set(ids)) != len(ids) or len(labels) != len(ids) or not ids:
        raise _damaged(subject, "its regions are not told apart")
    if part.current_study not in studies or len(studies) != len(part.studies):
        raise _damaged(subject, "its current study is missing")
    if any(set(s.colours) != set(ids) or not set(s.recipes) <= set(ids) for s in part.studies):
        raise _damaged(subject, "a study’s colours do not match its regions")
    faults = [fault for s in part.studies if (fault := fault_of(s, set(ids)))]
    if faults:
        raise _damaged(subject, faults[0])
    lamps = [[lamp.name for lamp in s.rig.lamps] for s in part.studies if s.rig]
    if any(len(set(names)) != len(names) for names in lamps):
        raise _damaged(subject, "its lamps are not told apart")


def _damaged(subject: str, why: str) -> Refusal:
    return Refusal(subject, words("is damaged: {why}; open a copy or an earlier save", why=why))
