"""Work that no file holds yet, and the versions that were saved last, kept in the state folder."""

import hashlib
import os
import secrets
import time
from collections.abc import Sequence
from contextlib import suppress
from pathlib import Path

import msgspec

from umber_compass.document.pixels import Pixels, hash_of
from umber_compass.formats import plan_file, records
from umber_compass.formats.atomic import Stamp
from umber_compass.formats.plan_file import PlanFile
from umber_compass.formats.records import Entry, Lock, Record, Records
from umber_compass.plan.journal import Journal
from umber_compass.plan.model import Plan
from umber_compass.words import Refusal, words

MOST_VERSIONS = 10  # of one plan
MOST_ASIDE = 40  # works that were put aside
MOST_BYTES = 200_000_000  # of all versions, with the pictures only they need
_RECOVERY, _VERSIONS, _ASIDE = "recovery", "versions", "aside"
_TOLD = 5  # changes whose names are kept


def record_of(
    plan: Plan,
    path: Path | None,
    thumbnail: bytes = b"",
    stamp: Stamp | None = None,
    changes: Sequence[str] = (),
    journal: Journal | None = None,
) -> Record:
    """A plan as it is now, for keeping; `changes` are those since it was saved before."""
    return Record(
        pictures=tuple(dict.fromkeys(Pixels.keys_of(plan))),
        title=plan.title,
        time_s=time.time(),
        path="" if path is None else _text_of(path),
        stamp=stamp,
        count=len(changes),
        changes=tuple(changes[-_TOLD:]),
        thumbnail=thumbnail,
        journal=b"" if journal is None else msgspec.json.encode(journal),
        plan=msgspec.Raw(msgspec.json.encode(plan)),
    )


class KeptWork:
    """One folder of records; without a folder nothing is kept. `keep` and `forget` are for the work
    of this process; what another one left is found by `left`."""

    def __init__(self, folder: Path | None) -> None:
        self._records = None if folder is None else Records(folder)
        self._name = f"{os.getpid()}-{secrets.token_hex(6)}"
        self._lock = Lock()

    @property
    def is_on(self) -> bool:
        """Whether there is a folder to keep anything in."""
        return self._records is not None

    def keep(self, pixels: Pixels, record: Record) -> None:
        """Keep this process's unsaved work, in the place of what it kept before. Raises Refusal if
        it cannot be written."""
        if self._records is not None:
            file = self._records.file(_RECOVERY, self._name)
            self._lock.hold(file)
            self._records.write(file, record, pixels.named_by(record.pictures))

    def forget(self) -> None:
        """This process's work is saved, or the artist let it go."""
        if self._records is not None:
            self._records.file(_RECOVERY, self._name).unlink(missing_ok=True)

    def close(self) -> None:
        """This process keeps nothing any more."""
        self.forget()
        if self._records is not None:
            self._lock.release(self._records.file(_RECOVERY, self._name))

    def left(self) -> list[Entry]:
        """Work that processes left that are gone, the newest first."""
        found = [] if self._records is None else self._records.entries(_RECOVERY)
        return [e for e in found if not records.is_held(e.file)]

    def drop(self, entry: Entry) -> None:
        """Let a record go: its work lies on the desk now."""
        records.drop(entry.file)

    def put_aside(self, entry: Entry) -> None:
        """Offer a record no longer; it waits in `aside`."""
        if self._records is None:
            return
        file = self._records.file(_VERSIONS, _ASIDE, _name_of(entry.record))
        records.make_private(file.parent)
        try:
            entry.file.replace(file)
        except OSError:
            return  # it is offered again
        records.drop(entry.file)
        self._prune(self._records, (_VERSIONS, _ASIDE), MOST_ASIDE)

    def aside(self) -> list[Entry]:
        """What was put aside, of any plan, the newest first."""
        return [] if self._records is None else self._records.entries(_VERSIONS, _ASIDE)

    def add_version(
        self, plan: Plan, pixels: Pixels, path: Path, thumbnail: bytes, changes: Sequence[str]
    ) -> None:
        """Keep a plan as it was just saved; what cannot be kept is no reason to say that saving
        failed."""
        if self._records is None:
            return
        record = record_of(plan, path, thumbnail, None, changes, pixels.journal)
        newest = self.versions(path)[:1]
        if newest and bytes(newest[0].record.plan) == bytes(record.plan):
            return
        folder = (_VERSIONS, _key_of(path))
        with suppress(Refusal, OSError):
            file = self._records.file(*folder, _name_of(record))
            self._records.write(file, record, pixels.named_by(record.pictures))
            self._prune(self._records, folder, MOST_VERSIONS)

    def versions(self, path: Path) -> list[Entry]:
        """What was kept of a plan's file, the newest first."""
        return [] if self._records is None else self._records.entries(_VERSIONS, _key_of(path))

    def opened(self, entry: Entry) -> PlanFile:
        """What a record holds, as a plan file does. Raises Refusal where it is not whole."""
        subject, pictures = entry.record.title, dict[str, bytes]()
        plan = plan_file.plan_of(bytes(entry.record.plan), subject)
        assert self._records is not None  # an entry comes from there
        for key in entry.record.pictures:
            pictures[key] = self._records.picture(key)
            if hash_of(pictures[key]) != key:
                raise Refusal(subject, words("was kept with a damaged picture; open its file"))
        held = plan_file.held_of(plan, pictures, entry.record.thumbnail, subject)
        return held._replace(journal=plan_file.journal_of(entry.record.journal, subject))

    def _prune(self, kept: Records, folder: tuple[str, ...], most: int) -> None:
        """At most so many records in a folder, and so many bytes in all; the oldest go first."""
        for old in sorted(kept.files(*folder), key=lambda f: f.name)[:-most]:
            records.drop(old)
        kept.prune(_VERSIONS, _RECOVERY, MOST_BYTES)


def _text_of(path: Path) -> str:
    return str(path.absolute()).encode(errors="surrogateescape").decode(errors="replace")


def _key_of(path: Path) -> str:
    return hashlib.blake2b(_text_of(path).encode(), digest_size=16).hexdigest()


def _name_of(record: Record) -> str:
    return f"{int(record.time_s * 1e6):020d}"
