"""The fixture itself: what a test leaves behind is named, and does not fail its neighbours."""

import threading
import unittest

from PySide6.QtCore import QTimer
from PySide6.QtWidgets import QWidget

from tests.window import driving


class Leaks(unittest.TestCase):
    def outcome(self, leak):
        """What a test that leaves this behind is told, and what the next one is told."""
        told = []
        for body in (leak, lambda test: None):
            case = type("Case", (driving.InWindow,), {"test": body})("test")
            result = unittest.TestResult()
            case.run(result)
            told.append([text for _, text in result.failures + result.errors])
        return told

    def test_a_thread_a_timer_a_window_and_a_warning_are_named(self):
        def thread(test):
            worker = test.desk.worker
            close, begun = worker.close, threading.Event()
            worker.close = lambda: setattr(worker, "close", close)  # the first time nothing
            worker.ask("x", lambda tick: begun.set(), print, print)
            begun.wait(10)

        def timer(test):
            test.desk.judge.close = lambda: None
            test.desk.judge.judging.start(60_000)

        def window(test):
            test.stray = QWidget()
            test.stray.setObjectName("stray")

        for leak, words in (
            (thread, "thread umber-worker, started at worker.py:"),
            (timer, "QTimer judging of Judge, still running"),
            (window, "window QWidget stray"),
            (lambda test: QTimer(test.window).start("soon"), "TypeError"),
        ):
            with self.subTest(words):
                mine, neighbours = self.outcome(leak)
                self.assertTrue(any(words in text for text in mine), mine)
                self.assertEqual(neighbours, [])
        self.assertNotIn("umber-worker", {t.name for t in threading.enumerate()})
