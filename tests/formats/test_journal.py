"""The journal in the plan's file: what is written is read again, and what is none is refused."""

import csv
import io
import zipfile

import msgspec
from hypothesis import example, given, settings
from hypothesis import strategies as st

from tests import scenes
from umber_compass.demo.plans import DEMOS
from umber_compass.document import open_plan, save
from umber_compass.document.kept_work import KeptWork, record_of
from umber_compass.formats.log_text import log_csv, log_markdown
from umber_compass.formats.records import Record
from umber_compass.plan.journal import Drifted, Entry, FreshLook, Journal, Look
from umber_compass.words import Refusal

FULL = Journal(
    entries=(Entry(at=5.0, step="values", text="set wall to 63", study="First", why="|a| *b*"),),
    looks=(
        Look(
            at=6.0, file_name="a.png", painted=0.5, darks=20, middle=50, lights=90,
            by=(-6.0, 0.0, 1.0), drifted=(Drifted(region="r2", text="6 L* darker"),),
        ),
    ),
    fresh=(FreshLook(at=7.0, answers=("sun", "", "less red")),),
    done=("base-ground",),
)  # fmt: skip


class TestJournal(scenes.InFolder):
    def setUp(self):
        super().setUp()
        self.path = self.folder / "plan.umber"
        self.opened = open_plan(scenes.small(DEMOS[0].plan))
        self.opened.pixels.journal = FULL
        save(self.opened.plan, self.opened.pixels, self.path)

    def put(self, name, data):
        """The plan's file once more, with one entry replaced, or left out."""
        with zipfile.ZipFile(self.path) as old:
            entries = [(i, old.read(i)) for i in old.infolist()]
        with zipfile.ZipFile(self.path, "w") as new:
            for info, was in entries:
                if info.filename != name:
                    new.writestr(info, was)
                elif data is not None:
                    new.writestr(info, data)

    def test_what_is_written_is_read(self):
        self.assertEqual(open_plan(self.path).pixels.journal, FULL)

    def test_a_plan_without_one_has_an_empty_one(self):
        self.put("journal.json", None)
        self.assertEqual(open_plan(self.path).pixels.journal, Journal())

    def test_what_is_none_is_refused_in_a_line(self):
        for data in (b"[]", b"{", b'{"entries":[{"at":-1}]}', b"\xff", b'{"looks":[{"at":1}]}'):
            self.put("journal.json", data)
            with self.subTest(data), self.assertRaisesRegex(Refusal, "journal.json is not valid"):
                open_plan(self.path)

    def test_unsaved_work_keeps_it(self):
        kept = KeptWork(self.folder / "state")
        pixels = self.opened.pixels
        kept.keep(pixels, record_of(self.opened.plan, None, journal=FULL))
        self.addCleanup(kept.close)
        files = (self.folder / "state" / "recovery").iterdir()
        (file,) = (f for f in files if f.suffix != ".lock")
        record = msgspec.json.decode(file.read_bytes(), type=Record)
        self.assertEqual(msgspec.json.decode(record.journal, type=Journal), FULL)

    @example("=1+1", "-2")
    @example("@sum", "\tx")
    @given(st.text(max_size=60), st.text(max_size=60))
    @settings(max_examples=60, deadline=None)
    def test_any_text_stays_on_its_line(self, text, why):
        entry = Entry(at=1.0, step="values", text=text, why=why)
        said = log_markdown(Journal(entries=(entry,)), text, {})
        self.assertEqual(
            len(said.splitlines()),
            len(log_markdown(Journal(entries=(FULL.entries)), "t", {}).splitlines()),
        )
        table = log_csv(Journal(entries=(entry,)), {})
        rows = list(csv.reader(io.StringIO(table, newline="")))
        self.assertEqual(len(rows), 2)
        self.assertEqual(rows[1][3].removeprefix("'"), text.removeprefix("'"))
        self.assertFalse(any(cell[:1] in "=+-@\t\r" for cell in rows[1] if cell))
