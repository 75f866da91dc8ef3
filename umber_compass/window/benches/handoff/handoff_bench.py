"""The hand-off bench: which files are written, and what each of them will look like."""

from collections.abc import Collection
from typing import TYPE_CHECKING

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QCheckBox, QLineEdit, QPushButton, QWidget

from umber_compass.steps.handoff.card import CardStep, card
from umber_compass.steps.handoff.palette import (
    GREY_CHECK,
    KINDS,
    MORE,
    SAYS,
    chart_rows,
    palette_rows,
    stem,
)
from umber_compass.steps.pipeline import Derived
from umber_compass.window.bench.bench import Bench, quiet
from umber_compass.window.bench.window_parts import WindowParts
from umber_compass.window.benches.handoff.card_page import CardPage
from umber_compass.window.benches.handoff.file_row import FileRow
from umber_compass.window.benches.handoff.layers_page import LayersPage
from umber_compass.window.benches.handoff.painting_page import PaintingPage
from umber_compass.window.benches.handoff.painting_told import PaintingTold
from umber_compass.window.benches.handoff.plan_sheet_page import PlanSheetPage
from umber_compass.window.benches.handoff.references_page import ReferencesPage
from umber_compass.window.benches.handoff.references_writing import write
from umber_compass.window.benches.handoff.sheet import PaletteSheet
from umber_compass.window.desk.folder_links import Link
from umber_compass.window.desk.layer_preview import LayerPreview
from umber_compass.window.desk.sheet_making import SheetMaking
from umber_compass.window.widgets.flow import Flow
from umber_compass.window.widgets.rows import in_column, in_row
from umber_compass.window.widgets.scrolled import scrolled
from umber_compass.window.widgets.tabs import Pages

if TYPE_CHECKING:
    from umber_compass.steps.handoff.preview import Preview


class HandoffBench(Bench):
    """Choose the files and a folder, and write them."""

    wanted = Signal(list)  # kinds of files
    folder_typed = Signal(str)
    browsed = Signal()
    link_wanted = Signal(object)  # Link, or None
    followed = Signal(bool)  # whether what files look like is seen

    def __init__(self) -> None:
        super().__init__("Hand-off")
        self.kinds: dict[str, QCheckBox] = {}
        self._rows: dict[str, FileRow] = {}
        self.layers, self.sheet = LayersPage(), PaletteSheet()
        self.plan_sheet, self.painting = PlanSheetPage(), PaintingPage()
        self.references = ReferencesPage()
        self.card, self._done = CardPage(), frozenset[str]()
        self._card: list[CardStep] = []
        self._sheet_title = quiet("")
        palette = QWidget()
        in_column(self._sheet_title, (scrolled(self.sheet), 1), gap=6, on=palette)
        pages = {
            self.tr("Files"): self._build_files(),
            self.tr("Layers"): self.layers,
            self.tr("References"): self.references,
            self.tr("Palette"): palette,
            self.tr("Plan sheet"): self.plan_sheet,
            self.tr("Painting"): self.painting,
            self.tr("Card"): self.card,
        }
        self.pages = Pages(pages, small=True)
        self.column.addWidget(self.pages.tabs)
        self.add_pages()
        self.forward(self.layers, self.painting, self.card)

    def _build_files(self) -> QWidget:
        """Which files, and where to."""
        for kind in KINDS:
            self._add_kind(kind)
        more = QWidget()
        more.setLayout(Flow([self.kinds[kind] for kind in MORE], gap=12))
        self.folder = QLineEdit()
        self.folder.setAccessibleName(self.tr("Folder"))
        self.folder.textChanged.connect(self._allow)
        self.folder.textEdited.connect(self.folder_typed)
        browse = QPushButton(self.tr("Folder …"))
        browse.clicked.connect(self.browsed)
        self.write = QPushButton(self.tr("Write files"))
        self.write.setObjectName("fix")
        self.write.clicked.connect(self._write)
        self.linked = QCheckBox(self.tr("and at every save"))
        self.linked.setToolTip(
            self.tr("Write the chosen files to this folder anew whenever the plan is saved")
        )
        self.linked.clicked.connect(self._say_link)
        page = QWidget()
        in_column(
            *self._rows.values(),
            quiet(self.tr("The palette in other formats as well")),
            more,
            in_row((self.folder, 1), browse, self.write),
            in_row(1, self.linked),
            1,
            gap=8,
            on=page,
        )
        return page

    def _add_kind(self, kind: str) -> None:
        if kind in MORE:
            box = QCheckBox()
            box.setToolTip(self.tr(SAYS[kind]))
        else:
            self._rows[kind] = row = FileRow(self.tr(SAYS[kind]), stacked=kind == "ora")
            box = row.box
        box.setChecked(kind not in MORE)
        box.toggled.connect(self._allow)
        self.kinds[kind] = box

    def needs(self) -> tuple[str, ...]:
        return ("ramps", "chart")

    def show_derived(self, derived: Derived, selected: str) -> None:
        name = stem(derived.plan.title)
        for kind, box in self.kinds.items():
            full = KINDS[kind].format(stem=name)
            box.setText(full.removeprefix(name).lstrip("-") if kind in MORE else full)
            box.setAccessibleName(full)
        if derived.ramps is not None:
            rows = palette_rows(derived)
            self.sheet.show_rows(rows)
            self._rows["gpl"].glimpse.show_rows(rows)
            line = self.tr("In the palette: {count} colours, each named by region and step")
            self._sheet_title.setText(line.format(count=len(rows)))
        self._rows["chart"].glimpse.show_rows(chart_rows(derived))
        self.layers.show_plan(derived.plan)
        if self.card.isVisibleTo(self):
            self._card = card(derived)
            self.show_done(self._done)
        width, height = derived.plan.sketch.size
        self.says.setText(self.tr("picture {w} x {h} px").format(w=width, h=height))
        self.followed.emit(self.isVisible())

    def show_done(self, done: Collection[str]) -> None:
        """Which steps of the card are done."""
        self._done = frozenset(done)
        self.card.show_card(self._card, self._done)

    def show_preview(self, found: "Preview") -> None:
        """What pictures and layers will look like."""
        for kind, packed in (("flat", found.flat), ("lit", found.lit), ("ora", found.lit)):
            self._rows[kind].glimpse.show_packed(packed)
        top = [(GREY_CHECK, self.tr(GREY_CHECK), False)]
        clipped = self.layers.clipped.isChecked()
        where = "Light, in every material" if clipped else "Light, above all"
        heads = [[("", self.tr(title), True)] for title in (where, "Materials")]
        above = [(layer.name, layer.name, True) for layer in reversed(found.above)]
        light = [(name, name, True) for name in reversed(found.lights)]
        groups, thing = [], ""
        for material in reversed(found.materials):
            region = material.region
            if found.thing_of.get(region.id, "") != thing:
                thing = found.thing_of.get(region.id, "")
                groups.append(("", thing or self.tr("Single materials"), True))
            groups.append((region.id, region.name, True))
        rows = [*top, *above, *(heads[0] if light else []), *light, *heads[1], *groups]
        said = self.tr("The light is off: the layers are the flat colours alone.")
        if found.off is not None:
            line = self.tr(
                "The layers miss the lit picture by CIEDE2000 {mean:.1f} on the mean, by less than"
                " {most:.1f} on 95 of 100 px."
            )
            said = line.format(mean=found.off[0], most=found.off[1])
        self.layers.show_layers(rows, said)

    def show_folder(self, folder: str) -> None:
        """Where the files will go."""
        self.references.show_folder(folder)
        if self.folder.text() != folder:
            self.folder.setText(folder)

    def _allow(self) -> None:
        chosen = any(b.isChecked() for b in self.kinds.values())
        self.write.setEnabled(chosen and bool(self.folder.text().strip()))
        if self.linked.isChecked():  # it follows what is chosen
            self._say_link()

    def _chosen(self) -> list[str]:
        return [k for k, b in self.kinds.items() if b.isChecked()]

    def _write(self) -> None:
        self.wanted.emit(self._chosen())

    def _say_link(self) -> None:
        link = Link(self.folder.text().strip(), tuple(self._chosen()))
        self.link_wanted.emit(link if self.linked.isChecked() else None)

    def show_link(self, link: Link | None) -> None:
        """Whether the files are written at every save, and which."""
        self.linked.setChecked(False)  # what is shown now is not wished
        if link is not None:
            for kind, box in self.kinds.items():
                box.setChecked(kind in link.kinds)
            self.linked.setChecked(True)

    def showEvent(self, event: object) -> None:
        self.followed.emit(True)

    def hideEvent(self, event: object) -> None:
        self.followed.emit(False)


def join(bench: Bench, parts: WindowParts) -> None:
    """The files' own hand writes, and knows the folder; the layers are laid on the worker."""
    assert isinstance(bench, HandoffBench)
    files = parts.files.handing_off
    bench.wanted.connect(files.hand_off)
    bench.browsed.connect(files.browse)
    bench.folder_typed.connect(files.choose_folder)
    files.folder_changed.connect(bench.show_folder)
    bench.show_folder(files.folder)
    if files.links is not None:
        bench.link_wanted.connect(files.links.set)
        files.links.changed.connect(bench.show_link)
        bench.show_link(files.links.link)
    bench.references.wanted.connect(lambda w: write(parts.desk, parts.files, bench, w))
    layers = LayerPreview(parts.desk, bench)
    bench.followed.connect(layers.follow)
    bench.layers.hidden_changed.connect(layers.hide)
    layers.waits.connect(bench.layers.wait)
    layers.found.connect(bench.show_preview)
    layers.laid.connect(bench.layers.show_laid)
    making, page = SheetMaking(parts.desk, parts.files, bench), bench.plan_sheet
    bench.followed.connect(lambda on: making.follow(on and page.isVisible()))
    bench.paged.connect(lambda: making.follow(page.isVisible()))
    page.changed.connect(making.change)
    page.write_wanted.connect(making.write)
    making.waits.connect(lambda: page.picture.wait(bench.tr("The sheet is being made …")))
    making.made.connect(page.picture.show_image)
    _join_painting(bench, parts)
    _join_card(bench, parts)


def _join_card(bench: HandoffBench, parts: WindowParts) -> None:
    """Ticks are kept in the journal."""
    journaling = parts.journaling
    bench.card.ticked.connect(journaling.tick)
    journaling.changed.connect(lambda: bench.show_done(journaling.journal.done))
    bench.show_done(journaling.journal.done)


def _join_painting(bench: HandoffBench, parts: WindowParts) -> None:
    """The painting is watched whether its page is open or not."""
    page, watch = bench.painting, parts.watch

    def browse() -> None:
        path = parts.files.dialogs.painting(page)
        if path is not None:
            watch.add(path)

    page.browse_wanted.connect(browse)
    PaintingTold(parts.desk, watch, page, bench.edit_wanted.emit)
    bench.followed.connect(lambda on: watch.follow(on and page.isVisible()))
    bench.paged.connect(lambda: watch.follow(page.isVisible()))
