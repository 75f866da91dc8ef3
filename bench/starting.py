"""Start: a bare window that imports NumPy, the stored thumbnail, the live stage."""

import os
import shutil
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from pathlib import Path

import numpy as np

from bench.rows import Row

_RUNS = 7
_BARE = """
import sys, time
begin = time.perf_counter()
import numpy
from PySide6.QtWidgets import QApplication, QWidget
class W(QWidget):
    def paintEvent(self, event):
        print(time.perf_counter() - begin, flush=True)
        app.quit()
app = QApplication([])
w = W()
w.resize(1280, 800)
w.show()
app.exec()
"""
_OURS = """
import sys, time
begin = time.perf_counter()
import os
os.environ["OPENBLAS_NUM_THREADS"] = "1"
from pathlib import Path
from umber_compass.window.application import make_application, show_opening, start
path = Path(sys.argv[1])
app = make_application()
opening = show_opening(path)
print("thumbnail", time.perf_counter() - begin, flush=True)
window = start(path, True)
opening.close()
stage = window.works.layout.stage
plain = stage.paintEvent
def paint(event):
    plain(event)
    if window.works.desk.derived is not None and window.works.desk.derived.lit is not None:
        print("live", time.perf_counter() - begin, flush=True)
        stage.paintEvent = plain
        app.quit()
stage.paintEvent = paint
app.exec()
window.close()
"""


def _run(code: str, cache: str, *given: str) -> str:
    """What a fresh process prints; its bytecode is compiled by an earlier one, as an installed
    program's is."""
    environment = {k: v for k, v in os.environ.items() if k != "PYTHONDONTWRITEBYTECODE"}
    environment |= {"XDG_CACHE_HOME": cache, "PYTHONPYCACHEPREFIX": f"{cache}/bytecode"}
    done = subprocess.run(
        [sys.executable, "-c", code, *given],
        capture_output=True,
        text=True,
        check=True,
        env=environment,
    )
    return done.stdout


def rows() -> Iterator[Row]:
    """Medians of some cold processes with warm disks, taken in turns; forms kept by an earlier
    opening."""
    from umber_compass.demo.plans import DEMOS

    plan = str(DEMOS[0].plan)
    bare, thumbnail, live = [], [], []
    with tempfile.TemporaryDirectory() as cache:
        _run(_BARE, cache)
        _run(_OURS, cache, plan)
        shutil.rmtree(Path(cache) / "umber-compass")  # what the program keeps of a sketch
        first = dict(x.split() for x in _run(_OURS, cache, plan).splitlines())
        for _ in range(_RUNS):
            bare.append(float(_run(_BARE, cache)))
            said = dict(x.split() for x in _run(_OURS, cache, plan).splitlines())
            thumbnail.append(float(said["thumbnail"]))
            live.append(float(said["live"]))
    b, t, s = (float(np.median(x)) for x in (bare, thumbnail, live))
    yield Row("bare Qt window that imports NumPy", f"{b:.2f} s", "", None)
    yield Row(
        "start: stored thumbnail painted", f"{t:.2f} s = {t / b:.2f} x", "1.2 x", t <= 1.2 * b
    )
    yield Row("start: stage live and lit", f"{s:.2f} s = {s / b:.2f} x", "2.6 x", s <= 2.6 * b)
    one = float(first["live"])
    yield Row(
        "the same, first time, forms built", f"{one:.2f} s = {one / b:.2f} x", "6 x", one <= 6 * b
    )
