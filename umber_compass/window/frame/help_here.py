"""Which page of help is about what is in hand, and at which heading."""

from PySide6.QtWidgets import QApplication

from umber_compass.window.bench.bench import Bench
from umber_compass.window.desk.desk import Desk
from umber_compass.window.frame.layout import Layout


def page_here(desk: Desk, layout: Layout) -> tuple[str, str]:
    """The page, and a heading on it; empty for its top."""
    if desk.history is None:
        return "sketch", ""
    focused = QApplication.focusWidget()
    if focused is not None and layout.checks.isAncestorOf(focused):
        return "checks", ""
    current = layout.stack.currentWidget()
    return current.help_at(desk.session.step) if isinstance(current, Bench) else ("sketch", "")
