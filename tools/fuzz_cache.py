"""Random edits of random shots: what is evaluated with a cache that has seen all before equals what is evaluated
afresh, and any part equals the same rows.

python -m tools.fuzz_cache --shots 40 --edits 60 --seed 1
"""

from __future__ import annotations

import argparse
import random
import sys
from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from tools.fuzz_making import edited, made
from zittern.core.motion.cache import Cache
from zittern.core.motion.evaluate import Motion, evaluate

__all__ = ["Difference", "edited", "made", "run"]

# As near as the two have to be: metres, degrees, millimetres, each relative to its size above 1.
TOLERANCE = 1e-7


@dataclass(frozen=True, slots=True)
class Difference:
    """Where a cached evaluation differs: after which edit of which shot, what, and by how much."""

    shot: int
    edit: int
    what: str
    by: float


def run(shots: int, edits: int, seed: int) -> Iterator[Difference]:
    """Every difference found."""
    for number in range(shots):
        rng = random.Random(f"{seed}/{number}")
        shot, cache = made(rng), Cache()
        for edit in range(edits):
            cached, fresh = evaluate(shot, cache=cache), evaluate(shot)
            for what, by in _differences(cached, fresh):
                yield Difference(number, edit, what, by)
            first = rng.randint(0, len(fresh.frames) - 2)
            stop = rng.randint(first + 1, len(fresh.frames))
            for what, by in _differences(evaluate(shot, fresh.frames[first:stop], cache), fresh.rows(first, stop)):
                yield Difference(number, edit, f"{what} of rows {first}:{stop}", by)
            shot = edited(shot, rng)


def _differences(one: Motion, other: Motion) -> Iterator[tuple[str, float]]:
    tables = {
        f"{name}.{key}": (getattr(one, name)[key], values)
        for name in ("layers", "weights", "rig")
        for key, values in getattr(other, name).items()
    }
    poses = {
        name: (getattr(one.pose, name), getattr(other.pose, name)) for name in ("position_m", "angles_deg", "focal_mm")
    }
    for name, (a, b) in {**tables, **poses}.items():
        by = float(np.max(np.abs(a - b) / np.maximum(1.0, np.abs(b)), initial=0.0))
        if not by <= TOLERANCE:
            yield name, by


def main() -> int:
    """0 when nothing differs."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--shots", type=int, default=40)
    parser.add_argument("--edits", type=int, default=60)
    parser.add_argument("--seed", type=int, default=1)
    arguments = parser.parse_args()
    found = 0
    for difference in run(arguments.shots, arguments.edits, arguments.seed):
        found += 1
        print(difference)
    print(f"{arguments.shots} shots, {arguments.edits} edits each: {found} differences")
    return 1 if found else 0


if __name__ == "__main__":
    sys.exit(main())
