"""Runs the tests: all, or those named (a folder, a file, a class, one test). Offscreen unless a
test opens a display of its own. All of them run file by file, two files at a time where there are
two cores; `--record` keeps how long each took, by which they are put in order."""

import faulthandler
import importlib.util
import json
import math
import os
import re
import subprocess
import sys
import tempfile
import time
import unittest
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")
os.environ.setdefault("HYPOTHESIS_STORAGE_DIRECTORY", tempfile.mkdtemp())
# What the program keeps is not the tester's.
os.environ["XDG_STATE_HOME"] = tempfile.mkdtemp()
os.environ["XDG_DATA_HOME"] = tempfile.mkdtemp()
_FAST = "UMBER_TEST_FAST"  # set: the first failure is enough
_STUCK_S = 300  # of one test, after which the run ends and says where every thread stands
_AT_ONCE = 2  # files
_COUNTED = re.compile(r"tests: (\d+) passed, (\d+) failed, (\d+) skipped")
FOLDER = Path(__file__).parent
TIMES, RECORD = FOLDER / "times.json", "--record"  # s each file took; asks for them to be kept


class Watched(unittest.TextTestResult):
    """Ends the run where a test waits for ever: two locked threads cannot do it themselves."""

    def startTest(self, test):
        faulthandler.dump_traceback_later(_STUCK_S, exit=True)
        super().startTest(test)

    def stopTest(self, test):
        faulthandler.cancel_dump_traceback_later()
        super().stopTest(test)


def named(loader: unittest.TestLoader, name: str) -> unittest.TestSuite:
    """The tests of a folder, or what the name says."""
    found = importlib.util.find_spec(name) if name.count(".") <= 1 else None
    if found is not None and found.submodule_search_locations is not None:
        folder = str(Path(*name.split(".")))
        return loader.discover(folder, top_level_dir=".")
    return loader.loadTestsFromName(name)


def run(names: list[str]) -> int:
    """Run what is named, here."""
    loader = unittest.TestLoader()
    suite = unittest.TestSuite(named(loader, n) for n in names)
    runner = unittest.TextTestRunner(
        verbosity=1, failfast=bool(os.environ.get(_FAST)), resultclass=Watched
    )
    result = runner.run(suite)
    bad = len(result.failures) + len(result.errors)
    skipped = len(result.skipped)
    print(f"tests: {result.testsRun - bad - skipped} passed, {bad} failed, {skipped} skipped")
    return 1 if bad or not result.testsRun else 0


def files() -> list[str]:
    """Every file of tests by its dotted name, those first that took longest when that was last
    recorded; new ones before all."""
    paths = FOLDER.rglob("test_*.py")
    names = [".".join(p.relative_to(FOLDER.parent).with_suffix("").parts) for p in paths]
    known = json.loads(TIMES.read_text())
    return sorted(names, key=lambda n: (-known.get(n, math.inf), n))


def apart(name: str) -> tuple[int, list[int], float]:
    """One file in a process of its own; what it says is printed where it fails. Gives its exit
    code, how many passed, failed and were skipped, and how many seconds it took."""
    begin = time.monotonic()
    done = subprocess.run(
        [sys.executable, "-m", "tests", name], capture_output=True, text=True, check=False
    )
    counted = _COUNTED.findall(done.stdout)
    numbers = [int(n) for n in counted[-1]] if counted else [0, 1, 0]
    took = time.monotonic() - begin
    said = f"{numbers[0]} passed, {numbers[1]} failed, {numbers[2]} skipped"
    print(f"{name}: {said} in {took:.0f} s", flush=True)
    if done.returncode:
        print(done.stderr + done.stdout, flush=True)
    return done.returncode, numbers, took


def run_all(record: bool) -> int:
    """Run every file, several at a time. What they open is made once for all of them."""
    names = files()
    with tempfile.TemporaryDirectory() as kept:
        os.environ["UMBER_TEST_CACHE"] = kept
        with ThreadPoolExecutor(min(_AT_ONCE, os.cpu_count() or 1)) as pool:
            found = list(pool.map(apart, names))
    if record:
        took = {n: round(s) for n, (_, _, s) in sorted(zip(names, found, strict=True))}
        TIMES.write_text(json.dumps(took, indent=0) + "\n")
    passed, failed, skipped = (sum(n[i] for _, n, _ in found) for i in range(3))
    print(f"tests: {passed} passed, {failed} failed, {skipped} skipped")
    return 1 if any(code for code, _, _ in found) or not passed else 0


if __name__ == "__main__":
    given = [a for a in sys.argv[1:] if a != RECORD]
    sys.exit(run(given) if given else run_all(RECORD in sys.argv))
