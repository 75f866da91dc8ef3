"""Unsaved work and saved versions, kept in a folder; where sketches lie."""

import os
import subprocess
import sys
from unittest import mock

from tests.document.test_documents import Made
from umber_compass import document
from umber_compass.document import kept_work
from umber_compass.document.kept_work import KeptWork, record_of
from umber_compass.formats import records
from umber_compass.formats.sketch_paths import SketchPaths
from umber_compass.plan.harmony_edits import turn_lead
from umber_compass.plan.settings import change_setting
from umber_compass.words import Refusal


class Kept(Made):
    def setUp(self):
        super().setUp()
        self.state = self.folder / "state"
        self.work = KeptWork(self.state)
        self.addCleanup(self.work.close)

    def keep(self, plan, work=None, **told):
        record = record_of(plan, self.path, b"png", **told)
        (work or self.work).keep(self.pixels, record)

    def plan_of(self, entry):
        return document.from_file(self.work.opened(entry), "x").plan

    def saved(self, count, path=None):
        for i in range(count):
            plan = change_setting("title", f"version {i}").apply(self.plan)
            with mock.patch("time.time", return_value=1e9 + i):
                self.work.add_version(plan, self.pixels, path or self.path, b"", [f"change {i}"])


class Recovery(Kept):
    def test_work_of_a_process_that_is_gone_is_found_whole_and_that_of_one_that_runs_is_not(self):
        plan = turn_lead(77).apply(self.plan)
        self.keep(plan, stamp=None, changes=[f"change {i}" for i in range(9)])
        self.assertEqual(KeptWork(self.state).left(), [])
        self.work._lock._held.close()  # as the kernel does when a process ends
        (entry,) = KeptWork(self.state).left()
        self.assertEqual(self.plan_of(entry), plan)
        self.assertEqual((entry.record.count, entry.record.changes[-1]), (9, "change 8"))
        self.assertEqual((len(entry.record.changes), entry.record.path), (5, str(self.path)))
        self.work.drop(entry)
        self.assertEqual(list((self.state / "recovery").iterdir()), [])

    def test_a_copy_is_small_and_for_its_owner_alone(self):
        self.keep(self.plan)
        for lead in (10.0, 20.0):
            self.keep(turn_lead(lead).apply(self.plan))
        files = [p for p in self.state.rglob("*") if p.is_file()]
        pictures = [p for p in files if p.parent.name == "pictures"]
        self.assertEqual(len(pictures), 2)  # the sketch and its regions, once each
        self.assertEqual(len(files), 4)
        for folder in (self.state / "pictures", self.state / "recovery"):
            self.assertEqual(folder.stat().st_mode & 0o777, 0o700)

    def test_forgetting_and_closing_leave_nothing_to_offer(self):
        self.keep(self.plan)
        self.work.forget()
        self.assertEqual([p.suffix for p in (self.state / "recovery").iterdir()], [records.LOCK])
        self.keep(self.plan)
        self.work.close()
        self.assertEqual(list((self.state / "recovery").iterdir()), [])

    def test_what_is_put_aside_is_kept_and_offered_no_more(self):
        self.keep(self.plan)
        self.work._lock._held.close()
        other = KeptWork(self.state)
        other.put_aside(other.left()[0])
        self.assertEqual(other.left(), [])
        (entry,) = other.aside()
        self.assertEqual(self.plan_of(entry), self.plan)

    def test_damage_is_one_line_or_nothing(self):
        self.keep(self.plan)
        self.work._lock._held.close()
        other = KeptWork(self.state)
        (entry,) = other.left()
        picture = self.state / "pictures" / self.plan.sketch.labels
        picture.write_bytes(b"other")
        with self.assertRaisesRegex(Refusal, "damaged picture"):
            other.opened(entry)
        picture.unlink()
        with self.assertRaisesRegex(Refusal, "no such file"):
            other.opened(entry)
        entry.file.write_bytes(entry.file.read_bytes()[:900])
        self.assertEqual(other.left(), [])
        nothing = KeptWork(None)
        nothing.forget()
        self.assertEqual(
            (nothing.left(), nothing.aside(), nothing.versions(self.path)), ([], [], [])
        )
        self.assertFalse(nothing.is_on)
        blocked = KeptWork(self.sketch)
        with self.assertRaisesRegex(Refusal, "not kept"):
            blocked.keep(self.pixels, record_of(self.plan, None))

    def test_a_killed_writer_leaves_the_old_record_or_the_new(self):
        code = (
            "import sys, time\n"
            "from pathlib import Path\n"
            "from umber_compass import document\n"
            "from umber_compass.document.kept_work import KeptWork, record_of\n"
            "from umber_compass.plan.harmony_edits import turn_lead\n"
            "made = document.bring_in(Path(sys.argv[1]))\n"
            "work, n = KeptWork(Path(sys.argv[2])), 0\n"
            "while True:\n"
            "    plan, n = turn_lead(n % 360).apply(made.plan), n + 1\n"
            "    work.keep(made.pixels, record_of(plan, None))\n"
            "    print(n, flush=True)\n"
        )
        command = [sys.executable, "-c", code, str(self.sketch), str(self.state)]
        with subprocess.Popen(command, stdout=subprocess.PIPE, text=True) as child:
            for _ in range(20):
                child.stdout.readline()
            child.kill()
        (entry,) = self.work.left()
        lead = self.plan_of(entry).studies[0].scheme.lead_deg
        self.assertGreaterEqual(lead, 19)


class Versions(Kept):
    def test_the_last_ten_of_a_plan_are_kept_the_newest_first(self):
        self.saved(12)
        self.saved(1, self.folder / "another.umber")
        found = self.work.versions(self.path)
        self.assertEqual(
            [e.record.title for e in found], [f"version {i}" for i in range(11, 1, -1)]
        )
        self.assertEqual(self.plan_of(found[0]).title, "version 11")
        self.assertEqual(found[0].record.changes, ("change 11",))
        self.assertEqual(len(self.work.versions(self.folder / "another.umber")), 1)

    def test_saving_the_same_again_is_no_version(self):
        for _ in range(3):
            self.work.add_version(self.plan, self.pixels, self.path, b"", [])
        self.assertEqual(len(self.work.versions(self.path)), 1)

    def test_all_together_are_bounded_the_oldest_away_first_and_what_is_needed_stays(self):
        self.saved(3)
        size = next(p for p in self.state.rglob("*" + records.RECORD)).stat().st_size
        self.keep(self.plan)
        with mock.patch.object(kept_work, "MOST_BYTES", size * 3 + 40):
            self.saved(6, self.folder / "another.umber")
        self.assertEqual([e.record.title for e in self.work.versions(self.path)], [])
        left = self.work.versions(self.folder / "another.umber")
        self.assertEqual([e.record.title for e in left], ["version 5", "version 4", "version 3"])
        pictures = self.state / "pictures"
        stray = pictures / ("0" * 64)
        stray.write_bytes(b"x")
        os.utime(stray, (0, 0))
        self.saved(1, self.folder / "third.umber")
        self.assertFalse(stray.exists())
        self.assertEqual(len(list(pictures.iterdir())), 2)
        stray.write_bytes(b"x")  # young: it may belong to what is still being written
        self.saved(2)
        self.assertTrue(stray.exists())

    def test_what_cannot_be_kept_does_not_stop_saving(self):
        with mock.patch("umber_compass.formats.atomic.write_data", side_effect=OSError(28, "x")):
            self.work.add_version(self.plan, self.pixels, self.path, b"", [])
        self.assertEqual(self.work.versions(self.path), [])


class Paths(Made):
    def test_a_sketch_is_found_again_by_its_bytes_on_this_machine(self):
        paths = SketchPaths(self.folder)
        self.assertIsNone(paths.of("a" * 64))
        paths.note("a" * 64, self.sketch)
        self.assertEqual(SketchPaths(self.folder).of("a" * 64), self.sketch)
        for i in range(600):
            paths.note(f"{i:064x}", self.sketch)
        again = SketchPaths(self.folder)
        self.assertIsNone(again.of("a" * 64))
        self.assertEqual((again.of(f"{599:064x}"), again.of(f"{99:064x}")), (self.sketch, None))
        self.assertEqual(again.of(f"{100:064x}"), self.sketch)

    def test_two_programs_note_beside_each_other_and_without_a_folder_nothing_is_written(self):
        one, two, none = SketchPaths(self.folder), SketchPaths(self.folder), SketchPaths()
        self.assertIsNone(one.of("a"))
        two.note("b", self.sketch)
        one.note("a", self.sketch)
        none.note("c", self.sketch)
        known = SketchPaths(self.folder)
        self.assertEqual([known.of(k) for k in "abc"], [self.sketch, self.sketch, None])
        self.assertEqual(none.of("c"), self.sketch)

    def test_odd_names_and_files_do_no_harm(self):
        paths = SketchPaths(self.folder)
        paths.note("a", self.folder / os.fsdecode(b"\xff.png"))
        self.assertIsNone(paths.of("a"))
        (self.folder / "sketches.json").write_text("[1]")
        self.assertIsNone(SketchPaths(self.folder).of("a"))
        SketchPaths(self.sketch).note("a", self.sketch)  # no folder: nothing is kept
