"""The window: its parts, and the events that come to it as a whole."""

from pathlib import Path

from PySide6.QtCore import Qt, QTimer
from PySide6.QtGui import QCloseEvent, QDragEnterEvent, QDropEvent, QKeyEvent, QResizeEvent
from PySide6.QtWidgets import QMainWindow, QStackedWidget

from umber_compass.document.library import Library
from umber_compass.formats.cache import Cache
from umber_compass.window.desk.remembered import Remembered
from umber_compass.window.joining import Joining
from umber_compass.window.widgets import theme, value_words
from umber_compass.window.widgets.dialogs import Dialogs
from umber_compass.window.widgets.dressing import Dressing
from umber_compass.window.window_place import WindowPlace
from umber_compass.window.works import make

FIRST_ROOM = "gallery"


class MainWindow(QMainWindow):
    """One plan on the desk and everything round it."""

    def __init__(
        self,
        dialogs: Dialogs | None = None,
        cache: Cache | None = None,
        remembered: Remembered | None = None,
        library: Library | None = None,
        state: Path | None = None,
    ) -> None:
        super().__init__()
        self.setWindowTitle("Umber Compass")
        self.setAcceptDrops(True)
        remembered = remembered or Remembered()
        self.works = make(self, dialogs or Dialogs(), cache, remembered, library, state)
        self._keeps = False  # whether it goes without a question, its work kept for the next time
        self._pages = QStackedWidget()
        self._pages.addWidget(self.works.start)
        self._pages.addWidget(self.works.layout)
        self.setCentralWidget(self._pages)
        parts = [self.menuBar(), self.works.start, *self.works.layout.parts()]
        self.dressing = Dressing(parts, self)
        for benches in (self.works.layout.benches, self.works.layout.drawers):
            benches.each(lambda _, bench: self.dressing.add(bench))
        self.works.views.roomed.connect(self.dressing.dress)
        self.joining = Joining(self.works)
        self.works.desk.opened.connect(lambda: self._pages.setCurrentWidget(self.works.layout))
        self.works.files.documents.begun.connect(self.expect)
        self.works.desk.told.connect(self._on_told)
        self.works.desk.worker.slow.connect(self.works.start.go_on)
        self.works.steps.open(self.works.desk.session.step)
        self.works.layout.checks.setVisible(False)
        room = self.works.remembered.word("room")
        self.works.views.enter_room(room if room in theme.ROOMS else FIRST_ROOM)
        value_words.choose(self.works.remembered.word("values"))
        self.place = WindowPlace(self, self.works.remembered)
        self.place.restore(self.works.layout.splitter)

    def expect(self) -> None:
        """A plan is about to come: its picture is shown while it is read; the start page comes back
        where it cannot be."""
        self._pages.setCurrentWidget(self.works.layout)

    def _on_told(self, line: str, refused: bool) -> None:
        self.works.start.tell(line, refused)
        if refused and self.works.desk.history is None:
            self._pages.setCurrentWidget(self.works.start)

    def end(self) -> None:
        """Go without a question, as the system wants it: work that no file holds is kept, and
        offered the next time."""
        self.works.keeping.now()
        self._keeps = True
        self.close()

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Cut the purpose anew once the layout has settled."""
        QTimer.singleShot(0, self, self.works.following.say_purpose)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """A letter is held, or Escape leaves the picture alone. What a field takes never comes
        here."""
        session = self.works.desk.session
        if event.key() == Qt.Key.Key_Escape and self.works.region_commands.on_stage.end_mode():
            return
        if self.works.region_commands.on_stage.turn_brush(event.key()):
            return
        if event.key() == Qt.Key.Key_Escape and self.works.guide.is_on:
            self.works.guide.end()
        elif event.key() == Qt.Key.Key_Escape and self.works.layout.stage.alone:
            self.works.views.set_alone(False)
        elif event.key() == Qt.Key.Key_Escape and session.alone:
            session.show_alone("")
        elif not (self.works.focusing.key(event, True) or self.works.views.key(event, True)):
            super().keyPressEvent(event)

    def keyReleaseEvent(self, event: QKeyEvent) -> None:
        if not (self.works.focusing.key(event, False) or self.works.views.key(event, False)):
            super().keyReleaseEvent(event)

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        if event.mimeData().hasUrls():
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent) -> None:
        files = [Path(u.toLocalFile()) for u in event.mimeData().urls() if u.isLocalFile()]
        if files:
            event.acceptProposedAction()
            self.works.sketches.dropped(files[0])

    def closeEvent(self, event: QCloseEvent) -> None:
        if not self._keeps and not self.works.files.may_close(self.close):
            event.ignore()
            return
        self.works.keeping.close(self._keeps)
        self.works.small_views.close()
        self.works.director.preparing.stop()
        self.works.focusing.turning.stop()
        self.works.studies.shown.cards.close()
        self.dressing.turn.stop()
        self.works.help.close()
        self.place.keep(self.works.layout.splitter)
        self.works.remembered.keep("room", theme.THEME.room.name)
        self.works.remembered.keep("values", value_words.notation().name)
        # What runs ends at its next tick; nobody need watch a window wait for that.
        self.hide()
        self.works.sketches.watching.close()
        self.works.splitting.close()
        self.works.desk.close()
        event.accept()
