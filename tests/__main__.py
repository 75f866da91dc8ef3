"""Runs the tests: all, or those named. Offscreen unless a test opens a display of its own."""

import os
import sys
import tempfile
import unittest

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")
os.environ.setdefault("HYPOTHESIS_STORAGE_DIRECTORY", tempfile.mkdtemp())


def main() -> int:
    loader = unittest.TestLoader()
    names = sys.argv[1:]
    suite = (
        loader.loadTestsFromNames(names) if names else loader.discover("tests", top_level_dir=".")
    )
    result = unittest.TextTestRunner(verbosity=1).run(suite)
    bad = len(result.failures) + len(result.errors)
    skipped = len(result.skipped)
    print(f"tests: {result.testsRun - bad - skipped} passed, {bad} failed, {skipped} skipped")
    return 1 if bad or not result.testsRun else 0


if __name__ == "__main__":
    sys.exit(main())
