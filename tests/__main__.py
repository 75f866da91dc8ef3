"""Runs the tests: all, or those named (a folder, a file, a class, one test). Offscreen unless a
test opens a display of its own. All of them run file by file, two files at a time where there are
two cores."""

import faulthandler
import importlib.util
import os
import re
import subprocess
import sys
import tempfile
import unittest
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")
os.environ.setdefault("HYPOTHESIS_STORAGE_DIRECTORY", tempfile.mkdtemp())
_FAST = "UMBER_TEST_FAST"  # set: the first failure is enough
_STUCK_S = 300  # of one test, after which the run ends and says where every thread stands
_AT_ONCE = 2  # files
_COUNTED = re.compile(r"tests: (\d+) passed, (\d+) failed, (\d+) skipped")
FOLDER = Path(__file__).parent


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
    """Every file of tests by its dotted name, the longest first: they take longest."""
    found = sorted(FOLDER.rglob("test_*.py"), key=lambda p: (p.parent.name != "window", -size(p)))
    return [".".join(p.relative_to(FOLDER.parent).with_suffix("").parts) for p in found]


def size(path: Path) -> int:
    return path.stat().st_size


def apart(name: str) -> tuple[int, list[int]]:
    """One file in a process of its own; what it says is printed where it fails. Gives its exit code
    and how many passed, failed and were skipped."""
    done = subprocess.run(
        [sys.executable, "-m", "tests", name], capture_output=True, text=True, check=False
    )
    counted = _COUNTED.findall(done.stdout)
    numbers = [int(n) for n in counted[-1]] if counted else [0, 1, 0]
    print(f"{name}: {numbers[0]} passed, {numbers[1]} failed, {numbers[2]} skipped", flush=True)
    if done.returncode:
        print(done.stderr + done.stdout, flush=True)
    return done.returncode, numbers


def run_all() -> int:
    """Run every file, several at a time. What they open is made once for all of them."""
    with tempfile.TemporaryDirectory() as kept:
        os.environ["UMBER_TEST_CACHE"] = kept
        with ThreadPoolExecutor(min(_AT_ONCE, os.cpu_count() or 1)) as pool:
            found = list(pool.map(apart, files()))
    passed, failed, skipped = (sum(n[i] for _, n in found) for i in range(3))
    print(f"tests: {passed} passed, {failed} failed, {skipped} skipped")
    return 1 if any(code for code, _ in found) or not passed else 0


if __name__ == "__main__":
    sys.exit(run(sys.argv[1:]) if sys.argv[1:] else run_all())
