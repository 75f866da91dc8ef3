"""Every action: its words, its shortcut, its place in the menus."""

from collections.abc import Callable
from typing import NamedTuple

from PySide6.QtGui import QAction, QKeySequence
from PySide6.QtWidgets import QMainWindow


class ActionSpec(NamedTuple):
    """One action; `menu` None begins a separator's group in no menu of its own."""

    name: str
    menu: str
    text: str
    keys: str
    checkable: bool = False


SEPARATOR = "-"
# The steps keep their number when later steps come between them.
STEP_KEYS = {"sketch": 1, "harmony": 2, "values": 3, "light": 6, "ramps": 7, "handoff": 8}

SPECS: tuple[ActionSpec, ...] = (
    ActionSpec("new", "File", "New from sketch …", "Ctrl+N"),
    ActionSpec("open", "File", "Open plan …", "Ctrl+O"),
    ActionSpec("demo", "File", "Open the demo", ""),
    ActionSpec(SEPARATOR, "File", "", ""),
    ActionSpec("save", "File", "Save", "Ctrl+S"),
    ActionSpec("save-as", "File", "Save as …", "Ctrl+Shift+S"),
    ActionSpec(SEPARATOR, "File", "", ""),
    ActionSpec("quit", "File", "Quit", "Ctrl+Q"),
    ActionSpec("undo", "Edit", "Undo", "Ctrl+Z"),
    ActionSpec("redo", "Edit", "Redo", "Ctrl+Shift+Z"),
    ActionSpec(SEPARATOR, "Edit", "", ""),
    ActionSpec("copy", "Edit", "Copy the chosen colour’s hex", "Ctrl+C"),
    ActionSpec("step-sketch", "Step", "Sketch", "Alt+1"),
    ActionSpec("step-harmony", "Step", "Harmony", "Alt+2"),
    ActionSpec("step-values", "Step", "Values", "Alt+3"),
    ActionSpec("step-light", "Step", "Light", "Alt+6"),
    ActionSpec("step-ramps", "Step", "Ramps", "Alt+7"),
    ActionSpec("step-handoff", "Step", "Hand-off", "Alt+8"),
    ActionSpec(SEPARATOR, "Step", "", ""),
    ActionSpec("practice", "Step", "Practice", "Alt+P", True),
    ActionSpec("next-region", "Region", "Next region", "Ctrl+Right"),
    ActionSpec("previous-region", "Region", "Previous region", "Ctrl+Left"),
    ActionSpec(SEPARATOR, "Region", "", ""),
    ActionSpec("name-region", "Region", "Name the region", "F2"),
    ActionSpec("pin", "Region", "Pin or unpin its colour", "Ctrl+L"),
    ActionSpec("gradient", "Region", "Make it a gradient or one colour", "Ctrl+G"),
    ActionSpec("view-1", "View", "First view on the stage", "Ctrl+1"),
    ActionSpec("view-2", "View", "Second view on the stage", "Ctrl+2"),
    ActionSpec("view-3", "View", "Third view on the stage", "Ctrl+3"),
    ActionSpec("view-4", "View", "Fourth view on the stage", "Ctrl+4"),
    ActionSpec("picture", "View", "The picture on the stage", "Ctrl+0"),
    ActionSpec(SEPARATOR, "View", "", ""),
    ActionSpec("look-before", "View", "Show before the last change (hold B)", "", True),
    ActionSpec("look-opened", "View", "Show as opened (hold O)", "", True),
    ActionSpec("look-flat", "View", "Show the flat colours (hold F)", "", True),
    ActionSpec("look-lights-off", "View", "Show with the lights off (hold L)", "", True),
    ActionSpec("look-ambient-only", "View", "Show the ambient light only (hold A)", "", True),
    ActionSpec("look-key-only", "View", "Show the key light only (hold K)", "", True),
    ActionSpec(SEPARATOR, "View", "", ""),
    ActionSpec("zoom-in", "View", "Zoom in", "Ctrl++"),
    ActionSpec("zoom-out", "View", "Zoom out", "Ctrl+-"),
    ActionSpec("zoom-fit", "View", "Fit the picture", "Ctrl+9"),
    ActionSpec("zoom-one", "View", "One px to one px", "Ctrl+8"),
    ActionSpec("alone", "View", "The picture alone", "F11", True),
    ActionSpec(SEPARATOR, "View", "", ""),
    ActionSpec("room-gallery", "View", "Gallery room", "", True),
    ActionSpec("room-studio", "View", "Studio room", "", True),
    ActionSpec("room-night", "View", "Night room", "", True),
)


def build(window: QMainWindow, run: Callable[[str], None]) -> dict[str, QAction]:
    """The window's menus; every action calls `run` with its name."""
    menus = {}
    actions: dict[str, QAction] = {}
    for spec in SPECS:
        if spec.menu not in menus:
            menus[spec.menu] = window.menuBar().addMenu(window.tr(spec.menu))
        if spec.name == SEPARATOR:
            menus[spec.menu].addSeparator()
            continue
        action = menus[spec.menu].addAction(window.tr(spec.text))
        action.setCheckable(spec.checkable)
        if spec.keys:
            action.setShortcut(QKeySequence(spec.keys))
        action.triggered.connect(lambda _=False, n=spec.name: run(n))
        actions[spec.name] = action
    return actions
