"""Recolouring the flat picture; regions of a flats picture."""

from collections.abc import Iterator

import numpy as np

from bench.rows import Row, cold, times_ms, yardstick_ms
from bench.scenes import SIZES, demo_at, pipeline_of, worked_out
from umber_compass.demo.plans import DEMOS
from umber_compass.formats import picture
from umber_compass.picture import indexed
from umber_compass.plan.harmony_edits import turn_lead
from umber_compass.steps.checks import judging
from umber_compass.steps.sketch.kinds import flats


def rows() -> Iterator[Row]:
    """Whole picture, one region, table, measures."""
    for width, height in SIZES:
        yield from _recolour(width, height)
    yield from _deciding()
    packed = picture.read(DEMOS[0].sketch).packed
    took = np.median(times_ms(lambda: flats.split(packed, "x"), 7, cold))
    yield Row("regions: flats, 1280x960", f"{took:.0f} ms", "about 64 ms (100 at 1600x1200)", None)


def _recolour(width: int, height: int) -> Iterator[Row]:
    m = yardstick_ms(height, width)
    plan, drawing = demo_at(width, height)
    derived = pipeline_of(plan, drawing).derive(plan)
    at = f"{width}x{height}"
    whole = float(
        np.median(times_ms(lambda: indexed.paint(derived.indexed, derived.table), 41, cold))
    )
    yield Row(f"M, {at}", f"{m:.2f} ms", "", None)
    yield Row(
        f"flat recolour, {at}", f"{whole:.2f} ms = {whole / m:.2f} M", "1.5 M", whole <= 1.5 * m
    )


def _deciding() -> Iterator[Row]:
    plan, drawing = demo_at(*SIZES[0])
    pipeline = pipeline_of(plan, drawing)
    derived = worked_out(pipeline.derive(plan))
    m = yardstick_ms(SIZES[0][1], SIZES[0][0])
    angle = iter(range(10_000))

    def turn() -> None:
        worked_out(pipeline.derive(turn_lead(next(angle) * 0.7).apply(plan)))

    took = np.median(times_ms(turn, 41, cold))
    yield Row("derive after a turn of the scheme", f"{took:.2f} ms = {took / m:.2f} M", "", None)
    took = np.median(times_ms(lambda: judging.measure_all(derived), 41, cold))
    yield Row("all checks measured", f"{took:.2f} ms = {took / m:.2f} M", "", None)
    results = judging.measure_all(derived)
    bad = [r for r in results if r.level != "fine"]
    every: list[float] = []
    for result in bad:
        every += times_ms(
            lambda result=result: judging.with_fixes(result, results, derived),  # type: ignore[misc]  # bound now
            9,
            cold,
        )
    p50, p95 = np.percentile(every, [50, 95])
    met = bool(p50 <= 50 and p95 <= 100)
    yield Row(
        "a fix with its full re-measure", f"{p50:.0f} ms, p95 {p95:.0f}", "50 ms, p95 100", met
    )
