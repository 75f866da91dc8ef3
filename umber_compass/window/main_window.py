"""The window: its parts, and the events that come to it as a whole."""

from pathlib import Path

from PySide6.QtCore import Qt, QTimer
from PySide6.QtGui import QCloseEvent, QDragEnterEvent, QDropEvent, QKeyEvent, QResizeEvent
from PySide6.QtWidgets import QMainWindow

from umber_compass.formats.cache import Cache
from umber_compass.window.joining import Joining
from umber_compass.window.widgets.dialogs import Dialogs
from umber_compass.window.widgets.dressing import Dressing
from umber_compass.window.works import make


class MainWindow(QMainWindow):
    """One plan on the desk and everything round it."""

    def __init__(self, dialogs: Dialogs | None = None, cache: Cache | None = None) -> None:
        super().__init__()
        self.setWindowTitle("Umber Compass")
        self.setAcceptDrops(True)
        self.setMinimumSize(1000, 640)
        self.resize(1280, 800)
        self.works = make(self, dialogs or Dialogs(), cache)
        self.setCentralWidget(self.works.layout)
        self.dressing = Dressing([self.menuBar(), *self.works.layout.parts()], self)
        self.works.views.roomed.connect(self.dressing.dress)
        self.joining = Joining(self.works)
        self.works.menus.check("room-gallery", True)
        self.works.steps.open(self.works.desk.session.step)
        self.works.layout.stage.empty = self.tr(
            "Drop a flats picture here: one flat colour for each material.\n\n"
            "Or File, New from sketch. Or File, Open the demo."
        )
        self.works.layout.checks.setVisible(False)

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Cut the purpose anew once the layout has settled."""
        QTimer.singleShot(0, self, self.works.following.say_purpose)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """A letter is held, or Escape leaves the picture alone. What a field takes never comes
        here."""
        if event.key() == Qt.Key.Key_Escape and self.works.layout.stage.alone:
            self.works.views.set_alone(False)
        elif not self.works.views.key(event, True):
            super().keyPressEvent(event)

    def keyReleaseEvent(self, event: QKeyEvent) -> None:
        if not self.works.views.key(event, False):
            super().keyReleaseEvent(event)

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        if event.mimeData().hasUrls():
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent) -> None:
        files = [Path(u.toLocalFile()) for u in event.mimeData().urls() if u.isLocalFile()]
        if files:
            event.acceptProposedAction()
            self.works.files.open_path(files[0])

    def closeEvent(self, event: QCloseEvent) -> None:
        if not self.works.files.may_close(self.close):
            event.ignore()
            return
        self.works.small_views.timer.stop()
        self.dressing.turn.stop()
        # What runs ends at its next tick; nobody need watch a window wait for that.
        self.hide()
        self.works.desk.close()
        event.accept()
