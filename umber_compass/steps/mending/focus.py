"""The smallest change of colours after which the focus leads.

A region that competes gives way toward its neighbours' mean, in the one channel that carries it or
in all; the focus may be made stronger too. How far is solved on region means, where the lead grows
with the change (docs/focus.md), and then measured in full by whoever proposes it.
"""

from collections import Counter
from collections.abc import Callable

import numpy as np

from umber_compass.colour.gamut import fit
from umber_compass.colour.spaces import Floats, hue_distance, oklab, polar
from umber_compass.steps.focus.attention import lead_of
from umber_compass.steps.focus.pull import PARTS
from umber_compass.steps.harmony.shifts import Shifts, shift_colours, value_of
from umber_compass.steps.mending.scene import Scene, scene_of
from umber_compass.steps.pipeline import Derived

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
    target = scene.quiet(local, label)

    def at(share: float) -> Floats:
        moved = local.copy()
        moved[label] = toward(local[label], target, share, channel)
        return moved

    return _least(scene, at, good)


def strengthen(
    scene: Scene, local: Floats, way: str, good: Callable[[Floats], bool]
) -> Floats | None:
    """The local colours with the free regions of the focus made lighter, darker or stronger, just
    so far that it is `good`; None where the whole way is not enough or none is free."""
    return _least(scene, lambda share: boosted(scene, local, way, share), good)


def _least(
    scene: Scene, at: Callable[[float], Floats | None], good: Callable[[Floats], bool]
) -> Floats | None:
    """The local colours `at` the smallest share that is `good`; None where the whole is not."""

    def enough(share: float) -> bool:
        moved = at(share)
        return moved is not None and good(scene.pull(moved))

    if not enough(1.0):
        return None
    low, high = 0.0, 1.0
    for _ in range(_HALVINGS):
        middle = (low + high) / 2
        low, high = (low, middle) if enough(middle) else (middle, high)
    return at(high)


def passes(scene: Scene, label: int, wish: float) -> Callable[[Floats], bool]:
    """Whether, by all pulls, the focus draws a label's pull times a wish."""
    focus = list(scene.focus)
    return lambda pull: bool(pull[focus].max() >= wish * pull[label])


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
            value_of(local[label]) if light is None else light,
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
    labels = [i for i in labels if scene.is_free(i) and not scene.is_skin(i)]
    if not labels:
        return None
    moved = local.copy()
    for label in labels:
        lch = polar(local[label])
        there = min(max(value_of(local[label]) + by, _DARKEST), _LIGHTEST)
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
            found = _gained(scene, local, wish, rival, local)
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
    good = passes(scene, rival, wish)
    channels = [c for c in (cause(scene, rival),) if c != "detail"]
    for channel in (*channels, "all"):
        found = quieten(scene, local, rival, channel, good)
        if found is not None:
            return found
    sunk = local.copy()
    sunk[rival] = scene.quiet(local, rival)
    return sunk


def _gained(scene: Scene, local: Floats, wish: float, rival: int, begin: Floats) -> Floats | None:
    """The focus made stronger so that it passes a rival: of the ways that do, the one that ends
    nearest to where it began."""
    good = passes(scene, rival, wish)
    found = [m for m in (strengthen(scene, local, way, good) for way in GAINS) if m is not None]
    return min(found, key=lambda m: float(np.abs(m - begin).sum()), default=None)


def _most_gained(scene: Scene, local: Floats) -> Floats | None:
    """The focus as strong as it gets."""
    found = [m for m in (boosted(scene, local, way, 1.0) for way in GAINS) if m is not None]
    focus = list(scene.focus)
    return max(found, key=lambda m: float(scene.pull(m)[focus].max()), default=None)


def give_way_and_gain(scene: Scene, label: int, wish: float) -> Floats | None:
    """The local colours with one label sunk into its neighbours and the focus made just so strong
    that it is passed by a wish; None where even that is not enough."""
    local = scene.local
    if scene.is_free(label):
        local[label] = scene.quiet(local, label)
    for _ in range(_MOST_GAINS):
        found = _gained(scene, local, wish, label, scene.local)
        if found is not None:
            return found
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
        scene = scene_of(derived, begin)
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
