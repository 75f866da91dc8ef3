"""Every decision by name: read, changed, refused."""

import unittest

from msgspec.structs import replace

from tests import scenes
from tests.scenes import planned
from umber_compass.colour.measured import measure_hex
from umber_compass.plan import edits
from umber_compass.plan.light_edits import rig_of, with_rig
from umber_compass.plan.rig import Lamp, Rig
from umber_compass.steps import keys
from umber_compass.words import Refusal

PLAN = scenes.plan_of([planned(), planned("B", 30.0, 0.05)])
PLAN = with_rig(PLAN, Rig(lamps=(Lamp(), Lamp(name="rim", rank=2))))

TEXTS = {
    "focus": "r2",
    "wish.bands.edges": "30,60",
    "wish.bands.shares": "0.2,0.5,0.3",
    "wish.order.regions": "r2,r1",
    "shading.stops": "#001030,#e0f0ff",
    "region.r1.picked": "#001030,#e0f0ff",
    "region.r1.over": "#001030,#e0f0ff",
    "region.r1.shade-of": "r2:-1",
    "region.r2.shade-of": "r1:+2",
    "region.r2.picked": "#001030",
    "region.r2.over": "#001030",
}


def other(name, kind, now):
    """Something else that a key may be, as it is written, and what it is then."""
    if kind.type == "switch":
        return ("off", False) if now else ("on", True)
    if kind.type == "colour":
        return "#405060", "#405060"
    if kind.type == "choice":
        found = next((c for c in kind.choices if c != now), kind.choices[0])
        return found, found
    if name == "first.lights":
        return "night, Dusk", "dusk,night"
    if name in TEXTS:
        return TEXTS[name], TEXTS[name]
    if name.startswith("wish.") and kind.type == "text":
        return ("on", 10.0) if now == "off" else ("off", "off")
    if kind.type == "text":
        return "s2" if now == "s1" else "Dusk", "s2" if now == "s1" else "Dusk"
    low, high = kind.low or 0.0, kind.high if kind.high is not None else 9.0
    found = low + (high - low) * 0.4
    return (str(int(found)), int(found)) if kind.type == "whole" else (str(found), found)


class Every(unittest.TestCase):
    def setUp(self):
        second = replace(PLAN.studies[0], id="s2", title="Dusk")
        self.plan = replace(PLAN, studies=(*PLAN.studies, second))

    def test_every_key_changes_what_it_names_and_reads_back(self):
        seen = 0
        for name, kind, now, text in list(keys.keys_of(self.plan)):
            with self.subTest(name):
                self.assertTrue(text)
                written, wanted = other(name, kind, now)
                after = keys.edit_from(self.plan, f"{name}={written}").apply(self.plan)
                found = {n: v for n, _, v, _ in keys.keys_of(after)}[name]
                if name.startswith("region") and name.endswith(
                    ".hue"
                ):  # it takes the hue of that colour, and keeps its value
                    hues = [measure_hex(h).hue for h in (found, wanted)]
                    self.assertAlmostEqual(*hues, delta=2)
                elif isinstance(wanted, float):
                    self.assertAlmostEqual(found, wanted, delta=max(abs(wanted) * 0.02, 0.6))
                else:
                    self.assertEqual(found, wanted)
                seen += 1
        self.assertGreater(seen, 70)

    def test_every_kind_of_key_is_told_in_general(self):
        general = {name for name, _, _ in keys.keys_in_general()}
        for name in (
            "title purpose practice scheme.name scheme.wheel scheme.lead scheme.spread light.on "
            "light.anchor ambient.colour ambient.strength ambient.on terminator.colour "
            "terminator.strength crevice study.current rule.RULE share.SLOT region.REGION.value "
            "focus wish.WISH wish.key wish.bands.edges wish.order.regions region.REGION.lock "
            "region.REGION.pin region.REGION.front lamp.LAMP.angle lamp.LAMP.off-front"
        ).split():
            self.assertIn(name, general)

    def test_regions_go_by_id_or_name(self):
        named = keys.edit_from(PLAN, "region.r2.name=wet sand").apply(PLAN)
        moved = keys.edit_from(named, "region.wet sand.value=61").apply(named)
        self.assertEqual(edits.study(moved).colours["r2"].value, 61)
        twice = keys.edit_from(named, "region.r1.name=wet sand").apply(named)
        with self.assertRaisesRegex(Refusal, "several"):
            keys.edit_from(twice, "region.wet sand.value=61")

    def test_auto_and_off_take_back(self):
        for key, back in (("front", "auto"), ("degrees", "auto"), ("pin", "off")):
            name = f"region.r1.{key}"
            value = "#405060" if key == "pin" else "7"
            set_ = keys.edit_from(PLAN, f"{name}={value}").apply(PLAN)
            self.assertNotEqual(set_, PLAN)
            now = {n: v for n, _, v, _ in keys.keys_of(set_)}
            free = keys.edit_from(set_, f"{name}={back}").apply(set_)
            then = {n: v for n, _, v, _ in keys.keys_of(free)}
            self.assertNotEqual(now[name], then[name])
        self.assertEqual(keys.edit_from(PLAN, "region.r1.pin=off").apply(PLAN), PLAN)

    def test_a_lamp_turns_and_leans_apart(self):
        plan = keys.edit_from(PLAN, "lamp.rim.angle=90").apply(PLAN)
        plan = keys.edit_from(plan, "lamp.rim.off-front=120").apply(plan)
        x, y, z = rig_of(plan).lamp("rim").direction
        self.assertAlmostEqual(z, -0.5, places=6)
        self.assertAlmostEqual(x, 0.75**0.5, places=6)
        self.assertAlmostEqual(y, 0, places=6)
        self.assertEqual(rig_of(plan).lamp("key"), Lamp())

    def test_a_spot_is_added_by_any_of_its_keys_and_no_other_lamp_has_a_pool(self):
        plan = keys.edit_from(PLAN, "lamp.spot.radius=0.4").apply(PLAN)
        plan = keys.edit_from(plan, "lamp.spot.fall-off=0.1").apply(plan)
        plan = keys.edit_from(plan, "lamp.spot.kelvin=2000").apply(plan)
        spot = rig_of(plan).lamp("spot")
        self.assertEqual((spot.pool.radius, spot.pool.fall), (0.4, 0.1))
        now = {n: v for n, _, v, _ in keys.keys_of(plan)}
        self.assertEqual(now["lamp.spot.kelvin"], 2000)
        self.assertNotIn("lamp.key.x", now)
        with self.assertRaisesRegex(Refusal, "lights the whole picture"):
            keys.edit_from(plan, "lamp.key.x=0.2")

    def test_anything_else_is_refused_in_one_line(self):
        for text, word in (
            ("title", "KEY=VALUE"),
            ("colour=red", "no key"),
            ("region.r9.value=3", "no region"),
            ("region..value=3", "no key"),
            ("region.r1.value=abc", "no number"),
            ("region.r1.value=nan", "between 0 and 100"),
            ("region.r1.value=101", "between 0 and 100"),
            ("region.r1.role=hero", "ground, middle ground"),
            ("region.r1.pin=#zz", "six hex"),
            ("region.r1.darker=1.5", "no number"),
            ("light.on=perhaps", "neither on nor off"),
            ("lamp.moon.on=off", "key, rim"),
            ("share.E=0.2", "A, B, grey"),
            ("rule.purple=3", "no rule"),
            ("rule.extremes.dark=900", "between 0 and 50"),
            ("study.current=s9", "no study"),
            ("region.r1.slot=D", "A, B, grey"),
        ):
            with self.subTest(text), self.assertRaisesRegex(Refusal, word) as said:
                keys.edit_from(PLAN, text).apply(PLAN)
            self.assertNotIn("\n", str(said.exception))
