"""Several plans of one book in a row: their arc, what leaves it, what they share."""

import tempfile
import unittest
from pathlib import Path

from tests import scenes
from tests.cli.test_commands import answer, run
from tests.window.driving import DEMO, InWindow, wait
from umber_compass.demo.plans import DEMOS
from umber_compass.steps.studies.story import (
    Page,
    of_another_mood,
    out_of_line,
    shared_colours,
    told,
)
from umber_compass.window.desk.remembered import Remembered
from umber_compass.window.story.telling import StoryTelling

PLANS = [scenes.small(d.plan) for d in DEMOS[:4]]


def page(middle=50.0, warm=0.0, chroma=0.05, palette=(("#336699", 1.0),), **faults):
    return Page("page", 20.0, middle, 90.0, warm, chroma, "#336699", "", "", palette, faults)


class TestArc(unittest.TestCase):
    def test_a_page_that_leaves_the_line_is_told(self):
        found = out_of_line([page(50), page(20), page(54), page(55)])
        self.assertEqual([(o.page, o.measure.name) for o in found], [(1, "middle")])
        self.assertAlmostEqual(found[0].by, -32)
        self.assertEqual(str(found[0].words), "32 L* darker than the pages beside it")
        self.assertEqual(out_of_line([page(30), page(45), page(60), page(75)]), [], "a slope")
        self.assertEqual(out_of_line([page(50), page(20)]), [], "two are no line")
        (cool,) = out_of_line([page(warm=0.4), page(warm=-0.5), page(warm=0.5)])
        self.assertIn("cooler", str(cool.words))

    def test_a_page_of_another_mood_is_told(self):
        tender, dark = page(Tender=0.1, Sombre=2.0), page(Tender=1.8, Sombre=0.0)
        (found,) = of_another_mood([tender, tender, dark, tender])
        self.assertEqual((found.page, found.mood), (2, "Tender"))
        self.assertEqual(str(found.words), "reads as sombre, between tender pages")
        neither = page(Tender=1.2, Sombre=1.2)
        self.assertEqual(neither.reads_as, "")
        (found,) = of_another_mood([tender, neither, tender, tender])
        self.assertIn("no mood", str(found.words))
        self.assertEqual(of_another_mood([neither, tender, tender]), [], "an end may begin so")
        self.assertEqual(of_another_mood([tender, page(Tender=0.8), tender]), [], "near enough")
        two = [tender, tender, dark, dark, tender, tender]
        self.assertEqual(of_another_mood(two), [], "a scene of two pages")

    def test_a_page_is_told_in_one_line(self):
        tender, dark = page(60, 0.4, Tender=0.1), page(20, -0.6, Tender=1.8, Sombre=0.0)
        ((at, said),) = told([tender, tender, dark, tender, tender])
        self.assertEqual(at, 2)
        self.assertEqual(
            str(said),
            "40 L* darker and much cooler than the pages beside it;"
            " reads as sombre, between tender pages",
        )
        ((_, said),) = told([tender, page(60, 0.4, Tender=1.5), tender])
        self.assertEqual(str(said), "reads as no mood, between tender pages")

    def test_shared_colours(self):
        pages = [
            page(palette=(("#336699", 0.6), ("#aa3311", 0.4))),
            page(palette=(("#35689b", 0.5), ("#eeddcc", 0.5))),
            page(palette=(("#aa3412", 0.01), ("#eeddcc", 0.9))),
        ]
        self.assertEqual([s.pages for s in shared_colours(pages)], [(1, 2), (0, 1)])
        self.assertEqual(shared_colours([]), [])


class TestByCommand(unittest.TestCase):
    def test_pages_are_told(self):
        said = answer("story", *PLANS[:3])
        self.assertEqual(len(said["pages"]), 3)
        self.assertEqual(said["pages"][0]["title"], "Lighthouse Bakery")
        self.assertLess(said["pages"][0]["darks"], said["pages"][0]["lights"])
        self.assertEqual(set(said), {"pages", "out_of_line", "of_another_mood", "shared"})
        self.assertEqual(
            [p["reads_as"] for p in said["pages"]], ["Quiet", "Welcoming", "Welcoming"]
        )
        sombre = str(scenes.small(DEMOS[4].plan))
        said = answer("story", PLANS[1], sombre, PLANS[2])
        self.assertEqual([m["page"] for m in said["of_another_mood"]], [2])
        code, _, err = run("story", PLANS[0], "nowhere.umber")
        self.assertNotEqual(code, 0)
        self.assertIn("nowhere.umber", err)


class TestStoryWindow(InWindow):
    def test_plans_are_put_in_order_and_opened(self):
        self.open(DEMO)
        self.works.menus.run("story")
        telling = self.desk.findChild(StoryTelling)
        window = telling.window
        self.answers.paths = PLANS
        wait(self.desk.orders.rested, window.add.click)
        titles = [p.page.title for p in window.pages]
        self.assertEqual(len(titles), 4)
        self.assertIn("Shared by pages", window.shared.text())
        window.arc.chosen_at.emit(1)
        window.left.click()
        self.assertEqual([p.page.title for p in window.pages], [titles[1], titles[0], *titles[2:]])
        window.drop.click()
        self.assertEqual(len(window.pages), 3)
        self.assertTrue(window.says.text())
        self.works.menus.run("story")
        self.assertIs(telling.window, window, "one at a time")
        self.answers.paths = [PLANS[1], PLANS[1].with_name("nowhere.umber")]
        wait(self.desk.orders.rested, window.add.click)
        self.assertEqual(len(window.pages), 4, "the others are read")
        self.assertIn("nowhere.umber", window.says.text(), "what cannot be read is said in a line")
        window.arc.chosen_at.emit(0)
        wait(self.desk.opened, window.open_plan.click)
        self.settle()
        self.assertEqual(self.desk.history.now.title, window.pages[0].page.title)
        window.reject()
        self.assertIsNone(telling.window)

    def test_its_pages_are_known_another_day(self):
        held = tempfile.TemporaryDirectory()
        self.addCleanup(held.cleanup)
        kept = Path(held.name) / "window.ini"

        def telling():
            own = StoryTelling(self.window, self.desk, self.works.files, Remembered(kept))
            wait(self.desk.orders.rested, own.open) if kept.exists() else own.open()
            return own

        first = telling()
        self.answers.paths = [PLANS[2], PLANS[1]]
        wait(self.desk.orders.rested, first.window.add.click)
        first.window.arc.chosen_at.emit(1)
        first.window.left.click()
        titles = [p.page.title for p in first.window.pages]
        first.window.reject()
        second = telling()
        self.assertEqual([p.page.title for p in second.window.pages], titles)
        second.window.empty.click()
        second.window.reject()
        self.assertEqual(Remembered(kept).word("story"), "")
