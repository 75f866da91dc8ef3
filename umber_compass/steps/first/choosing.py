"""Which proposals are searched, and which of those are shown: far from each other, and good."""

from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from umber_compass.colour.gamut import fit
from umber_compass.colour.spaces import Floats
from umber_compass.steps.first.chains import Chain
from umber_compass.steps.first.labels import Labelled
from umber_compass.steps.first.paints import Paints
from umber_compass.steps.first.search import Mix
from umber_compass.steps.first.task import Task
from umber_compass.steps.harmony.study_light import doubled

_LEAST_DAMPED, _DAMPING = 0.4, 2.5
_APART = 2.6  # power of the distance, by which proposals are taken
_LEAST_WORTH = 0.05
_FAR = 0.3  # OKLab by area, from which farther is no better


class Searched(NamedTuple):
    """One proposal as it was searched."""

    chain: Chain
    mix: Mix
    cost: float  # of the search
    whole: float  # with what its paints cost
    lab: Floats  # (n, 3) OKLab by region, a and b doubled


def begun_apart(
    task: Task,
    chains: list[Chain],
    paints: Paints,
    labelled: Labelled,
    known: list[Floats],
    count: int,
) -> list[int]:
    """Proposals that are worth searching: far from each other and from what is known, and cheap."""
    rows = np.arange(len(labelled.paint))[:, None]
    colour = paints.colour[rows, labelled.paint]
    lab = doubled(fit(colour[..., 0], colour[..., 1], colour[..., 2]))[:, task.things.of]
    spread = max(float(np.std(labelled.cost)), 0.3)
    worth = 1 / (1 + np.exp((labelled.cost - np.median(labelled.cost)) / spread)) + 0.03
    share = task.things.outlines.share
    base = np.array([min((_far(one, k, share) for k in known), default=9.0) for one in lab])
    first = (np.minimum(base, _FAR) ** 2 * worth).argmax() if known else labelled.cost.argmin()
    taken = [int(first)]
    near = np.minimum(base, [_far(one, lab[taken[0]], share) for one in lab])
    while len(taken) < min(count, len(lab)):
        score = np.minimum(near, _FAR) ** 2 * worth
        score[taken] = -1
        lights = [chains[i].light for i in taken]
        held = np.array([lights.count(c.light) for c in chains])
        left = np.array([i not in taken for i in range(len(lab))])
        score[held > held[left].min()] -= 1e3
        taken.append(int(score.argmax()))
        near = np.minimum(near, [_far(one, lab[taken[-1]], share) for one in lab])
    return taken


def chosen(task: Task, tried: list[Searched], known: list[Floats], count: int) -> list[Searched]:
    """Proposals by distance squared times worth, those much worse than the best damped."""
    share = task.things.outlines.share
    whole, cost = np.array([t.whole for t in tried]), np.array([t.cost for t in tried])
    spread = max(float(np.std(whole)), 0.3)
    worth = 1 / (1 + np.exp((whole - np.median(whole)) / spread * 0.9)) + 0.15
    worth *= np.exp(-_DAMPING * np.maximum(0, cost - cost.min() - _LEAST_DAMPED))
    worth = np.maximum(worth, _LEAST_WORTH)  # two that are the same are worse than one that is poor
    base = np.array([min((_far(t.lab, k, share) for k in known), default=9.0) for t in tried])
    first = (np.minimum(base, _FAR) ** 2 * worth).argmax() if known else whole.argmin()
    taken = [int(first)]
    while len(taken) < min(count, len(tried)):
        near = [min(_far(tried[i].lab, t.lab, share) for i in taken) for t in tried]
        near = np.minimum(base, near)
        near[taken] = 0
        keys = [tried[i].chain.key for i in taken]
        often = np.array([0.6 if keys.count(t.chain.key) >= 2 else 1.0 for t in tried])
        score = (np.minimum(near, _FAR) ** _APART + 1e-6) * worth * often
        score[taken] = -1
        score[~_lights_in_turn(task, tried, taken)] -= 1e3
        taken.append(int(score.argmax()))
    return sorted((tried[i] for i in taken), key=lambda t: t.whole)


def _lights_in_turn(task: Task, tried: list[Searched], taken: list[int]) -> npt.NDArray[np.bool_]:
    """Which proposals are in a light that fewer of those taken are in."""
    held = dict.fromkeys(task.lights, 0)
    for i in taken:
        held[tried[i].chain.light] += 1
    left = {t.chain.light for i, t in enumerate(tried) if i not in taken}
    least = min(held[light] for light in left)
    return np.array([held[t.chain.light] == least for t in tried])


def nearest(task: Task, taken: list[Searched], known: list[Floats]) -> float:
    labs = [*known, *(t.lab for t in taken)]
    share = task.things.outlines.share
    return min(
        (_far(labs[i], labs[j], share) for i in range(len(known), len(labs)) for j in range(i)),
        default=0.0,
    )


def _far(one: Floats, other: Floats, share: Floats) -> float:
    return float(np.linalg.norm(one - other, axis=-1) @ share)
