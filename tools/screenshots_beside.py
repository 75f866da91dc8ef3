"""What stands beside a painting, as pictures: the plan sheet, a painting that drifted, the log, a
drill. Taken with the others by tools/screenshots.py."""

from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING

import numpy as np
from PIL import Image

from bench.paintings import drifting

if TYPE_CHECKING:
    from umber_compass.window.benches.handoff.handoff_bench import HandoffBench
    from umber_compass.window.main_window import MainWindow

NAMES = ("sheet", "drift", "log", "drill")
_HOUR = 3600.0
_MORNING = 1_795_680_000.0  # a time that stays, so that pictures do


def take_beside(
    window: "MainWindow", folder: Path, held: Path, settle: Callable[["MainWindow"], None]
) -> None:
    """Take all of them, of the demo that is open."""
    from umber_compass.window.benches.handoff.handoff_bench import HandoffBench

    window.works.steps.open("handoff")
    bench = window.works.layout.benches["handoff"]
    assert isinstance(bench, HandoffBench)
    for page, name in ((bench.plan_sheet, "sheet"), (bench.painting, "drift")):
        bench.open_tab(bench.pages.indexOf(page))
        if name == "drift":
            _paint(window, bench, held, settle)
        settle(window)
        settle(window)
        window.grab().save(str(folder / f"{name}.png"))
    _log(window, folder, settle)
    _drill(window, folder, held)


def _paint(
    window: "MainWindow",
    bench: "HandoffBench",
    held: Path,
    settle: Callable[["MainWindow"], None],
) -> None:
    """Four saves of a painting, over an afternoon, in which the darks creep and the door turns."""
    watch, file = window.works.watch, held / "lighthouse-bakery-painting.png"
    derived = window.works.desk.derived
    assert derived is not None
    for i, share in enumerate((0.1, 0.4, 0.7, 1.0)):
        watch.clock = lambda at=_MORNING + i * _HOUR: at  # type: ignore[misc]  # of this save
        Image.fromarray(drifting(derived, share)).save(file)
        if i == 0:
            watch.add(file)
        settle(window)
        settle(window)
    bench.painting.seen.buttons["drift"].click()


def _log(window: "MainWindow", folder: Path, settle: Callable[["MainWindow"], None]) -> None:
    """The log of some decisions, with a reason."""
    from umber_compass.plan.settings import change_setting
    from umber_compass.steps.harmony.edits import set_value

    works = window.works
    works.journaling.clock = _clock(_MORNING)
    edits = [
        ("sketch", change_setting("purpose", "double page, low sun, before rain")),
        ("sketch", change_setting("brief.use", "spread")),
        ("harmony", change_setting("scheme.spread", 34)),
        ("values", set_value("r4", 0, 63, "wall")),
        ("values", set_value("r2", 0, 42, "sea")),
        ("light", change_setting("lamp.LAMP.strength", 118, "key")),
        ("light", change_setting("lamp.LAMP.softness", 40, "key")),
    ]
    for step, edit in edits:
        works.steps.open(step)
        works.desk.do(edit)
        works.desk.seal()
    works.journaling.say_why(3, "the wall must part from the sea, seen across a room")
    works.steps.toggle_drawer("log")
    settle(window)
    window.grab().save(str(folder / "log.png"))
    works.steps.toggle_drawer("log")
    for _ in edits:
        works.desk.undo()


def _clock(begin: float) -> Callable[[], float]:
    """A clock that goes on by some minutes at each look."""
    at = [begin]

    def now() -> float:
        at[0] += 140.0
        return at[0]

    return now


def _drill(window: "MainWindow", folder: Path, held: Path) -> None:
    """A drill with results of some days."""
    from umber_compass.document.training import Outcome, keep
    from umber_compass.steps.training.drills import DRILLS
    from umber_compass.window.trainer.trainer import Trainer

    drill = DRILLS[2]
    for i, result in enumerate((41.0, 33.0, 36.0, 27.0, 18.0, 21.0, 14.0)):
        keep(held, Outcome(drill.name, _MORNING + i * 24 * _HOUR, result))
    trainer = Trainer(window, held, np.random.default_rng(4))
    trainer.show()
    trainer.tabs.buttons[2].click()
    trainer.again.click()
    trainer.grab().save(str(folder / "drill.png"))
    trainer.reject()
