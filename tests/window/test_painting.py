"""The painting beside its plan, in the window: its file is watched, what drifts is told, and taken
into the plan or not."""

import copy
import shutil
import tempfile
from pathlib import Path
from unittest import mock

import numpy as np
from PySide6.QtTest import QTest

from tests.window.driving import DEMO, InWindow, wait
from umber_compass import document
from umber_compass.colour.packed import unpack
from umber_compass.formats.log_text import log_markdown
from umber_compass.formats.picture import png_bytes
from umber_compass.plan.journal import MOST_ENTRIES, Entry, Journal, bursts, with_entry
from umber_compass.steps.pictures import picture
from umber_compass.window.desk import file_watch
from umber_compass.words import Refusal, words


class Painting(InWindow):
    def setUp(self):
        super().setUp()
        held = tempfile.TemporaryDirectory()
        self.addCleanup(held.cleanup)
        self.folder = Path(held.name)
        self.open()
        self.works.steps.open("handoff")
        self.bench = self.parts.benches["handoff"]
        self.bench.open_tab(self.titles().index("Painting"))
        self.page, self.watch = self.bench.painting, self.works.watch
        self.file = self.folder / "painting.png"

    def titles(self):
        return [b.text() for b in self.bench.pages.tabs.buttons]

    def paint(self, name="", by=0):
        """Save the plan's picture as a painting, one region by so many levels off."""
        rgb = unpack(picture(self.desk.derived)).astype(int)
        if name:
            region = next(r for r in self.desk.derived.regions if r.name == name)
            rgb[self.desk.derived.drawing.labels == region.label] += by
        data = png_bytes(np.ascontiguousarray(np.clip(rgb, 0, 255).astype(np.uint8)))
        fresh = self.file.with_suffix(".part")
        fresh.write_bytes(data)
        fresh.replace(self.file)

    def watched(self):
        self.answers.path = self.file
        found = wait(self.watch.found, self.page.browse.click)
        self.settle()
        return found

    def saved(self, *how):
        wait(self.watch.found, lambda: self.paint(*how))
        self.settle()


class TestPainting(Painting):
    def test_a_save_is_compared_and_a_drift_taken_in_or_painted_away(self):
        self.paint()
        self.watched()
        self.assertIn("Nothing has drifted", self.page.says.text())
        self.assertEqual(self.page.rows, [])
        self.saved("sea", -24)
        self.assertIn("One region has drifted", self.page.says.text())
        (row,) = self.page.rows
        self.assertIn("darker", row.findChildren(type(self.page.says))[0].text())
        row.chosen.emit(row.region)
        self.assertEqual(self.session.selection, row.region)
        before = self.desk.history.now
        wait(self.watch.found, row.accept.click)
        self.settle()
        self.assertIn("as it is painted", str(self.desk.history.past[-1].change))
        self.assertEqual(self.page.rows, [])
        self.desk.undo()
        wait(self.watch.found)
        self.settle()
        self.assertEqual(self.desk.history.now, before)
        self.assertEqual(len(self.page.rows), 1)
        self.saved()  # painted as planned after all
        self.assertEqual(self.page.rows, [])

    def test_looks_are_kept_with_the_plan(self):
        self.paint()
        self.watched()
        self.saved("sea", -24)
        self.assertTrue(self.desk.unsaved)
        plan = self.folder / "plan.umber"
        wait(self.works.files.documents.saved, lambda: self.works.files.documents.save(plan))
        self.assertFalse(self.desk.unsaved)
        self.open(plan)
        looks = self.works.journaling.journal.looks
        self.assertEqual([len(e.drifted) for e in looks][:2], [0, 1])
        self.assertEqual(looks[1].drifted[0].region, "r2")
        self.assertEqual(self.watch.files, (), "its path is known where windows are remembered")

    def test_the_same_painting_is_one_look(self):
        self.paint()
        self.watched()
        self.desk.noted = False
        self.saved()
        self.assertEqual(len(self.watch.looks), 1)
        self.assertFalse(self.desk.noted, "opening a plan does not make it unsaved")

    def test_a_note_stays_with_its_save(self):
        self.paint()
        self.watched()
        self.page.note.setFocus()
        QTest.keyClicks(self.page.note, "sky first")
        self.page.note.take()
        self.assertEqual(self.watch.looks[-1].note, "sky first")
        self.saved("sea", -24)
        self.assertEqual(self.page.note.text(), "")
        self.assertEqual([e.note for e in self.watch.looks], ["sky first", ""])
        said = log_markdown(self.works.journaling.journal, "t", {})
        self.assertIn("sky first", said)

    def test_a_save_during_a_drag_leaves_its_look_too(self):
        self.paint()
        self.watched()
        self.desk.begin_drag()
        wait(self.watch.timer.timeout, lambda: self.paint("sea", -24))
        self.assertEqual(len(self.watch.looks), 1)
        self.desk.seal()
        wait(self.watch.found)
        self.assertEqual(len(self.watch.looks), 2)

    def test_an_answer_for_a_plan_that_is_gone_is_dropped(self):
        self.paint("sea", -24)
        self.watch.files = (self.file,)
        self.watch._take(self.file)
        wait(self.desk.worker.idle)
        self.watch._new.add(self.file)
        self.watch._compare(self.file)
        self.desk.pixels = copy.copy(self.desk.pixels)  # as when another plan was laid
        self.desk.pixels.journal = Journal()
        wait(self.desk.worker.idle)
        self.assertEqual(self.works.journaling.journal.looks, ())

    def test_every_picture_is_shown(self):
        self.paint("sea", -24)
        self.watched()
        seen = []
        for name, button in self.page.seen.buttons.items():
            with self.subTest(name):
                button.click()
                self.settle()
                seen.append(self.page.picture.grab().toImage())
        self.assertTrue(all(a != b for i, a in enumerate(seen) for b in seen[:i]))

    def test_what_is_no_painting_of_it_is_said(self):
        rng = np.random.default_rng(1)
        self.file.write_bytes(png_bytes(rng.integers(0, 255, (300, 400, 3), np.uint8)))
        self.answers.path = self.file
        wait(self.watch.failed, self.page.browse.click)
        self.assertIn("does not show this sketch", self.page.says.text())
        self.saved()
        self.assertIn("Nothing has drifted", self.page.says.text())

    def test_a_half_written_file_is_read_again(self):
        self.paint()
        whole = self.file.read_bytes()
        self.file.write_bytes(whole[: len(whole) // 2])
        self.answers.path = self.file
        wait(self.desk.worker.idle, self.page.browse.click)
        wait(self.watch.found, lambda: self.file.write_bytes(whole))

    def test_one_that_could_not_be_read_is_read_again_by_itself(self):
        self.paint()
        whole, fails = document.painting.pictures.read, [True, True]

        def read(path, tick):
            if fails:
                fails.pop()
                raise Refusal(str(path), words("is locked"))
            return whole(path, tick)

        self.answers.path = self.file
        with mock.patch.object(document.painting.pictures, "read", read):
            wait(self.watch.found, self.page.browse.click)
        self.assertEqual(fails, [])

    def test_one_that_stays_half_written_is_said(self):
        self.file.write_bytes(b"\x89PNG\r\n\x1a\n and no more")
        self.answers.path = self.file
        wait(self.watch.failed, self.page.browse.click)
        self.assertIn("painting.png", self.page.says.text())
        self.assertEqual(self.watch.looks, ())

    def test_several_files_and_none(self):
        self.paint()
        self.watched()
        other = self.folder / "other.png"
        shutil.copy(self.file, other)
        self.answers.path = other
        wait(self.watch.found, self.page.browse.click)
        self.assertEqual(self.page.files.count(), 2)
        wait(self.watch.found, lambda: self.page.file_chosen.emit(self.file))
        self.assertEqual(self.page.files.currentText(), "painting.png")
        namesake = self.folder / "other" / "painting.png"
        namesake.parent.mkdir()
        shutil.copy(self.file, namesake)
        self.answers.path = namesake
        wait(self.watch.found, self.page.browse.click)
        self.assertEqual(len(self.watch.looks), 1, "its own, and not those of its namesake")
        self.watch.note("the other one")
        wait(self.watch.found, lambda: self.page.file_chosen.emit(self.file))
        self.assertEqual([e.note for e in self.watch.looks], [""])
        for _ in range(3):
            self.page.drop.click()
        self.assertFalse(self.page.files.isVisibleTo(self.page))
        self.assertIn("choose the file you save", self.page.says.text())

    def test_a_painting_that_stays_away_is_said_to_be_gone(self):
        self.paint()
        self.watched()
        wait(self.watch.failed, self.file.unlink)
        self.assertIn("painting.png is gone", self.page.says.text())
        wait(self.watch.found, lambda: self.paint("sea", -24))
        self.assertEqual(len(self.page.rows), 1)

    def test_one_that_goes_while_it_is_read_again_is_said_to_be_gone(self):
        self.paint()
        self.watched()
        self.assertTrue(self.watch._watch.tell_again(self.file))
        wait(self.watch.failed, self.file.unlink)
        self.assertIn("painting.png is gone", self.page.says.text())

    def test_a_folder_that_goes_and_comes_back(self):
        self.paint()
        self.watched()
        self.assertLess(file_watch.SETTLES_AFTER, 1000)
        moved = self.folder / "gone"
        self.file.rename(moved)
        wait(self.watch.found, lambda: self.paint("sea", -24))
        self.assertEqual(len(self.page.rows), 1)


class TestJournal(InWindow):
    def test_decisions_drags_and_undo_are_written_down(self):
        self.open(DEMO)
        from umber_compass.plan.settings import change_setting

        clock = iter(range(100, 200))
        self.works.journaling.clock = lambda: float(next(clock))
        self.do(change_setting("purpose", "a poster"))
        self.do(change_setting("brief.use", "poster"))
        self.desk.undo()
        texts = [e.text for e in self.works.journaling.journal.entries]
        self.assertEqual(len(texts), 3)
        self.assertEqual(texts[2], f"undo: {texts[1]}")
        self.assertEqual([e.at for e in self.works.journaling.journal.entries], [100, 101, 102])
        self.assertFalse(self.desk.noted, "only what the artist says asks to be saved")
        self.works.journaling.say_why(0, "it hangs in a stairwell")
        self.assertTrue(self.desk.noted)
        self.assertEqual(self.works.journaling.journal.entries[0].why, "it hangs in a stairwell")

    def test_bursts_and_bounds(self):
        journal = Journal()
        for at in (0, 60, 300, 5000, 5060, 100, 130):
            journal = with_entry(journal, Entry(at=at, step="values", text="x"))
        self.assertEqual(
            [(b.count, b.minutes) for b in bursts(journal)], [(3, 5), (2, 1), (2, 0.5)]
        )
        full = Journal(
            entries=tuple(
                Entry(at=i, step="values", text="x", why="kept" if i == 0 else "")
                for i in range(MOST_ENTRIES)
            )
        )
        after = with_entry(full, Entry(at=9e6, step="values", text="new"))
        self.assertEqual(len(after.entries), MOST_ENTRIES)
        self.assertEqual((after.entries[0].why, after.entries[1].at), ("kept", 2))
