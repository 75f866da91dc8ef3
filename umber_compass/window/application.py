"""The application: what is shown first, then the window, and what it is opened with.

Only what the first picture needs is imported here; the rest while that is already seen.
"""

import sys
from collections.abc import Sequence
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QTimer
from PySide6.QtGui import QIcon
from PySide6.QtWidgets import QApplication

from umber_compass import DESKTOP_ID
from umber_compass.window.ending import Ending
from umber_compass.window.opening import Opening
from umber_compass.window.widgets import theme
from umber_compass.window.widgets.tidying import Tidying, keep_for_good

if TYPE_CHECKING:
    from umber_compass.window.main_window import MainWindow

ICON = Path(__file__).parent.parent / "assets" / "desktop" / f"{DESKTOP_ID}.svg"
# Seconds after which the worker must let the window have its turn: a drag must not wait for it.
_TURN = 0.001


def make_application() -> theme.Application:
    """The one application, in the gallery room."""
    application = QApplication.instance() or theme.Application(sys.argv[:1])
    assert isinstance(application, theme.Application)
    if application.findChild(Tidying) is None:
        Tidying(application)
    sys.setswitchinterval(_TURN)
    application.setApplicationName("umber-compass")
    application.setApplicationDisplayName("Umber Compass")
    application.setDesktopFileName(DESKTOP_ID)
    application.setStyle("Fusion")
    theme.load_fonts()
    theme.enter(application, "gallery")
    return application


def show_opening(path: Path | None) -> Opening:
    """A plan's stored thumbnail, painted before anything else is made."""
    opening = Opening(path)
    opening.show()
    QApplication.processEvents()
    return opening


def start(path: Path | None, demo: bool = False) -> "MainWindow":
    """A window that opens a plan as soon as it can."""
    from umber_compass.document.state import state_folder
    from umber_compass.formats.cache import Cache
    from umber_compass.window.desk.remembered import Remembered
    from umber_compass.window.main_window import MainWindow

    window = MainWindow(cache=Cache(), remembered=Remembered.of_user(), state=state_folder())
    if path is not None:
        window.expect()
        window.works.files.open_path(path, demo)  # read while the window is shown
    window.show()
    window.setWindowIcon(QIcon(str(ICON)))
    keep_for_good()
    return window


def main(given: Sequence[str]) -> int:
    """Open the window on a plan, a demo or nothing."""
    wants_demo = given[:1] == ["demo"]
    name = given[1] if len(given) > 1 else None
    path = Path(name) if name else None
    if wants_demo:
        from umber_compass.demo import plans as demos
        from umber_compass.words import Refusal

        try:
            path = demos.find(name).plan
        except Refusal as error:
            print(f"umber-compass: {error}", file=sys.stderr)
            return 1
    application = make_application()
    opening = show_opening(path)
    window = start(path, wants_demo)
    QTimer.singleShot(0, opening, opening.close)
    ending = Ending(window)
    code = application.exec() or ending.code
    del window, opening
    return code
