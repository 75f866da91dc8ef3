"""The one table of actions: File, Edit, Step, Region, View, Help."""

from collections.abc import Callable
from functools import partial

from umber_compass.demo import plans as demos
from umber_compass.window.benches import BENCHES
from umber_compass.window.commands.focusing import Focusing
from umber_compass.window.commands.regions import Regions
from umber_compass.window.commands.steps import StepCommands
from umber_compass.window.commands.views import ViewCommands
from umber_compass.window.desk.desk import Desk
from umber_compass.window.desk.files import Files
from umber_compass.window.desk.pasting import Pasting
from umber_compass.window.frame.menus import Action
from umber_compass.window.help import ABOUT, KEYS, PAGES
from umber_compass.window.widgets.theme import ROOMS

_HELD = (
    ("before", "Show before the last change (hold B)"),
    ("opened", "Show as opened (hold O)"),
    ("flat", "Show the flat colours (hold F)"),
    ("lights-off", "Show with the lights off (hold L)"),
    ("ambient-only", "Show the ambient light only (hold A)"),
    ("key-only", "Show the key light only (hold K)"),
)
_NTH = ("First", "Second", "Third", "Fourth")


def file_actions(
    files: Files, quit_: Callable[[], object], has_plan: Callable[[], bool]
) -> list[Action]:
    """File."""
    return [
        Action("new", "File", "in", "New from sketch …", "Ctrl+N", lambda: files.new()),
        Action("open", "File", "in", "Open plan …", "Ctrl+O", files.open),
        Action("paste", "File", "in", "New from the clipboard", "Ctrl+V", Pasting(files).paste),
        Action("demo", "File", "in", "Open the demo", "", lambda: _open_demo(files)),
        Action("save", "File", "out", "Save", "Ctrl+S", files.save, has_plan),
        Action("save-as", "File", "out", "Save as …", "Ctrl+Shift+S", files.save_as, has_plan),
        Action("quit", "File", "end", "Quit", "Ctrl+Q", quit_),
    ]


def _open_demo(files: Files) -> None:
    files.open_path(demos.find(None).plan, demo=True)


def edit_actions(desk: Desk, regions: Regions) -> list[Action]:
    """Edit, and Region."""

    def past() -> bool:
        return desk.history is not None and bool(desk.history.past)

    def future() -> bool:
        return desk.history is not None and bool(desk.history.future)

    def chosen() -> bool:
        return regions.is_chosen

    return [
        Action("undo", "Edit", "steps", "Undo", "Ctrl+Z", desk.undo, past),
        Action("redo", "Edit", "steps", "Redo", "Ctrl+Shift+Z", desk.redo, future),
        Action(
            "copy",
            "Edit",
            "copy",
            "Copy the chosen colour’s hex",
            "Ctrl+C",
            regions.copy_chosen,
            chosen,
        ),
    ]


def step_actions(steps: StepCommands, has_plan: Callable[[], bool]) -> list[Action]:
    """Step."""
    every = [
        Action(
            f"step-{row.step}",
            "Step",
            "steps",
            row.title,
            f"Alt+{row.number}",
            partial(steps.open, row.step),
            has_plan,
        )
        for row in BENCHES.values()
    ]
    drawers = [
        Action(
            name,
            "Step",
            "drawers",
            title,
            keys,
            partial(steps.toggle_drawer, name),
            has_plan,
            True,
        )
        for name, title, keys in (
            ("brief", "Brief", "Alt+B"),
            ("reference", "Reference", "Alt+R"),
            ("practice", "Practice", "Alt+P"),
        )
    ]
    return [*every, *drawers]


def region_actions(
    regions: Regions, steps: StepCommands, has_plan: Callable[[], bool]
) -> list[Action]:
    """Region."""

    def chosen() -> bool:
        return regions.is_chosen

    return [
        Action(
            "next-region",
            "Region",
            "through",
            "Next region",
            "Ctrl+Right",
            partial(regions.step_region, 1),
            has_plan,
        ),
        Action(
            "previous-region",
            "Region",
            "through",
            "Previous region",
            "Ctrl+Left",
            partial(regions.step_region, -1),
            has_plan,
        ),
        Action("name-region", "Region", "one", "Name the region", "F2", steps.name_chosen, chosen),
        Action(
            "pin", "Region", "one", "Pin or unpin its colour", "Ctrl+L", regions.pin_chosen, chosen
        ),
        Action(
            "gradient",
            "Region",
            "one",
            "Make it a gradient or one colour",
            "Ctrl+G",
            regions.gradient_chosen,
            chosen,
        ),
    ]


def focus_actions(focusing: Focusing, has_plan: Callable[[], bool]) -> list[Action]:
    """Region: the focus."""
    return [
        Action(
            "focus-here",
            "Region",
            "focus",
            "Focus on it, or no longer",
            "E",
            focusing.here,
            has_plan,
        ),
        Action(
            "focus-point",
            "Region",
            "focus",
            "Focus on the place pointed at",
            "Shift+E",
            focusing.point,
            has_plan,
        ),
        Action(
            "why",
            "View",
            "held",
            "Show what carries it, in turn (hold W)",
            "",
            focusing.toggle_why,
            has_plan,
        ),
        Action(
            "focus-roles",
            "Region",
            "focus",
            "Let the focus follow the roles",
            "",
            focusing.roles,
            has_plan,
        ),
    ]


def help_actions(open_page: Callable[[str], object]) -> list[Action]:
    """Help."""
    pages = [
        Action(f"help-{page}", "Help", "pages", title, "", partial(open_page, page))
        for page, title in PAGES.items()
    ]
    return [
        *pages,
        Action("help-keys", "Help", "more", "Keys", "F1", partial(open_page, KEYS)),
        Action("about", "Help", "more", "About Umber Compass", "", partial(open_page, ABOUT)),
    ]


def view_actions(views: ViewCommands, has_plan: Callable[[], bool]) -> list[Action]:
    """View."""
    staged = [
        Action(
            f"view-{i + 1}",
            "View",
            "stage",
            f"{nth} view on the stage",
            f"Ctrl+{i + 1}",
            partial(views.put_on_stage, i),
            has_plan,
        )
        for i, nth in enumerate(_NTH)
    ]
    held = [
        Action(
            f"hold-{name}", "View", "held", text, "", partial(views.toggle, name), has_plan, True
        )
        for name, text in _HELD
    ]
    rooms = [
        Action(
            f"room-{room.name}",
            "View",
            "room",
            f"{room.title} room",
            "",
            partial(views.enter_room, room.name),
            checkable=True,
        )
        for room in ROOMS.values()
    ]
    return [
        *staged,
        Action(
            "picture",
            "View",
            "stage",
            "The picture on the stage",
            "Ctrl+0",
            views.picture,
            has_plan,
        ),
        *held,
        Action("zoom-in", "View", "zoom", "Zoom in", "Ctrl++", views.zoom_in, has_plan),
        Action("zoom-out", "View", "zoom", "Zoom out", "Ctrl+-", views.zoom_out, has_plan),
        Action("zoom-fit", "View", "zoom", "Fit the picture", "Ctrl+9", views.fit, has_plan),
        Action(
            "zoom-one", "View", "zoom", "One px to one px", "Ctrl+8", views.one_to_one, has_plan
        ),
        Action(
            "alone", "View", "zoom", "The picture alone", "F11", views.toggle_alone, has_plan, True
        ),
        *rooms,
    ]
