"""A painting in progress held against its plan: how often the right region is named, how often one
without a drift is left alone, and how long a painting of 12 megapixels takes."""

import io
import time
from collections.abc import Iterator

import numpy as np
from PIL import Image

from bench.paintings import drifting, painting
from bench.rows import Row, times_ms
from bench.scenes import mosaic
from umber_compass.demo.plans import DEMOS
from umber_compass.document import open_plan
from umber_compass.document.painting import at_most, compare
from umber_compass.formats import picture
from umber_compass.steps.pipeline import Derived, Pipeline
from umber_compass.words import Refusal

FOUND, SILENT = 200, 100  # paintings with a drift and without one; docs/painting.md
_SIZE = 4000, 3000


def plans() -> list[Derived]:
    """Four demos and two mosaics."""
    opened = [open_plan(d.plan) for d in DEMOS[:4]] + [mosaic(8), mosaic(60)]
    return [Pipeline(o.pixels.drawings).derive(o.plan) for o in opened]


def rows(found: int = FOUND, silent: int = SILENT) -> Iterator[Row]:
    """Paintings of these plans, and the time of one."""
    of = plans()
    told = [_is_found(of[i % len(of)], 9000 + i) for i in range(found)]
    planted = [t for t in told if t is not None]  # where a drift that is seen could be painted
    right, count = sum(planted), len(planted)
    yield Row("planted drifts found", f"{right} of {count}", "95 %", right >= 0.95 * count)
    quiet = sum(_is_silent(of[i % len(of)], 7000 + i) for i in range(silent))
    yield Row("silent without one", f"{quiet} of {silent}", "95 %", quiet >= 0.95 * silent)
    yield _time(of[0])


def _is_found(derived: Derived, seed: int) -> bool | None:
    made = painting(derived, seed, drifts=True)
    if made.planted is None:
        return None
    try:
        found = compare(derived, made.packed, "painting").drifts
    except Refusal:
        return False
    return made.planted.region in {d.region for d in found if d.drifted}


def _is_silent(derived: Derived, seed: int) -> bool:
    made = painting(derived, seed, drifts=False)
    try:
        found = compare(derived, made.packed, "painting").drifts
    except Refusal:
        return False
    return not any(d.drifted for d in found)


def _time(derived: Derived) -> Row:
    """From the bytes of a PNG to what drifted, a first time."""
    large = Image.fromarray(drifting(derived, 1.0)).resize(_SIZE, Image.Resampling.BICUBIC)
    held = io.BytesIO()
    large.save(held, "PNG", compress_level=1)
    data = held.getvalue()

    def work() -> None:
        packed = picture.decode(data, "painting").packed
        compare(derived, at_most(packed), "painting", _SIZE)

    took = float(np.median(times_ms(work, 3, time.monotonic)))
    return Row("painting of 12 megapixels compared", f"{took:.0f} ms", "2000 ms", took <= 2000)
