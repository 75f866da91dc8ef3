"""Studies grown by rule: many candidates, of which a few are chosen (docs/studies.md)."""

import random
from collections.abc import Callable, Iterable, Sequence
from functools import partial
from itertools import combinations
from typing import NamedTuple

import numpy as np
from msgspec.structs import replace

from umber_compass.colour.spaces import Floats, value
from umber_compass.plan.edits import study
from umber_compass.plan.light_edits import light_off
from umber_compass.plan.model import Plan, Study
from umber_compass.plan.palettes import GivenPalette
from umber_compass.steps.checks.judging import measure_all
from umber_compass.steps.harmony.living import held
from umber_compass.steps.harmony.study_light import doubled, linears_of
from umber_compass.steps.mending.balance import balance
from umber_compass.steps.pipeline import Derived
from umber_compass.steps.studies.choosing import TOLD, Candidate, least_apart, picked
from umber_compass.steps.studies.grow_rule import GrowContext, Version, grounds_of
from umber_compass.steps.studies.rules import RULES
from umber_compass.words import Refusal, words
from umber_compass.work import Tick, idle

COUNT = 6  # studies that are grown at once
MOST_CANDIDATES = 60
_PER_WARNING = 0.36
_NEAR = 0.012  # OKLab by area, that versions of a rule which stays near lie apart
# OKLCh: what of mean chroma beyond the parent’s halves a candidate’s worth; a parent that is louder
# than calm is no measure.
_LOUD, _CALM = 0.06, 0.09


class Growth(NamedTuple):
    """What was grown: the studies, and how far apart the nearest two of them lie."""

    studies: tuple[Study, ...]
    least: float

    @property
    def says(self) -> str:
        """It in a line."""
        many = len(self.studies)
        if many == 1:
            return f"One version, {self.least:.2f} from the others (OKLab by area)"
        return f"{many} versions, no two closer than {self.least:.2f} (OKLab by area)"


def grow(
    derived: Derived,
    rules: Sequence[str],
    count: int = 6,
    library: Iterable[GivenPalette] = (),
    tick: Tick = idle,
) -> Growth:
    """So many studies of a plan, grown from the one that is shown by some rules, each far from all
    others and from those the plan has. Raises Refusal where no rule makes any."""
    context = GrowContext(dict(derived.shares), derived.touching, tuple(library))
    versions = _versions(derived.plan, context, rules)
    if not versions:
        line = words("make no other version of this study; choose another rule")
        raise Refusal("these rules", line)
    made = []
    for i, version in enumerate(versions):
        tick(i / len(versions) * 0.4)
        made.append((version, version.make()))
    tried = _candidates(made, derived)
    ids = list(derived.shares)
    known = [doubled(linear) for linear in linears_of(derived.plan.studies, ids)]
    rigs = [s.rig for s in derived.plan.studies]
    near = all(RULES[name].near for name in rules)
    least = _NEAR if near else max(derived.rules["studies.apart"], TOLD)
    taken = picked(tried, count, known, rigs, context, least)
    if not taken:
        line = words(
            "make no version {least:.2f} apart; wish less, free colours, or choose another rule",
            least=least,
        )
        raise Refusal("these rules", line)
    found, left = [], least_apart(taken, known, rigs, context)
    for i, one in enumerate(taken):
        tick(0.5 + i / len(taken) * 0.5)
        made_study = _mended(one, derived)
        found.append((_warnings(made_study, derived, tick), i, made_study))
    return Growth(tuple(s for _, _, s in sorted(found, key=lambda f: f[:2])), left)


def _warnings(one: Study, derived: Derived, tick: Tick) -> int:
    """How many warnings a study has in full measure, in its light."""
    plan = replace(derived.plan, studies=(one,), current_study=one.id)
    results = measure_all(derived.of(plan).think(tick))
    return sum(r.level == "warning" for r in results)


def _versions(plan: Plan, context: GrowContext, rules: Sequence[str]) -> list[Version]:
    """Versions by each rule alone, then by two of them together, as many as are looked at; the same
    plan gives the same."""
    single = {name: _holding(plan, name, context) for name in rules}
    found = [v for own in single.values() for v in own][:MOST_CANDIDATES]
    pairs = [
        (version, second, RULES[first].holds and RULES[second].holds)
        for first, second in combinations(rules, 2)
        if RULES[first].kind != RULES[second].kind
        for version in single[first]
    ]
    random.Random(plan.current_study).shuffle(pairs)
    for version, second, holds in pairs:
        both = _both(version, second, context, len(found))
        if holds:  # against what was there before either
            both = [v._replace(make=partial(_held, plan, v.make)) for v in both]
        found += both
        if len(found) >= MOST_CANDIDATES:
            break
    return found[:MOST_CANDIDATES]


def _holding(plan: Plan, name: str, context: GrowContext) -> list[Version]:
    """The versions of a rule, in which skin, fur and locked colours stay what they are."""
    rule = RULES[name]
    versions = rule.versions(plan, context)
    if not rule.holds:
        return versions
    return [v._replace(make=partial(_held, plan, v.make)) for v in versions]


def _held(before: Plan, make: Callable[[], Plan]) -> Plan:
    return held(before, make())


def _both(version: Version, second: str, context: GrowContext, at: int) -> list[Version]:
    """A version with another rule on top: two of what that makes, other ones each time, so that one
    rule does not fill the wall."""
    plan = version.make()
    versions = _holding(plan, second, context)
    some = [versions[(at + k * 3) % len(versions)] for k in range(min(2, len(versions)))]
    return [
        Version(
            f"{version.title}, {more.title[:1].lower()}{more.title[1:]}",
            f"{version.says}; {more.says}",
            more.make,
        )
        for more in some
    ]


def _candidates(made: list[tuple[Version, Plan]], derived: Derived) -> list[Candidate]:
    """Versions with what they are chosen by, all measured at once."""
    ids = list(derived.shares)
    weight = np.array(list(derived.shares.values()))
    grounds = np.isin(ids, grounds_of(derived.plan))
    linears = linears_of([study(plan) for _, plan in made], ids)
    own = doubled(linears_of([derived.study], ids)[0])
    chroma = min(float(np.hypot(*own[:, 1:].T) @ weight) / 2, _CALM)
    found = []
    for (version, plan), linear in zip(made, linears, strict=True):
        lab, light = doubled(linear), value(linear)
        ground = float(np.average(light[grounds], weights=weight[grounds] + 1e-9))
        louder = float(np.hypot(*lab[:, 1:].T) @ weight) / 2 - chroma
        merging = _merging(light, ids, derived)
        worth = 1 / (1 + _PER_WARNING * merging)
        worth *= 0.5 ** max(louder / _LOUD, 0.0)
        rig = study(plan).rig
        found.append(Candidate(version.title, version.says, plan, lab, rig, ground, worth, merging))
    return found


def _merging(light: Floats, ids: Sequence[str], derived: Derived) -> int:
    """How many borders of figures would be lost, as planned: a quick count of likely warnings."""
    at, least = {r: i for i, r in enumerate(ids)}, derived.rules["figure-merges.warning"]
    return sum(
        abs(float(light[at[b.figure]] - light[at[b.behind]])) < least
        for b in derived.borders
        if b.wish == "parting"
    )


def _mended(one: Candidate, derived: Derived) -> Study:
    """A candidate's study with the values moved by the least that parts its figures, as planned."""
    plan = one.plan
    if one.merging:
        parting = frozenset(b.constraint for b in derived.borders)
        moved = balance(derived.of(light_off(plan)), parting)
        plan = moved.edit.change(plan) if moved.moved else plan
    return replace(
        study(plan),
        title=one.title[:200],
        grown=one.says[:400],
        verdict="",
        reason="",
        note="",
        readings=(),
    )
