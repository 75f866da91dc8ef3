"""Where the window stands on the screen: as it was left, and never larger than what is free."""

from PySide6.QtCore import QEvent, QObject, QRect, QSize, QTimer
from PySide6.QtGui import QGuiApplication
from PySide6.QtWidgets import QMainWindow, QSplitter

from umber_compass.window.desk.remembered import Remembered

USUAL, LEAST = QSize(1280, 800), QSize(1000, 600)
_TITLED_AFTER = 150  # ms in which a window manager has put its title bar on


class WindowPlace(QObject):
    """Size and place of a window."""

    def __init__(self, window: QMainWindow, remembered: Remembered) -> None:
        super().__init__(window)
        self._window, self._remembered = window, remembered
        self._fitting = QTimer(self)
        self._fitting.setSingleShot(True)
        self._fitting.setInterval(_TITLED_AFTER)
        self._fitting.timeout.connect(self.fit)
        window.installEventFilter(self)

    def restore(self, splitter: QSplitter) -> None:
        """As it was left, or of the usual size."""
        free = self._free().size()
        self._window.setMinimumSize(LEAST.boundedTo(free))
        self._window.resize(USUAL.boundedTo(free))
        kept = self._remembered.state("geometry")
        if kept is not None:
            self._window.restoreGeometry(kept)
        shares = self._remembered.state("splitter")
        if shares is not None:
            splitter.restoreState(shares)

    def keep(self, splitter: QSplitter) -> None:
        """Remember how it stands."""
        self._remembered.keep("geometry", self._window.saveGeometry())
        self._remembered.keep("splitter", splitter.saveState())

    def _free(self) -> QRect:
        """What of the screen is free; all one likes where there is none to be seen."""
        if QGuiApplication.platformName() == "offscreen":
            return QRect(0, 0, 9999, 9999)
        return self._window.screen().availableGeometry()

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Once it is shown its title bar is known."""
        if event.type() == QEvent.Type.Show:
            self._fitting.start()
        elif event.type() == QEvent.Type.Close:
            self._fitting.stop()
        return super().eventFilter(watched, event)

    def fit(self) -> None:
        """Draw in what a title bar pushed beyond the screen."""
        window, free = self._window, self._free()
        if window.isMaximized() or window.isFullScreen():
            return
        whole = window.frameGeometry()
        bar = QSize(whole.width() - window.width(), whole.height() - window.height())
        most = free.size() - bar
        if window.width() > most.width() or window.height() > most.height():
            window.setMinimumSize(LEAST.boundedTo(most))
            window.resize(window.size().boundedTo(most))
        whole = window.frameGeometry()
        window.move(
            max(free.left(), min(whole.left(), free.right() + 1 - whole.width())),
            max(free.top(), min(whole.top(), free.bottom() + 1 - whole.height())),
        )
