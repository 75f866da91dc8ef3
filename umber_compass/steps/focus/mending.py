"""The smallest change of colours after which the focus leads.

A region that competes gives way toward its neighbours' mean, in the one channel that carries it or
in all; the focus may be made stronger too. How far is solved on region means, where the lead grows
with the change (docs/focus.md), and then measured in full by whoever proposes it.
"""

from collections import Counter
from collections.abc import Callable

import numpy as np

from umber_compass.colour.gamut import fit
from umber_compass.colour.spaces import (
    Floats,
    hue_distance,
    oklab,
    oklab_to_linear,
    polar,
    value,
)
from umber_compass.steps.focus.attention import Attention, lead_of
from umber_compass.steps.focus.lattice import Lattice
from umber_compass.steps.focus.pull import PARTS, Look, parts_of, pull_of
from umber_compass.steps.focus.shifts import Shift, Shifts, mean_lab, shift_colours
from umber_compass.steps.pipeline import Derived
from umber_compass.steps.values.room import is_movable

# Where the focus may go: a value L*, a chroma it should at least have, and whether a grey takes the
# hue opposite its neighbours'.
WAYS: dict[str, tuple[float | None, float | None, bool]] = {
    "lighter": (96.0, None, False),
    "darker": (10.0, None, False),
    "stronger": (None, 0.25, True),
    "light and strong": (84.0, 0.25, True),
    "dark and strong": (38.0, 0.25, True),
}
CHANNELS = ("value", "chroma", "hue", "all")  # in which a region may give way
SURROUND = {"surround darker": -30.0, "surround lighter": 30.0}  # L*, round the focus
_BESIDE = 0.12  # part in the focus's mean neighbour, from which a region lies round it
_DARKEST, _LIGHTEST = 8.0, 96.0  # L*
GAINS = (*WAYS, *SURROUND)
_PALE = 0.02  # chroma of a grey
_STEPS = 8  # taken and measured in full, at most
MARGIN = 1.02  # of the wish, that rounding to levels undoes less
_HALVINGS = 9
_ROUNDS = 200  # at most
_AGAIN = 8  # times one region may give way: its neighbours change too
_MOST_GAINS = 5  # times the focus, or what lies round it, goes as far as it can
_EVERY = 3  # such a round strengthens the focus


class Scene:
    """A picture as it is read, in which region means may be changed and looked at again."""

    def __init__(self, derived: Derived, lattice: Lattice, attention: Attention) -> None:
        self.derived, self.lattice, self.attention = derived, lattice, attention
        self.look, self.focus = attention.pull.look, attention.focus
        self.by_label = {r.label: r.id for r in derived.regions}
        most = len(lattice.share)
        self._local = np.zeros((most, 3))
        for region in derived.regions:
            if region.label < most:
                self._local[region.label] = mean_lab(derived.colours[region.id])

    def is_free(self, label: int) -> bool:
        """Whether a label's colour may be changed."""
        return label in self.by_label and is_movable(self.derived, self.by_label[label])

    def neighbour(self, local: Floats, label: int) -> Floats:
        """The mean local colour, OKLab, of what lies round a label; the focus is no part of it,
        because nothing should come nearer to that."""
        near = self.lattice.near[label].copy()
        near[list(self.focus)] = 0.0
        if near.sum() <= 0:
            near = self.lattice.share.copy()
            near[[label, *self.focus]] = 0.0
        if near.sum() <= 0:
            return np.asarray(local[label])
        return np.asarray(near @ local / near.sum())

    def pull_at(self, local: Floats, label: int) -> float:
        """What one label would draw."""
        rows = np.array([label])
        return float(parts_of(self.lattice, self.shown(local), rows).sum())

    def shown(self, local: Floats) -> Look:
        """What the regions would look like with other local colours: light takes a colour as it
        took the one before."""
        changed = np.flatnonzero((local != self._local).any(axis=1))
        before, after = polar(self._local[changed]), polar(local[changed])
        lit = polar(self.look.lab[changed])
        ratio = np.where(before[:, 0] > 1e-3, after[:, 0] / np.maximum(before[:, 0], 1e-3), 1.0)
        taken = np.where(before[:, 0] > 1e-3, lit[:, 0] / np.maximum(before[:, 0], 1e-3), 1.0)
        chroma = np.maximum(lit[:, 1] + (after[:, 1] - before[:, 1]) * np.minimum(taken, 2), 0)
        turn = np.where(after[:, 1] > 1e-3, hue_distance(before[:, 2], after[:, 2]), 0.0)
        angle = np.radians(np.where(lit[:, 1] > 5e-3, lit[:, 2] + turn, after[:, 2]))
        lab, detail = self.look.lab.copy(), self.look.detail.copy()
        lab[changed, 0] = lit[:, 0] * ratio
        lab[changed, 1], lab[changed, 2] = chroma * np.cos(angle), chroma * np.sin(angle)
        detail[changed] *= ratio
        return Look(lab, detail)

    def pull(self, local: Floats) -> Floats:
        """What every label would draw, (labels,)."""
        total = pull_of(self.lattice, self.shown(local)).total
        keep = list(self.focus)
        found = np.where(self.lattice.is_line, 0.0, total)
        found[keep] = total[keep]
        return np.asarray(found)

    @property
    def local(self) -> Floats:
        """Every label's own colour, OKLab, (labels, 3); a copy."""
        return self._local.copy()

    def shifts(self, local: Floats) -> dict[str, Shift]:
        """What must be done to the plan for other local colours."""
        found = {}
        for label in np.flatnonzero((np.abs(local - self._local) > 1e-6).any(axis=1)).tolist():
            region = self.by_label[label]
            most = max(e.chroma for e in self.derived.colours[region].ends)
            found[region] = _shift(self._local[label], local[label])._replace(shown=most)
        return found


def _shift(before: Floats, after: Floats) -> Shift:
    one, two = polar(before), polar(after)
    lights = [_value(lab) for lab in (before, after)]
    turn = float(hue_distance(one[2], two[2])) if min(one[1], two[1]) > 2e-3 else 0.0
    return Shift(lights[1] - lights[0], float(two[1] - one[1]), turn)


def _value(lab: Floats) -> float:
    """Value L* of an OKLab colour."""
    return float(value(np.maximum(oklab_to_linear(lab), 0.0)))


def cause(scene: Scene, label: int) -> str:
    """The part that carries a label's pull: the one whose muting takes most from it."""
    local = scene.local
    target, now = scene.neighbour(local, label), scene.attention.total[label]
    left = {}
    for name in PARTS[:3]:
        moved = local.copy()
        moved[label] = toward(local[label], target, 1.0, name)
        left[name] = float(now - scene.pull_at(moved, label))
    left["detail"] = float(scene.attention.pull.parts[3, label])
    return max(left, key=left.__getitem__)


def toward(own: Floats, target: Floats, share: float, channel: str) -> Floats:
    """A colour, OKLab, brought a share of the way to another: in value, chroma or hue alone, or in
    all."""
    if channel == "all":
        return np.asarray(own + (target - own) * share)
    one, two = polar(own), polar(target)
    light, chroma, hue = (float(v) for v in one)
    if channel == "value":
        light += (float(two[0]) - light) * share
    elif channel == "chroma":
        chroma += (float(two[1]) - chroma) * share
    else:
        hue += float(hue_distance(one[2], two[2])) * share
    angle = np.radians(hue)
    return np.array([light, chroma * np.cos(angle), chroma * np.sin(angle)])


def quieten(
    scene: Scene, local: Floats, label: int, channel: str, good: Callable[[Floats], bool]
) -> Floats | None:
    """The local colours with one label brought toward its neighbours just so far that it is `good`,
    by all pulls; None where even the whole way is not enough."""
    target = scene.neighbour(local, label)

    def at(share: float) -> Floats:
        moved = local.copy()
        moved[label] = toward(local[label], target, share, channel)
        return moved

    if not good(scene.pull(at(1.0))):
        return None
    low, high = 0.0, 1.0
    for _ in range(_HALVINGS):
        middle = (low + high) / 2
        if good(scene.pull(at(middle))):
            high = middle
        else:
            low = middle
    return at(high)


def strengthen(
    scene: Scene, local: Floats, way: str, good: Callable[[Floats], bool]
) -> Floats | None:
    """The local colours with the free regions of the focus made lighter, darker or stronger, just
    so far that it is `good`; None where the whole way is not enough or none is free."""
    whole = boosted(scene, local, way, 1.0)
    if whole is None or not good(scene.pull(whole)):
        return None
    low, high = 0.0, 1.0
    for _ in range(_HALVINGS):
        middle = (low + high) / 2
        moved = boosted(scene, local, way, middle)
        low, high = (
            (low, middle) if moved is not None and good(scene.pull(moved)) else (middle, high)
        )
    return boosted(scene, local, way, high)


def boosted(scene: Scene, local: Floats, way: str, share: float) -> Floats | None:
    """The local colours with the focus a share of the way to its lightest, darkest or strongest, or
    with what lies round it as far from it; None where nothing of that is free."""
    if way in SURROUND:
        return _set_off(scene, local, SURROUND[way] * share)
    labels = [i for i in scene.focus if scene.is_free(i)]
    if not labels:
        return None
    moved, (light, chroma, away) = local.copy(), WAYS[way]
    for label in labels:
        lch = polar(local[label])
        hue = float(lch[2])
        if away and lch[1] < _PALE:  # a grey gains most in a hue that its neighbours lack
            hue = float(polar(scene.neighbour(local, label))[2]) + 180
        wish = (
            _value(local[label]) if light is None else light,
            max(chroma or 0.0, float(lch[1])),
            hue,
        )
        target = oklab(fit(*wish))
        moved[label] = local[label] + (target - local[label]) * share
    return moved


def _set_off(scene: Scene, local: Floats, by: float) -> Floats | None:
    """The local colours with what lies round the focus darker or lighter by some L*."""
    near = scene.lattice.near[list(scene.focus)].max(axis=0)
    labels = [i for i in np.flatnonzero(near >= _BESIDE).tolist() if i not in scene.focus]
    labels = [i for i in labels if scene.is_free(i)]
    if not labels:
        return None
    moved = local.copy()
    for label in labels:
        lch = polar(local[label])
        there = min(max(_value(local[label]) + by, _DARKEST), _LIGHTEST)
        moved[label] = oklab(fit(there, float(lch[1]), float(lch[2])))
    return moved


def lead_by(scene: Scene, wish: float) -> Floats | None:
    """The local colours after which the focus leads by a wish: the strongest other gives way, again
    and again, and now and then the focus gains. None where what is locked forbids it."""
    local, sunk, gained = scene.local, Counter[int](), 0
    for turn in range(_ROUNDS):
        lead, rival = lead_of(scene.pull(local), scene.focus)
        if rival is None or lead >= wish:
            return local if lead >= wish else None
        held = sunk[rival] >= _AGAIN or not scene.is_free(rival)
        found = None
        if gained < _MOST_GAINS and (held or turn % _EVERY == _EVERY - 1):
            found = _gained(scene, local, wish, rival)
            if found is None and held:
                found, gained = _most_gained(scene, local), gained + 1
        if found is None and not held:
            found = _gives_way(scene, local, wish, rival)
            sunk[rival] += 1
        if found is None:
            return None
        local = found
    return None


def _gives_way(scene: Scene, local: Floats, wish: float, rival: int) -> Floats:
    """The rival brought under the focus by its own cause, else by all; as far as it goes."""

    def good(pull: Floats) -> bool:
        return bool(pull[list(scene.focus)].max() >= wish * pull[rival])

    channels = [c for c in (cause(scene, rival),) if c != "detail"]
    for channel in (*channels, "all"):
        found = quieten(scene, local, rival, channel, good)
        if found is not None:
            return found
    sunk = local.copy()
    sunk[rival] = scene.neighbour(local, rival)
    return sunk


def _gained(scene: Scene, local: Floats, wish: float, rival: int) -> Floats | None:
    """The focus made stronger so that it passes a rival: by the least change of those that do."""

    def good(pull: Floats) -> bool:
        return bool(pull[list(scene.focus)].max() >= wish * pull[rival])

    found = [m for m in (strengthen(scene, local, way, good) for way in GAINS) if m is not None]
    return min(found, key=lambda m: float(np.abs(m - local).sum()), default=None)


def _most_gained(scene: Scene, local: Floats) -> Floats | None:
    """The focus as strong as it gets."""
    found = [m for m in (boosted(scene, local, way, 1.0) for way in GAINS) if m is not None]
    focus = list(scene.focus)
    return max(found, key=lambda m: float(scene.pull(m)[focus].max()), default=None)


def give_way_and_gain(scene: Scene, label: int, wish: float) -> Floats | None:
    """The local colours with one label sunk into its neighbours and the focus made just so strong
    that it is passed by a wish; None where even that is not enough."""

    def good(pull: Floats) -> bool:
        return bool(pull[list(scene.focus)].max() >= wish * pull[label])

    local = scene.local
    if scene.is_free(label):
        local[label] = scene.neighbour(local, label)
    for _ in range(_MOST_GAINS):
        found = [m for m in (strengthen(scene, local, way, good) for way in GAINS) if m is not None]
        if found:
            return min(found, key=lambda m: float(np.abs(m - scene.local).sum()))
        most = _most_gained(scene, local)
        if most is None:
            return None
        local = most
    return None


def until(
    begin: Derived, step: Callable[[Scene], Floats | None], good: Callable[[Derived], bool]
) -> list[Shifts] | None:
    """The changes, one after the other, after which a picture is `good` in full measure: a step is
    solved on region means, taken, and solved again from where it came to. None where a step finds
    nothing, or it is not good after a few."""
    derived, taken = begin, list[Shifts]()
    for _ in range(_STEPS):
        scene = scene_of(derived)
        local = step(scene) if scene is not None else None
        if scene is None or local is None:
            return None
        shifts = scene.shifts(local)
        if not shifts:
            return None
        taken.append(shifts)
        derived = derived.of(shift_colours(shifts)(derived.plan)).think()
        if good(derived):
            return taken
    return None


def scene_of(derived: Derived) -> Scene | None:
    """The scene of a plan whose attention is known; None until it is."""
    if derived.lattice is None or derived.attention is None:
        return None
    return Scene(derived, derived.lattice, derived.attention)
