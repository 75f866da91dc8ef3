"""Rules of the practice and names of edits, as they were found good."""

import unittest

import msgspec

from tests import kept, scenes
from tests.plan.test_edits import PLAN, every
from umber_compass.plan import model, palettes, wishes
from umber_compass.plan.moods import MOODS
from umber_compass.plan.practices import PRACTICES
from umber_compass.plan.rig import Rig
from umber_compass.plan.uses import USES


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


def moods():
    return [list(m) for m in MOODS.values()], [list(u) for u in USES.values()]


def defaults():
    """What a record is that says nothing, of every kind."""
    kinds = [k for m in (model, palettes, wishes) for k in vars(m).values()]
    kinds = [k for k in kinds if isinstance(k, type) and issubclass(k, msgspec.Struct)]
    found = {}
    for kind in kinds:
        for one in msgspec.structs.fields(kind):
            made = one.default_factory
            if not one.required:
                own = one.default if made is msgspec.NODEFAULT else made()
                found[f"{kind.__name__}.{one.name}"] = msgspec.to_builtins(own)
    return found


RESULTS = {f.__name__: f for f in (rules, edits, edited, beginnings, moods, defaults)}


class Kept(unittest.TestCase):
    def test_results(self):
        kept.check(self, "plan", RESULTS)
