"""The application: fonts and room, the window, and what it is opened with."""

import sys
from collections.abc import Sequence
from pathlib import Path

from PySide6.QtCore import QTimer
from PySide6.QtGui import QImage
from PySide6.QtWidgets import QApplication

from umber_compass.demo import plans as demos
from umber_compass.formats.cache import Cache
from umber_compass.formats.plan_file import read_thumbnail
from umber_compass.window import theme
from umber_compass.window.main_window import MainWindow
from umber_compass.words import Refusal


def make_application() -> QApplication:
    """The one application, in the gallery room."""
    application = QApplication.instance() or QApplication(sys.argv[:1])
    assert isinstance(application, QApplication)
    application.setApplicationName("umber-compass")
    application.setApplicationDisplayName("Umber Compass")
    application.setDesktopFileName("umber-compass")
    application.setStyle("Fusion")
    theme.load_fonts()
    theme.enter(application, "gallery")
    return application


def start(path: Path | None, demo: bool = False) -> MainWindow:
    """A window that shows a plan's stored thumbnail at once and the plan as soon as it is read."""
    window = MainWindow(cache=Cache())
    if path is not None:
        thumbnail = QImage.fromData(read_thumbnail(path)) if path.suffix == ".umber" else QImage()
        if not thumbnail.isNull():
            window.parts.stage.show_image(thumbnail)
        QTimer.singleShot(0, lambda: window.files.open_path(path, demo))
    window.show()
    return window


def main(given: Sequence[str]) -> int:
    """Open the window on a plan, a demo or nothing."""
    wants_demo = given[:1] == ["demo"]
    try:
        name = given[1] if len(given) > 1 else None
        path = demos.find(name).plan if wants_demo else Path(name) if name else None
    except Refusal as error:
        print(f"umber-compass: {error}", file=sys.stderr)
        return 1
    application = make_application()
    window = start(path, wants_demo)
    code = application.exec()
    del window
    return code
