"""`make hostile-formulas`: reads random and hostile texts as formulas and as numbers, and looks at what comes of them.

A text gives finite values within what is documented, or a fault that lies within the text. Anything else is a failure:
another exception, a place outside of the text, a value out of bounds, more time or memory than promised. The same seed
makes the same texts.
"""

from __future__ import annotations

import argparse
import json
import random
import time
import tracemalloc
from collections.abc import Iterator
from dataclasses import dataclass, field

import numpy as np

from zittern.core.formula.arithmetic import evaluate_expression
from zittern.core.formula.fault import FormulaFault
from zittern.core.formula.functions import CONSTANTS, FUNCTIONS, LARGEST
from zittern.core.formula.grammar import MOST_CHARACTERS, parse
from zittern.core.formula.tree import BUILT_IN, values_of
from zittern.core.shot.path_facts import FACT_NAMES
from zittern.core.units import Array

__all__ = ["Report", "run"]

MOST_S = 0.05
MOST_MB = 50.0
FRAMES = 1000
_AGAIN = 2
_PIECES = (
    *FUNCTIONS, *BUILT_IN, *CONSTANTS, *FACT_NAMES, "panic", "0", "1", "2.5", "1e12", "1e308", "9" * 50, ".5", "(", ")",
    ",", "+", "-", "*", "/", "^", "%",
    "<", "<=", "<>", "=", " ", "if ", " then ", " else ", " and ", " or ", "not ", "__class__", ".__dict__", "[0]",
    "lambda: 0", "import os", "eval(", "'x'",
    "\\", "#", ";", "\n", "\0", "\u0430", "\u2212", "\u00d7", "\uff11", "\u202e", "\U0001f4f7", "\u0301", "1e", "0x10",
    "1_000", "~", "@", ":=",
)  # fmt: skip
# Each of these once; the longest stand for a megabyte of text.
HOSTILE = (
    "", " ", "(" * 1_000_000, ")" * 1_000_000, "1+" * 500_000, "-" * 1_000_000, "9" * 1_000_000, "a" * 1_000_000,
    "\u0430" * 500_000, "9^" * 900 + "9",
    "10^" * 59 + "10", "-" * 1990 + "1", "noise(" * 300 + "t" + ")" * 300, "(" * 58 + "t" + ")" * 58,
    "+".join(["noise(t*9,f)"] * 150), "if " * 600,
    "__import__('os').system('true')", "().__class__.__bases__[0]", "t.__class__", "sin.__globals__", "{t!r}", "%s%n",
    "1/0", "0/0", "0^-1", "(-1)^0.5",
    "log(0)", "log(-1)", "sqrt(-1)", "1e308*1e308", "exp(1e12)", "exp(exp(exp(exp(9))))", "mod(t, 0)", "t % 0",
    "smoothstep(1, 1, t)", "decay(t, 0)",
    "clamp(t, 2, 1)",
    "noise(1e300, -1e300)", "pulse(1e308, -1e308)", "min(t)", "max(" + ",".join("t" * 9) + ")", "s\u0456n(t)", "\u2215",
    "panic panic", "f" * 2000,
)  # fmt: skip


@dataclass
class Report:
    """What came of it."""

    read: int = 0
    values: int = 0
    faults: int = 0
    failures: list[str] = field(default_factory=list)
    slowest_s: float = 0.0
    slowest: str = ""
    most_mb: float = 0.0

    def as_dict(self) -> dict[str, object]:
        """For printing."""
        return {
            "read": self.read, "values": self.values, "faults": self.faults, "failed": len(self.failures),
            "failures": self.failures[:20],
            "slowest_ms": round(self.slowest_s * 1e3, 1), "slowest": self.slowest, "most_mb": round(self.most_mb, 1),
        }  # fmt: skip


def texts(count: int, seed: int) -> Iterator[str]:
    """So many random ones after the hostile ones: pieces of formulas, characters of all kinds, and good formulas
    with a piece put in.
    """
    yield from HOSTILE
    rng = random.Random(seed)
    for _ in range(count):
        kind = rng.random()
        if kind < 0.2:
            yield "".join(
                chr(rng.choice((rng.randint(0, 127), rng.randint(128, 0xD7FF), rng.randint(0xE000, 0x10FFFF))))
                for _ in range(rng.randint(1, 60))
            )
        elif kind < 0.4:
            good = rng.choice(
                ("0.3 + sin(tau * t)", "mix(0, 2, panic / 100)", "if u < 0.5 then noise(2 * t, 3) else decay(t)")
            )
            at = rng.randint(0, len(good))
            yield good[:at] + rng.choice(_PIECES) + good[at:]
        else:
            yield "".join(rng.choice(_PIECES) for _ in range(rng.randint(1, rng.choice((3, 6, 12, 30, 200)))))


def run(count: int, seed: int = 1, most_s: float = MOST_S, memory: bool = False) -> Report:
    """Reads them all. memory: measures what each takes, which takes longer: time is then not looked at."""
    report = Report()
    frames = np.arange(1.0, FRAMES + 1.0)
    scope = {name: frames / (n + 1.0) - 3.0 for n, name in enumerate((*BUILT_IN, *FACT_NAMES, "panic"))}
    if memory:
        tracemalloc.start()
    for text in texts(count, seed):
        if memory:
            tracemalloc.reset_peak()
            before = tracemalloc.get_traced_memory()[0]
        took = _timed(text, scope, report)
        report.read += 1
        if memory:
            used = (tracemalloc.get_traced_memory()[1] - before) / 1e6
            report.most_mb = max(report.most_mb, used)
            if used > MOST_MB:
                report.failures.append(f"{used:.0f} MB: {text[:80]!r}")
        else:
            for _ in range(_AGAIN):  # somebody else may have had the processor
                took = min(took, _timed(text, scope, Report())) if took > most_s else took
        if not memory and took > report.slowest_s:
            report.slowest_s, report.slowest = took, text[:80]
            if took > most_s:
                report.failures.append(f"{took * 1e3:.0f} ms: {text[:80]!r}")
    if memory:
        tracemalloc.stop()
    return report


def _timed(text: str, scope: dict[str, Array], report: Report) -> float:
    parse.cache_clear()
    started = time.perf_counter()
    _read(text, scope, report)
    return time.perf_counter() - started


def _read(text: str, scope: dict[str, Array], report: Report) -> None:
    for read in (
        lambda: values_of(parse(text), lambda name: scope.get(name, np.zeros(1)), FRAMES),
        lambda: np.array([evaluate_expression(text, 2.0)]),
    ):
        try:
            found = read()
            report.values += 1
            if not (np.all(np.isfinite(found)) and np.abs(found).max() <= LARGEST * 2.0):
                report.failures.append(f"not within bounds: {text[:80]!r}")
        except FormulaFault as fault:
            report.faults += 1
            if not 0 <= fault.start <= fault.stop <= max(len(text), MOST_CHARACTERS):
                report.failures.append(f"a fault outside of the text, {fault.start} to {fault.stop}: {text[:80]!r}")
        except Exception as error:  # noqa: BLE001  # any other is what is looked for
            report.failures.append(f"{type(error).__name__}: {text[:80]!r}")


def main() -> None:
    """From the shell."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--count", type=int, default=100_000)
    parser.add_argument("--seed", type=int, default=1)
    given = parser.parse_args()
    timed = run(given.count, given.seed)
    weighed = run(given.count // 10, given.seed + 1, memory=True)
    print(json.dumps({"time": timed.as_dict(), "memory": weighed.as_dict()}, indent=1))
    raise SystemExit(1 if timed.failures or weighed.failures else 0)


if __name__ == "__main__":
    main()
