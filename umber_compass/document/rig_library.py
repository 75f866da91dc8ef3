"""The artist's own rigs: a folder of small JSON files in the user's data folder."""

import re
from pathlib import Path
from typing import Literal

import msgspec
from platformdirs import user_data_dir

from umber_compass.formats import atomic
from umber_compass.plan.rig import Ambient, Lamp, Rig, Terminator
from umber_compass.plan.rigs import RigSpec
from umber_compass.words import Refusal, words

ENDING = ".rig.json"
_MOST_BYTES, _MOST_FILES, _LONGEST = 200_000, 500, 60


class _File(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """A rig as it is written: lights only, not how they are drawn."""

    format: Literal["umber-compass-rig-1"] = "umber-compass-rig-1"
    title: str
    ambient: Ambient
    lamps: tuple[Lamp, ...]
    terminator: Terminator


class RigLibrary:
    """Own rigs by title; what cannot be read is left out and said."""

    def __init__(self, folder: Path | None = None) -> None:
        self.folder = folder or Path(user_data_dir("umber-compass")) / "rigs"
        self.faults: list[str] = []  # one line for each file that could not be read

    def rigs(self) -> dict[Path, RigSpec]:
        """Every own rig by its file, in the order of titles."""
        self.faults, found = [], {}
        try:
            paths = sorted(p for p in self.folder.iterdir() if p.name.endswith(ENDING))
        except OSError:
            return {}
        for path in paths[:_MOST_FILES]:
            try:
                found[path] = read(path)
            except Refusal as refusal:
                self.faults.append(str(refusal))
        return dict(sorted(found.items(), key=lambda both: both[1].title.casefold()))

    def keep(self, title: str, rig: Rig) -> Path:
        """Write the lights of a rig under a title; one of that title is written over. Raises
        Refusal for no title, and where it cannot be written."""
        kept = " ".join(title.split())[:_LONGEST]
        if not kept:
            raise Refusal("a rig", words("needs a name; write one"))
        atomic.make_folder(self.folder)
        same = [path for path, spec in self.rigs().items() if spec.title == kept]
        stem = re.sub(r"[^a-z0-9]+", "-", kept.casefold()).strip("-") or "rig"
        tried = (self.folder / f"{stem}{(n and f'-{n + 1}') or ''}{ENDING}" for n in range(1000))
        path = same[0] if same else next((p for p in tried if not p.exists()), None)
        if path is None:
            raise Refusal(kept, words("is there a thousand times; name it otherwise"))
        # Regions of this plan mean nothing to another.
        lamps = tuple(msgspec.structs.replace(lamp, spares=()) for lamp in rig.lamps)
        file = _File(title=kept, ambient=rig.ambient, lamps=lamps, terminator=rig.terminator)
        text = msgspec.json.format(msgspec.json.encode(file), indent=1)
        atomic.write_data(path, text + b"\n")
        return path

    def remove(self, path: Path) -> None:
        """Take an own rig away. Raises Refusal where its file cannot be removed."""
        try:
            path.unlink(missing_ok=True)
        except OSError as error:
            line = words("could not be removed; check the folder’s permissions")
            raise Refusal(str(path), line) from error


def read(path: Path) -> RigSpec:
    """A rig from its file. Raises Refusal for what is none."""
    try:
        file = msgspec.json.decode(atomic.read(path, _MOST_BYTES), type=_File)
    except (msgspec.DecodeError, UnicodeDecodeError, RecursionError) as error:
        line = words("is no rig of this program, or is damaged; keep the lights anew")
        raise Refusal(str(path), line) from error
    names = [lamp.name for lamp in file.lamps]
    if not names or len(names) > 12 or len(set(names)) < len(names):
        line = words("is a rig whose lamps cannot be told apart; keep the lights anew")
        raise Refusal(str(path), line)
    says = words("your own: {lamps}", lamps=", ".join(names))
    return RigSpec(path.name, file.title, str(says), file.ambient, file.lamps, file.terminator)
