"""Several plans of one book in a row: their arc, what leaves it, what they share."""

import unittest

from tests import scenes
from tests.cli.test_commands import answer, run
from tests.window.driving import DEMO, InWindow, wait
from umber_compass.demo.plans import DEMOS
from umber_compass.steps.studies.story import Page, out_of_line, shared_colours
from umber_compass.window.story.telling import StoryTelling

PLANS = [scenes.small(d.plan) for d in DEMOS[:4]]


def page(middle=50.0, warm=0.0, chroma=0.05, palette=(("#336699", 1.0),)):
    return Page("page", 20.0, middle, 90.0, warm, chroma, "#336699", "", "", palette)


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
        self.assertEqual(set(said), {"pages", "out_of_line", "shared"})
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
        self.assertEqual(len(window.pages), 3, "what cannot be read is said in a line")
        window.arc.chosen_at.emit(0)
        wait(self.desk.opened, window.open_plan.click)
        self.settle()
        self.assertEqual(self.desk.history.now.title, window.pages[0].page.title)
        window.reject()
        self.assertIsNone(telling.window)
