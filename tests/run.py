"""Runs all tests with unittest and ends with `N passed, N failed`. Arguments are module names to run instead."""

from __future__ import annotations

import sys
import unittest
from pathlib import Path

ROOT = Path(__file__).parent.parent


def main() -> int:
    """0 when all passed and there were any."""
    loader = unittest.defaultTestLoader
    suite = loader.loadTestsFromNames(sys.argv[1:]) if sys.argv[1:] else loader.discover(str(ROOT / "tests"), top_level_dir=str(ROOT))
    result = unittest.TextTestRunner(verbosity=1).run(suite)
    failed = len(result.failures) + len(result.errors) + len(result.unexpectedSuccesses)
    skipped = len(result.skipped)
    passed = result.testsRun - failed - skipped
    print(f"{passed} passed, {failed} failed" + (f", {skipped} skipped" if skipped else ""))
    return 0 if failed == 0 and passed > 0 else 1


if __name__ == "__main__":
    sys.exit(main())
