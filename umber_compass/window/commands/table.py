"""The one table of actions: id, words, what it does, where it is found, keys and condition."""

from collections.abc import Callable
from functools import partial
from typing import NamedTuple, get_args

from PySide6.QtWidgets import QMainWindow

from umber_compass.demo import plans as demos
from umber_compass.plan.edits import find_region
from umber_compass.plan.study_edits import choose_study, duplicate_study, remove_study
from umber_compass.plan.terms import ROLES, Form, Material
from umber_compass.window.benches import BENCHES
from umber_compass.window.commands.colouring import Colouring
from umber_compass.window.commands.first_colours import FirstColours
from umber_compass.window.commands.focusing import Focusing
from umber_compass.window.commands.region_commands import RegionCommands
from umber_compass.window.commands.regions import Regions
from umber_compass.window.commands.steps import StepCommands
from umber_compass.window.commands.studies import StudyCommands
from umber_compass.window.commands.study_making import StudyMaking
from umber_compass.window.commands.versions import VersionCommands
from umber_compass.window.commands.views import ViewCommands
from umber_compass.window.desk.desk import Desk
from umber_compass.window.desk.files import Files
from umber_compass.window.desk.pasting import Pasting
from umber_compass.window.desk.sketch_files import SketchFiles
from umber_compass.window.drawers import DRAWERS
from umber_compass.window.frame.help import ABOUT, KEYS, PAGES
from umber_compass.window.stage.choosing_hand import NARROW, WIDEN
from umber_compass.window.widgets.actions import Action, Condition
from umber_compass.window.widgets.theme import ROOMS


class Commands(NamedTuple):
    """What actions call."""

    window: QMainWindow
    desk: Desk
    files: Files
    sketches: SketchFiles
    versions: VersionCommands
    regions: Regions
    region_commands: RegionCommands
    focusing: Focusing
    steps: StepCommands
    studies: StudyCommands
    making: StudyMaking
    first: FirstColours
    colouring: Colouring
    views: ViewCommands
    open_page: Callable[[str], object]
    open_here: Callable[[], object]
    beside: Callable[[], object]
    references: Callable[[], object]
    story: Callable[[], object]
    train: Callable[[], object]


def conditions(desk: Desk, regions: Regions, commands: RegionCommands) -> dict[str, Condition]:
    """When actions are on, by name."""

    def one() -> bool:
        return regions.is_chosen and not commands.several

    def is_line() -> bool:
        named = regions.named
        return named is not None and named.role == "line"

    return {
        "plan": lambda: desk.history is not None,
        "past": lambda: desk.history is not None and bool(desk.history.past),
        "future": lambda: desk.history is not None and bool(desk.history.future),
        "chosen": lambda: regions.is_chosen,
        "one": one,
        "several": lambda: commands.several,
        "line": is_line,
    }


# A row or two are one action; the formatter would make nine lines of each.
# fmt: off
_HELD = (
    ("before", "Show before the last change (hold B)"),
    ("opened", "Show as opened (hold O)"),
    ("flat", "Show the flat colours (hold F)"),
    ("lights-off", "Show with the lights off (hold L)"),
    ("ambient-only", "Show the ambient light only (hold A)"),
    ("key-only", "Show the key light only (hold K)"),
)


def table(c: Commands) -> list[Action]:
    """Every action, in the order of the menus."""
    return [*_file(c), *_edit(c), *_steps(c), *_regions(c), *_kinds(c), *_shapes(c), *_views(c),
            *_studies(c), *_help(c)]


def _file(c: Commands) -> list[Action]:
    files, sketches = c.files, c.sketches
    return [
        Action("new", "New from sketch …", lambda: files.new(), ("File/in",), "Ctrl+N"),
        Action("open", "Open plan …", files.open, ("File/in",), "Ctrl+O"),
        Action("paste", "New from the clipboard", Pasting(files).paste, ("File/in",), "Ctrl+V"),
        Action("demo", "Open the demo", partial(_open_demo, files), ("File/in",)),
        Action("save", "Save", files.save, ("File/out",), "Ctrl+S", "plan"),
        Action("save-as", "Save as …", files.save_as, ("File/out",), "Ctrl+Shift+S", "plan"),
        Action("story", "Story strip …", c.story, ("File/out",)),
        Action("quit", "Quit", c.window.close, ("File/end",), "Ctrl+Q"),
        Action("read-again", "Read the sketch again", sketches.again, ("File/sketch",), "Ctrl+R",
               "plan"),
        Action("replace-sketch", "Replace the sketch …", sketches.replace, ("File/sketch",), "",
               "plan"),
        Action("take-shading", "Take the shading of a picture …", sketches.take_shading,
               ("File/sketch",), "", "plan"),
        Action("take-regions", "Take the colours of a picture as regions …", sketches.take_regions,
               ("File/sketch",), "", "plan"),
        Action("add-candidate", "Add a candidate …", sketches.add_candidate, ("File/sketch",), "",
               "plan"),
        Action("versions", "Earlier versions …", c.versions.open, ("File/sketch",), "", "plan"),
    ]


def _open_demo(files: Files) -> None:
    files.open_path(demos.find(None).plan, demo=True)


def _undo_words(desk: Desk) -> str:
    steps = desk.history.past[-1:] if desk.history is not None else ()
    return desk.tr("Undo: {change}").format(change=steps[0].change) if steps else "Undo"


def _redo_words(desk: Desk) -> str:
    steps = desk.history.future[:1] if desk.history is not None else ()
    return desk.tr("Redo: {change}").format(change=steps[0].change) if steps else "Redo"


def _edit(c: Commands) -> list[Action]:
    return [
        Action("undo", "Undo", c.desk.undo, ("Edit/steps",), "Ctrl+Z", "past",
               now=partial(_undo_words, c.desk)),
        Action("redo", "Redo", c.desk.redo, ("Edit/steps",), "Ctrl+Shift+Z", "future",
               now=partial(_redo_words, c.desk)),
        Action("copy", "Copy the chosen colour’s hex", c.regions.copy_chosen, ("Edit/copy",),
               "Ctrl+C", "chosen"),
    ]


def _steps(c: Commands) -> list[Action]:
    return [
        *(Action(f"step-{row.step}", row.title, partial(c.steps.open, row.step), ("Step/steps",),
                 f"Alt+{row.number}", "plan") for row in BENCHES.values()),
        *(Action(d.name, d.title, partial(c.steps.toggle_drawer, d.name), ("Step/drawers",),
                 d.keys, "plan", checkable=True) for d in DRAWERS.values()),
    ]


def _regions(c: Commands) -> list[Action]:
    regions, commands = c.regions, c.region_commands
    through, one = "Region/through", "Region/one"
    return [
        Action("next-region", "Next region", partial(regions.step_region, 1), (through,),
               "Ctrl+Right", "plan"),
        Action("previous-region", "Previous region", partial(regions.step_region, -1), (through,),
               "Ctrl+Left", "plan"),
        Action("next-unnamed", "Next region without a name", commands.next_unnamed, (through,), "N",
               "plan"),
        Action("name-region", "Name …", c.steps.name_chosen, (one, "region/colour"), "F2",
               "chosen"),
        Action("give-colour", "Give it a colour …", lambda: c.colouring.open(),
               (one, "region/colour"), "Ctrl+E", "chosen"),
        Action("pin", "Pin or unpin its colour", regions.pin_chosen, (one, "region/colour"),
               "Ctrl+L", "chosen", now=regions.pin_words),
        Action("lock", "Lock or unlock its colour", regions.lock_chosen, (one, "region/colour"),
               "", "chosen", now=regions.lock_words),
        Action("gradient", "Make it a gradient or one colour", regions.gradient_chosen,
               (one, "region/colour"), "Ctrl+G", "chosen"),
        Action("region-alone", "Show it alone", commands.toggle_alone, (one, "region/colour"), "",
               "chosen", commands.is_alone),
    ]


def _kinds(c: Commands) -> list[Action]:
    """What the chosen regions are: a tick stands at what the first of them is."""

    def is_now(field: str, value: str) -> bool:
        derived = c.desk.derived
        named = None if derived is None else find_region(derived.plan, c.desk.session.selection)
        return named is not None and getattr(named, field) == value

    return [
        Action(f"{field}-{value.replace(' ', '-')}", value,
               partial(c.region_commands.set_kind, field, value),
               (f"region/what/{title}",), "", "chosen", partial(is_now, field, value))
        for field, title, values in (("role", "Its role", ROLES),
                                     ("material", "Its material", get_args(Material)),
                                     ("form", "Its form", get_args(Form)))
        for value in values
    ]


def _shapes(c: Commands) -> list[Action]:
    """What changes which px a region has; and the focus."""
    commands, work, shape = c.region_commands, c.region_commands.reworking, "region/px/Edit shape"
    return [
        Action("merge", "Merge the chosen regions", work.merge, ("Region/hands", shape), "Ctrl+M",
               "several"),
        Action("surface", "Make them one surface", commands.make_surface, ("Region/hands", shape),
               "", "several"),
        Action("split-parts", "Split it into its parts", work.split_parts,
               ("Region/hands", shape, "split/how"), "", "one"),
        Action("split-line", "Split it by a line …", commands.on_stage.begin_line,
               ("Region/hands", shape, "split/how"), "Shift+L", "one"),
        Action("give-part", "Give a part to it …", commands.on_stage.begin_giving,
               ("Region/hands", shape, "split/how"), "Shift+G", "one"),
        Action("outline", "Draw round a new region …", commands.on_stage.begin_outline,
               ("Region/hands", shape, "split/how"), "Shift+O", "plan"),
        Action("widen", "Widen it with the brush …", partial(commands.on_stage.begin_brush, WIDEN),
               ("Region/hands", shape, "split/how"), "Shift+W", "one"),
        Action("narrow", "Narrow it with the brush …",
               partial(commands.on_stage.begin_brush, NARROW),
               ("Region/hands", shape, "split/how"), "Shift+N", "one"),
        Action("join-alike", "Join like regions", work.join_alike, ("Region/hands", shape), "",
               "plan"),
        Action("tint-lines", "Tint lines by material", work.tint_lines, ("Region/hands", shape),
               "", "line"),
        Action("specks", "Give specks to their neighbours", work.swallow_specks,
               ("Region/hands", shape, "split/how"), "", "plan"),
        Action("focus-here", "Make it the focus, or no longer", c.focusing.here,
               ("Region/focus",), "E", "plan"),
        Action("focus-point", "Make the place pointed at the focus", c.focusing.point,
               ("Region/focus",), "Shift+E", "plan"),
        Action("focus-roles", "Take the focus from the roles", c.focusing.roles,
               ("Region/focus",), "", "plan"),
    ]


def _studies(c: Commands) -> list[Action]:
    s, making, one, card = c.studies, c.making, "Study/one", "study/one"
    judge, verdict_is = s.judge, s.verdict_is
    return [
        Action("grow", "Grow six from the one that is shown", making.grow_ticked, ("Study/grow",),
               "Ctrl+Shift+G", "plan"),
        Action("first", "First colours", c.first.toggle, ("Study/grow",), "Ctrl+Shift+F", "plan"),
        Action("first-rest", "Try the rest, what is kept stays", partial(c.first.ask, "first-rest"),
               ("Study/grow",), "", "plan"),
        Action("first-like", "More like this one", partial(c.first.ask, "first-like"),
               ("Study/grow", card), "", "plan"),
        Action("next-study", "Next study", partial(s.step, 1), ("Study/through",), "Ctrl+Down",
               "plan"),
        Action("previous-study", "Previous study", partial(s.step, -1), ("Study/through",),
               "Ctrl+Up", "plan"),
        Action("study-current", "Make it current",
               partial(s.with_one, lambda p, x: choose_study(p, x.id)), (one, card), "Ctrl+Return",
               "plan"),
        Action("study-copy", "Duplicate",
               partial(s.with_one, lambda p, x: duplicate_study(p, x.id)), (one, card), "Ctrl+D",
               "plan"),
        Action("study-keep", "Keep", partial(judge, "kept"), (one, card), "Ctrl+K", "plan",
               partial(verdict_is, "kept")),
        Action("study-reject", "Reject", partial(judge, "rejected"), (one, card), "Ctrl+Shift+K",
               "plan", partial(verdict_is, "rejected")),
        Action("study-remove", "Remove", partial(s.with_one, lambda p, x: remove_study(p, x.id)),
               (one, card), "Ctrl+Del", "plan"),
        *(Action(f"compare-{mode}", text, partial(s.shown.compare, mode), ("Study/compare",), "",
                 "plan") for mode, text in (("side", "Side by side"), ("split", "Split"),
                                            ("fade", "Slow fade"))),
        Action("client-colours", "Client set: other base colours …",
               partial(making.client_sheet, "colours"), ("Study/client", "sheet/what"), "", "plan"),
        Action("client-light", "Client set: other light …", partial(making.client_sheet, "light"),
               ("Study/client", "sheet/what"), "", "plan"),
    ]


def _views(c: Commands) -> list[Action]:
    v, zoom = c.views, "View/zoom"
    nth = ("First", "Second", "Third", "Fourth")
    return [
        *(Action(f"view-{i + 1}", f"{one} view on the stage", partial(v.put_on_stage, i),
                 ("View/stage",), f"Ctrl+{i + 1}", "plan") for i, one in enumerate(nth)),
        Action("picture", "The picture on the stage", v.picture, ("View/stage",), "Ctrl+0", "plan"),
        Action("why", "Show by what the focus stands out (hold W)", c.focusing.toggle_why,
               ("View/held",), "", "plan"),
        *(Action(f"hold-{name}", text, partial(v.toggle, name), ("View/held",), "", "plan",
                 checkable=True) for name, text in _HELD),
        Action("zoom-in", "Zoom in", v.zoom_in, (zoom,), "Ctrl++", "plan"),
        Action("zoom-out", "Zoom out", v.zoom_out, (zoom,), "Ctrl+-", "plan"),
        Action("zoom-fit", "Fit the picture", v.fit, (zoom,), "Ctrl+9", "plan"),
        Action("zoom-one", "Actual pixels, 1:1", v.one_to_one, (zoom,), "Ctrl+8", "plan"),
        Action("alone", "The picture alone", v.toggle_alone, (zoom,), "F11", "plan",
               checkable=True),
        Action("beside", "Strip beside the painting", c.beside, ("View/beside",), "F10", "plan"),
        Action("references-beside", "References beside the work", c.references, ("View/beside",),
               "Ctrl+F10", "plan"),
        *(Action(f"room-{room.name}", f"{room.title} room", partial(v.enter_room, room.name),
                 ("View/room",), checkable=True) for room in ROOMS.values()),
    ]


def _help(c: Commands) -> list[Action]:
    return [
        Action("help-here", "Help on what is open", c.open_here, ("Help/here",), "F1"),
        *(Action(f"help-{page}", title, partial(c.open_page, page), ("Help/pages",))
          for page, title in PAGES.items()),
        Action("trainer", "Trainer …", c.train, ("Help/more",)),
        Action("help-keys", "Keyboard shortcuts", partial(c.open_page, KEYS), ("Help/more",),
               "Shift+F1"),
        Action("about", "About Umber Compass", partial(c.open_page, ABOUT), ("Help/more",)),
    ]
