"""Rules of the practice and names of edits, as they were found good."""

import unittest

import msgspec

from tests import kept, scenes
from tests.plan.test_edits import PLAN, every
from umber_compass.plan.model import Rig
from umber_compass.plan.practices import PRACTICES


def rules():
    return [[list(r) for r in p.rules] for p in PRACTICES.values()], [
        p.title for p in PRACTICES.values()
    ]


def edits():
    return [[str(e.name), e.merge] for e in every()]


def edited():
    return [msgspec.to_builtins(e.apply(PLAN)) for e in every(40.0)]


def beginnings():
    return msgspec.to_builtins(Rig()), msgspec.to_builtins(scenes.plan_of([scenes.planned()]))


RESULTS = {f.__name__: f for f in (rules, edits, edited, beginnings)}


class Kept(unittest.TestCase):
    def test_results(self):
        kept.check(self, "plan", RESULTS)
