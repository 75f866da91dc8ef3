"""Drawings of many hands and the casts of pictures: how many come in as what they are, and with
roles an artist would agree to; half of the seeds are held out."""

import time
from collections.abc import Iterator

import numpy as np

from bench.casts import casts
from bench.hands import SORTS, Score, score
from bench.rows import Row
from umber_compass.document.splitting import split_picture
from umber_compass.formats.picture import Picture
from umber_compass.steps.sketch.roles import guess_roles
from umber_compass.words import Refusal

_SEEN, _HELD = (1, 2), (101, 102)
_TORN, _MORE = 3, 8  # times its areas, and more, beyond which a picture is torn
_PALE = ("pencil", "hairline")  # lines that may lose more


def rows() -> Iterator[Row]:
    """Kinds, tearing, areas lost, roles."""
    for which, seeds in (("seen", _SEEN), ("held out", _HELD)):
        yield from _hands(which, seeds)
    for which, begin in (("seen", 0), ("held out", 100)):
        yield _roles(which, begin)


def _hands(which: str, seeds: tuple[int, ...]) -> Iterator[Row]:
    suits = many = torn = 0
    lines: list[Score] = []
    pale: list[Score] = []
    took: list[float] = []
    for name, make in SORTS.items():
        for seed in seeds:
            drawn = make(seed)
            many += 1
            begin = time.perf_counter()
            try:
                found = split_picture(Picture(drawn.packed, b""), name)
            except Refusal:
                continue
            took.append(time.perf_counter() - begin)
            suits += found.kind in drawn.kinds
            got = score(found.split.labels, drawn.truth)
            torn += got.found > _TORN * got.true + _MORE
            if "lines" in drawn.kinds:
                (pale if name in _PALE else lines).append(got)
    yield Row(
        f"{many} drawings of {len(SORTS)} sorts, {which}: kind",
        f"{suits / many:.0%}",
        "95 %",
        suits >= 0.95 * many,
    )
    yield Row(f"the same, {which}: torn", f"{torn}", "none", not torn)
    for what, held, most in (("lines", lines, 0.05), ("pencil, hairline", pale, 0.15)):
        lost, true = sum(s.lost for s in held), sum(s.true for s in held)
        said = f"{lost} of {true}"
        yield Row(f"{what}, {which}: areas lost", said, f"{most:.0%}", lost <= most * true)
    yield Row(
        f"a drawing, {which}: time",
        f"{np.median(took):.2f} s, worst {max(took):.2f}",
        "1.5 times its right reading",
        None,
    )


def _roles(which: str, begin: int) -> Row:
    right = many = 0
    for _, cast in casts(begin):
        found = guess_roles(cast.labels, cast.colours)
        right += sum(r in roles for r, roles in zip(found, cast.roles, strict=True))
        many += len(found)
    share = right / many
    return Row(f"roles of 60 casts, {which}", f"{share:.1%} of {many}", "95 %", share >= 0.95)
