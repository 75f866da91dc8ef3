"""First names for regions, by their colour, until the artist gives better ones: as a painter says
them, and told apart without numbers."""

from collections.abc import Sequence

import numpy as np
import numpy.typing as npt

from umber_compass.colour.measured import Measured
from umber_compass.colour.spaces import Floats
from umber_compass.steps.harmony.colour_words import WORDS, distances, lch_of

_ALIKE = 0.015  # OKLab distance under which two regions share a word and are told apart by place
_ROUNDS = 3
_LINES = 8  # of a picture, along which its areas are read
_MOST_NAMED = 400  # beyond the words there are, regions are numbered


def region_names(
    colours: list[Measured],
    areas: Sequence[float] | None = None,
    places: Sequence[tuple[float, float]] | None = None,
) -> list[str]:
    """A name for each region, all different. The largest takes its word first; regions of nearly
    one colour take one word and their place, shares of width and height."""
    lch = lch_of(colours)
    order = np.argsort(
        -np.asarray(areas if areas is not None else np.ones(len(colours))), kind="stable"
    )
    groups = _alike(lch, order)
    heads = [g[0] for g in groups][:_MOST_NAMED]
    cost = distances(lch[heads]) + WORDS.price
    taken = _ordered(_swapped(_cheapest_free(cost), cost), lch[heads])
    names = [""] * len(colours)
    for n, group in enumerate(groups):
        word = WORDS.phrase[taken[n]] if n < len(taken) else f"colour {n + 1}"
        said = _by_place([places[i] for i in group]) if places else [""] * len(group)
        for rank, i in enumerate(group):
            names[i] = f"{said[rank]} {word}".strip()
    return distinct(names)


def _alike(lch: Floats, order: npt.NDArray[np.intp]) -> list[list[int]]:
    """Regions in groups of nearly one colour, the largest first."""
    turn = np.radians(lch[:, 2])
    lab = np.stack([lch[:, 0], lch[:, 1] * np.cos(turn), lch[:, 1] * np.sin(turn)], axis=1)
    groups: list[list[int]] = []
    for i in order.tolist():
        near = [g for g in groups if np.linalg.norm(lab[g[0]] - lab[i]) < _ALIKE]
        if near:
            near[0].append(i)
        else:
            groups.append([i])
    return groups


def _cheapest_free(cost: Floats) -> list[int]:
    """A phrase for each, in their order, no phrase twice."""
    left, taken = cost.copy(), []
    for row in left:
        at = int(row.argmin())
        taken.append(at)
        left[:, at] = np.inf
    return taken


def _swapped(taken: list[int], cost: Floats) -> list[int]:
    """Phrases swapped between pairs while the sum of the costs falls."""
    for _ in range(_ROUNDS):
        better = False
        for i in range(len(taken)):
            for j in range(i + 1, len(taken)):
                now = cost[i, taken[i]] + cost[j, taken[j]]
                if cost[i, taken[j]] + cost[j, taken[i]] < now - 1e-9:
                    taken[i], taken[j] = taken[j], taken[i]
                    better = True
        if not better:
            break
    return taken


def _ordered(taken: list[int], lch: Floats) -> list[int]:
    """Within one word the phrases from deep to pale go to colours from dark to light."""
    for word in {WORDS.word[t] for t in taken}:
        own = [i for i, t in enumerate(taken) if WORDS.word[t] == word and _is_shade(t)]
        if len(own) > 1:
            phrases = sorted((taken[i] for i in own), key=lambda t: WORDS.rank[t])
            for i, phrase in zip(sorted(own, key=lambda i: lch[i, 0]), phrases, strict=True):
                taken[i] = phrase
    return taken


def _is_shade(phrase: int) -> bool:
    """Whether a phrase says only how light a word is."""
    return bool(WORDS.rank[phrase]) or WORDS.phrase[phrase] == WORDS.word[phrase]


def _by_place(places: list[tuple[float, float]]) -> list[str]:
    """A word for the place of each of several, by the way they lie apart most."""
    if len(places) == 1:
        return [""]
    x, y = np.array(places).T
    across = np.ptp(x) >= np.ptp(y)
    words = ("left", "middle", "right") if across else ("upper", "middle", "lower")
    rank = np.argsort(np.argsort(x if across else y, kind="stable"), kind="stable")
    last = len(places) - 1
    return [words[0] if r == 0 else words[2] if r == last else words[1] for r in rank]


def area_names(places: Sequence[tuple[float, float]]) -> list[str]:
    """Names for regions that have no colour of their own yet: areas, numbered as one reads. They
    are told apart by their outlines. Places are shares of width and height."""
    names = [""] * len(places)
    for number, i in enumerate(reading_order(places)):
        names[i] = f"area {number + 1}"
    return names


def reading_order(places: Sequence[tuple[float, float]]) -> list[int]:
    """Places in the order in which one reads: from the top, each line from the left."""
    return sorted(range(len(places)), key=lambda i: (int(places[i][1] * _LINES), places[i][0]))


def distinct(names: list[str]) -> list[str]:
    """Names all different: what is left of the same is counted, the first ten in words."""
    counts = ("second", "third", "fourth", "fifth", "sixth", "seventh", "eighth", "ninth", "tenth")
    seen: dict[str, int] = {}
    found = []
    for name in names:
        seen[name] = n = seen.get(name, 0) + 1
        counted = n - 2 < len(counts)
        found.append(name if n == 1 else f"{counts[n - 2]} {name}" if counted else f"{name} {n}")
    return found
