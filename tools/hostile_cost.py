"""`make hostile-cost`: searches for the dearest shots that a small request can hold, and prints the ten worst.

From random shots single numbers of the document are pushed to where they are allowed to be, and what became dearer is
kept: a climb with many starts. What is measured is what a page asks for: motion, readings, all arrays, the coverage of
plates and a few swatches, in processor seconds and in megabytes.

python -m tools.hostile_cost --climbs 40 --steps 60 --seed 1
"""

from __future__ import annotations

import argparse
import json
import random
import sys
import time
import tracemalloc
from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import Any

from tools import fuzz_cache
from zittern.core.errors import BadInput
from zittern.core.motion.cache import Cache
from zittern.core.motion.sampled import sample
from zittern.core.plates.coverage import A_LOOK, uncovered_px
from zittern.core.readings.point_readings import read
from zittern.core.readings.streams import streamed
from zittern.core.readings.swatches import swatch
from zittern.core.runtime.budget import Budget, on_budget
from zittern.core.shot.shot import Shot
from zittern.core.shot.upgrades import read_shot, write_shot
from zittern.store.shipped import shipped_presets

__all__ = ["Cost", "cost_of", "run"]

MOST_FRAMES = 1000
# What no request of a shot up to so many frames should take.
AIM_S, AIM_MB = 2.0, 200.0
_LIMIT_S = 60.0
_SWATCHES = 3
_VALUES = (
    0.0,
    1e-6,
    1e-3,
    0.01,
    0.1,
    0.5,
    1.0,
    2.0,
    5.0,
    10.0,
    50.0,
    100.0,
    500.0,
    1e3,
    1e4,
    1e5,
    1e6,
    -1.0,
    -100.0,
    -1e6,
)
_FROZEN = ("schema_version", "seed", "seeds_drawn")


@dataclass(frozen=True, slots=True)
class Cost:
    """Processor seconds and megabytes at the peak of what a page asks for about a shot; what was pushed last to get
    there; refused: by the budget.
    """

    cpu_s: float
    peak_mb: float
    pushed: tuple[str, ...]
    refused: str
    shot: Shot


def cost_of(shot: Shot, pushed: tuple[str, ...] = (), memory: bool = False) -> Cost:
    """What it takes to show a shot. memory: measured too, which takes longer."""
    if memory:
        tracemalloc.start()
    began_s, refused = time.process_time(), ""
    try:
        with on_budget(Budget(_LIMIT_S, 2**30)):
            cache = Cache()
            found = sample(shot, float(shot.first_frame), None, cache)
            read(shot, found.near, float(shot.first_frame), found.whole, cache)
            for each in streamed(shot, found):
                _ = each.array.values
            if shot.plates:
                uncovered_px(shot, found.whole, A_LOOK, fine=False)
            for preset in list(shipped_presets().values())[:_SWATCHES]:
                swatch(shot, preset, cache)
    except BadInput as error:
        refused = error.message
    spent_s = time.process_time() - began_s
    peak_mb = 0.0
    if memory:
        peak_mb = tracemalloc.get_traced_memory()[1] / 2**20
        tracemalloc.stop()
    return Cost(spent_s, peak_mb, pushed, refused, shot)


def run(climbs: int, steps: int, seed: int, limit_s: float = float("inf")) -> list[Cost]:
    """The dearest that were found, one a climb, the dearest first; with their memory."""
    until_s = time.monotonic() + limit_s
    worst = []
    for number in range(climbs):
        if time.monotonic() > until_s:
            break
        rng = random.Random(f"{seed}/{number}")
        best = cost_of(fuzz_cache.made(rng).replace(last_frame=MOST_FRAMES))
        for _ in range(steps):
            if time.monotonic() > until_s:
                break
            for where, shot in _pushed(best.shot, rng):
                tried = cost_of(shot, (*best.pushed, where))
                if tried.cpu_s > best.cpu_s * 1.02:
                    best = tried
        worst.append(best)
    worst.sort(key=lambda each: -each.cpu_s)
    return [
        replace(each, peak_mb=cost_of(each.shot, memory=True).peak_mb) if n < 10 else each
        for n, each in enumerate(worst)
    ]


def _pushed(shot: Shot, rng: random.Random) -> Iterator[tuple[str, Shot]]:
    """The shot with one number elsewhere, or after an edit, if that is allowed."""
    if rng.random() < 0.2:
        yield "an edit", _short(fuzz_cache.edited(shot, rng))
        return
    data = json.loads(write_shot(shot))
    holder, name, path = rng.choice(list(_numbers(data, "")))
    holder[name] = rng.choice(_VALUES)
    try:
        yield f"{path} = {holder[name]:g}", _short(read_shot(json.dumps(data)))
    except (BadInput, ValueError):
        return


def _short(shot: Shot) -> Shot:
    return shot if shot.frame_count <= MOST_FRAMES else shot.replace(last_frame=shot.first_frame + MOST_FRAMES - 1)


def _numbers(data: Any, path: str) -> Iterator[tuple[Any, Any, str]]:
    """Every number of a JSON document: what holds it, its name there, its path."""
    for name, value in data.items() if isinstance(data, dict) else enumerate(data):
        here = f"{path}.{name}" if isinstance(name, str) else f"{path}[{name}]"
        if isinstance(value, (dict, list)):
            yield from _numbers(value, here)
        elif isinstance(value, (int, float)) and not isinstance(value, bool) and name not in _FROZEN:
            yield data, name, here.removeprefix(".")


def main() -> int:
    """0 when all that was found is within the aim."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--climbs", type=int, default=40)
    parser.add_argument("--steps", type=int, default=60)
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--keep", help="a file for the document of the dearest one")
    given = parser.parse_args()
    found = run(given.climbs, given.steps, given.seed)
    for each in found[:10]:
        print(f"{each.cpu_s:6.2f} s {each.peak_mb:7.0f} MB  {each.refused or '; '.join(each.pushed[-4:])}")
    if given.keep and found:
        with open(given.keep, "w", encoding="utf-8") as file:
            file.write(write_shot(found[0].shot))
    return int(any(each.cpu_s > AIM_S or each.peak_mb > AIM_MB for each in found[:10]))


if __name__ == "__main__":
    sys.exit(main())
