"""What works in a window: the desk, the parts that are seen, the commands, made in their order."""

from pathlib import Path
from typing import TYPE_CHECKING, NamedTuple

from PySide6.QtWidgets import QMainWindow

from umber_compass.document.library import Library
from umber_compass.formats.cache import Cache
from umber_compass.window.commands.colouring import Colouring
from umber_compass.window.commands.context import ContextMenu
from umber_compass.window.commands.first_colours import FirstColours
from umber_compass.window.commands.focusing import Focusing
from umber_compass.window.commands.guiding import Guide
from umber_compass.window.commands.recent import Recent
from umber_compass.window.commands.region_commands import RegionCommands
from umber_compass.window.commands.regions import Regions
from umber_compass.window.commands.stage_gestures import StageGestures
from umber_compass.window.commands.steps import StepCommands
from umber_compass.window.commands.studies import StudyCommands
from umber_compass.window.commands.study_making import StudyMaking
from umber_compass.window.commands.table import Commands, conditions, table
from umber_compass.window.commands.versions import VersionCommands
from umber_compass.window.commands.views import ViewCommands
from umber_compass.window.desk.bringing_back import BringingBack
from umber_compass.window.desk.desk import Desk
from umber_compass.window.desk.files import Files
from umber_compass.window.desk.folder_links import FolderLinks
from umber_compass.window.desk.journaling import Journaling
from umber_compass.window.desk.keeping import Keeping
from umber_compass.window.desk.painting_watch import PaintingWatch
from umber_compass.window.desk.recent_plans import RecentPlans
from umber_compass.window.desk.references import References
from umber_compass.window.desk.remembered import Remembered
from umber_compass.window.desk.reworking import Reworking
from umber_compass.window.desk.sketch_files import SketchFiles
from umber_compass.window.desk.splitting import Splitting
from umber_compass.window.frame.following import Following
from umber_compass.window.frame.help import Help
from umber_compass.window.frame.layout import Layout
from umber_compass.window.stage.director import Director
from umber_compass.window.stage.marks import StageMarks
from umber_compass.window.start.page import StartPage
from umber_compass.window.strip.small_views import SmallViews
from umber_compass.window.widgets.actions import Actions
from umber_compass.window.widgets.dialogs import Dialogs

if TYPE_CHECKING:
    from umber_compass.window.desk.breaks import Breaks


BREAKS = "breaks"  # remembered where they are wished


class Works(NamedTuple):
    """The parts of one window."""

    desk: Desk
    layout: Layout
    files: Files
    regions: Regions
    director: Director
    marks: StageMarks
    small_views: SmallViews
    menus: Actions
    following: Following
    views: ViewCommands
    steps: StepCommands
    start: StartPage
    remembered: Remembered
    recent: Recent
    help: Help
    context: ContextMenu
    focusing: Focusing
    studies: StudyCommands
    first: FirstColours
    colouring: Colouring
    library: Library
    region_commands: RegionCommands
    splitting: Splitting
    references: References
    sketches: SketchFiles
    keeping: Keeping
    versions: VersionCommands
    plans: RecentPlans
    journaling: Journaling
    watch: PaintingWatch
    guide: Guide


def make(
    window: QMainWindow,
    dialogs: Dialogs,
    cache: Cache | None,
    remembered: Remembered,
    library: Library | None = None,
    state: Path | None = None,
) -> Works:
    """Make the parts of a window, and its menus."""
    desk, layout = Desk(cache, state), Layout()
    keeping, journaling = Keeping(desk), Journaling(desk)
    remembered.setParent(desk)
    files, regions = Files(desk, layout, dialogs), Regions(desk)
    director, marks = Director(desk, layout.stage), StageMarks(desk, layout.stage)
    small_views = SmallViews(desk, layout.strip)
    menus = Actions(window, desk.session.taking.emit)
    following = Following(window, desk, layout, director, marks, menus)
    views = ViewCommands(window, desk.session, layout, following)
    focusing = Focusing(desk, layout, marks, director)
    steps = StepCommands(desk.session, layout, following, small_views)

    rework, splitting = Reworking(desk), Splitting(desk)
    on_stage = StageGestures(desk, layout.stage, marks, steps, rework)
    region_commands = RegionCommands(desk, regions, steps, on_stage)
    sketches, references = SketchFiles(files, layout), References(desk)
    splitting.found.connect(sketches.tell_followed)
    library = library or Library()
    studies = StudyCommands(desk, layout, menus)
    making = StudyMaking(studies.shown, layout, files, library)
    colouring = Colouring(desk, layout)
    first = FirstColours(studies.shown, steps)

    context = ContextMenu(desk, layout, regions, steps, marks, menus)
    bringing = BringingBack(desk, keeping.now)
    versions = VersionCommands(desk, files, bringing, layout)
    menus.conditions |= conditions(desk, regions, region_commands)
    commands = Commands(
        window,
        desk,
        files,
        sketches,
        versions,
        regions,
        region_commands,
        focusing,
        steps,
        studies,
        making,
        first,
        colouring,
        views,
        lambda page: pages.open(page),
        lambda: _open_here(pages, desk, layout),
        lambda: _beside(window, desk, regions, journaling, views),
        lambda: _see_references(window, references, regions, views),
        lambda: _tell_story(window, desk, files, remembered),
        lambda: _train(window, desk, state),
    )
    menus.fill(table(commands))
    menus.attach(layout.wall.sheet.menu(), "sheet")
    pages = Help(menus.specs.values(), window)
    plans = RecentPlans(remembered)
    recent = Recent(menus.menu("File"), remembered, plans, files)
    start = StartPage()
    start.picked.connect(files.open_path)
    start.choosing.connect(files.new)
    start.composed.connect(sketches.compose)
    plans.changed.connect(start.show_plans)
    plans.look()
    bringing.found.connect(start.show_left)
    start.brought_back.connect(versions.bring_back)
    start.put_aside.connect(bringing.put_aside)
    bringing.look()
    desk.filed.connect(remembered.add)
    if remembered.word(BREAKS):
        breaks_of(desk, remembered)
    files.handing_off.follow(FolderLinks(files.documents, remembered))
    return Works(
        desk,
        layout,
        files,
        regions,
        director,
        marks,
        small_views,
        menus,
        following,
        views,
        steps,
        start,
        remembered,
        recent,
        pages,
        context,
        focusing,
        studies,
        first,
        colouring,
        library,
        region_commands,
        splitting,
        references,
        sketches,
        keeping,
        versions,
        plans,
        journaling,
        PaintingWatch(desk, journaling, remembered),
        Guide(layout.guide, desk, steps, remembered),
    )


def breaks_of(desk: Desk, remembered: Remembered) -> "Breaks":
    """The reminder of breaks of a window: few have one."""
    from umber_compass.window.desk.breaks import Breaks

    return desk.findChild(Breaks) or Breaks(desk, remembered)


def _beside(
    window: QMainWindow,
    desk: Desk,
    regions: Regions,
    journaling: Journaling,
    views: ViewCommands,
) -> None:
    """Open the strip beside the painting, or close it; loaded when it is first wished."""
    from umber_compass.window.beside.beside import Beside

    beside = desk.findChild(Beside)
    if beside is None:
        beside = Beside(window, desk, regions, journaling)
        views.roomed.connect(beside.dress)
    beside.toggle()


def _see_references(
    window: QMainWindow, references: References, regions: Regions, views: ViewCommands
) -> None:
    """Open the window of reference pictures, or close it; loaded when it is first wished."""
    from umber_compass.window.beside.references_beside import ReferencesBeside

    desk = references.desk
    beside = desk.findChild(ReferencesBeside)
    if beside is None:
        beside = ReferencesBeside(window, desk, references, regions)
        views.roomed.connect(beside.dress)
    beside.toggle()


def _tell_story(window: QMainWindow, desk: Desk, files: Files, remembered: Remembered) -> None:
    """Open the story strip; loaded when it is first wished."""
    from umber_compass.window.story.telling import StoryTelling

    (desk.findChild(StoryTelling) or StoryTelling(window, desk, files, remembered)).open()


def _train(window: QMainWindow, desk: Desk, state: Path | None) -> None:
    """Open the trainer, which few open."""
    from umber_compass.window.trainer.trainer import Trainer

    trainer = Trainer(window, state)
    trainer.failed.connect(lambda line: desk.told.emit(line, True))
    trainer.finished.connect(trainer.deleteLater)
    trainer.open()


def _open_here(pages: Help, desk: Desk, layout: Layout) -> None:
    """Open the page of help on what is in hand."""
    from umber_compass.window.frame.help_here import page_here

    pages.open(*page_here(desk, layout))
