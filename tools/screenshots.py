"""Takes the pictures in docs/screenshots from the demo: python -m tools.screenshots [FOLDER]

With a screen it shows the window there; without one it works offscreen. `--size WxH`, `--scale N`,
`--room NAME` and `--steps a,b` are for looking at what is not committed.
"""

import os
import sys
from argparse import ArgumentParser
from pathlib import Path
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from umber_compass.window.main_window import MainWindow

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
    from umber_compass.demo.plans import DEMOS
    from umber_compass.window.application import make_application
    from umber_compass.window.benches import BENCHES
    from umber_compass.window.benches.light.bench import LightBench
    from umber_compass.window.main_window import MainWindow
    from umber_compass.window.widgets.dialogs import Discarding

    application = make_application()
    window = MainWindow(Discarding())
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
        _settle(window)
        window.grab().save(str(folder / f"{name}.png"))
        if name == "light":
            light = window.works.layout.benches["light"]
            assert isinstance(light, LightBench)
            light.open_tab(1)
            _settle(window)
            window.grab().save(str(folder / "chart.png"))
            light.open_tab(0)
    if not any(steps) or "portrait" in steps:
        window.works.files.open_path(DEMOS[1].plan, demo=True)
        _settle(window)
        window.works.steps.open("harmony")
        _settle(window)
        window.grab().save(str(folder / "portrait.png"))
    window.close()
    del application


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
