"""Takes the pictures in docs/screenshots from the demo: python -m tools.screenshots [FOLDER]

With a screen it shows the window there; without one it works offscreen. `--size WxH`, `--scale N`,
`--room NAME` and `--steps a,b` are for looking at what is not committed.
"""

import os
import sys
import tempfile
from argparse import ArgumentParser
from pathlib import Path
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from umber_compass.window.benches.harmony.harmony_bench import HarmonyBench
    from umber_compass.window.benches.light.light_bench import LightBench
    from umber_compass.window.main_window import MainWindow

from umber_compass.document.library import Library
from umber_compass.plan.model import Plan
from umber_compass.plan.settings import change_setting

FOLDER = Path(__file__).parent.parent / "docs" / "screenshots"


def main() -> int:
    """One PNG for each bench."""
    parser = ArgumentParser()
    parser.add_argument("folder", nargs="?", type=Path, default=FOLDER)
    parser.add_argument("--size", default="1280x800")
    parser.add_argument("--scale", default="1")
    parser.add_argument("--room", default="gallery")
    parser.add_argument("--steps", default="")
    parser.add_argument("--plan", type=Path)
    args = parser.parse_args()
    os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")
    if "DISPLAY" not in os.environ:
        os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    os.environ["QT_SCALE_FACTOR"] = args.scale
    args.folder.mkdir(parents=True, exist_ok=True)
    width, height = (int(n) for n in args.size.split("x"))
    from umber_compass.demo.plans import DEMOS

    take(args.folder, (width, height), args.room, args.steps.split(","), args.plan or DEMOS[0].plan)
    return 0


def take(folder: Path, size: tuple[int, int], room: str, steps: list[str], plan: Path) -> None:
    """Open the plan, visit each step, and grab the window once its answers are there."""
    from umber_compass.window.application import make_application
    from umber_compass.window.benches import BENCHES
    from umber_compass.window.benches.light.light_bench import LightBench
    from umber_compass.window.main_window import MainWindow
    from umber_compass.window.widgets.dialogs import Discarding

    held = tempfile.TemporaryDirectory()
    application = make_application()
    window = MainWindow(Discarding(), library=Library(Path(held.name)))
    window.resize(*size)
    window.show()
    window.works.menus.run(f"room-{room}")
    if not any(steps) or "start" in steps:
        _settle(window)
        window.grab().save(str(folder / "start.png"))
    window.works.files.open_path(plan, demo=True)
    _settle(window)
    for name in [s for s in BENCHES if not any(steps) or s in steps]:
        window.works.steps.open(name)
        if name == "studies":
            _grow(window)
        # The ramps beside the picture in their steps alone.
        window.works.desk.session.put_on_stage("ramp-view" if name == "ramps" else "")
        if name == "handoff":
            window.works.layout.benches["handoff"].open_tab(1)
        _settle(window)
        window.grab().save(str(folder / f"{name}.png"))
        if name == "light":
            light = window.works.layout.benches["light"]
            assert isinstance(light, LightBench)
            _light(window, light, folder)
    if not any(steps) or "first" in steps:
        _first(window, folder, Path(held.name))
    if not any(steps) or "kinds" in steps:
        _kinds(window, folder)
    if not any(steps) or "palette" in steps:
        _lay(window, plan)
        window.grab().save(str(folder / "palette.png"))
    if not any(steps) or "beside" in steps:
        from tools.screenshots_beside import take_beside

        window.works.files.open_path(plan, demo=True)
        _settle(window)
        take_beside(window, folder, Path(held.name), _settle)
    window.close()
    held.cleanup()
    del application


def _light(window: "MainWindow", light: "LightBench", folder: Path) -> None:
    """Its chart, and the head in its light."""
    from umber_compass.window.benches.light.light_bench import CHART, LAMPS, VOLUMES

    for page, name in ((CHART, "chart"), (VOLUMES, "light-volumes")):
        light.open_tab(page)
        _settle(window)
        window.grab().save(str(folder / f"{name}.png"))
    light.open_tab(LAMPS)
    _settle(window)


def _first(window: "MainWindow", folder: Path, state: Path) -> None:
    """A line portrait with six first colours, its face told as skin, one coat kept."""
    from PIL import Image

    from bench.uncoloured import PORTRAIT

    sketch = state / "portrait in lines.png"
    Image.fromarray(PORTRAIT.lines()).save(sketch)
    window.works.files.open_path(sketch)
    _settle(window)
    first = window.works.first
    window.works.steps.open("studies")
    _settle(window)
    first.strip.setFocus()
    first.answers.pick_focus(*_share(PORTRAIT.place_of("face"), PORTRAIT.size))
    first.answers.say_focus("skin")
    first.ask("first")
    _settle(window)
    waiting = [s for s in window.works.desk.history.now.studies if s.proposal]  # type: ignore[union-attr]
    first.liking.touch(waiting[2].id, *_share(PORTRAIT.place_of("coat"), PORTRAIT.size))
    _settle(window)
    window.grab().save(str(folder / "first-colours.png"))


def _share(place: tuple[int, int], size: tuple[int, int]) -> tuple[float, float]:
    """A place in px as shares of width and height."""
    return place[0] / size[0], place[1] / size[1]


def _grow(window: "MainWindow") -> None:
    """Six studies, two of them decided."""
    window.works.menus.run("grow")
    _settle(window)
    plan = _plan(window)
    kept, rejected = plan.studies[1].id, plan.studies[3].id
    window.works.desk.do(change_setting("study.verdict", "kept", kept))
    window.works.desk.do(
        change_setting("study.reason", "the bakery glows, the sea gives way", kept)
    )
    window.works.desk.do(change_setting("study.verdict", "rejected", rejected))
    window.works.desk.do(change_setting("study.reason", "too sweet for this page", rejected))
    window.works.studies.shown.choose([kept])


def _kinds(window: "MainWindow", folder: Path) -> None:
    """Line art as it is read, and the brief."""
    from umber_compass.demo.plans import find
    from umber_compass.window.benches.sketch.sketch_bench import READING, SketchBench

    bench = window.works.layout.benches["sketch"]
    assert isinstance(bench, SketchBench)
    window.works.files.open_path(find("potting-bench").plan, demo=True)
    _settle(window)
    window.works.steps.open("sketch")
    bench.open_tab(READING)
    _settle(window)
    window.grab().save(str(folder / "lines.png"))
    window.works.steps.toggle_drawer("brief")
    _settle(window)
    window.grab().save(str(folder / "brief.png"))
    bench.open_tab(0)


def _plan(window: "MainWindow") -> Plan:
    assert window.works.desk.history is not None
    return window.works.desk.history.now


def _harmony(window: "MainWindow", plan: Path) -> "HarmonyBench":
    """The harmony bench, on a plan that was just opened."""
    from umber_compass.window.benches.harmony.harmony_bench import HarmonyBench

    window.works.files.open_path(plan, demo=True)
    _settle(window)
    window.works.steps.open("harmony")
    bench = window.works.layout.benches["harmony"]
    assert isinstance(bench, HarmonyBench)
    return bench


def _lay(window: "MainWindow", plan: Path) -> None:
    """A palette of the library laid over the demo."""
    bench = _harmony(window, plan)
    bench.open_page(bench.library)
    titles = [e.palette.title for e in bench.library.entries]
    bench.library.list.setCurrentRow(titles.index("Snow by lamplight"))
    bench.library.lay.click()
    _settle(window)


def _settle(window: "MainWindow") -> None:
    """Let requests, answers and layouts come to rest."""
    from PySide6.QtCore import QEventLoop, QTimer

    for _ in range(4):
        loop = QEventLoop()
        QTimer.singleShot(300, loop.quit)
        loop.exec()
        while window.works.desk.worker.busy:
            loop = QEventLoop()
            window.works.desk.worker.idle.connect(loop.quit)
            loop.exec()


if __name__ == "__main__":
    sys.exit(main())
