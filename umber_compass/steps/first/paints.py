"""The colours each proposal may be made of: its key's levels in its scheme's hues, and a few of
every material that is told."""

from typing import NamedTuple

import numpy as np

from umber_compass.colour.gamut import fit
from umber_compass.colour.spaces import Floats, hue_distance, oklab
from umber_compass.picture.mixes import Ints
from umber_compass.plan.terms import Slot
from umber_compass.steps.first.chains import Chain
from umber_compass.steps.first.lights import SKIN, in_light
from umber_compass.steps.first.materials import LIVING, MATERIALS, Range, range_in
from umber_compass.steps.first.task import FUR, Task
from umber_compass.steps.first.value_keys import VALUE_KEYS, ValueKey
from umber_compass.steps.harmony.living import FLESH
from umber_compass.steps.harmony.scheme import slot_hues

SLOTS: tuple[Slot, ...] = ("A", "B", "C", "D", "grey")
GREY, NONE, DEAD = 4, 5, -1
_CHROMAS, _TINTED = (0.035, 0.085, 0.15), 0.012
_WARM_LIGHTS = 0.7  # of proposals turn lights warm and darks cool; the rest the reverse
_TURN = 11.0  # OKLCh degrees at most, by which hue turns with value
_MIDDLE, _SPAN = 52.0, 35.0  # L* that turns nowhere; over which the turn grows to all of it
_APART = 2.5  # L* under which two values as drawn are one level
_STEPS = ((0.0, 1.0), (-9.0, 1.05), (-17.0, 1.0), (6.0, 0.85))  # of the living: L*, chroma times
_TINT = 0.6  # of a light's pull, that a colour of no material takes
_NIGHT_LIGHT = 66.0  # L* that nothing unlit passes at night
_ROOM = 25.0  # OKLCh degrees from a slot's hue, within which a material counts as of it


class Paints(NamedTuple):
    """Colours of r proposals, p each: `colour` (r, p, 3) L*, OKLCh chroma, hue in degrees; `slot`
    (r, p) index into SLOTS, NONE, or DEAD for what a scheme has no hue for. `choices` are the
    paints each thing may take; `level` (r, m) its value where values are kept."""

    colour: Floats
    slot: Ints
    choices: list[Ints]
    level: Floats | None


def paints_of(task: Task, chains: list[Chain], rng: np.random.Generator) -> Paints:
    """The paints of some proposals."""
    level_of, levels = _levels(task, chains)
    own = [_OwnPaints(task, c, level_of, levels[r], rng) for r, c in enumerate(chains)]
    colour = np.array([o.rows for o in own], float)
    slot = np.array([o.slots for o in own], np.intp)
    _calm(colour, slot, own[0].generic)
    values = levels[:, level_of] if task.keeps_values else None
    if task.values == "kept":
        values = np.tile(task.value, (len(chains), 1))  # to the tenth, not to a level
    return Paints(colour, slot, [np.array(c, np.intp) for c in own[0].choices], values)


def _calm(colour: Floats, slot: Ints, generic: int) -> None:
    """Middle chromas under four fifths of what the gamut allows: only the strongest of each hue
    counts as strong colour. In place."""
    part = colour[:, :generic]
    light = oklab(fit(part[..., 0], np.full(part.shape[:2], 0.37), part[..., 2]))
    top = np.hypot(light[..., 1], light[..., 2])
    chroma = part[..., 1]
    middle = (chroma < 0.14) & (chroma >= 0.045)
    part[..., 1] = np.where(middle, np.minimum(chroma, np.maximum(0.77 * top, 0.045)), chroma)


def _levels(task: Task, chains: list[Chain]) -> tuple[Ints, Floats]:
    """The level of each thing, and its value L* in each proposal, (r, levels)."""
    if not task.keeps_values:
        every = np.array([VALUE_KEYS[c.key].levels for c in chains])
        return np.zeros(task.things.many, np.intp), every
    order = np.argsort(task.value, kind="stable")
    level_of, found = np.zeros(task.things.many, np.intp), list[float]()
    for thing in order.tolist():
        if not found or task.value[thing] - found[-1] > _APART:
            found.append(float(task.value[thing]))
        level_of[thing] = len(found) - 1
    drawn = np.clip(np.array(found), 6, 96)
    if task.values == "kept":
        return level_of, np.tile(drawn, (len(chains), 1))
    held = np.bincount(level_of, task.things.area, len(found)).astype(float)
    return level_of, np.array([_dealt(held, VALUE_KEYS[c.key]) for c in chains])


def _dealt(held: Floats, key: ValueKey) -> Floats:
    """Values L* for levels that hold some shares, dark to light, as a key deals them: the order
    stays, each third holds what the key has it hold."""
    middle = (np.cumsum(held) - held / 2) / max(float(held.sum()), 1e-9)
    at = np.concatenate([[0.0], np.cumsum(key.bands)])
    ends = (key.levels[0] - 2, 35.0, 68.0, key.levels[-1] + 2)
    dealt = np.interp(middle, at, ends)
    # Two levels that were apart stay apart.
    least = np.minimum(4.0, (ends[-1] - ends[0]) / max(len(held), 1))
    for i in range(1, len(dealt)):
        dealt[i] = max(dealt[i], dealt[i - 1] + least)
    over = max(float(dealt[-1]) - 92.0, 0.0)
    return np.asarray(dealt - over * np.linspace(0, 1, len(dealt)))


class _OwnPaints:
    """One proposal's paints; every proposal of a task has as many, in the same order."""

    def __init__(
        self, task: Task, chain: Chain, level_of: Ints, levels: Floats, rng: np.random.Generator
    ) -> None:
        self.task, self.chain = task, chain
        hues = slot_hues(chain.scheme)
        self.hues = hues
        self.needles = [s for s in hues if s != "grey"]
        self.rows: list[tuple[float, float, float]] = []
        self.slots: list[int] = []
        self._spread(levels, bool(rng.random() < _WARM_LIGHTS))
        self.generic = len(self.rows)
        each = len(SLOTS[:4]) * len(_CHROMAS) + 1
        things = task.things
        by_material: dict[str, list[int]] = {}
        self.choices: list[list[int]] = []
        for thing in range(things.many):
            material = things.material[thing]
            if thing in task.locked:
                mine = self._add([task.locked[thing]], [0])
            elif task.keeps_values:
                at = int(level_of[thing])
                mine = list(range(at * each, (at + 1) * each))
                if material in MATERIALS and not (MATERIALS[material].noon.any_hue):
                    mine = self._add(
                        [(float(levels[at]), c, h) for _, c, h in self._made(material, rng)]
                    )
            elif material in MATERIALS:
                if material not in by_material:
                    by_material[material] = self._add(self._made(material, rng))
                mine = by_material[material]
                if material == "cloth":
                    mine = [*range(self.generic), *mine]
            else:
                mine = list(range(self.generic))
            self.choices.append(mine)

    def _spread(self, levels: Floats, warm: bool) -> None:
        """The scheme's hues at each level, in three chromas and a tinted grey."""
        light = self.chain.light
        rows = []
        for value in levels.tolist():
            t = min(max((value - _MIDDLE) / _SPAN, -1.0), 1.0)
            pole = (95 if t > 0 else 275) if warm else (275 if t > 0 else 60)
            for slot in SLOTS:
                hue = self.hues.get(slot, self.hues["A"])
                way = (pole - hue + 180) % 360 - 180
                turned = (hue + min(max(way, -1.0), 1.0) * _TURN * abs(t)) % 360
                there = slot in self.needles or slot == "grey"
                for chroma in (_TINTED,) if slot == "grey" else _CHROMAS:
                    rows.append((value, chroma, turned))
                    self.slots.append(SLOTS.index(slot) if there else DEAD)
        made = np.array(rows)
        if light != "noon":  # only the light's colour: values are the key's
            made[:, 1:] = in_light(made, light, _TINT)[:, 1:]
        if light == "night" and not self.task.keeps_values:
            made[:, 0] = np.minimum(made[:, 0], _NIGHT_LIGHT)
        made[:, 1] *= self.task.strength
        self.rows += [(v, c, h) for v, c, h in made.tolist()]

    def _made(self, material: str, rng: np.random.Generator) -> list[tuple[float, float, float]]:
        """Some colours of a material in this light; those nearest to the scheme's hues."""
        light = self.chain.light
        own = range_in(material, light)
        span = own or MATERIALS[material].noon
        if material in LIVING:
            return self._living(material, span, own is not None, rng)
        if span.any_hue:
            hues = np.array([self.hues[s] for s in self.needles])
        else:
            hues = (span.from_deg + span.span_deg * np.linspace(0.08, 0.92, 9)) % 360
        slots = np.array([self.hues[s] for s in self.needles])
        far = np.abs(hue_distance(hues[:, None], slots[None])).min(axis=1)
        near = hues[np.argsort(far + rng.random(len(hues)) * 8)]
        rows = []
        for place, hue in enumerate(np.resize(near[:2], 2).tolist()):
            for t in (0.1, 0.5, 0.92):
                for u in (0.15, 0.7) if place == 0 else (0.4,):
                    chroma = span.low_chroma + (span.high_chroma - span.low_chroma) * u
                    value = span.dark + (span.light - span.dark) * t
                    chroma = min(chroma * self.task.strength, span.high_chroma * 1.1)
                    rows.append((value, chroma, hue))
        if own is not None or light == "noon":
            return rows
        return [_triple(in_light(np.array(r), light)) for r in rows]

    def _living(
        self, material: str, span: Range, is_own: bool, rng: np.random.Generator
    ) -> list[tuple[float, float, float]]:
        """A base and steps of it; skin and fur have one base for all proposals."""
        chance = rng.random(3)
        value = span.dark + (span.light - span.dark) * (0.3 + 0.67 * chance[1])
        chroma = span.low_chroma + (span.high_chroma - span.low_chroma) * (0.15 + 0.65 * chance[0])
        hue = (span.from_deg + span.span_deg * (0.15 + 0.7 * chance[2])) % 360
        if material == "skin":
            value, chroma, hue = self.task.skin
        elif material == "fur":
            value, chroma, hue = FUR
        elif material == "creature":
            chroma *= 1 - 0.35 * float(np.clip((value - 68) / 20, 0, 1))
        rows = []
        for step, times in _STEPS:
            moved = min(max(value + step, span.dark - 6), span.light + 2)
            row = (moved, chroma * times, (hue + step * 0.25) % 360)
            part = SKIN if material in (*FLESH, "lips") and material != "fur" else 1.0
            rows.append(row if is_own else _triple(in_light(np.array(row), self.chain.light, part)))
        return rows

    def _add(
        self, rows: list[tuple[float, float, float]], slots: list[int] | None = None
    ) -> list[int]:
        """More paints; where they are of no slot they count for the nearest, if that is near."""
        begin = len(self.rows)
        for row in rows:
            self.rows.append(row)
            self.slots.append(self._slot_of(row))
        return list(range(begin, len(self.rows)))

    def _slot_of(self, row: tuple[float, float, float]) -> int:
        if row[1] < 0.02:
            return GREY
        far = {s: abs(float(hue_distance(row[2], self.hues[s]))) for s in self.needles}
        near = min(far, key=far.__getitem__)
        return SLOTS.index(near) if far[near] < _ROOM else NONE


def _triple(row: Floats) -> tuple[float, float, float]:
    return float(row[0]), float(row[1]), float(row[2])


def caps(share: Floats, strength: float = 1.0) -> Floats:
    """The most chroma areas of some shares may have: .17 up to 1 % of the picture, .05 from 35 %,
    log-linear between."""
    t = np.clip(np.log(np.maximum(share, 1e-4) / 0.01) / np.log(35), 0, 1)
    return np.asarray(strength * (0.17 - 0.12 * t))
