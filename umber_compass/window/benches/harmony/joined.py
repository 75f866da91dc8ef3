"""What only the harmony bench is joined to: looking at a change, the palette library, files."""

import datetime
from collections.abc import Callable
from pathlib import Path

from msgspec.structs import replace
from PySide6.QtCore import QObject

from umber_compass.document.library import Entry
from umber_compass.document.palettes_in import picture_palette, read_palette
from umber_compass.formats import palettes, picture
from umber_compass.formats.palettes import Palette
from umber_compass.plan.edits import Edit, region
from umber_compass.plan.palettes import GivenPalette
from umber_compass.steps.checks import Fix
from umber_compass.steps.harmony.gradation import set_axis
from umber_compass.steps.harmony.mapping import lay_palette, map_palette
from umber_compass.steps.harmony.zones import place_zones
from umber_compass.steps.mood_pictures import mood_pictures
from umber_compass.steps.pipeline import Derived
from umber_compass.steps.ramps.rows import row_order
from umber_compass.window.bench.bench import Bench
from umber_compass.window.bench.window_parts import WindowParts
from umber_compass.window.benches.harmony.harmony_bench import HarmonyBench
from umber_compass.window.desk.what_if import PICTURE_PX, WhatIf
from umber_compass.window.desk.worker import error_line
from umber_compass.window.stage.axis_marks import AxisMark, mark_of
from umber_compass.window.stage.step_marks import Marks
from umber_compass.window.widgets.clipboard import copied, picture_of
from umber_compass.words import Refusal, words
from umber_compass.work import Tick


class Palettes(QObject):
    """Palettes in and out of the bench; files are read on the worker."""

    def __init__(self, bench: HarmonyBench, parts: WindowParts) -> None:
        super().__init__(bench)
        self._bench, self._parts, self._page = bench, parts, bench.library
        self.library = parts.library
        bench.peeked.connect(self._look)
        page = bench.library
        page.opened.connect(self._open)
        page.pasted.connect(self.paste)
        page.searched.connect(self.show)
        page.laid.connect(self.lay)
        page.looked.connect(lambda p: self._look(None if p is None else self._laying(p)))
        page.kept.connect(self.keep)
        page.removed.connect(self._remove)
        bench.paged.connect(self._on_page)

    def _on_page(self) -> None:
        if self._bench.page is self._page:
            self.deliver(datetime.date.today())
            self.show(self._page.search.text())

    def deliver(self, today: datetime.date) -> None:
        """Take in what the palette post brings until a day."""
        try:
            brought = self.library.deliver(today)
        except Refusal as error:
            self._tell(str(error))
            return
        if brought:
            names = ", ".join(p.title for p in brought)
            line = self.tr("The post brought {names}").format(names=names)
            self._parts.desk.told.emit(line, False)

    def show(self, search: str = "") -> None:
        """Show the palettes that hold some words."""
        self._page.show_entries(self.library.entries(search))
        if self.library.faults:
            self._tell(self.library.faults[0])

    def _tell(self, line: str) -> None:
        self._parts.desk.told.emit(line, True)

    def _look(self, edit: Edit | None) -> None:
        fix = None if edit is None else Fix("harmony", edit.name, edit)
        self._parts.peeking.look(fix)

    def _laying(self, palette: GivenPalette) -> Edit | None:
        """The edit that lays a palette over the regions as they are."""
        derived = self._parts.desk.derived
        if derived is None:
            return None
        hexes = [s.hex for s in palette.colours]
        args = (hexes, derived.colours, derived.shares, derived.touching, derived.regions)
        of = map_palette(*args)
        return lay_palette(replace(palette, of=of), dict(derived.shares))

    def lay(self, palette: GivenPalette) -> None:
        """Lay a palette over the regions."""
        edit = self._laying(palette)
        if edit is not None:
            self._look(None)
            self._parts.desk.seal()
            self._parts.desk.do(edit)

    def _open(self) -> None:
        path = self._parts.files.dialogs.palette(self._bench)
        if path is not None:
            self.open(path)

    def open(self, path: Path) -> None:
        """Read a palette, or the colours of a picture, keep it in the library and show it there."""
        self._take(lambda tick: read_palette(path))

    def paste(self) -> None:
        """Take the hexes, or the picture, that were copied."""
        mime = copied()
        if mime.hasImage():
            data, name = picture_of(mime), self.tr("copied picture")
            self._take(lambda tick: picture_palette(picture.decode(data, name, tick).packed, name))
        else:
            text = mime.text()
            self._take(lambda tick: palettes.from_text(text))

    def _take(self, read: Callable[[Tick], Palette]) -> None:
        says = self.tr("Reading a palette")
        orders = self._parts.desk.orders
        orders.ask("palette", lambda: read, self._add, says=says)

    def _add(self, found: Palette) -> None:
        """Keep a palette, and choose it in the list."""
        try:
            path = self.library.add(found)
        except Refusal as error:
            self._tell(error_line(error))
            return
        self._page.search.clear()
        self.show()
        for i, entry in enumerate(self._page.entries):
            if entry.path == path:
                self._page.list.setCurrentRow(i)
        line = self.tr("{title}: {n} colours, kept in the library")
        told = line.format(title=found.title, n=len(found.colours))
        self._parts.desk.told.emit(told, False)

    def keep(self) -> None:
        """Keep the plan's own palette in the library."""
        derived = self._parts.desk.derived
        if derived is not None:
            self._add(plan_palette(derived))

    def _remove(self, entry: Entry) -> None:
        try:
            self.library.remove(entry)
        except Refusal as error:
            self._tell(error_line(error))
        self.show(self._page.search.text())


def plan_palette(derived: Derived) -> Palette:
    """A study's own colours as a palette, in the order of its rows."""
    names = {r.id: r.name for r in derived.regions}
    rows = [
        (end.hex, names[r])
        for r in row_order(derived.study, derived.families)
        for end in derived.colours[r].ends
    ]
    rows += [(s.hex, s.name) for s in derived.study.extras]
    title = f"{derived.plan.title}, {derived.study.title}"
    return Palette(
        "gpl", title, tuple(rows), str(words("the plan {title}", title=derived.plan.title))
    )


def join(bench: Bench, parts: WindowParts) -> None:
    """Join the harmony bench to what only it reaches for."""
    assert isinstance(bench, HarmonyBench)
    Palettes(bench, parts)
    moods = WhatIf(
        parts.desk,
        bench.mood,
        bench.mood.pictures,
        "moods",
        lambda derived, tick: mood_pictures(derived, PICTURE_PX, tick),
    )
    bench.shown.connect(moods.follow)
    parts.stage.axis_moved.connect(lambda mark: _turn_axis(parts, mark))


def _turn_axis(parts: WindowParts, mark: AxisMark) -> None:
    """Give a gradient, or a face's zones, the axis that was dragged."""
    derived = parts.desk.derived
    if derived is not None:
        name = region(derived.plan, mark.region).name
        make = place_zones if mark.zones else set_axis
        parts.desk.do(make(mark.region, mark.axis, name)._replace(merge=None))


def marks(derived: Derived, selected: str) -> Marks:
    """The axis of the chosen region, where it is a gradient."""
    return Marks(axis=mark_of(derived, selected))
