"""What each action of the menus does. Its words and shortcut stand in actions.py."""

from collections.abc import Callable
from typing import TYPE_CHECKING

from umber_compass.demo import plans as demos

if TYPE_CHECKING:
    from umber_compass.window.main_window import MainWindow

_ZOOM = 1.25


def run(window: "MainWindow", name: str) -> None:
    """Do what an action says; a name in two parts says of which kind it is."""
    kind, _, rest = name.partition("-")
    families: dict[str, Callable[[MainWindow, str], object]] = {
        "step": lambda w, step: w.open_step(step),
        "view": lambda w, number: w.screen_now.stage_view(w.parts.strip.views()[int(number) - 1]),
        "zoom": _zoom,
        "room": lambda w, room: w.enter_room(room),
        "look": lambda w, at: w.look("" if w.screen_now.looking == at else at),
    }
    if kind in families:
        families[kind](window, rest)
    else:
        _plain(window)[name]()


def _zoom(window: "MainWindow", how: str) -> None:
    stage = window.parts.stage
    {
        "in": lambda: stage.zoom_by(_ZOOM),
        "out": lambda: stage.zoom_by(1 / _ZOOM),
        "fit": stage.fit,
        "one": stage.one_to_one,
    }[how]()


def _plain(window: "MainWindow") -> dict[str, Callable[[], object]]:
    files, regions = window.files, window.regions
    return {
        "new": files.new,
        "open": files.open,
        "demo": lambda: files.open_path(demos.find(None).plan, demo=True),
        "save": files.save,
        "save-as": files.save_as,
        "quit": window.close,
        "undo": window.desk.undo,
        "redo": window.desk.redo,
        "copy": regions.copy_chosen,
        "practice": window.toggle_practice,
        "next-region": lambda: regions.step_region(1),
        "previous-region": lambda: regions.step_region(-1),
        "name-region": window.name_chosen,
        "pin": regions.pin_chosen,
        "gradient": regions.gradient_chosen,
        "picture": lambda: window.screen_now.stage_view(""),
        "alone": lambda: window.set_alone(not window.parts.stage.alone),
    }
