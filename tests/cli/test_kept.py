"""What the commands answer, as it was found good."""

import json
import tempfile
import unittest
from pathlib import Path

import numpy as np
from PIL import Image

from tests import kept, scenes
from tests.cli.test_commands import run
from umber_compass.demo.plans import DEMOS

_FOLDER = tempfile.TemporaryDirectory()


def boat():
    """A boat as a plan, its light on, with a wish and a focus."""
    folder = Path(_FOLDER.name)
    plan = folder / "boat.umber"
    if not plan.exists():
        (folder / "boat.png").write_bytes(scenes.encoded(scenes.draw()))
        run("new", folder / "boat.png", "-o", plan, "--focus", "197,31")
    return plan


def said(*given):
    code, out, err = run(*given, "--json")
    told = json.loads(out) if out else err
    text = json.dumps([code, told]).replace(_FOLDER.name, "")
    return json.loads(text)


def colours():
    return [
        said("colour", "#7a4fa0"),
        said("difference", "#7a4fa0", "#204060"),
        said("blend", "#7a4fa0", "#c0e020", "--mode", "overlay", "--opacity", "0.4"),
        said("harmony", "#7a4fa0", "--scheme", "two-pairs", "--spread", "40"),
        said("ramp", "#7a4fa0", "--recipe", "cool-warm", "--degrees", "12"),
    ]


def plans():
    plan, out = boat(), Path(_FOLDER.name) / "out.umber"
    return [
        said("regions", plan),
        said("checks", plan),
        said("focus", plan),
        said("balance", plan, "-o", out),
        said("chart", plan),
        said("set", plan, "light.on=on", "lamp.key.strength=120", "region.r1.value=40", "-o", out),
        said("checks", out),
        said("fix", out, "-o", out, "--check", "extremes"),
        said("set", "--keys", plan),
    ]


def pictures():
    folder, plan = Path(_FOLDER.name), boat()
    return [
        said("read", folder / "boat.png"),
        said("new", folder / "boat.png", "-o", folder / "p.umber", "--from", "painting"),
        said("new", "low-horizon", "-o", folder / "c.umber", "--from", "none"),
        said("replace", plan, folder / "boat.png", "-o", folder / "r.umber"),
        said("render", plan, "-o", folder / "x.png", "--width", "50", "--view", "grey"),
        said("handoff", plan, "-o", folder / "hand-off", "--formats", "gpl,flat"),
        said("palette", folder / "hand-off" / "boat.gpl", "-o", folder / "y.hex"),
        said("studies", plan, "-o", folder / "studies", "--count", "2", "--rules", "turn,ground"),
        said("compositions"),
        said("demo", "--list"),
    ]


def rendered():
    """Views of every sort, px by px, at the sketch's own size and another."""
    found, out = [], Path(_FOLDER.name) / "view.png"
    for view, width in (
        ("flat", 240),
        ("lit", 240),
        ("grey", 60),
        ("mirrored", 240),
        ("key-only", 90),
        ("flat", 1),
    ):
        told = said("render", boat(), "-o", out, "--view", view, "--width", width)
        with Image.open(out) as image:
            high, wide = max(image.height // 4, 1), max(image.width // 5, 1)
            found.append([told, np.asarray(image)[high // 2 :: high, wide // 2 :: wide]])
    return found


def refused():
    plan = boat()
    asked = (
        ("checks", plan, "--what"),
        ("set", plan, "budget=" + "9" * 400, "-o", "x.umber"),
        ("set", plan, "title=\udcff", "-o", "x.umber"),
        ("set", plan, "nonsense=1", "-o", "x.umber"),
        ("new", plan, "-o", "x.umber"),
        ("new", "nowhere", "-o", "x.umber", "--from", "none"),
        ("new", DEMOS[0].sketch, "-o", "x.umber", "--with", "gap=x"),
        ("handoff", plan, "-o", _FOLDER.name, "--formats", "gif"),
        ("render", plan, "-o", "x.png", "--width", "0"),
        ("studies", plan, "-o", _FOLDER.name, "--rules", "luck"),
        ("palette", plan),
    )
    return [said(*a) for a in asked]


RESULTS = {f.__name__: f for f in (colours, plans, pictures, rendered, refused)}


class Kept(unittest.TestCase):
    def test_results(self):
        kept.check(self, "cli", RESULTS)

    def test_answers_for_people_say_the_same_in_lines(self):
        code, out, _ = run("regions", boat())
        self.assertEqual((code, out.split("\n")[0]), (0, "regions"))
        self.assertIn("share 0.5", out)
