"""Runs tests with unittest, classes side by side in processes of their own, and ends with `N passed, N failed`.

Arguments are names (modules, classes, tests) to run instead of all. `--workers 1` runs them one after another, `--core`
only those of the core.
"""

from __future__ import annotations

import argparse
import ctypes
import faulthandler
import io
import multiprocessing
import os
import signal
import sys
import tempfile
import time
import unittest
from collections.abc import Iterable, Iterator
from concurrent.futures import ProcessPoolExecutor, as_completed
from dataclasses import dataclass, field
from pathlib import Path

ROOT = Path(__file__).parent.parent
_SLOWEST = 12
# Seconds after which a test counts as stuck: it fails and says where it stood, instead of holding up all of them. It is
# many times what the slowest needs. A test that does not stop within the second limit takes its process with it.
_LIMIT, _LIMIT_TO_STOP = 400, 60
# More than the cores: a test of the page waits for drawing half of its time, and half of that is the browser's own
# process.
_WORKERS = max(2, min(4, os.cpu_count() or 2))
# Classes that take longest are begun first, so that no worker is left alone with one at the end.
_FIRST = (
    "tests.core.motion.test_evaluation",
    "tests.tools",
    "tests.core.presets.test_shipped",
    "tests.core.checks.test_table",
    "tests.core.shot",
    "tests.test_cli",
    "tests.test_ending",
    "tests.web",
)


@dataclass
class Outcome:
    """What became of some tests: how many ran, what failed with its words, which took how long (s)."""

    ran: int = 0
    skipped: int = 0
    faults: list[tuple[str, str]] = field(default_factory=list)
    took: dict[str, float] = field(default_factory=dict)

    def add(self, other: Outcome) -> None:
        """Takes in what became of others."""
        self.ran += other.ran
        self.skipped += other.skipped
        self.faults += other.faults
        self.took.update(other.took)


class _Timed(unittest.TextTestResult):
    """Remembers how long each test took, what it was set up with included."""

    def __init__(self, *arguments: object) -> None:
        super().__init__(*arguments)  # type: ignore[arg-type]
        self.took: dict[str, float] = {}
        self._started = 0.0

    def startTest(self, test: unittest.TestCase) -> None:  # noqa: N802 (unittest's name)
        self._started = time.monotonic()
        signal.alarm(_LIMIT)
        super().startTest(test)

    def stopTest(self, test: unittest.TestCase) -> None:  # noqa: N802
        # What a class does after its tests counts as one more.
        signal.alarm(_LIMIT)
        faulthandler.cancel_dump_traceback_later()
        self.took[test.id()] = time.monotonic() - self._started
        super().stopTest(test)


def _stop_stuck(number: int, frame: object) -> None:
    faulthandler.dump_traceback(all_threads=True)
    faulthandler.dump_traceback_later(_LIMIT_TO_STOP, exit=True)
    raise TimeoutError(f"the test did not end within {_LIMIT} s")


def run(names: list[str]) -> Outcome:
    """Runs the tests of these names in this process."""
    signal.signal(signal.SIGALRM, _stop_stuck)
    signal.alarm(_LIMIT)
    suite = unittest.defaultTestLoader.loadTestsFromNames(names)
    # Only where a test of the page has run before: tests of the core have no use for a browser.
    harness = sys.modules.get("tests.web.harness")
    if harness is not None and not any(name.startswith("tests.web.") for name in names):
        harness.BROWSING.shut()
    result = unittest.TextTestRunner(stream=io.StringIO(), resultclass=_Timed).run(suite)
    signal.alarm(0)
    assert isinstance(result, _Timed)
    faults = [(test.id(), text) for test, text in [*result.failures, *result.errors]]
    faults += [(test.id(), "it passed and was expected to fail") for test in result.unexpectedSuccesses]
    return Outcome(result.testsRun, len(result.skipped), faults, result.took)


def classes(names: list[str], folder: Path) -> list[str]:
    """Names of the classes that hold the tests asked for, or of all below a folder; single tests stay single. What
    cannot be loaded stays too, and fails.
    """
    loader = unittest.defaultTestLoader
    suite = loader.loadTestsFromNames(names) if names else loader.discover(str(folder), top_level_dir=str(ROOT))
    single = {
        name for name in names if name.rsplit(".", 1)[-1].startswith("test_") and name.rsplit(".", 2)[-2][:1].isupper()
    }
    found = {_name_of(test, single): None for test in _each(suite)}
    return sorted(
        found, key=lambda name: next((at for at, first in enumerate(_FIRST) if name.startswith(first)), len(_FIRST))
    )


def _name_of(test: unittest.TestCase, single: set[str]) -> str:
    name = test.id()
    # A module that cannot be loaded stands in the suite as a test with the module's name.
    if type(test).__module__.startswith("unittest."):
        return name.removeprefix("unittest.loader._FailedTest.")
    return name if name in single else name.rsplit(".", 1)[0]


def _each(suite: unittest.TestSuite) -> Iterator[unittest.TestCase]:
    for test in suite:
        if isinstance(test, unittest.TestSuite):
            yield from _each(test)
        else:
            yield test


def _end_with_parent() -> None:
    """A worker whose parent was killed would go on with all that is left (Linux: prctl(2), PR_SET_PDEATHSIG)."""
    prctl = getattr(ctypes.CDLL(None), "prctl", None)
    if prctl is not None:
        prctl(1, signal.SIGTERM)


def side_by_side(names: Iterable[str], workers: int, until_one_fails: bool = False) -> Outcome:
    """Runs each name in one of several processes; what fails is printed at once. A worker that dies fails what it
    was given. until_one_fails: what is not begun then is left out.
    """
    outcome = Outcome()
    # Forked: what was read to find the tests is not read again by each.
    with ProcessPoolExecutor(workers, multiprocessing.get_context("fork"), _end_with_parent) as pool:
        waiting = {pool.submit(run, [name]): name for name in names}
        for done in as_completed(waiting):
            error = done.exception()
            part = done.result() if error is None else Outcome(1, 0, [(waiting[done], f"its process ended: {error!r}")])
            outcome.add(part)
            for name, text in part.faults:
                print(f"\nFAILED {name}\n{text}", flush=True)
            print("F" if part.faults else ".", end="", flush=True)
            if part.faults and until_one_fails:
                pool.shutdown(wait=False, cancel_futures=True)
                break
    print()
    return outcome


def main() -> int:
    """0 when all passed and there were any."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("names", nargs="*")
    parser.add_argument("--core", action="store_true")
    parser.add_argument("--first", action="store_true", help="end at the first that fails")
    parser.add_argument("--workers", type=int, default=_WORKERS)
    asked = parser.parse_args()
    started = time.monotonic()
    with tempfile.TemporaryDirectory() as folder:
        # What somebody keeps on this machine is neither read nor written.
        os.environ["ZITTERN_DATA"] = folder
        names = classes(asked.names, ROOT / "tests/core" if asked.core else ROOT / "tests")
        outcome = side_by_side(names, asked.workers, asked.first)
    for name, took in sorted(outcome.took.items(), key=lambda each: -each[1])[:_SLOWEST]:
        print(f"{took:6.1f} s  {name}")
    print(f"{time.monotonic() - started:.0f} s with {asked.workers} workers")
    failed = len(outcome.faults)
    passed = outcome.ran - failed - outcome.skipped
    print(f"{passed} passed, {failed} failed" + (f", {outcome.skipped} skipped" if outcome.skipped else ""))
    return 0 if failed == 0 and passed > 0 else 1


if __name__ == "__main__":
    sys.exit(main())
