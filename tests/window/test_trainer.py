"""Four drills: what is asked has its answer, difficulty follows, results are kept."""

import tempfile
import unittest
from pathlib import Path

import numpy as np

from tests.window.driving import InWindow
from umber_compass.colour.measured import measure_hex
from umber_compass.document.training import Outcome, keep, outcomes
from umber_compass.steps.training.drills import (
    DRILLS,
    SECONDS,
    TRIALS,
    answered,
    begin,
    value_of_grey,
)
from umber_compass.steps.training.staircase import Staircase
from umber_compass.window.trainer.trainer import Trainer

BY_NAME = {d.name: d for d in DRILLS}


class TestDrills(unittest.TestCase):
    def test_the_right_answer_is_right(self):
        rng = np.random.default_rng(7)
        for _ in range(40):
            trial = BY_NAME["value"].make(rng, 3.0)
            self.assertAlmostEqual(measure_hex(trial.rows[0][0]).value, trial.target, delta=0.6)
            trial = BY_NAME["darker"].make(rng, 10.0)
            values = [measure_hex(row[0]).value for row in trial.rows]
            self.assertLess(values[trial.right], values[1 - trial.right] - 8)
            trial = BY_NAME["turning"].make(rng, 50.0)
            hues = [[measure_hex(h).hue for h in row] for row in trial.rows]
            spans = [max(abs((h - row[0] + 180) % 360 - 180) for h in row) for row in hues]
            self.assertGreater(spans[trial.right], spans[1 - trial.right] + 20)
            greys = [[measure_hex(h).value for h in row] for row in trial.rows]
            self.assertLess(np.abs(np.subtract(*greys)).max(), 0.8, "the same greys")
            trial = BY_NAME["reads"].make(rng, 6.0)
            middle = measure_hex(trial.rows[0][0]).hue
            around = measure_hex(trial.surround).hue
            self.assertGreater(abs((middle - around + 180) % 360 - 180), 90)

    def test_a_staircase_settles_at_what_is_seen(self):
        rng = np.random.default_rng(1)
        for seen in (2.0, 9.0):
            stairs = Staircase(20.0, 0.5, 40.0)
            for _ in range(120):
                chance = 0.5 + 0.5 / (1 + np.exp(-(stairs.level - seen) * 2))
                stairs = stairs.after(bool(rng.random() < chance))
            self.assertLess(abs(np.log(stairs.threshold / seen)), 0.45)
        self.assertEqual(Staircase(5.0, 1, 9).threshold, 5.0)

    def test_a_session(self):
        rng = np.random.default_rng(3)
        for drill in DRILLS:
            session = begin(drill, rng)
            while not session.is_over:
                trial = session.trial
                good = trial.target + 0.5 if drill.is_matching else trial.right
                session = answered(session, good, rng)
            self.assertEqual((session.asked, session.right), (TRIALS, TRIALS))
            self.assertLess(session.stairs.level, drill.begin.level, "harder")
            self.assertIs(answered(session, 0, rng), session)
        self.assertAlmostEqual(begin(BY_NAME["value"], rng).result, 0)
        self.assertEqual(value_of_grey(0.5)[0], 50)


class TestTrainer(InWindow):
    def setUp(self):
        super().setUp()
        held = tempfile.TemporaryDirectory()
        self.addCleanup(held.cleanup)
        self.folder, self.now = Path(held.name), 1000.0
        rng = np.random.default_rng(5)
        self.trainer = Trainer(self.window, self.folder, rng, lambda: self.now)
        self.trainer.show()

    def tearDown(self):
        self.trainer.reject()
        super().tearDown()

    def test_every_drill_is_gone_through_by_hand(self):
        for i, drill in enumerate(DRILLS):
            self.trainer.tabs.buttons[i].click()
            self.trainer.again.click()
            for _ in range(TRIALS):
                trial = self.trainer.session.trial
                if drill.is_matching:
                    self.trainer.slider.setValue(round(trial.target * 10))
                    self.trainer.take.click()
                elif trial.answers:
                    self.trainer.words[trial.right].click()
                else:
                    self.trainer.canvas.chosen.emit(trial.right)
            self.assertIn(f"{TRIALS} of {TRIALS} right", self.trainer.says.text())
        kept = outcomes(self.folder)
        self.assertEqual([o.drill for o in kept], [d.name for d in DRILLS])
        self.assertLess(kept[0].result, 0.6)

    def test_five_minutes_are_enough(self):
        self.now += SECONDS + 1
        self.trainer.again.click()
        self.assertIsNone(self.trainer.session)
        self.assertIn("Five minutes", self.trainer.says.text())

    def test_damaged_results_are_none(self):
        keep(self.folder, Outcome("value", 5.0, 2.0))
        (self.folder / "training.json").write_bytes(b"[{]")
        self.assertEqual(outcomes(self.folder), [])
        keep(self.folder, Outcome("value", 6.0, 3.0))
        self.assertEqual([o.at for o in outcomes(self.folder)], [6.0])
        self.assertEqual(outcomes(None), [])
