"""Whole sentences below the picture, help where the hand is, and what stands in the place of what
is still to come."""

from unittest import mock

from tests.window.driving import InWindow, QApplication, wait
from tests.window.test_values_focus import OnTheBoat
from umber_compass.plan.edits import Edit
from umber_compass.plan.harmony_edits import turn_lead
from umber_compass.plan.wish_edits import switch_wish
from umber_compass.steps.checks import CHECKS
from umber_compass.steps.harmony.scheme_edits import choose_scheme
from umber_compass.steps.harmony.shifts import shift_values
from umber_compass.window.benches import BENCHES
from umber_compass.window.desk.worker import Worker
from umber_compass.window.frame.checks import gathered
from umber_compass.window.frame.help import FOLDER
from umber_compass.window.frame.help_here import page_here
from umber_compass.words import whole_part, words

LINE = (
    "Nine regions: areas of one colour, with lines. Read as one hue; most of its colour lies on it"
)


class Whole(InWindow):
    def test_a_line_ends_where_a_sentence_or_a_clause_does(self):
        for room, said in (
            (200, LINE),
            (70, "Nine regions: areas of one colour, with lines. Read as one hue …"),
            (55, "Nine regions: areas of one colour, with lines …"),
            (40, "Nine regions: areas of one colour …"),
            (10, LINE),  # nothing fits: it is wrapped
        ):
            self.assertEqual(whole_part(LINE, lambda text, r=room: len(text) <= r), said)
        self.assertEqual(whole_part("a: one  two  three", lambda t: len(t) < 12), "a: one …")

    def test_the_notice_keeps_all_it_said_and_never_half_a_word(self):
        self.open()
        notice = self.parts.notice
        self.desk.told.emit(LINE, False)
        for width in (1100, 1500):
            self.window.resize(width, 760)
            QApplication.processEvents()
            shown = notice.line.text().removesuffix(" …")
            self.assertTrue(LINE.startswith(shown))
            self.assertIn(LINE[len(shown) : len(shown) + 1], ("", ".", ";", ","))
            self.assertEqual((notice.text(), notice.line.toolTip()), (LINE, LINE))


class Help(OnTheBoat):
    step = "harmony"

    def test_it_opens_at_the_part_in_hand(self):
        seen = set()
        for step in BENCHES:
            self.works.steps.open(step)
            bench = self.parts.benches[step]
            for i in range(bench.pages.count() if hasattr(bench, "pages") else 1):
                if hasattr(bench, "pages"):
                    bench.open_tab(i)
                page, part = page_here(self.desk, self.parts)
                text = (FOLDER / f"{page}.md").read_text()
                self.assertTrue(not part or f"\n## {part}\n" in text, (page, part))
                seen.add((page, part))
        self.assertGreaterEqual(len(seen), 19)
        self.assertIn(("palette", "In this plan"), seen)
        for drawer, wanted in (("brief", ("sketch", "Brief")), ("practice", ("practices", ""))):
            self.works.menus.run(drawer)
            self.assertEqual(page_here(self.desk, self.parts), wanted)
        self.works.menus.run("step-harmony")
        self.bench.open_page(self.bench.mood)
        self.works.menus.run("help-here")
        pages = self.works.help
        self.assertEqual(pages.pages.currentItem().text(), "Harmony")
        self.assertGreater(pages.text.verticalScrollBar().value(), 200)
        pages.close()

    def test_every_page_begins_with_steps_and_a_picture_and_measures_last(self):
        for name in (
            "sketch",
            "harmony",
            "palette",
            "values",
            "focus",
            "studies",
            "light",
            "ramps",
            "handoff",
            "checks",
        ):
            lines = (FOLDER / f"{name}.md").read_text().splitlines()
            self.assertTrue(lines[2].startswith("1. "), name)
            picture = next(line for line in lines if line.startswith("!["))
            self.assertTrue((FOLDER / picture.split("(")[1].rstrip(")")).is_file(), picture)
            heads = [line for line in lines if line.startswith("## ")]
            measured = [i for i, head in enumerate(heads) if head == "## Measured"]
            self.assertIn(measured, ([], [len(heads) - 1]), name)

    def test_the_words_that_puzzled_are_gone(self):
        self.assertEqual(
            [b.text() for b in self.bench.pages.tabs.buttons],
            ["Wheel", "Shares", "Fixed colours", "Unify", "Mood", "In context", "Palette"],
        )
        page = self.bench.wheel_page
        for scheme, said in (
            ("one-hue", "without neighbours and without an opposite ."),
            ("neighbours", "its neighbours support, without an opposite ."),
            ("opposites", "without neighbours and the opposite answers."),
            ("triad", "without neighbours and a triad answers."),
            ("free", "other hues stand beside it, no rule binds them."),
        ):
            self.do(choose_scheme(scheme))
            parts = (page.supports, page.support_words, page.answers, page.answer_words)
            self.assertEqual(" ".join(w.text() for w in parts), said)


class Mine(OnTheBoat):
    def test_a_habit_is_made_a_wish_and_left_to_the_practice_again(self):
        page = self.bench.wishes
        self.bench.open_tab(2)
        self.assertFalse(page.mine["extremes"].isChecked())
        page.mine["extremes"].click()
        self.assertTrue(self.study.wishes.of["extremes"].on)
        self.settle()
        self.assertTrue(page.mine["extremes"].isChecked())
        page.fields["extremes"].wanted.emit(33.0)
        page.mine["extremes"].click()
        self.assertNotIn("extremes", self.study.wishes.of)
        self.assertEqual(page.fields["extremes"].value(), 20)
        page.switches["halves"].click()
        self.assertFalse(self.study.wishes.of["halves"].on)


class Coming(OnTheBoat):
    def test_the_route_counts_the_lines_that_the_list_shows(self):
        for name in ("parting", "parting-middle", "extremes", "pure"):
            self.do(switch_wish(name, True, "x"))
        self.settle()
        counted = 0
        for step in BENCHES:
            mine = [r for r in self.desk.judge.results if CHECKS[r.check].step == step]
            lines = [line for line in gathered(mine) if line.result.level == "warning"]
            self.assertEqual(self.parts.route.stops[step].warnings, len(lines), step)
            counted += len(lines)
        self.assertGreater(counted, 0)

    def test_fixes_come_one_by_one_and_rows_that_say_the_same_stay(self):
        self.works.steps.open("values")
        own = self.desk.derived.colours
        near = {r: 50.0 + i - colour.mean_value for i, (r, colour) in enumerate(own.items())}
        self.do(Edit(words("x"), shift_values(near)))
        shown = []
        judge = self.desk.judge
        judge.judged.connect(lambda: shown.append(sum(bool(r.fixes) for r in judge.results)))
        self.settle(fixes=True)
        self.assertEqual(shown, sorted(shown))
        self.assertGreater(len(set(shown)), 1)
        rows = list(self.parts.checks.rows)
        judge.judged.emit()
        self.assertEqual(self.parts.checks.rows, rows)

    def test_small_views_keep_their_last_picture_dimmed(self):
        tile = self.parts.strip.tiles[0]
        before = tile._image
        self.assertFalse(tile._waits)
        bright = tile.grab().toImage().pixelColor(20, 20)
        with mock.patch.object(Worker, "ask"):
            self.do(turn_lead(80))
            self.works.small_views.ask()
            wait(self.works.small_views._slow.timeout)
            self.assertTrue(tile._waits and tile._image is before)
            self.assertNotEqual(tile.grab().toImage().pixelColor(20, 20), bright)
            self.works.steps.open("light")
            self.assertTrue(all(t._waits for t in self.parts.strip.tiles))
        self.works.small_views._made_from = ()
        self.works.small_views.ask()
        self.settle()
        self.assertFalse(any(t._waits for t in self.parts.strip.tiles))

    def test_no_bench_is_empty_while_something_is_worked_out(self):
        with mock.patch.object(Worker, "ask"):
            self.do(turn_lead(140))
            self.works.steps.open("ramps")
            bench = self.parts.benches["ramps"]
            self.assertTrue(bench._coming.isVisible() or bench.rows)
            self.works.steps.open("sketch")
            sketch = self.parts.benches["sketch"]
            sketch.open_tab(2)
            self.assertIn("…", sketch.reading.preview.coming + sketch.reading.count.text())
            self.works.steps.open("harmony")
            harmony = self.parts.benches["harmony"]
            harmony.open_page(harmony.mood)
            self.assertEqual(len([b for b in harmony.mood.pictures.values() if b.isVisible()]), 8)
        self.desk.live.work_out(("ramps",))
        self.settle()
