"""What was typed, asked for or done is never lost, whatever comes next."""

import itertools
import json
import os
import signal
import subprocess
import sys
import tempfile
import unittest
from pathlib import Path
from unittest import mock

import msgspec
from PySide6.QtCore import Qt
from PySide6.QtGui import QImage
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QLabel, QWidget

from tests import scenes
from tests.window.driving import InWindow, wait
from umber_compass import document
from umber_compass.document.kept_work import KeptWork
from umber_compass.formats import atomic
from umber_compass.formats.cache import Cache
from umber_compass.plan.edits import study
from umber_compass.plan.harmony_edits import turn_lead
from umber_compass.plan.light_edits import light_on
from umber_compass.plan.settings import change_setting
from umber_compass.plan.study_edits import duplicate_study, set_mood
from umber_compass.window.desk.remembered import Remembered
from umber_compass.window.main_window import MainWindow
from umber_compass.window.start.left_card import LeftCard
from umber_compass.window.widgets.fields import NotesField, NumberField, TextField, Typed
from umber_compass.window.widgets.fold import Fold
from umber_compass.words import Refusal, words

# Numbers that wait for the button beside them; they are no decision of the plan until then.
UNTIL_PRESSED = {"How calm", "Strength of the fall-off", "Group apart", "Strength of the zones"}


# A real program, with the caret in the notes of the brief.
_TYPING = """
import sys
from PySide6.QtCore import QTimer
from PySide6.QtTest import QTest
from umber_compass.window import application

def go(window):
    if window.works.desk.history is None or window.works.desk.worker.busy:
        return QTimer.singleShot(50, window, lambda: go(window))
    window.works.menus.run("brief")
    field = window.works.layout.drawers["brief"].notes
    field.setFocus()
    QTest.keyClicks(field, "not taken yet")
    print("typed", flush=True)

def start(*given):
    window = real(*given)
    QTimer.singleShot(0, window, lambda: go(window))
    return window

real, application.start = application.start, start
sys.exit(application.main(["open", {path!r}]))
"""


class InBoat(InWindow):
    """A window with a small plan that lies in a file, and another one beside it."""

    def setUp(self):
        held = tempfile.TemporaryDirectory()
        self.addCleanup(held.cleanup)
        self.folder = Path(held.name)
        self.state = self.folder / "state"
        self.sketch = self.folder / "boat.png"
        self.sketch.write_bytes(scenes.encoded(scenes.draw()))
        made = document.bring_in(self.sketch)
        plan = set_mood("sombre").apply(light_on(made.plan))
        plan = duplicate_study(plan, "s1").apply(plan)
        self.path, self.other = self.folder / "boat.umber", self.folder / "other.umber"
        document.save(plan, made.pixels, self.path)
        document.save(change_setting("title", "Other").apply(plan), made.pixels, self.other)
        super().setUp()
        self.window_of(self.window)

    def window_of(self, first):
        """Another window in the place of the first, which keeps its work in a folder."""
        first.close()
        first.deleteLater()
        self.window = MainWindow(self.answers, Cache(self.folder / "cache"), state=self.state)
        self.window.show()
        self.take()

    @property
    def plan(self):
        return self.desk.history.now

    def at_rest(self):
        if self.desk.orders.busy:
            wait(self.desk.orders.rested)
        self.settle()


class Fields(InBoat):
    """A field belongs to what it was filled from."""

    def fields(self):
        """Every field of every bench and drawer that is seen, each with what shows it."""
        for step, bench in self.parts.benches.items():
            self.works.steps.open(step)
            opens = bench.open_tab if hasattr(bench, "pages") else None
            for i in range(bench.pages.count() if opens else 1):
                yield from self.of(bench, lambda s=step, o=opens, i=i: self.show(s, o, i))
        for name, drawer in self.parts.drawers.items():
            yield from self.of(drawer, lambda n=name: self.show_drawer(n))

    def of(self, part, show):
        show()
        for fold in part.findChildren(Fold):
            fold.button.setChecked(True)
        kinds = (TextField, NotesField, NumberField)
        shown = [f for k in kinds for f in part.findChildren(k) if f.isVisible()]
        for field in shown[:: 1 if len(shown) < 40 else 8]:  # a practice's are all made alike
            yield field, show

    def show(self, step, opens, page):
        self.works.steps.open(step)
        if opens:
            opens(page)
        QApplication.processEvents()

    def show_drawer(self, name):
        if self.parts.stack.currentWidget() is not self.parts.drawers[name]:
            self.works.steps.toggle_drawer(name)
        QApplication.processEvents()

    def typed(self, field):
        """Type something else into a field, and leave the caret there; gives what."""
        field.setFocus()
        if not field.isEnabled() or not field.hasFocus():
            return ""
        text = "words that nobody has taken yet"
        if isinstance(field, NumberField):
            low, high = field.minimum(), field.maximum()
            number = next(
                n
                for n in (low + (high - low) * p for p in (0.5, 0.3))
                if field.textFromValue(n) != field.textFromValue(field.value())
            )
            text = field.textFromValue(number)
        elif "hex" in field.accessibleName():
            text = "#336699"
        field.selectAll()
        QTest.keyClicks(field, text)
        return text

    def acts(self):
        """All that may lose what is being typed, by name."""
        regions = itertools.cycle(r.id for r in self.plan.regions[1:3])
        steps = itertools.cycle(("ramps", "handoff"))
        self.answers.unsaved_answer = "cancel"
        return {
            "step": lambda: self.works.steps.open(next(steps)),
            "save": lambda: self.works.menus.run("save"),
            "study": lambda: self.works.menus.run("next-study"),
            "region": lambda: self.session.select(next(regions)),
            "edit": lambda: self.desk.do(turn_lead(77)),
            "another plan": lambda: self.works.files.open_path(self.other),
            "close": self.window.close,
        }

    def test_every_field_is_taken_before_whatever_could_lose_it(self):
        wait(self.desk.opened, lambda: self.works.files.open_path(self.path))
        self.at_rest()
        acts = itertools.cycle(self.acts().items())
        walked, before, named = set(), self.plan, self.plan.regions[0].id
        for field, show in self.fields():
            said = field.accessibleName()
            self.session.select(named)
            show()
            if said in UNTIL_PRESSED or field.of is None:
                continue
            text = self.typed(field)
            if not text:
                continue
            act, run = next(acts)
            with self.subTest(said, act=act):
                self.assertIs(self.plan, before, "it was taken while it was typed")
                run()
                first = self.desk.history.past[0] if self.desk.history.past else None
                self.assertIsNotNone(first, "it was lost")
                after = self.desk.history.past[1].plan if self.desk.history.past[1:] else self.plan
                self.assertNotEqual(after, before)
                if not isinstance(field, NumberField):
                    self.assertIn(text, msgspec.json.encode(after).decode())
                    self.assertEqual(after.current_study, before.current_study)
            walked.add((self.session.step, said))
            while self.desk.orders.busy:
                wait(self.desk.orders.rested)
            self.assertEqual(self.plan.title == "Other", False)
            while self.desk.history.past:
                self.desk.undo()
            self.desk.history = self.desk.history._replace(future=())
            self.assertIs(self.plan, before)
        self.assertGreater(len(walked), 70, sorted(walked))
        self.answers.unsaved_answer = "discard"

    def test_what_is_typed_goes_to_its_own_study_and_region_and_never_to_another_plan(self):
        wait(self.desk.opened, lambda: self.works.files.open_path(self.path))
        self.at_rest()
        self.works.steps.open("studies")
        bench = self.parts.benches["studies"]
        first, second = (s.id for s in self.plan.studies)
        self.type(bench.note, "of the first")
        self.works.menus.run("next-study")
        notes = {s.id: s.note for s in self.plan.studies}
        self.assertEqual(notes, {first: "of the first", second: ""})
        self.works.menus.run("brief")
        self.type(self.parts.drawers["brief"].purpose, "of the boat")
        self.answers.unsaved_answer = "discard"
        wait(self.desk.opened, lambda: self.works.files.open_path(self.other))
        self.at_rest()
        self.assertEqual((self.plan.title, self.plan.purpose), ("Other", ""))
        self.assertEqual(self.parts.drawers["brief"].purpose.text(), "")
        self.assertEqual(self.desk.history.past, ())

    def test_a_line_that_is_being_typed_stays_while_results_come_in(self):
        wait(self.desk.opened, lambda: self.works.files.open_path(self.path))
        self.at_rest()
        self.works.steps.open("values")
        self.session.select(self.plan.regions[0].id)
        field = self.parts.benches["values"].page.bar.value
        field.setFocus()
        field.selectAll()
        QTest.keyClicks(field, "4")
        self.works.following.follow()
        QTest.keyClicks(field, "2")
        self.assertEqual(field.lineEdit().text().split()[0], "42")
        QTest.keyClick(field, Qt.Key.Key_Return)
        self.assertEqual(study(self.plan).colours[self.plan.regions[0].id].value, 42)

    def test_a_verdict_never_touches_the_reason(self):
        wait(self.desk.opened, lambda: self.works.files.open_path(self.path))
        self.at_rest()
        self.works.steps.open("studies")
        bench, first = self.parts.benches["studies"], self.plan.studies[0].id
        self.type(bench.reason, "the sail glows")
        menu = {a.text(): a for a in self.works.studies.menu(first).actions()}
        for act in (
            menu["Keep"].trigger,
            menu["Reject"].trigger,
            lambda: self.works.menus.run("study-keep"),
            lambda: self.press(bench.reject),
            menu["Reject"].trigger,
        ):
            act()
            self.assertEqual(self.plan.studies[0].reason, "the sail glows")

    def test_a_plan_that_goes_takes_the_owner_of_every_field_with_it(self):
        wait(self.desk.opened, lambda: self.works.files.open_path(self.path))
        self.at_rest()
        self.window.joining._let_go()
        owners = {f.of for f in self.parts.findChildren(QWidget) if isinstance(f, Typed)}
        self.assertEqual(owners, {None})


class InOrder(InBoat):
    """What the artist asked for is done in order; none takes another's place."""

    def setUp(self):
        super().setUp()
        wait(self.desk.opened, lambda: self.works.files.open_path(self.path))
        self.at_rest()

    def test_merges_references_candidates_and_splits_asked_for_in_one_event_are_all_done(self):
        _, sand, hull, sail, sun = (r.id for r in self.plan.regions)
        pictures = []
        for i, colour in enumerate(("#204060", "#a04020", "#60a020")):
            path = self.folder / f"reference {i}.png"
            shapes = (*scenes.BOAT[:4], ("ellipse", (180, 14, 214, 48), colour))
            path.write_bytes(scenes.encoded(scenes.draw(shapes)))
            pictures.append(path)
        for pair in ((sail, sun), (hull, sand)):
            self.session.select_several(pair)
            self.works.menus.run("merge")
        for path in pictures:
            self.works.references.add_path(path)
        for path in pictures[:2]:
            self.works.sketches.candidates.add(path)
        self.at_rest()
        self.assertEqual(len(self.plan.regions), 3)
        self.assertEqual([r.title for r in self.plan.references], [p.stem for p in pictures])
        self.assertEqual(len(self.plan.candidates), 2)
        for one in (sail, hull):
            self.session.select(one)
            self.works.menus.run("split-parts")
        self.at_rest()
        self.assertEqual(len(self.plan.regions), 5)
        for pair in ((sail, hull), (hull, sail)):  # the second of one that is gone then
            self.session.select_several(pair)
            self.works.menus.run("merge")
        self.at_rest()
        self.assertIn("not there any more", self.parts.notice.text())

    def test_saves_queue_and_a_new_name_is_followed(self):
        new = self.folder / "new name.umber"
        self.do(turn_lead(20))
        self.answers.path = new
        self.works.files.save_as()
        self.do(turn_lead(40))
        self.works.files.save()
        self.works.files.save()
        self.works.files.save()
        self.at_rest()
        self.assertEqual(self.answers.asked, ["save as"])
        self.assertEqual(self.desk.path, new)
        self.assertEqual(document.open_plan(new).plan, self.plan)
        self.assertFalse(self.desk.unsaved)
        self.assertNotEqual(document.open_plan(self.path).plan, self.plan)

    def test_saving_and_closing_at_once_asks_nothing_and_loses_nothing(self):
        self.do(turn_lead(20))
        plan = self.plan
        self.works.files.save()
        self.works.files.save()
        self.assertFalse(self.window.close())
        wait(self.desk.orders.rested)
        QApplication.processEvents()
        self.assertFalse(self.window.isVisible())
        self.assertEqual(self.answers.asked, [])
        self.assertEqual(document.open_plan(self.path).plan, plan)

    def test_a_request_that_fails_or_has_nothing_to_do_lets_the_next_have_its_turn(self):
        got = []

        def broken():
            raise ValueError("x")

        orders = self.desk.orders
        orders.ask("a", broken, got.append, lambda e: got.append(type(e)), "a")
        orders.ask("b", lambda: None, got.append, got.append, "b")
        orders.ask("c", lambda: lambda tick: 1 / 0, got.append, lambda e: got.append(type(e)), "c")
        orders.ask("d", lambda: lambda tick: "d", got.append, got.append, "d")
        self.assertTrue(orders.busy)
        wait(orders.rested)
        self.assertEqual(got, [ValueError, ZeroDivisionError, "d"])

    def test_another_plan_waits_for_what_was_asked_for_the_one_that_goes(self):
        self.do(turn_lead(20))
        plan = self.plan
        self.works.files.save()
        wait(self.desk.opened, lambda: self.works.files.open_path(self.other))
        self.at_rest()
        self.assertEqual((self.answers.asked, self.plan.title), ([], "Other"))
        self.assertEqual(document.open_plan(self.path).plan, plan)


class Changed(InBoat):
    """A sketch file that changed into something else by mistake."""

    def setUp(self):
        super().setUp()
        wait(self.desk.opened, lambda: self.works.files.open_path(self.sketch))
        self.at_rest()
        self.whole = self.sketch.read_bytes()
        blank = scenes.draw((("rectangle", (0, 0, 240, 160), "#ffffff"), scenes.BOAT[4]))
        self.blank = scenes.encoded(blank)
        self.named = self.plan.regions[2].id
        self.do(change_setting("region.REGION.name", "hull", self.named))

    def read(self, data):
        self.sketch.write_bytes(data)
        self.works.sketches.watching.read(self.sketch)
        self.at_rest()

    def test_it_is_held_and_asked_about_with_both_pictures(self):
        before, seen = self.plan, []
        with mock.patch.object(
            type(self.answers), "most_go", lambda *given: seen.append(given[2:]) or False
        ):
            self.read(self.blank)
        name, gone, count, there, fresh = seen[0]
        self.assertEqual((name, gone > count / 2), ("boat.png", True))
        for bitmap in (there, fresh):
            self.assertIsInstance(bitmap.image, QImage)
        self.assertNotEqual(there.packed.tolist(), fresh.packed.tolist())
        self.assertIs(self.plan, before)
        self.assertIn("was not taken in", self.parts.notice.text())
        self.read(self.whole)
        self.assertIs(self.plan, before)

    def test_bytes_that_were_known_bring_their_decisions_back(self):
        self.do(change_setting("brief.notes", "kept"))
        self.answers.may_go = True
        before = self.plan
        self.read(self.blank)
        self.assertLess(len(self.plan.regions), len(before.regions))
        self.do(turn_lead(200))
        self.read(self.whole)
        self.assertEqual({r.id for r in self.plan.regions}, {r.id for r in before.regions})
        self.assertEqual(self.region("hull").id, self.named)
        self.assertEqual(self.plan.studies[0].scheme.lead_deg, 200)
        colours = [p.studies[0].colours[self.named] for p in (before, self.plan)]
        self.assertEqual(*colours)

    def test_a_line_about_a_broken_file_goes_when_it_is_whole_again(self):
        watching = self.works.sketches.watching
        watching.files.blockSignals(True)  # only what is read here
        with mock.patch.object(watching.files, "tell_again", return_value=False):
            self.read(b"no picture")
        self.assertIn("▲", self.parts.notice.text())
        self.read(self.whole)
        self.assertNotIn("▲", self.parts.notice.text())

    def test_a_plan_names_no_file_and_one_from_elsewhere_has_none_read(self):
        self.works.files.documents.save(self.path)
        self.at_rest()
        self.assertNotIn(str(self.folder), msgspec.json.encode(self.plan).decode())
        self.assertTrue(self.works.sketches.watching.is_watched)
        foreign = self.folder / "foreign.umber"
        held = document.open_plan(self.path)
        tree = json.loads(msgspec.json.encode(held.plan))
        tree["sketch"]["path"] = str(self.folder / "secret.png")
        (self.folder / "secret.png").write_bytes(self.blank)
        plan = msgspec.convert(tree, type(held.plan))
        document.save(plan, held.pixels, foreign)
        self.desk.paths._of = {}
        self.answers.unsaved_answer = "discard"
        self.desk.paths._file.unlink()
        wait(self.desk.opened, lambda: self.works.files.open_path(foreign))
        self.at_rest()
        self.assertIsNone(self.works.sketches.watching.path)
        self.answers.path = self.sketch
        self.works.menus.run("read-again")
        self.at_rest()
        self.assertIn("sketch", self.answers.asked)
        self.assertEqual(self.works.sketches.watching.path, self.sketch)


class Kept(InBoat):
    """Unsaved work outlives the program; saved versions can be seen and brought back."""

    def setUp(self):
        super().setUp()
        wait(self.desk.opened, lambda: self.works.files.open_path(self.path))
        self.at_rest()

    def keep(self):
        wait(self.works.keeping.soon.timeout)
        self.works.keeping._end()

    def again(self):
        """The program was killed, and is started again."""
        self.works.keeping._kept._lock._held.close()
        self.works.keeping.soon.stop()
        self.works.keeping._holds = False
        self.works.keeping._kept = KeptWork(None)
        self.answers.unsaved_answer = "discard"
        self.window_of(self.window)
        wait(self.works.versions.bringing.found)

    def test_work_is_kept_within_two_seconds_and_offered_after_a_crash(self):
        self.do(turn_lead(20))
        self.assertLessEqual(self.works.keeping.soon.interval(), 1000)
        self.keep()
        self.do(change_setting("region.REGION.name", "deep sea", self.plan.regions[0].id))
        self.keep()
        plan = self.plan
        self.again()
        (card,) = self.works.start.findChildren(LeftCard)
        shown = " ".join(label.text() for label in card.findChildren(QLabel))
        self.assertIn("2 changes", shown)
        self.assertIn("deep sea", shown)
        self.told = []
        self.desk.told.connect(lambda line, _: self.told.append(line))
        wait(self.desk.opened, lambda: self.press(card.back))
        self.at_rest()
        self.assertEqual((self.plan, self.desk.path), (plan, self.path))
        self.assertTrue(self.desk.unsaved)
        self.assertIn("is back as it was", self.told[-1])
        self.assertEqual(self.works.versions.left, [])
        self.again()
        (card,) = self.works.start.findChildren(LeftCard)
        shown = " ".join(label.text() for label in card.findChildren(QLabel))
        self.assertIn("Brought back before", shown)
        self.assertNotIn(" last: ", shown.replace("saved last: ", ""))
        wait(self.desk.opened, lambda: self.press(card.back))
        self.at_rest()
        self.assertEqual(len(list((self.state / "recovery").glob("*.work"))), 1)
        self.works.files.save()
        self.at_rest()
        self.assertFalse(self.desk.unsaved)
        self.assertEqual(document.open_plan(self.path).plan, plan)
        self.assertEqual(KeptWork(self.state).left(), [])

    def test_what_was_left_stays_where_it_cannot_be_kept_anew(self):
        self.do(turn_lead(20))
        self.keep()
        self.again()
        (left,) = self.works.versions.left
        (card,) = self.works.start.findChildren(LeftCard)
        full = Refusal("state", words("is full"))
        with mock.patch.object(self.works.keeping._kept, "keep", side_effect=full):
            wait(self.desk.opened, lambda: self.press(card.back))
            self.at_rest()
        self.assertTrue(left.entry.file.exists())

    def test_what_is_put_aside_waits_and_is_not_offered_again(self):
        self.do(turn_lead(20))
        self.keep()
        plan = self.plan
        self.again()
        (card,) = self.works.start.findChildren(LeftCard)
        wait(self.works.versions.bringing.found, lambda: self.press(card.aside))
        self.assertEqual(self.works.versions.left, [])
        wait(self.desk.opened, lambda: self.works.files.open_path(self.path))
        self.at_rest()
        wait(self.works.versions.bringing.versions, lambda: self.works.menus.run("versions"))
        (work,) = self.works.versions.dialog.works
        wait(self.desk.opened, lambda: self.press(work.back))
        self.at_rest()
        self.assertEqual(self.plan, plan)

    def test_saved_or_discarded_work_is_not_kept(self):
        self.do(turn_lead(20))
        self.keep()
        self.assertEqual(len(list((self.state / "recovery").glob("*.work"))), 1)
        self.works.files.save()
        self.at_rest()
        self.assertEqual(list((self.state / "recovery").glob("*.work")), [])
        self.do(turn_lead(40))
        self.keep()
        self.answers.unsaved_answer = "discard"
        self.window.close()
        self.assertEqual(list((self.state / "recovery").iterdir()), [])

    def test_versions_are_seen_as_pictures_and_one_comes_back_as_one_step(self):
        plans = []
        for lead in (20.0, 40.0, 60.0):
            self.do(turn_lead(lead))
            self.desk.seal()
            self.works.files.save()
            self.at_rest()
            plans.append(self.plan)
        wait(self.works.versions.bringing.versions, lambda: self.works.menus.run("versions"))
        cards = self.works.versions.dialog.cards
        self.assertEqual(len(cards), 3)
        self.assertFalse(cards[0]._loaded().isNull())
        self.press(cards[2])
        self.at_rest()
        self.assertEqual(self.plan, plans[0])
        self.desk.undo()
        self.assertEqual(self.plan, plans[2])

    def test_the_program_that_is_told_to_end_keeps_what_is_typed_and_done(self):
        child_code = _TYPING.format(path=str(self.path))
        for number in (signal.SIGTERM, signal.SIGHUP):
            home = self.folder / number.name
            folders = {f"XDG_{k}_HOME": str(home / k) for k in ("STATE", "CONFIG", "CACHE")}
            child = subprocess.Popen(
                [sys.executable, "-c", child_code],
                env={**os.environ, **folders},
                stdout=subprocess.PIPE,
                text=True,
            )
            try:
                self.assertEqual(child.stdout.readline().strip(), "typed")
                child.send_signal(number)
                self.assertEqual(child.wait(30), 128 + number)
            finally:
                child.kill()
                child.stdout.close()
            (entry,) = KeptWork(home / "STATE" / "umber-compass").left()
            self.assertIn(b"not taken yet", bytes(entry.record.plan))

    def test_a_mount_that_does_not_answer_holds_neither_start_nor_window_up(self):
        remembered = Remembered()
        gone = Path("/" + "x" * 300) / "a.umber"
        remembered._plans = [str(gone), str(self.path)]
        opened = []
        real = atomic.stamp

        def stuck(path):
            if path == gone:
                opened.append(path)
                while self.window.isVisible():
                    QTest.qSleep(5)
            return real(path)

        with mock.patch("umber_compass.formats.atomic.stamp", stuck):
            other = MainWindow(self.answers, remembered=remembered)
            while not other.works.plans.known:
                wait(other.works.plans.changed)
            self.assertEqual([k.path for k in other.works.plans.known], [self.path])
            other.close()
            other.deleteLater()
            self.window.close()
        self.assertEqual(opened, [gone])


if __name__ == "__main__":
    unittest.main()
