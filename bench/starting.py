"""Start: a bare window that imports NumPy, the stored thumbnail, the live stage."""

import subprocess
import sys
from collections.abc import Iterator

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
from umber_compass.window.application import make_application, start
from umber_compass.demo.plans import DEMOS
app = make_application()
window = start(DEMOS[0].plan, True)
stage = window.parts.stage
plain = stage.paintEvent
said = set()
def paint(event):
    plain(event)
    what = "live" if window.desk.shown is not None else "thumbnail"
    if what not in said and stage._image is not None:
        said.add(what)
        print(what, time.perf_counter() - begin, flush=True)
        if what == "live":
            app.quit()
stage.paintEvent = paint
app.exec()
window.close()
"""


def _run(code: str) -> str:
    return subprocess.run(
        [sys.executable, "-c", code], capture_output=True, text=True, check=True
    ).stdout


def rows() -> Iterator[Row]:
    """Medians of some cold processes with warm disks, taken in turns."""
    bare, thumbnail, live = [], [], []
    _run(_BARE), _run(_OURS)
    for _ in range(_RUNS):
        bare.append(float(_run(_BARE)))
        said = dict(line.split() for line in _run(_OURS).splitlines())
        thumbnail.append(float(said["thumbnail"]))
        live.append(float(said["live"]))
    b, t, s = (float(np.median(x)) for x in (bare, thumbnail, live))
    yield Row("bare Qt window that imports NumPy", f"{b:.2f} s", "", None)
    yield Row(
        "start: stored thumbnail painted", f"{t:.2f} s = {t / b:.2f} x", "1.5 x", t <= 1.5 * b
    )
    yield Row("start: stage live", f"{s:.2f} s = {s / b:.2f} x", "4 x", s <= 4 * b)
