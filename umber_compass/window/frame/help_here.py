"""Which page of help is about what is in hand, and at which heading."""

from PySide6.QtWidgets import QApplication

from umber_compass.window.desk.desk import Desk
from umber_compass.window.frame.layout import Layout

_DRAWERS = {"brief": ("sketch", "Brief"), "reference": ("sketch", "Reference")}


def page_here(desk: Desk, layout: Layout) -> tuple[str, str]:
    """The page, and a heading on it; empty for its top."""
    if desk.history is None:
        return "sketch", ""
    if layout.checks.isAncestorOf(QApplication.focusWidget() or layout.checks):
        return "checks", ""
    current = layout.stack.currentWidget()
    for name, drawer in layout.drawers.made():
        if drawer is current:
            return _DRAWERS.get(name, ("practices", ""))
    step = desk.session.step
    bench = layout.benches[step]
    pages = getattr(bench, "pages", None)
    if pages is None:
        return step, ""
    tab = pages.tabs.title
    if step == "harmony" and tab == bench.tr("Palette"):
        return "palette", bench.palette_tab.pages.tabs.title  # type: ignore[attr-defined]
    return step, tab
