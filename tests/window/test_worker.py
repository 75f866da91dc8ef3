"""The worker: newest answers only, what the hand waits for first, each with its own share."""

import threading
import unittest
import weakref

from PySide6.QtCore import QObject

from tests.window.driving import wait
from umber_compass.window.application import make_application
from umber_compass.window.desk.worker import Urgency, Worker, error_line
from umber_compass.window.widgets.tidying import Tidying
from umber_compass.words import Refusal, words
from umber_compass.work import Stopped


class Requests(unittest.TestCase):
    def setUp(self):
        make_application()
        self.worker, self.got, self.failed = Worker(), [], []
        self.addCleanup(self.worker.close)

    def ask(self, kind, work, says="", urgency=Urgency.BENCH):
        self.worker.ask(kind, work, self.got.append, self.failed.append, says, urgency)

    def rest(self):
        while self.worker.busy:
            wait(self.worker.idle)

    def gate(self):
        """Work that waits until it is let go, under way when this returns."""
        begun, opened = threading.Event(), threading.Event()

        def work(tick):
            begun.set()
            opened.wait(10)
            return "gate"

        self.ask("gate", work)
        begun.wait(10)
        return opened

    def test_only_the_newest_of_a_kind_is_answered(self):
        gate = self.gate()
        for i in range(5):
            self.ask("a", lambda tick, i=i: i)
        self.ask("b", lambda tick: "b")
        gate.set()
        self.rest()
        self.assertEqual(self.got, ["gate", 4, "b"])

    def test_an_answer_that_is_no_longer_the_newest_is_dropped(self):
        begun, opened = threading.Event(), threading.Event()

        def old(tick):
            begun.set()
            opened.wait(10)
            return "old"

        self.ask("a", old)
        begun.wait(10)
        self.ask("a", lambda tick: "new")
        opened.set()
        self.rest()
        self.assertEqual(self.got, ["new"])

    def test_what_is_replaced_or_forgotten_ends_at_its_next_tick(self):
        for let_go, got in (
            (lambda: self.ask("a", lambda tick: "new"), ["new"]),
            (lambda: self.worker.forget("a"), []),
        ):
            self.got.clear()
            self.assertEqual((self.ended_by(let_go), self.got, self.failed), ([True], got, []))

    def ended_by(self, let_go):
        began, ended = threading.Event(), []

        def long(tick):
            began.set()
            try:
                while True:
                    tick(0.5)
            except Stopped:
                ended.append(True)
                raise

        self.ask("a", long)
        began.wait(10)
        let_go()
        self.rest()
        return ended

    def test_what_the_hand_waits_for_comes_first(self):
        gate = self.gate()
        for kind, urgency in (
            ("fixes", Urgency.THOUGHT),
            ("views", Urgency.BENCH),
            ("exact", Urgency.PICTURE),
            ("save", Urgency.FILE),
            ("names", Urgency.BENCH),
        ):
            self.ask(kind, lambda tick, kind=kind: kind, urgency=urgency)
        gate.set()
        self.rest()
        self.assertEqual(self.got, ["gate", "save", "exact", "views", "names", "fixes"])

    def test_thought_makes_room_and_is_begun_again(self):
        begun, begins = threading.Event(), []

        def think(tick):
            begins.append(1)
            begun.set()
            for _ in range(2000 if len(begins) == 1 else 3):
                tick(-1.0)
                threading.Event().wait(0.005)
            return "thought"

        self.ask("judge", think, urgency=Urgency.THOUGHT)
        begun.wait(10)
        self.ask("save", lambda tick: "saved", urgency=Urgency.FILE)
        self.rest()
        self.assertEqual((self.got, len(begins)), (["saved", "thought"], 2))

    def test_a_picture_is_not_interrupted(self):
        begun, opened = threading.Event(), threading.Event()

        def paint(tick):
            begun.set()
            opened.wait(10)
            tick(0.5)
            return "painted"

        self.ask("exact", paint, urgency=Urgency.PICTURE)
        begun.wait(10)
        self.ask("save", lambda tick: "saved", urgency=Urgency.FILE)
        opened.set()
        self.rest()
        self.assertEqual(self.got, ["painted", "saved"])

    def test_failures_are_reported_in_one_line_and_the_worker_lives(self):
        self.ask("a", lambda tick: 1 // 0)
        self.ask("b", lambda tick: (_ for _ in ()).throw(Refusal("x.png", words("is no picture"))))
        self.ask("c", lambda tick: "alive")
        self.rest()
        lines = [error_line(f) for f in self.failed]
        self.assertIn("ZeroDivisionError", lines[0])
        self.assertIn("the plan is intact", lines[0])
        self.assertEqual((lines[1], self.got), ("x.png: is no picture", ["alive"]))
        self.assertEqual(error_line(Stopped()), "Stopped; the plan is as it was")

    def test_quick_work_is_not_said_and_progress_is_that_of_what_runs(self):
        slow, rested = [], []
        self.worker.slow.connect(lambda *a: slow.append(a))
        self.worker.rested.connect(lambda: rested.append(True))
        self.ask("a", lambda tick: None, "Quick")
        self.rest()
        self.assertEqual((slow, rested), ([], []))
        gate = threading.Event()

        def work(tick):
            while not gate.wait(0.02):
                tick(0.25)

        self.ask("b", work, "Slow")
        self.ask("c", lambda tick: tick(0.9), "Later")  # waits: its words and share are not b's
        wait(self.worker.slow)
        while not slow or slow[-1][2] != 0.25:
            wait(self.worker.slow)
        gate.set()
        self.rest()
        self.assertEqual({s[:2] for s in slow}, {("b", "Slow")})
        self.assertEqual(rested, [True])

    def test_stop_ends_what_runs_and_nothing_else(self):
        begun = threading.Event()

        def work(tick):
            begun.set()
            while True:
                tick(0.1)

        self.ask("a", work, "Slow")
        self.ask("b", lambda tick: "b")
        begun.wait(10)
        self.worker.stop("a")
        self.worker.stop("nothing of that kind")
        self.rest()
        self.assertEqual((self.got, [type(f) for f in self.failed]), (["b"], [Stopped]))

    def test_unreachable_objects_are_destroyed_on_the_gui_thread_only(self):
        where, gone = [], QObject()
        gone.ring = [gone]  # only the collector can take it away
        weakref.finalize(gone, lambda: where.append(threading.get_ident()))
        del gone
        self.ask("a", lambda tick: len([[i] for i in range(200_000)]))
        self.rest()
        self.assertEqual(self.got, [200_000])
        tidying = make_application().findChild(Tidying)
        while not where:
            wait(tidying._timer.timeout)
        self.assertEqual(where, [threading.get_ident()])

    def test_closing_waits_for_what_runs_and_forgets_what_waits(self):
        begun, ended = threading.Event(), []

        def work(tick):
            begun.set()
            try:
                while True:
                    tick(-1.0)
            finally:
                ended.append(True)

        self.ask("a", work)
        self.ask("b", lambda tick: ended.append("b"))
        begun.wait(10)
        self.worker.close()
        self.assertEqual(ended, [True])
