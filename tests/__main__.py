"""Runs the tests: all, or those named (a folder, a file, a class, one test). Offscreen unless a
test opens a display of its own."""

import faulthandler
import importlib.util
import os
import sys
import tempfile
import unittest
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")
os.environ.setdefault("HYPOTHESIS_STORAGE_DIRECTORY", tempfile.mkdtemp())
_FAST = "UMBER_TEST_FAST"  # set: the first failure is enough
_STUCK_S = 300  # of one test, after which the run ends and says where every thread stands


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


def main() -> int:
    loader = unittest.TestLoader()
    names = sys.argv[1:]
    suite = (
        unittest.TestSuite(named(loader, n) for n in names)
        if names
        else loader.discover("tests", top_level_dir=".")
    )
    runner = unittest.TextTestRunner(
        verbosity=1, failfast=bool(os.environ.get(_FAST)), resultclass=Watched
    )
    result = runner.run(suite)
    bad = len(result.failures) + len(result.errors)
    skipped = len(result.skipped)
    print(f"tests: {result.testsRun - bad - skipped} passed, {bad} failed, {skipped} skipped")
    return 1 if bad or not result.testsRun else 0


if __name__ == "__main__":
    sys.exit(main())
