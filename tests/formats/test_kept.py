"""What is written, to the letter, and what is said of what cannot be read."""

import unittest

from tests import kept, scenes
from umber_compass.formats import atomic, gpl, picture, plan_file
from umber_compass.plan.model import Gradient, Pinned, Rig
from umber_compass.words import Refusal


def palette():
    rows = [
        gpl.Row("#7a4fa0", "sea\tdark", "−1"),
        gpl.Row("#000000", "x" * 300, "base"),
        gpl.Row("#ffffff", "", ""),
        gpl.Row("#010203", "é" * 60, "core shadow"),
    ]
    return gpl.text("A\nname", rows, ["Source: own", "é" * 70])


def plan():
    two = Gradient(first=scenes.planned(), second=Pinned(hex="#102030"))
    return plan_file._json(scenes.plan_of([scenes.planned(), two], rig=Rig())).decode()


def refusals():
    found = []
    for data in (b"", b"PK", b"GIF89a", b"PK\x03\x04" + bytes(60)):
        for read in (lambda d: plan_file.parse(d, "x"), lambda d: picture.decode(d, "x")):
            try:
                read(data)
            except Refusal as said:
                found.append(str(said))
    return found, str(atomic._cannot(scenes.Path("x"), OSError(28, "No space left on device")))


def bounds():
    return (
        plan_file._MOST,
        plan_file._MOST_ENTRIES,
        picture.MOST_BYTES,
        picture.MOST_PIXELS,
        picture.MOST_SIDE,
    )


RESULTS = {f.__name__: f for f in (palette, plan, refusals, bounds)}


class Kept(unittest.TestCase):
    def test_results(self):
        kept.check(self, "formats", RESULTS)
