"""Runs all tests with unittest, tells which took longest, and ends with `N passed, N failed`. Arguments are module names to run instead."""

from __future__ import annotations

import sys
import time
import unittest
from pathlib import Path

ROOT = Path(__file__).parent.parent
_SLOWEST = 12


class _Timed(unittest.TextTestResult):
    """Remembers how long each test took, what it was set up with included."""

    def __init__(self, *arguments: object) -> None:
        super().__init__(*arguments)  # type: ignore[arg-type]
        self.took: dict[str, float] = {}
        self._started = 0.0

    def startTest(self, test: unittest.TestCase) -> None:  # noqa: N802 (unittest's name)
        self._started = time.monotonic()
        super().startTest(test)

    def stopTest(self, test: unittest.TestCase) -> None:  # noqa: N802
        self.took[test.id()] = time.monotonic() - self._started
        super().stopTest(test)


def main() -> int:
    """0 when all passed and there were any."""
    loader = unittest.defaultTestLoader
    suite = loader.loadTestsFromNames(sys.argv[1:]) if sys.argv[1:] else loader.discover(str(ROOT / "tests"), top_level_dir=str(ROOT))
    result = unittest.TextTestRunner(verbosity=1, resultclass=_Timed).run(suite)
    assert isinstance(result, _Timed)
    for name, took in sorted(result.took.items(), key=lambda each: -each[1])[:_SLOWEST]:
        print(f"{took:6.1f} s  {name}")
    failed = len(result.failures) + len(result.errors) + len(result.unexpectedSuccesses)
    skipped = len(result.skipped)
    passed = result.testsRun - failed - skipped
    print(f"{passed} passed, {failed} failed" + (f", {skipped} skipped" if skipped else ""))
    return 0 if failed == 0 and passed > 0 else 1


if __name__ == "__main__":
    sys.exit(main())
