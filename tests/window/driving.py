"""Driving the real window: signals are waited for, dialogs answer by themselves, and a test that
leaves a thread, timer or window behind, or prints a Qt warning, fails."""

import os
import tempfile
import threading
import traceback
import unittest
from pathlib import Path
from typing import ClassVar
from unittest import mock

import numpy as np
from PySide6.QtCore import (
    QAbstractAnimation,
    QEvent,
    QEventLoop,
    QPoint,
    QPointF,
    Qt,
    QTimer,
    qInstallMessageHandler,
)
from PySide6.QtGui import QDropEvent, QMouseEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from tests import scenes
from umber_compass.demo.plans import DEMOS
from umber_compass.document.library import Library
from umber_compass.formats.cache import Cache
from umber_compass.steps.pictures import exact_picture
from umber_compass.window.application import make_application
from umber_compass.window.desk import aside
from umber_compass.window.main_window import MainWindow
from umber_compass.window.widgets.dialogs import Dialogs

FULL = DEMOS[0].plan
DEMO = scenes.small(DEMOS[0].plan)  # at half its size: opening it is most of what tests do
# Drawings and forms of the sketches that tests open, for a whole run: each is made once.
_FOLDER = tempfile.TemporaryDirectory()
CACHE = Path(os.environ.get("UMBER_TEST_CACHE", _FOLDER.name))


class Answers(Dialogs):
    """Dialogs that answer what the test says, and note that they were asked."""

    def __init__(self):
        self.path, self.unsaved_answer, self.asked = None, "discard", []
        self.second, self.paths = "open", []
        self.may_replace, self.changed_answer, self.may_go = False, "cancel", False

    def _say(self, what):
        self.asked.append(what)
        return self.path

    def sketch(self, parent):
        return self._say("sketch")

    def plan(self, parent):
        return self._say("plan")

    def save_as(self, parent, name):
        return self._say("save as")

    def palette(self, parent):
        return self._say("palette")

    def press(self, parent):
        return self._say("press")

    def picture(self, parent, name):
        return self._say("picture")

    def plans(self, parent):
        self.asked.append("plans")
        return self.paths

    def log(self, parent, name):
        return self._say("log")

    def painting(self, parent):
        return self._say("painting")

    def sheet(self, parent, name):
        return self._say("sheet")

    def folder(self, parent, start):
        return self._say("folder")

    def replace(self, parent, line):
        self.asked.append(line)
        return self.may_replace

    def changed(self, parent, name):
        self.asked.append(f"changed {name}")
        return self.changed_answer

    def second_picture(self, parent, name):
        self.asked.append(f"second {name}")
        return self.second

    def most_go(self, parent, name, gone, count, there, fresh):
        self.asked.append(f"{name}: {gone} of {count} go")
        return self.may_go

    def unsaved(self, parent, title):
        self.asked.append("unsaved")
        return self.unsaved_answer


def wait(signal, start=None, ms=90_000):
    """Run the event loop until a signal comes."""
    loop, came = QEventLoop(), []
    signal.connect(lambda *a: (came.append(a), loop.quit()))
    QTimer.singleShot(ms, loop.quit)
    if start is not None:
        start()
    if not came:
        loop.exec()
    assert came, "the signal never came"
    return came[0]


def mouse(widget, kind, at, button=Qt.MouseButton.LeftButton):
    """One mouse event, straight to a widget, at a place that need not be whole px."""
    buttons = Qt.MouseButton.NoButton if kind == QEvent.Type.MouseButtonRelease else button
    event = QMouseEvent(
        kind,
        QPointF(at),
        widget.mapToGlobal(QPointF(at)),
        button,
        buttons,
        Qt.KeyboardModifier.NoModifier,
    )
    QApplication.sendEvent(widget, event)


def drag(widget, places):
    """Press at the first place, move through the others, release at the last."""
    mouse(widget, QEvent.Type.MouseButtonPress, places[0])
    for place in places[1:]:
        mouse(widget, QEvent.Type.MouseMove, place)
    mouse(widget, QEvent.Type.MouseButtonRelease, places[-1])


def dropped(mime, at=(5, 5)):
    """Something let fall at a place of a widget."""
    copy, left = Qt.DropAction.CopyAction, Qt.MouseButton.LeftButton
    return QDropEvent(QPointF(*at), copy, mime, left, Qt.KeyboardModifier.NoModifier)


def timers(widget):
    """Every timer and animation that runs below a widget, by name: whose it is, and which."""
    found = []
    for kind in (QTimer, QAbstractAnimation):
        for one in widget.findChildren(kind):
            runs = one.isActive() if kind is QTimer else one.state() == one.State.Running
            if runs:
                owner = one.parent()
                named = [n for n, v in vars(owner).items() if v is one] if owner is not None else []
                what = f"{kind.__name__} {named[0] if named else 'without a name'}"
                found.append(f"{what} of {type(owner).__name__}")
    return found


def look_is_over():
    """Until every look at a file that goes on beside everything else is answered."""
    for one in threading.enumerate():
        if one.name == aside.NAME:
            one.join(10)
    QApplication.processEvents()


class Started(threading.Thread):
    """Remembers where each thread was started."""

    where: ClassVar[dict[int, str]] = {}
    _start = threading.Thread.start

    @staticmethod
    def start_and_note(thread):
        frames = [f for f in traceback.extract_stack() if "umber_compass" in f.filename]
        at = f"{Path(frames[-1].filename).name}:{frames[-1].lineno}" if frames else "outside"
        Started._start(thread)
        Started.where[thread.ident] = at


class InWindow(unittest.TestCase):
    """A test with a window of its own. What outlives it fails, by name and where it was started."""

    def setUp(self):
        self.application = make_application()
        self.said, self.unjudged = [], False
        self.before = {t.ident for t in threading.enumerate()}
        noted = mock.patch.object(threading.Thread, "start", Started.start_and_note)
        noted.start()
        self.addCleanup(noted.stop)
        previous = qInstallMessageHandler(lambda kind, context, text: self.said.append(text))
        self.addCleanup(lambda: qInstallMessageHandler(previous))
        self.addCleanup(self.leave_nothing)
        self.answers = Answers()
        held = tempfile.TemporaryDirectory()
        self.addCleanup(held.cleanup)
        library = Library(Path(held.name))
        self.window = MainWindow(self.answers, Cache(CACHE), library=library)
        self.window.show()
        self.take()

    def take(self):
        """The parts of the window by their names."""
        self.works = self.window.works
        self.desk, self.parts = self.works.desk, self.works.layout
        self.session, self.do = self.desk.session, self.window.joining.do

    def leave_nothing(self):
        """Close the window, and look what is left. Whatever is, is taken away, so that the next
        test begins with nothing."""
        self.answers.unsaved_answer = "discard"
        if self.desk.orders.busy:
            wait(self.desk.orders.rested)
        self.window.close()
        running = [f"{t}, still running" for x in (self.window, self.desk) for t in timers(x)]
        threads = [t for t in threading.enumerate() if t.ident not in self.before]
        look_is_over()
        threads = [t for t in threads if t.is_alive()]
        left = [f"thread {t.name}, started at {Started.where.get(t.ident)}" for t in threads]
        if self.window.isVisible() or threads:
            self.desk.close()
        self.window.deleteLater()
        QApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete)
        QApplication.processEvents()
        windows = QApplication.topLevelWidgets()
        left += [f"window {type(w).__name__} {w.objectName()}" for w in windows]
        for widget in windows:
            widget.deleteLater()
        QApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete)
        noise = [f"Qt said: {x}" for x in self.said if "This plugin does not support" not in x]
        self.assertEqual([*running, *left, *noise], [])

    def open(self, path: Path = DEMO):
        wait(self.desk.opened, lambda: self.works.files.open_path(path, path in (DEMO, FULL)))
        self.settle()

    def settle(self, fixes=False):
        """Until what is shown is worked out; fixes only where they are asked for: they take
        longest, and few tests look at them."""
        judge, cards = self.desk.judge, self.works.studies.shown.cards
        if fixes and self.unjudged:
            judge.judging.start()
        self.unjudged = not fixes
        waited = [self.desk.turns.timer, self.desk.live.sharpening, cards.judging]
        if fixes:
            waited.append(judge.judging)
        else:  # it is started by what is waited for, and must not fire meanwhile
            judge.judging.blockSignals(True)
        while True:
            for timer in (*waited, self.works.small_views.timer):
                if timer.isActive():
                    wait(timer.timeout)
            if self.desk.worker.busy:
                wait(self.desk.worker.idle)
            QApplication.processEvents()
            if not (self.desk.worker.busy or any(t.isActive() for t in waited)):
                break
        judge.judging.stop()
        judge.judging.blockSignals(False)
        for _ in range(3):  # layouts settle in turns
            QApplication.processEvents()

    def region(self, name):
        return next(r for r in self.desk.history.now.regions if r.name == name)

    def colour(self, name):
        return self.desk.derived.colours[self.region(name).id].first

    def assert_exact(self):
        """The stage shows the exact picture of the plan, pixel for pixel where it is not scaled."""
        self.settle()
        np.testing.assert_array_equal(
            self.desk.live.bitmap.packed, exact_picture(self.desk.derived)
        )
        self.parts.stage.mark(None, [])
        height, width = self.desk.live.bitmap.packed.shape
        for across, down in ((0.469, 0.062), (0.5, 0.458), (0.449, 0.771), (0.781, 0.458)):
            x, y = round(across * width), round(down * height)
            there = self.desk.live.bitmap.packed[y - 3 : y + 4, x - 3 : x + 4].reshape(-1)
            levels = np.stack([there >> s & 255 for s in (16, 8, 0)]).astype(int)
            shown = self.pixel(x, y)
            seen = np.array([int(shown[i : i + 2], 16) for i in (1, 3, 5)])
            self.assertTrue((seen >= levels.min(axis=1) - 3).all(), (x, y, seen, levels))
            self.assertTrue((seen <= levels.max(axis=1) + 3).all(), (x, y, seen, levels))

    def pixel(self, x, y):
        """What the stage shows at a place of the picture, read off the screen."""
        at = self.parts.stage.from_picture(x, y).toPoint()
        return self.parts.stage.grab().toImage().pixelColor(at).name()

    def type(self, field, text):
        field.setFocus()
        field.selectAll()
        QTest.keyClicks(field, text)

    def press(self, button):
        QTest.mouseClick(
            button, Qt.MouseButton.LeftButton, pos=QPoint(button.width() // 2, button.height() // 2)
        )
