"""The palette library: a folder of open palette files in the user's data folder, each with its
source and tags; the palettes that ship with the program; and the palette post, a stand-in for a
subscription that delivers one more each week."""

import datetime
import re
from collections.abc import Iterable
from pathlib import Path
from typing import NamedTuple

from platformdirs import user_data_dir

from umber_compass.formats import atomic, palettes
from umber_compass.formats.palettes import Palette
from umber_compass.plan.palettes import GivenPalette
from umber_compass.steps.harmony.palette_source import kept_palette
from umber_compass.words import Refusal, words

_ASSETS = Path(__file__).parents[1] / "assets"
SHIPPED, POST = _ASSETS / "palettes", _ASSETS / "post"
_SINCE = "post-since.txt"
_MOST_FILES = 2000
_DAYS = 7


class Entry(NamedTuple):
    """One palette of the library."""

    palette: Palette
    path: Path
    own: bool  # in the user's folder, and not shipped

    def holds(self, text: str) -> bool:
        """Whether each word of a text stands in its title, source, tags or colour names."""
        names = " ".join(n for _, n in self.palette.colours[:256])
        said = f"{self.palette.title} {self.palette.source} {' '.join(self.palette.tags)} {names}"
        return all(word in said.casefold() for word in text.casefold().split())

    def kept(self) -> GivenPalette:
        """It as a plan keeps it."""
        return kept_palette(self.palette.title, self.palette.source, self.palette.colours)


class Library:
    """Palettes by title; what cannot be read is left out and said."""

    def __init__(self, folder: Path | None = None) -> None:
        data = Path(user_data_dir("umber-compass"))
        self.folder = folder or data / "palettes"
        self.rigs = (folder or data) / "rigs"  # where own rigs lie (rig_library.py)
        self.faults: list[str] = []  # one line for each file that could not be read

    def entries(self, search: str = "") -> list[Entry]:
        """The palettes that hold the words searched for, the user's own first."""
        self.faults = []
        found = [*self._in(self.folder, True), *self._in(SHIPPED, False)]
        return [e for e in found if e.holds(search)]

    def _in(self, folder: Path, own: bool) -> Iterable[Entry]:
        try:
            paths = sorted(p for p in folder.iterdir() if p.suffix.lower() in (".gpl", ".hex"))
        except OSError:
            return []
        found = []
        for path in paths[:_MOST_FILES]:
            try:
                found.append(Entry(palettes.read(path), path, own))
            except Refusal as refusal:
                self.faults.append(str(refusal))
        return sorted(found, key=lambda e: e.palette.title.casefold())

    def add(self, palette: Palette) -> Path:
        """Keep a palette in the user's folder, under a name of its own. Raises Refusal if it cannot
        be written."""
        atomic.make_folder(self.folder)
        stem = re.sub(r"[^a-z0-9]+", "-", palette.title.casefold()).strip("-")[:60] or "palette"
        tried = (f"{stem}{(n and f'-{n + 1}') or ''}.gpl" for n in range(1000))
        path = next((self.folder / t for t in tried if not (self.folder / t).exists()), None)
        if path is None:
            raise Refusal(palette.title, words("is there a thousand times; name it otherwise"))
        palettes.write(palette, path)
        return path

    def remove(self, entry: Entry) -> None:
        """Take one of the user's own away. Raises Refusal for one that ships with the program."""
        if not entry.own:
            raise Refusal(entry.palette.title, words("ships with the program and stays"))
        try:
            entry.path.unlink(missing_ok=True)
        except OSError as error:
            line = words("could not be removed; check the folder’s permissions")
            raise Refusal(str(entry.path), line) from error

    def find(self, title: str) -> Entry:
        """The palette with this title. Raises Refusal where it is gone."""
        found = next((e for e in self.entries() if e.palette.title == title), None)
        if found is None:
            line = words("is not in the library any more; the plan keeps its colours")
            raise Refusal(title[:60] or "the palette", line)
        return found

    def deliver(self, today: datetime.date) -> list[Palette]:
        """What the post brings until a day: one palette at once, one more after each week. Those
        that were brought before, or were removed, do not come again."""
        atomic.make_folder(self.folder)
        since, came = self._post_state(today)
        due = 1 + max((today - since).days, 0) // _DAYS
        waiting = sorted(POST.glob("*.gpl"))[came:due]
        brought = [palettes.read(path) for path in waiting]
        for palette in brought:
            self.add(palette)
        state = f"{since.isoformat()} {came + len(brought)}\n"
        atomic.write_data(self.folder / _SINCE, state.encode())
        return brought

    def _post_state(self, today: datetime.date) -> tuple[datetime.date, int]:
        """Since when the post comes, and how much of it came."""
        text = atomic.beginning(self.folder / _SINCE, 100).decode(errors="replace").split()
        try:
            return datetime.date.fromisoformat(text[0]), max(int(text[1]), 0)
        except (IndexError, ValueError):
            return today, 0
