"""The program killed at chance moments while it is worked with: its file is then the old or the new
one, and what was done is there again, no older than two seconds.

python -m tools.kills [--count N] [--seed S]
"""

import argparse
import os
import random
import signal
import sys
import tempfile
import time
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

import msgspec
from PIL import Image, ImageDraw
from PySide6.QtCore import QTimer

from umber_compass import document
from umber_compass.document.kept_work import KeptWork
from umber_compass.plan.edits import study
from umber_compass.plan.harmony_edits import turn_lead
from umber_compass.plan.model import Plan
from umber_compass.window.application import make_application
from umber_compass.window.main_window import MainWindow
from umber_compass.window.widgets.dialogs import Discarding

_OLDEST_S = 2.0
_EVERY_MS = 40  # an edit; every so many of them a save
_SAVED_EVERY = 17


def begun(folder: Path) -> Path:
    """A small plan in a file."""
    image = Image.new("RGB", (240, 160), "#2f7580")
    ImageDraw.Draw(image).ellipse([60, 40, 160, 130], fill="#d9b98a")
    image.save(folder / "sketch.png")
    made = document.bring_in(folder / "sketch.png")
    document.save(made.plan, made.pixels, folder / "plan.umber")
    return folder / "plan.umber"


def work(path: Path, state: Path, out: int) -> None:
    """Open a plan in a window, and turn and save it until somebody ends this; what was done is
    written to `out` with its time."""
    application = make_application()
    window = MainWindow(Discarding(), state=state)
    window.works.files.open_path(path)
    lead = [0]

    def edit() -> None:
        desk = window.works.desk
        if desk.history is None:
            return
        lead[0] += 1
        desk.do(turn_lead(float(lead[0] % 360)))
        desk.seal()
        os.write(out, f"{lead[0]} {time.time()}\n".encode())
        if lead[0] % _SAVED_EVERY == 0:
            window.works.files.save()

    timer = QTimer(window)
    timer.timeout.connect(edit)
    timer.start(_EVERY_MS)
    application.exec()


def lead_of(plan: Plan) -> float:
    """What marks the plan after an edit."""
    return study(plan).scheme.lead_deg


def killed(rng: random.Random) -> str:
    """One life and its end; what is wrong after it, or nothing."""
    with tempfile.TemporaryDirectory() as held:
        path, state = begun(Path(held)), Path(held) / "state"
        first = lead_of(document.open_plan(path).plan)
        read, write = os.pipe()
        child = os.fork()
        if not child:
            os.close(read)
            work(path, state, write)
            os._exit(0)
        os.close(write)
        time.sleep(rng.uniform(0.3, 4.5))
        os.kill(child, signal.SIGKILL)
        ended = time.time()
        os.waitpid(child, 0)
        with os.fdopen(read) as stream:
            rows = [line.split() for line in stream.read().splitlines() if line.count(" ") == 1]
        return _wrong(path, state, first, [(int(n), float(t)) for n, t in rows], ended)


def _wrong(
    path: Path, state: Path, first: float, done: list[tuple[int, float]], ended: float
) -> str:
    known = {first, *(float(n % 360) for n, _ in done)}
    saved = document.open_plan(path).plan  # raises where the file is not whole
    if lead_of(saved) not in known:
        return f"the file holds {lead_of(saved)}, which was never done"
    due = [n for n, at in done if at < ended - _OLDEST_S]
    if not due:
        return ""
    left = KeptWork(state).left()
    plans = [saved, *(msgspec.json.decode(bytes(e.record.plan), type=Plan) for e in left)]
    newest = max(lead_of(p) for p in plans)
    if newest < due[-1]:
        return f"{due[-1]} was done {_OLDEST_S:g} s before the end, and {newest:g} is there"
    return ""


def main() -> int:
    """Kill it so often; print what was wrong, and how often nothing was."""
    parser = argparse.ArgumentParser(description="Kill the program at chance moments.")
    parser.add_argument("--count", type=int, default=500)
    parser.add_argument("--seed", type=int, default=1)
    given = parser.parse_args()
    bad = 0
    for n in range(given.count):
        said = killed(random.Random(f"{given.seed} {n}"))
        if said:
            bad += 1
            print(f"{n}: {said}", flush=True)
    print(f"seed {given.seed}: {given.count} kills, {bad} bad")
    return 1 if bad else 0


if __name__ == "__main__":
    sys.exit(main())
