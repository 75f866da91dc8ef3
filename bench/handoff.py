"""Ramps and layers: how long they take beside a yardstick of the same run, how good the steps are,
and how far the layers of a starter file lie from the lit picture."""

import time
from collections.abc import Callable, Iterator

import numpy as np

from bench.rows import Row, yardstick_ms
from bench.scenes import demo_at, pipeline_of, worked_out
from umber_compass.colour.difference import ciede2000
from umber_compass.colour.measured import levels_of
from umber_compass.colour.spaces import cielab, decode
from umber_compass.plan.light_edits import add_lamp, light_on
from umber_compass.plan.model import Ramp
from umber_compass.plan.practices.general import PRACTICE
from umber_compass.plan.settings import change_setting
from umber_compass.steps.handoff.preview import preview
from umber_compass.steps.pipeline import Derived
from umber_compass.steps.ramps.ramps import Steps, make_steps
from umber_compass.steps.ramps.recipes import RECIPES, Ask

_BASES, _RAMPS = 200, 24


def rows() -> Iterator[Row]:
    """Ramps of random bases, then the layers of the demo."""
    yield from _steps()
    yield from _layers()


def _steps() -> Iterator[Row]:
    numbers = {r.key: r.number for r in PRACTICE.rules}
    made = [make_steps(h, Ramp(recipe="cool-warm", lighter=3), numbers) for h in _hexes(_BASES)]
    least, uneven, falling = [], [], 0
    for ramp in made:
        apart = _apart(ramp)
        least.append(apart.min())
        uneven += [side.std() / side.mean() for side in _sides(ramp, apart) if len(side) > 1]
        values = [step.value for step in ramp.steps]
        falling += values != sorted(values)
    low, high = float(np.percentile(least, 5)), float(np.percentile(uneven, 90))
    yield Row("least step of 200 ramps, 5th percentile", f"{low:.1f}", "CIEDE2000 2.5", low >= 2.5)
    yield Row("unevenness of a side, p90", f"{high:.2f}", "0.05", high <= 0.05)
    yield Row("ramps that fall in grey", str(falling), "0", falling == 0)
    asks = [
        Ask(np.array(levels_of(h)) / 255, 4, 4, degrees=8, spacing=9, points=25)
        for h in _hexes(_RAMPS)
    ]
    many = RECIPES["cool-warm"].many
    assert many is not None
    took = _best_ms(lambda: many(asks))
    yield Row(f"{_RAMPS} ramps of 9", f"{took:.0f} ms", "20 ms", took <= 20)


def _hexes(count: int) -> list[str]:
    rng = np.random.default_rng(5)
    return ["#" + rng.integers(0, 256, 3, np.uint8).tobytes().hex() for _ in range(count)]


def _apart(ramp: Steps) -> np.ndarray:
    lab = cielab(decode(np.array([levels_of(s.hex) for s in ramp.steps]) / 255))
    return np.asarray(ciede2000(lab[:-1], lab[1:]))


def _sides(ramp: Steps, apart: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    return apart[: ramp.base], apart[ramp.base :]


def _layers() -> Iterator[Row]:
    plan, drawing = demo_at(1280, 960)
    lit = add_lamp("second").apply(light_on(plan))
    measure = yardstick_ms(960, 1280)
    for light, mean, most in (("pictures", 0.6, 1.2), ("repaintable", 2.0, 5.5)):
        wished = change_setting("layers.light", light).apply(lit)
        derived: Derived = worked_out(pipeline_of(wished, drawing).derive(wished))
        found = preview(derived)
        assert found.off is not None
        met = found.off[0] <= mean and found.off[1] <= most
        said = f"{found.off[0]:.2f}, {found.off[1]:.2f}"
        yield Row(f"layers, {light}: mean, p95", said, f"{mean}, {most}", met)
        took = _best_ms(lambda d=derived: preview(d), 3)  # type: ignore[misc]  # bound in the loop
        said = f"{took:.0f} ms = {took / measure:.0f} M"
        yield Row(f"layers, {light}: the preview", said, "", None)


def _best_ms(work: Callable[[], object], times: int = 7) -> float:
    took = []
    for _ in range(times):
        begin = time.perf_counter()
        work()
        took.append((time.perf_counter() - begin) * 1000)
    return min(took)
