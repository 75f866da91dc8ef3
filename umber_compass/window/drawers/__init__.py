"""What goes with every step, as drawers over the bench: one file and one row each. A file is loaded
when its drawer is first opened."""

from importlib import import_module
from typing import NamedTuple

from umber_compass.window.bench.bench import Bench


class DrawerRow(NamedTuple):
    """One drawer, and the keys that open it."""

    name: str
    title: str
    keys: str
    class_name: str  # in the file that is called as it

    def make(self) -> Bench:
        """The drawer itself."""
        bench: Bench = getattr(import_module(f"{__name__}.{self.name}"), self.class_name)()
        return bench


DRAWERS = {
    row.name: row
    for row in (
        DrawerRow("brief", "Brief", "Alt+B", "BriefDrawer"),
        DrawerRow("reference", "Reference", "Alt+R", "ReferenceDrawer"),
        DrawerRow("practice", "Practice", "Alt+P", "PracticeDrawer"),
        DrawerRow("log", "Log", "Alt+L", "LogDrawer"),
    )
}
