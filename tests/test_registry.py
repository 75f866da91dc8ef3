"""The lists of ideas: a name that is there twice is refused."""

import unittest
from types import ModuleType, SimpleNamespace

from umber_compass.registry import registered


def module(file, **held):
    made = ModuleType(file)
    made.__file__ = file
    vars(made).update(held)
    return made


class Registered(unittest.TestCase):
    def test_one_or_several_of_a_module_in_their_order(self):
        one, two, three = (SimpleNamespace(name=n) for n in ("b", "a", "c"))
        found = registered("IDEA", module("x.py", IDEA=one), module("y.py", IDEA=(two, three)))
        self.assertEqual(list(found.items()), [("b", one), ("a", two), ("c", three)])

    def test_a_name_that_is_there_twice_is_refused_with_both_files(self):
        idea = SimpleNamespace(name="triad")
        with self.assertRaisesRegex(ValueError, "triad is in x.py and in y.py"):
            registered("IDEA", module("x.py", IDEA=idea), module("y.py", IDEA=(idea,)))
